import { useStore } from '@nanostores/react';
import { bodyRadius, bodySize, type CoursePath, shortNumber } from '@zygopod/core';
import { useEffect } from 'react';
import { drawCoordinates, drawGround } from '../chart/drawGround.ts';
import { usePainter } from '../chart/frames.ts';
import { flatLens } from '../chart/lens.ts';
import { usePanning } from '../chart/usePanning.ts';
import { useSheet } from '../chart/useSheet.ts';
import type { Size, View } from '../chart/view.ts';
import { ViewMenu } from '../chart/YardMenus.tsx';
import { useComparing } from './context.ts';
import { drawApart, drawBodyApart, drawSideBody, drawSidePrints, drawTouches, placeOfSide } from './drawSides.ts';
import type { ComparedSide } from './sides.ts';

/** The paths of all sides on one ground, each body at the visible moment. */
export function CompareYard() {
  const comparing = useComparing();
  const { ground } = useStore(comparing.$ground);
  const { canvas, size, chart, theme, view, $mode, inks, look, choose, move } = useSheet();
  const sides = useStore(comparing.$sides);
  const panning = usePanning(view, move);

  usePainter((now) => {
    const ctx = canvas.current?.getContext('2d');
    if (!ctx) return;
    const { width, height, ratio } = size.current;
    const { shown } = comparing;
    const [first, ...others] = shown;
    const ink = inks();
    const time = comparing.now;
    const place = first ? placeOfSide(first.side, comparing.begins(first.side) + time) : ground.start;
    const radius = first ? bodyRadius(first.side.parameters.body) : 10;
    const at = look({ ground: ground.size, x: place.x, y: place.y, radius, isRunning: comparing.$playing.get() }, now);
    ctx.setTransform(ratio, 0, 0, ratio, 0, 0);
    ctx.fillStyle = ink.paper;
    ctx.fillRect(0, 0, width, height);
    chart.current.lay(ctx, flatLens(at, width, height), { width, height }, ratio, `${theme} ${ground.name}`, (on, part, w, h) =>
      drawGround(on, ground, part, w, h, ink, { grid: true, frame: false }),
    );
    for (const { side, index } of shown) drawSidePrints(ctx, side.again.world.trace, index, comparing.begins(side) + time, at, ink);
    const isTape = !comparing.laps.isOn;
    if (isTape && first && others[0]) {
      const moment = comparing.$found.get().moments.find(({ kind }) => kind === 'body');
      const { width: w, height: h } = bodySize(first.side.parameters.body);
      if (moment) drawBodyApart(ctx, placeOfSide(first.side, moment.time), Math.max(w, h), at, ink);
    }
    for (const { side, index } of shown) drawTouches(ctx, side, index, comparing.laps.lapOf(side)?.along ?? null, at, ink);
    for (const { side, index } of shown.toReversed()) drawSideBody(ctx, side, index, comparing.begins(side) + time, at, ink);
    if (isTape && first)
      for (const { side } of others.slice(0, 1)) {
        const there = placeOfSide(side, comparing.begins(side) + time);
        const apart = shortNumber(comparing.apart(first.side, side, time), 0);
        drawApart(ctx, place, there, `${apart} apart`, 2.4 * radius * at.scale, at, ink);
      }
    drawCoordinates(ctx, ground, at, width, height, ink);
  });

  const fitPaths = () => {
    const box = boxOfPaths(
      comparing.shown.map(({ side }) => side),
      comparing.laps.path?.points ?? [],
    );
    if (box) move(fitBox(box, size.current));
  };
  // biome-ignore lint/correctness/useExhaustiveDependencies: all paths are visible when the sides load; from then on the view is the user's
  useEffect(() => {
    if (sides.length > 0) fitPaths();
  }, [sides]);

  return (
    <section aria-label="Yard" className="relative min-w-0 overflow-hidden">
      <canvas
        ref={canvas}
        className="absolute inset-0 size-full touch-none"
        role="img"
        aria-label={`The ground ${ground.name} with the paths of all sides`}
        {...panning}
        onDoubleClick={fitPaths}
        data-testid="yard"
      />
      <div className="absolute top-2 left-2">
        <ViewMenu $mode={$mode} choose={choose} />
      </div>
    </section>
  );
}

interface Box {
  left: number;
  top: number;
  right: number;
  bottom: number;
}

/** Bounding box of the sides' paths with their bodies, and of the planned path, unit; null if there is none. */
function boxOfPaths(sides: readonly ComparedSide[], planned: CoursePath['points']): Box | null {
  if (sides.length === 0) return null;
  const box = { left: Infinity, top: Infinity, right: -Infinity, bottom: -Infinity };
  const take = (x: number, y: number, reach: number) => {
    box.left = Math.min(box.left, x - reach);
    box.right = Math.max(box.right, x + reach);
    box.top = Math.min(box.top, y - reach);
    box.bottom = Math.max(box.bottom, y + reach);
  };
  for (const [x, y] of planned) take(x, y, 0);
  for (const { again, parameters } of sides) {
    const { trace } = again.world;
    const reach = 2 * bodyRadius(parameters.body);
    for (let row = trace.first; row < trace.end; row++) take(trace.at('x', row), trace.at('y', row), reach);
  }
  return box;
}

/** Pixels round what is fitted, and screen pixels a unit at most. */
const MARGIN = 30;
const NEAREST = 1.6;

function fitBox({ left, top, right, bottom }: Box, { width, height }: Size): View {
  const scale = Math.min(NEAREST, (width - 2 * MARGIN) / (right - left), (height - 2 * MARGIN) / (bottom - top));
  return { scale, x: (left + right) / 2 - width / 2 / scale, y: (top + bottom) / 2 - height / 2 / scale };
}
