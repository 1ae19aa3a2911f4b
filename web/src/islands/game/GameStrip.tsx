import { useStore } from '@nanostores/react';
import { bodyRadius } from '@zygopod/core';
import { type KeyboardEvent, type PointerEvent, useEffect, useRef } from 'react';
import { useCanvasSize } from '../chart/canvas.ts';
import { usePainter } from '../chart/frames.ts';
import { $theme, type Inks, readInks } from '../chart/theme.ts';
import { drawAxis, drawCursor } from '../strip/marks.ts';
import { stackLanes } from '../strip/stack.ts';
import { stepOf } from '../strip/stepKey.ts';
import { useGame } from './context.ts';
import { lanesOf } from './gameLanes.ts';

const LEFT = 96;
const RIGHT = 16;
const AXIS = 17;
const TOP = 6;
/** Seconds in sight at first, and at least. */
const WINDOW = 10;
const NARROWEST = 0.25;

/** Speed, facing, gait and stamina of both, how far they are apart, and how late the rows come; a click holds at a moment. */
export function GameStrip() {
  const game = useGame();
  const canvas = useRef<HTMLCanvasElement>(null);
  const inks = useRef<Inks | null>(null);
  /** The window: its length, and its end; null: the newest. */
  const window = useRef<{ length: number; end: number | null }>({ length: WINDOW, end: null });
  const theme = useStore($theme);
  useEffect(() => {
    inks.current = null;
    void theme;
  }, [theme]);
  const size = useCanvasSize(canvas, () => undefined);
  const dragged = useRef<{ x: number; end: number } | null>(null);

  const span = (): [number, number] => {
    const { length, end } = window.current;
    const newest = Math.max(length, end ?? game.shown.length);
    return [newest - length, newest];
  };
  const timeAt = (clientX: number): number => {
    const box = canvas.current?.getBoundingClientRect();
    const [from, to] = span();
    return box ? from + ((clientX - box.left - LEFT) / (box.width - LEFT - RIGHT)) * (to - from) : from;
  };

  usePainter(() => {
    const ctx = canvas.current?.getContext('2d');
    if (!ctx) return;
    const { width, height, ratio } = size.current;
    inks.current ??= readInks();
    const ink = inks.current;
    ctx.setTransform(ratio, 0, 0, ratio, 0, 0);
    ctx.fillStyle = ink.paper;
    ctx.fillRect(0, 0, width, height);
    const [from, to] = span();
    const inner = width - LEFT - RIGHT;
    const x = (time: number) => LEFT + ((time - from) / (to - from)) * inner;
    const { ground } = game;
    const { drive } = game.shown;
    const open = game.$game.get();
    const trace = drive?.game;
    const model = drive?.model;
    if (trace && model && open && trace.end > 1) {
      const { pace, stamina, body } = drive.parameters;
      const lanes = lanesOf(open.columns);
      const base = {
        ctx,
        inks: ink,
        model,
        game: trace,
        from: Math.max(trace.first, trace.rowAt(from) - 1),
        to: Math.min(trace.end - 1, trace.rowAt(to)),
        left: LEFT,
        width: inner,
        x,
        fastest: Math.max(pace.walkSpeed, pace.sprintSpeed, 1e-6),
        stamina: Math.max(stamina.max, 1e-6),
        body: 2 * bodyRadius(body),
        unit: ground.unit,
        late: game.late,
        tickOf: (row: number) => drive.tickOf(row),
      };
      stackLanes(ctx, ink, lanes, { top: TOP, bottom: height - AXIS, left: LEFT, width: inner }, (lane, top, tall) =>
        lane.draw({ ...base, top, height: tall }),
      );
    }
    drawAxis(ctx, ink, { from, to, x, left: LEFT, right: width - RIGHT, y: height - AXIS });
    const held = game.shown.$held.get();
    const time = held === null || !trace ? game.shown.length : trace.at('time', held);
    drawCursor(ctx, ink, x(time), height - AXIS, LEFT, width - RIGHT);
  });

  useEffect(() => {
    const element = canvas.current;
    if (!element) return;
    const wheel = (event: WheelEvent) => {
      event.preventDefault();
      const { length, end } = window.current;
      const next = Math.min(Math.max(WINDOW, game.shown.length), Math.max(NARROWEST, length * Math.exp(event.deltaY * 0.0015)));
      if (end === null) window.current = { length: next, end: null };
      else {
        const at = timeAt(event.clientX);
        const [from, to] = span();
        window.current = { length: next, end: at + ((to - at) * next) / (to - from) };
      }
    };
    element.addEventListener('wheel', wheel, { passive: false });
    return () => element.removeEventListener('wheel', wheel);
  });
  // A moment that is shown from elsewhere comes into sight; the newest one follows the drive.
  const held = useStore(game.shown.$held);
  // biome-ignore lint/correctness/useExhaustiveDependencies: only another moment moves the window
  useEffect(() => {
    if (held === null) {
      window.current = { ...window.current, end: null };
      return;
    }
    const time = game.shown.timeOf(held);
    const [from, to] = span();
    if (time < from || time > to || window.current.end === null)
      window.current = { ...window.current, end: time < from || time > to ? time + window.current.length / 2 : to };
  }, [held]);

  const down = (event: PointerEvent<HTMLCanvasElement>) => {
    if (event.button !== 0) return;
    event.currentTarget.setPointerCapture(event.pointerId);
    dragged.current = { x: event.clientX, end: span()[1] };
  };
  const move = (event: PointerEvent) => {
    const drag = dragged.current;
    if (!drag || Math.abs(event.clientX - drag.x) <= 3) return;
    const [from, to] = span();
    const width = (canvas.current?.clientWidth ?? 1) - LEFT - RIGHT;
    const end = drag.end - ((event.clientX - drag.x) / width) * (to - from);
    window.current = { length: to - from, end: Math.max(to - from, end) >= game.shown.length ? null : Math.max(to - from, end) };
  };
  const up = (event: PointerEvent) => {
    if (dragged.current && Math.abs(event.clientX - dragged.current.x) <= 3) game.shown.holdAt(timeAt(event.clientX));
    dragged.current = null;
  };
  const key = (event: KeyboardEvent) => {
    const step = stepOf(event);
    if (step === null) return;
    event.preventDefault();
    game.shown.step(step);
  };
  return (
    <section aria-label="Strip" className="relative min-h-0 flex-1 border-t border-rule">
      <canvas
        ref={canvas}
        className="size-full cursor-crosshair touch-none"
        tabIndex={0}
        role="img"
        aria-label="Speed, facing, gait and stamina of the game and of the model, and how far they are apart. A click holds at a moment, comma and full stop step."
        onPointerDown={down}
        onPointerMove={move}
        onPointerUp={up}
        onPointerCancel={up}
        onDoubleClick={() => {
          window.current = { length: WINDOW, end: null };
          game.shown.$held.set(null);
        }}
        onKeyDown={key}
        data-testid="strip"
      />
    </section>
  );
}
