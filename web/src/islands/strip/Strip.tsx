import { useStore } from '@nanostores/react';
import type { Parameters, Trace } from '@zygopod/core';
import { type KeyboardEvent, type PointerEvent, useEffect, useRef } from 'react';
import { useCanvasSize } from '../chart/canvas.ts';
import { usePainter } from '../chart/frames.ts';
import { shownTime } from '../chart/pose.ts';
import { $theme, type Inks, readInks } from '../chart/theme.ts';
import { useTuning } from '../tuning/context.ts';
import { EventMarks } from './EventMarks.tsx';
import { $chosenLanes, shownLanes } from './laneList.ts';
import type { LaneView } from './lanes.ts';
import { drawAxis, drawCalipers, drawChanges, drawCursor } from './marks.ts';
import { SnagMarks } from './SnagMarks.tsx';
import { stackLanes } from './stack.ts';
import { stepOf } from './stepKey.ts';
import { LEFT, NARROWEST, RIGHT, WIDEST, windowSpan } from './window.ts';

const AXIS = 16;
/** Room above the lanes for the marks of events. */
const TOP = 13;

/** The rows of a ghost's trace that are in sight. */
const ghostOf = (trace: Trace, from: number, to: number) => ({
  trace,
  from: Math.max(trace.first, trace.rowAt(from) - 1),
  to: Math.min(trace.end - 1, trace.rowAt(to)),
});

