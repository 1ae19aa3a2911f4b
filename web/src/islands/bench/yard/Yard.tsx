import { useStore } from '@nanostores/react';
import { type PointerEvent, useEffect, useRef, useState } from 'react';
import { useCanvasSize } from '../../shared/canvas.ts';
import { $theme, type Inks, readInks } from '../../shared/theme.ts';
import { useBench, usePainter } from '../context.ts';
import { ScreenControls } from '../devices/ScreenControls.tsx';
import { swipeBetween, type Touch } from '../devices/swipe.ts';
import { drawGround } from './drawGround.ts';
import { drawBody, drawPrints } from './drawMotion.ts';
import { shownPose } from './pose.ts';
import { fit, keepInside, pan, type View, zoomAt } from './view.ts';

const layerNames = {
  prints: 'Prints',
  wedge: 'Heading',
  velocity: 'Velocity',
  grid: 'Grid',
  frame: 'Screen',
  touch: 'Stick and buttons',
} as const;
type Layers = Record<keyof typeof layerNames, boolean>;

/** The live view: the ground as a chart with the body on it. Wheel zooms, middle- or space-drag pans, double-click fits. */
export function Yard() {
  const { drive, hub } = useBench();
  const canvas = useRef<HTMLCanvasElement>(null);
  const [layers, setLayers] = useState<Layers>({
    prints: true,
    wedge: true,
    velocity: true,
    grid: true,
    frame: true,
    touch: matchMedia('(pointer: coarse)').matches,
  });
  const view = useRef<View | null>(null);
  /** True until the user zooms or pans: then the view no longer refits when the yard is resized. */
  const fitted = useRef(true);
  const chart = useRef<{ sheet: HTMLCanvasElement; key: string } | null>(null);
  const inks = useRef<Inks | null>(null);
  const theme = useStore($theme);
  const lookBack = useStore(drive.$lookBack);
  useEffect(() => {
    inks.current = null;
    void theme;
  }, [theme]);
  // The first chart is drawn before the fonts are there.
  useEffect(() => {
    void document.fonts.ready.then(() => {
      chart.current = null;
    });
  }, []);
  const size = useCanvasSize(canvas, () => {
    if (fitted.current) view.current = null;
  });

  usePainter(() => {
    const ctx = canvas.current?.getContext('2d');
    if (!ctx) return;
    const { width, height, ratio } = size.current;
    const { world } = drive;
    inks.current ??= readInks();
    view.current ??= fit(world.ground.size, { width, height });
    const pose = shownPose(drive);
    if (!fitted.current && drive.$running.get()) view.current = keepInside(view.current, { width, height }, pose.x, pose.y, 60);

    // The chart is drawn anew only when it changes; each frame lays it down and draws what moves.
    const key = JSON.stringify([view.current, width, height, ratio, layers.grid, layers.frame, theme, world.ground.name]);
    if (chart.current?.key !== key) {
      const sheet = chart.current?.sheet ?? document.createElement('canvas');
      sheet.width = width * ratio;
      sheet.height = height * ratio;
      const on = sheet.getContext('2d') as CanvasRenderingContext2D;
      on.setTransform(ratio, 0, 0, ratio, 0, 0);
      drawGround(on, world.ground, view.current, width, height, inks.current, layers);
      chart.current = { sheet, key };
    }
    ctx.setTransform(1, 0, 0, 1, 0, 0);
    ctx.drawImage(chart.current.sheet, 0, 0);
    ctx.setTransform(ratio, 0, 0, ratio, 0, 0);
    if (layers.prints) drawPrints(ctx, world.trace, drive.row, view.current, inks.current);
    drawBody(ctx, pose, world.parameters.body, view.current, inks.current, layers);
  });

  useEffect(() => {
    const element = canvas.current;
    if (!element) return;
    // React listens to wheels passively; zooming has to keep the page still.
    const wheel = (event: WheelEvent) => {
      event.preventDefault();
      const box = element.getBoundingClientRect();
      fitted.current = false;
      if (view.current)
        view.current = zoomAt(view.current, Math.exp(-event.deltaY * 0.0015), event.clientX - box.left, event.clientY - box.top);
    };
    element.addEventListener('wheel', wheel, { passive: false });
    return () => element.removeEventListener('wheel', wheel);
  }, []);

  const space = useSpace();
  const swiping = useRef<Touch | null>(null);
  const drop = (event: PointerEvent) => {
    dragging.current = null;
    const { swipeDistance, swipeTime } = drive.world.parameters.input;
    const to = { x: event.clientX, y: event.clientY, time: event.timeStamp };
    const swipe = swiping.current && swipeBetween(swiping.current, to, swipeDistance, swipeTime);
    swiping.current = null;
    if (swipe && swipe.length > 3) hub.swipe(swipe);
  };
  const dragging = useRef<{ x: number; y: number } | null>(null);
  const grab = (event: PointerEvent<HTMLCanvasElement>) => {
    if (event.button === 0 && !space.current) {
      swiping.current = { x: event.clientX, y: event.clientY, time: event.timeStamp };
      return;
    }
    if (event.button !== 1 && event.button !== 0) return;
    event.preventDefault();
    event.currentTarget.setPointerCapture(event.pointerId);
    dragging.current = { x: event.clientX, y: event.clientY };
  };
  const drag = (event: PointerEvent<HTMLCanvasElement>) => {
    if (!view.current) return;
    if (drive.world.parameters.facing.from === 'pointer') {
      const box = event.currentTarget.getBoundingClientRect();
      hub.point(
        view.current.x + (event.clientX - box.left) / view.current.scale,
        view.current.y + (event.clientY - box.top) / view.current.scale,
      );
    }
    if (!dragging.current) return;
    fitted.current = false;
    view.current = pan(view.current, event.clientX - dragging.current.x, event.clientY - dragging.current.y);
    dragging.current = { x: event.clientX, y: event.clientY };
  };
  const refit = () => {
    fitted.current = true;
    view.current = null;
  };

  return (
    <section aria-label="Yard" className="relative min-w-0 overflow-hidden">
      <canvas
        ref={canvas}
        className="absolute inset-0 size-full touch-none"
        role="img"
        aria-label={`The ground ${drive.world.ground.name} with the character on it`}
        onPointerDown={grab}
        onPointerMove={drag}
        onPointerUp={drop}
        onPointerCancel={drop}
        onDoubleClick={refit}
        data-testid="yard"
      />
      <Legend layers={layers} change={setLayers} />
      <FirstSteps />
      {layers.touch && <ScreenControls />}
      {lookBack !== null && (
        <p className="absolute top-2 right-2 bg-sheet px-2 py-1 text-now" role="status">
          Looking back
        </p>
      )}
    </section>
  );
}

