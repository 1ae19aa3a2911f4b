import { useStore } from '@nanostores/react';
import { bodySize } from '@zygopod/core';
import { type KeyboardEvent, type PointerEvent, useEffect, useRef } from 'react';
import { useCanvasSize } from '../chart/canvas.ts';
import { usePainter } from '../chart/frames.ts';
import { $theme, type Inks, readInks } from '../chart/theme.ts';
import { drawAxis, drawCursor } from '../strip/marks.ts';
import { stackLanes } from '../strip/stack.ts';
import { stepOf } from '../strip/stepKey.ts';
import { type CompareView, compareLanes, laneSides } from './compareLanes.ts';
import { useComparing } from './context.ts';
import { drawGateLines, drawMark, lapLanes } from './laps/lapLanes.ts';

const LEFT = 96;
const RIGHT = 16;
const AXIS = 17;
const TOP = 6;
/** The same below the numbers of gates. */
const UNDER_GATES = 16;
/** The lanes of all sides over one axis: a click holds at a moment, held it follows the pointer, dragging measures, the wheel zooms. */
export function CompareStrip() {
  const comparing = useComparing();
  const canvas = useRef<HTMLCanvasElement>(null);
  const sheet = useRef<{ canvas: HTMLCanvasElement | null; key: string }>({ canvas: null, key: '' });
  const inks = useRef<Inks | null>(null);
  /** The window; null: all of the axis. */
  const window = useRef<{ from: number; to: number } | null>(null);
  const theme = useStore($theme);
  const by = useStore(comparing.laps.$by);
  const words =
    by === 'tape'
      ? 'Speed, stamina, gait and distance of all sides over time'
      : 'Speed, time behind the first side and touches of all sides over the distance along the course';
  // biome-ignore lint/correctness/useExhaustiveDependencies: another axis is seen whole
  useEffect(() => {
    window.current = null;
  }, [by]);
  useEffect(() => {
    inks.current = null;
    void theme;
  }, [theme]);
  const size = useCanvasSize(canvas, () => undefined);
  const dragged = useRef<{ from: number; x: number } | null>(null);

  const span = (): [number, number] => {
    const at = window.current;
    const { narrowest, length } = comparing.axis;
    return at ? [at.from, at.to] : [0, Math.max(narrowest, length)];
  };
  const placeAt = (clientX: number): number => {
    const box = canvas.current?.getBoundingClientRect();
    const [from, to] = span();
    return box ? from + ((clientX - box.left - LEFT) / (box.width - LEFT - RIGHT)) * (to - from) : from;
  };
  const timeAt = (clientX: number): number => comparing.axis.timeAt(placeAt(clientX));

  /** All but the cursor, on a sheet of its own that lasts until something in it is another. */
  const lanes = (width: number, height: number, ratio: number): HTMLCanvasElement => {
    const kept = sheet.current;
    kept.canvas ??= document.createElement('canvas');
    const calipers = comparing.$calipers.get();
    const [from, to] = span();
    const muted = [...comparing.$muted.get()].join();
    const key = [
      comparing.$version.get(),
      muted,
      width,
      height,
      ratio,
      theme,
      from,
      to,
      calipers?.from,
      calipers?.to,
      document.fonts.status,
    ];
    if (kept.key === key.join()) return kept.canvas;
    kept.key = key.join();
    kept.canvas.width = Math.ceil(width * ratio);
    kept.canvas.height = Math.ceil(height * ratio);
    inks.current ??= readInks();
    const ctx = kept.canvas.getContext('2d') as CanvasRenderingContext2D;
    ctx.setTransform(ratio, 0, 0, ratio, 0, 0);
    ctx.fillStyle = inks.current.paper;
    ctx.fillRect(0, 0, width, height);
    const inner = width - LEFT - RIGHT;
    const x = (place: number) => LEFT + ((place - from) / (to - from)) * inner;
    const {
      axis,
      laps: { path },
    } = comparing;
    const shown = axis.isDistance ? comparing.shown.filter(({ side }) => comparing.laps.lapOf(side)) : comparing.shown;
    const [first] = shown;
    const laps = shown.flatMap(({ side, index }) => {
      const along = comparing.laps.lapOf(side)?.along;
      return along ? [{ index, short: side.short, along }] : [];
    });
    const body = first ? bodySize(first.side.parameters.body) : { width: 0, height: 0 };
    const view: CompareView = {
      ctx,
      inks: inks.current,
      sides: laneSides(
        shown.map((one) => ({ ...one, begins: comparing.begins(one.side), axis: comparing.laps.axisOf(one.side) ?? axis })),
        [from, to],
        x,
      ),
      top: TOP,
      height: 0,
      left: LEFT,
      width: inner,
      span: [from, to],
      x,
      apart: (side, time) => (first ? comparing.apart(first.side, side, time) : 0),
      body: Math.max(body.width, body.height),
    };
    const drawn = axis.isDistance ? lapLanes(laps) : compareLanes;
    stackLanes(
      ctx,
      inks.current,
      drawn,
      { top: axis.isDistance ? UNDER_GATES : TOP, bottom: height - AXIS, left: LEFT, width: inner },
      (lane, top, tall) => {
        view.top = top;
        view.height = tall;
        lane.draw(view);
      },
    );
    drawAxis(ctx, inks.current, {
      from,
      to,
      x,
      left: LEFT,
      right: width - RIGHT,
      y: height - AXIS,
      ...(axis.isDistance ? { unit: comparing.$ground.get().ground.unit } : {}),
    });
    if (axis.isDistance && path) {
      ctx.save();
      ctx.beginPath();
      ctx.rect(LEFT, 0, inner + 2, height - AXIS);
      ctx.clip();
      drawGateLines(ctx, inks.current, { gates: path.gates, perLap: comparing.laps.gatesInLap, x, top: 2, bottom: height - AXIS });
      ctx.restore();
    }
    if (calipers) {
      ctx.fillStyle = inks.current.route;
      ctx.strokeStyle = inks.current.route;
      ctx.lineWidth = 1.5;
      const ends = [Math.min(calipers.from, calipers.to), Math.max(calipers.from, calipers.to)];
      const [x0, x1] = ends.map((time) => x(axis.placeAt(time))) as [number, number];
      ctx.globalAlpha = 0.16;
      ctx.fillRect(x0, 2, x1 - x0, height - AXIS - 2);
      ctx.globalAlpha = 1;
      ctx.strokeRect(x0, 2, x1 - x0, height - AXIS - 2);
    }
    return kept.canvas;
  };

  usePainter(() => {
    const ctx = canvas.current?.getContext('2d');
    if (!ctx) return;
    const { width, height, ratio } = size.current;
    const drawn = lanes(width, height, ratio);
    ctx.setTransform(1, 0, 0, 1, 0, 0);
    ctx.drawImage(drawn, 0, 0);
    ctx.setTransform(ratio, 0, 0, ratio, 0, 0);
    const [from, to] = span();
    const { axis } = comparing;
    const x = (place: number) => LEFT + ((place - from) / (to - from)) * (width - LEFT - RIGHT);
    drawCursor(ctx, inks.current as Inks, x(axis.placeAt(comparing.now)), height - AXIS, LEFT, width - RIGHT);
    if (!axis.isDistance) return;
    // Where each side is at the moment.
    for (const { side, index } of comparing.shown.toReversed()) {
      const place = comparing.laps.lapOf(side)?.along.distanceAt(comparing.now);
      if (place !== undefined && place >= from && place <= to)
        drawMark(ctx, inks.current as Inks, index, x(place), height - AXIS - 5, 3, { isFull: true });
    }
  });

  useEffect(() => {
    const element = canvas.current;
    if (!element) return;
    const wheel = (event: WheelEvent) => {
      event.preventDefault();
      const at = placeAt(event.clientX);
      const [from, to] = span();
      const { narrowest, length: whole } = comparing.axis;
      const length = Math.max(narrowest, (to - from) * Math.exp(event.deltaY * 0.0015));
      if (length >= whole) window.current = null;
      else {
        const begin = at - ((at - from) / (to - from)) * length;
        window.current = { from: begin, to: begin + length };
      }
    };
    element.addEventListener('wheel', wheel, { passive: false });
    return () => element.removeEventListener('wheel', wheel);
  });

  const down = (event: PointerEvent<HTMLCanvasElement>) => {
    if (event.button !== 0) return;
    event.currentTarget.setPointerCapture(event.pointerId);
    dragged.current = { from: timeAt(event.clientX), x: event.clientX };
  };
  const held = (time: number) => Math.min(comparing.length, Math.max(0, time));
  const move = (event: PointerEvent) => {
    const drag = dragged.current;
    const place = placeAt(event.clientX);
    const time = comparing.axis.timeAt(place);
    if (drag && Math.abs(event.clientX - drag.x) > 3) comparing.$calipers.set({ from: held(drag.from), to: held(time) });
    else if (!drag && !comparing.$playing.get() && place >= 0 && place <= comparing.axis.length) comparing.goTo(time);
  };
  const up = (event: PointerEvent) => {
    if (dragged.current && Math.abs(event.clientX - dragged.current.x) <= 3) {
      comparing.$calipers.set(null);
      comparing.goTo(timeAt(event.clientX));
    }
    dragged.current = null;
  };
  const key = (event: KeyboardEvent) => {
    const step = stepOf(event);
    if (step === null) return;
    event.preventDefault();
    comparing.step(step);
  };
  return (
    <section aria-label="Strip" className="relative min-h-0 flex-1">
      <canvas
        ref={canvas}
        className="size-full cursor-crosshair touch-none"
        tabIndex={0}
        role="img"
        aria-label={`${words}. A click holds at a moment, comma and full stop step; drag to measure.`}
        onPointerDown={down}
        onPointerMove={move}
        onPointerUp={up}
        onPointerCancel={up}
        onDoubleClick={() => {
          window.current = null;
        }}
        onKeyDown={key}
        data-testid="strip"
      />
    </section>
  );
}