/** The time chart: lanes over one axis. At rest the pointer looks back; dragging measures; the wheel zooms in time. */
export function Strip() {
  const { drive, $calipers, window } = useTuning();
  const canvas = useRef<HTMLCanvasElement>(null);
  const inks = useRef<Inks | null>(null);
  const theme = useStore($theme);
  useEffect(() => {
    inks.current = null;
    void theme;
  }, [theme]);
  const size = useCanvasSize(canvas, () => undefined);
  /** Inputs of the strip's last drawing. */
  const drawn = useRef<{ key: string; parameters: Parameters | null }>({ key: '', parameters: null });
  const dragged = useRef<{ from: number; edge: boolean; length: number; x: number } | null>(null);

  const span = () => windowSpan(drive, window);
  const timeAt = (clientX: number): number => {
    const box = canvas.current?.getBoundingClientRect();
    const [from, to] = span();
    if (!box) return from;
    return from + ((clientX - box.left - LEFT) / (box.width - LEFT - RIGHT)) * (to - from);
  };

  usePainter(() => {
    const ctx = canvas.current?.getContext('2d');
    if (!ctx) return;
    inks.current ??= readInks();
    const { width, height, ratio } = size.current;
    const { trace, parameters } = drive.world;
    const loop = drive.$loop.get();
    const [from, to] = span();
    const inner = width - LEFT - RIGHT;
    const x = (time: number) => LEFT + ((time - from) / (to - from)) * inner;
    // Over a long window time moves by less than a pixel a frame: then there is nothing new to draw.
    const calipers = $calipers.get();
    const lanes = shownLanes(parameters, $chosenLanes.get());
    const drawing = [
      Math.floor((to / (to - from)) * inner),
      window.length,
      window.end,
      loop?.version,
      width,
      height,
      ratio,
      theme,
      lanes.map(({ name }) => name).join(),
      Math.round(x(shownTime(drive)) * ratio),
    ];
    const key = `${drawing.join()} ${document.fonts.status} ${calipers?.from} ${calipers?.to}`;
    if (drawn.current.key === key && drawn.current.parameters === parameters) return;
    drawn.current = { key, parameters };
    ctx.setTransform(ratio, 0, 0, ratio, 0, 0);
    ctx.fillStyle = inks.current.paper;
    ctx.fillRect(0, 0, width, height);

    const view: LaneView = {
      ctx,
      inks: inks.current,
      trace,
      ghost: loop?.ghost ? ghostOf(loop.ghost.trace, from, to) : null,
      parameters,
      top: TOP,
      height: 0,
      left: LEFT,
      width: inner,
      from: Math.max(trace.first, trace.rowAt(from) - 1),
      to: Math.min(trace.end - 1, trace.rowAt(to)),
      x,
    };
    stackLanes(ctx, inks.current, lanes, { top: TOP, bottom: height - AXIS, left: LEFT, width: inner }, (lane, top, tall) => {
      view.top = top;
      view.height = tall;
      lane.draw(view);
    });
    drawChanges(ctx, inks.current, drive.changes.filter((time) => time >= from && time <= to).map(x), height - AXIS);
    drawAxis(ctx, inks.current, { from, to, x, left: LEFT, right: width - RIGHT, y: height - AXIS });
    if (calipers) drawCalipers(ctx, inks.current, trace, calipers, x, LEFT, width - RIGHT, height - AXIS);
    drawCursor(ctx, inks.current, x(shownTime(drive)), height - AXIS, LEFT, width - RIGHT);
  });

  const tape = useStore(drive.$loop)?.source;
  useEffect(() => {
    // A tape is shown whole as it begins; the drive goes on as it was.
    Object.assign(window, { length: 8, end: null });
    void tape;
  }, [tape, window]);

  useEffect(() => {
    const element = canvas.current;
    if (!element) return;
    const wheel = (event: WheelEvent) => {
      event.preventDefault();
      const at = timeAt(event.clientX);
      const [from, to] = span();
      const length = Math.min(WIDEST, Math.max(NARROWEST, window.length * Math.exp(event.deltaY * 0.0015)));
      const share = (at - from) / (to - from);
      Object.assign(window, { length, end: window.end === null && !drive.$loop.get() ? null : at + (1 - share) * length });
    };
    element.addEventListener('wheel', wheel, { passive: false });
    return () => element.removeEventListener('wheel', wheel);
  });

  const down = (event: PointerEvent<HTMLCanvasElement>) => {
    if (event.button !== 0) return;
    const box = event.currentTarget.getBoundingClientRect();
    event.currentTarget.setPointerCapture(event.pointerId);
    const edge = event.clientX - box.left < LEFT || event.clientX > box.right - RIGHT;
    dragged.current = { from: timeAt(event.clientX), edge, length: window.length, x: event.clientX };
  };
  const move = (event: PointerEvent<HTMLCanvasElement>) => {
    const drag = dragged.current;
    if (drag?.edge) {
      // Pulling an edge outwards shows more time, pushing it in less.
      const outwards = drag.from < span()[0] + 1e-9 ? drag.x - event.clientX : event.clientX - drag.x;
      window.length = Math.min(WIDEST, Math.max(NARROWEST, drag.length * Math.exp(outwards * 0.006)));
    } else if (drag && Math.abs(event.clientX - drag.x) > 3) $calipers.set({ from: drag.from, to: timeAt(event.clientX) });
    if (!drive.$running.get() && !drag?.edge) lookAt(timeAt(event.clientX));
  };
  const up = (event: PointerEvent) => {
    if (dragged.current && !dragged.current.edge && Math.abs(event.clientX - dragged.current.x) <= 3) $calipers.set(null);
    dragged.current = null;
  };
  const lookAt = (time: number) => {
    const { trace } = drive.world;
    drive.$lookBack.set(time < 0 || time >= trace.at('time', trace.end - 1) ? null : Math.min(trace.rowAt(time), trace.end - 1));
  };
  const key = (event: KeyboardEvent) => {
    const step = stepOf(event);
    if (step === null || drive.$running.get()) return;
    event.preventDefault();
    drive.$lookBack.set(Math.min(drive.world.trace.end - 1, Math.max(drive.world.trace.first, drive.row + step)));
  };

  return (
    <section aria-label="Strip" className="relative min-h-0 border-t border-ink">
      <canvas
        ref={canvas}
        className="size-full cursor-crosshair touch-none"
        tabIndex={0}
        role="img"
        aria-label="Speed and gait over time. At rest, comma and full stop step through the ticks; drag to measure."
        onPointerDown={down}
        onPointerMove={move}
        onPointerUp={up}
        onPointerCancel={up}
        onPointerLeave={() => !dragged.current && drive.$lookBack.set(null)}
        onDoubleClick={() => {
          Object.assign(window, { length: 8, end: null });
        }}
        onKeyDown={key}
        data-testid="strip"
      />
      <EventMarks span={span} left={LEFT} right={RIGHT} />
      <SnagMarks span={span} left={LEFT} right={RIGHT} bottom={AXIS} />
    </section>
  );
}
