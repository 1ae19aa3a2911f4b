import { useStore } from '@nanostores/react';
import { bodySize } from '@zygopod/core';
import { type KeyboardEvent, type PointerEvent, useEffect, useRef } from 'react';
import { useCanvasSize } from '../chart/canvas.ts';
import { usePainter } from '../chart/frames.ts';
import { $theme, type Inks, readInks } from '../chart/theme.ts';
import { drawAxis, drawCursor } from '../strip/marks.ts';
import { stackLanes } from '../strip/stack.ts';
import { type CompareView, compareLanes, laneSides } from './compareLanes.ts';
import { useComparing } from './context.ts';

const LEFT = 96;
const RIGHT = 16;
const AXIS = 17;
const TOP = 6;
/** Shortest window, s. */
const NARROWEST = 0.25;

/** The lanes of all sides over one axis: a click holds at a moment, held it follows the pointer, dragging measures, the wheel zooms in time. */
export function CompareStrip() {
  const comparing = useComparing();
  const canvas = useRef<HTMLCanvasElement>(null);
  const sheet = useRef<{ canvas: HTMLCanvasElement | null; key: string }>({ canvas: null, key: '' });
  const inks = useRef<Inks | null>(null);
  const theme = useStore($theme);
  useEffect(() => {
    inks.current = null;
    void theme;
  }, [theme]);
  const size = useCanvasSize(canvas, () => undefined);
  /** The window; null: all of the tape. */
  const window = useRef<{ from: number; to: number } | null>(null);
  const dragged = useRef<{ from: number; x: number } | null>(null);

  const span = (): [number, number] => {
    const at = window.current;
    return at ? [at.from, at.to] : [0, Math.max(NARROWEST, comparing.length)];
  };
  const timeAt = (clientX: number): number => {
    const box = canvas.current?.getBoundingClientRect();
    const [from, to] = span();
    return box ? from + ((clientX - box.left - LEFT) / (box.width - LEFT - RIGHT)) * (to - from) : from;
  };

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
    const x = (time: number) => LEFT + ((time - from) / (to - from)) * inner;
    const { shown } = comparing;
    const [first] = shown;
    const body = first ? bodySize(first.side.parameters.body) : { width: 0, height: 0 };
    const view: CompareView = {
      ctx,
      inks: inks.current,
      sides: laneSides(shown, [from, to], x),
      top: TOP,
      height: 0,
      left: LEFT,
      width: inner,
      span: [from, to],
      x,
      apart: (side, time) => (first ? comparing.apart(first.side, side, time) : 0),
      body: Math.max(body.width, body.height),
    };
    stackLanes(ctx, inks.current, compareLanes, { top: TOP, bottom: height - AXIS, left: LEFT, width: inner }, (lane, top, tall) => {
      view.top = top;
      view.height = tall;
      lane.draw(view);
    });
    drawAxis(ctx, inks.current, { from, to, x, left: LEFT, right: width - RIGHT, y: height - AXIS });
    if (calipers) {
      ctx.fillStyle = inks.current.route;
      ctx.strokeStyle = inks.current.route;
      ctx.lineWidth = 1.5;
      const [x0, x1] = [Math.min(calipers.from, calipers.to), Math.max(calipers.from, calipers.to)].map(x) as [number, number];
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
    const x = LEFT + ((comparing.now - from) / (to - from)) * (width - LEFT - RIGHT);
    drawCursor(ctx, inks.current as Inks, x, height - AXIS, LEFT, width - RIGHT);
  });

  useEffect(() => {
    const element = canvas.current;
    if (!element) return;
    const wheel = (event: WheelEvent) => {
      event.preventDefault();
      const at = timeAt(event.clientX);
      const [from, to] = span();
      const length = Math.max(NARROWEST, (to - from) * Math.exp(event.deltaY * 0.0015));
      if (length >= comparing.length) window.current = null;
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
    const time = timeAt(event.clientX);
    if (drag && Math.abs(event.clientX - drag.x) > 3) comparing.$calipers.set({ from: held(drag.from), to: held(time) });
    else if (!drag && !comparing.$playing.get() && time >= 0 && time <= comparing.length) comparing.goTo(time);
  };
  const up = (event: PointerEvent) => {
    if (dragged.current && Math.abs(event.clientX - dragged.current.x) <= 3) {
      comparing.$calipers.set(null);
      comparing.goTo(timeAt(event.clientX));
    }
    dragged.current = null;
  };
  const key = (event: KeyboardEvent) => {
    const delta = ({ Comma: -1, Period: 1 } as Record<string, number>)[event.code];
    if (delta === undefined) return;
    event.preventDefault();
    comparing.step(delta * (event.shiftKey ? 10 : 1));
  };
  return (
    <section aria-label="Strip" className="relative min-h-0 flex-1">
      <canvas
        ref={canvas}
        className="size-full cursor-crosshair touch-none"
        tabIndex={0}
        role="img"
        aria-label="Speed, stamina, gait and distance of all sides over time. A click holds at a moment, comma and full stop step; drag to measure."
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