/** The one line that a newcomer needs, until the character has been driven. */
function FirstSteps() {
  const { drive } = useBench();
  const line = useRef<HTMLParagraphElement>(null);
  usePainter(() => {
    const moved = drive.recorder.hands.presses > 0;
    if (line.current && line.current.hidden !== moved) line.current.hidden = moved;
  });
  return (
    <p ref={line} className="absolute bottom-7 left-1/2 -translate-x-1/2 border border-now bg-sheet px-3 py-1 whitespace-nowrap">
      Drive with <kbd className="keycap">W A S D</kbd> or the arrows, sprint with <kbd className="keycap">Shift</kbd>.
    </p>
  );
}

/** The layers of the yard, each to be shown or hidden. */
function Legend({ layers, change }: { layers: Layers; change: (layers: Layers) => void }) {
  return (
    <fieldset className="absolute top-2 left-2 flex gap-x-3 bg-sheet/85 px-2 py-1 text-[11px] text-ink-soft">
      <legend className="sr-only">Layers of the yard</legend>
      {Object.entries(layerNames).map(([name, label]) => (
        <label key={name} className="flex items-center gap-1">
          <input
            type="checkbox"
            className="size-3 accent-(--ink-soft)"
            checked={layers[name as keyof Layers]}
            onChange={(event) => {
              change({ ...layers, [name]: event.target.checked });
              event.target.blur();
            }}
          />
          {label}
        </label>
      ))}
    </fieldset>
  );
}

/** Whether the space bar is down. */
function useSpace() {
  const down = useRef(false);
  useEffect(() => {
    const set = (value: boolean) => (event: KeyboardEvent) => {
      if (event.code === 'Space') down.current = value;
    };
    const press = set(true);
    const lift = set(false);
    window.addEventListener('keydown', press);
    window.addEventListener('keyup', lift);
    return () => {
      window.removeEventListener('keydown', press);
      window.removeEventListener('keyup', lift);
    };
  }, []);
  return down;
}
