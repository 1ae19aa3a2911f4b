import { useStore } from '@nanostores/react';
import { type PointerEvent, useRef, useState } from 'react';
import { ScreenControls } from '../devices/ScreenControls.tsx';
import { swipeBetween, type Touch } from '../devices/swipe.ts';
import { usePainter } from '../shared/frames.ts';
import { drawContact, drawPebbles, drawScreen } from '../yard/drawEncounters.ts';
import { drawGround } from '../yard/drawGround.ts';
import { drawBody, drawPrints } from '../yard/drawMotion.ts';
import { drawRoute } from '../yard/drawRoute.ts';
import { drawSurvey } from '../yard/drawSurvey.ts';
import { Legend } from '../yard/Legend.tsx';
import { type Layers, surveyed } from '../yard/layers.ts';
import { cameraLens, flatLens, type Lens, lookThrough, worldAt } from '../yard/lens.ts';
import { shownCamera, shownPose } from '../yard/pose.ts';
import { useSheet } from '../yard/useSheet.ts';
import { useSpace } from '../yard/useZoom.ts';
import { fit, keepInside, pan } from '../yard/view.ts';
import { useBench } from './context.ts';

/** The live view: the ground as a chart with the body on it. Wheel zooms, middle- or space-drag pans, double-click fits. */
export function Yard() {
  const { drive, hub, surveyor } = useBench();
  const { canvas, size, chart, theme, view, fitted, inks, refit } = useSheet();
  const [layers, setLayers] = useState<Layers>({
    prints: true,
    wedge: true,
    velocity: true,
    grid: true,
    frame: true,
    contact: true,
    gaps: false,
    reach: false,
    room: false,
    grown: false,
    looked: false,
    touch: matchMedia('(pointer: coarse)').matches,
  });
  const lens = useRef<Lens | null>(null);
  const lookBack = useStore(drive.$lookBack);
  const through = useStore(drive.$throughCamera);
  const found = useStore(surveyor.$survey);
  const needsSurvey = surveyed.some((layer) => layers[layer]);

  usePainter(() => {
    const ctx = canvas.current?.getContext('2d');
    if (!ctx) return;
    const { width, height, ratio } = size.current;
    const { world } = drive;
    const { parameters, trace, ground } = world;
    const ink = inks();
    view.current ??= fit(ground.size, { width, height });
    const pose = shownPose(drive);
    const camera = shownCamera(drive);
    if (!fitted.current && drive.$running.get()) view.current = keepInside(view.current, { width, height }, pose.x, pose.y, 60);
    lens.current = through ? cameraLens(parameters.camera, camera.x, camera.y, width, height) : flatLens(view.current, width, height);
    const seen = lens.current;
    if (needsSurvey) surveyor.ask(ground, parameters);
    const survey = needsSurvey && found?.ground === ground ? found.survey : null;

    ctx.setTransform(ratio, 0, 0, ratio, 0, 0);
    ctx.fillStyle = ink.paper;
    ctx.fillRect(0, 0, width, height);
    ctx.save();
    if (through) clipToScreen(ctx, parameters.camera, seen.view.scale, width, height);
    lookThrough(ctx, seen, ratio);
    const key = JSON.stringify([layers.grid, layers.frame, layers.gaps, layers.reach, layers.room, theme, through, parameters.body]);
    const version = drive.groundVersion + (survey ? (found?.milliseconds ?? 0) : 0);
    chart.current.lay(ctx, seen, { width, height }, ratio, `${key} ${version}`, (on, at, w, h) => {
      // The ground's own frame is the screen while the camera stays.
      drawGround(on, ground, at, w, h, ink, { grid: layers.grid && !through, frame: false });
      if (survey) drawSurvey(on, survey, parameters.body, at, { width: w, height: h }, ink, layers);
    });
    if (layers.prints) drawPrints(ctx, trace, drive.row, seen.view, ink);
    if (layers.frame && !through) drawScreen(ctx, parameters.camera, camera.x, camera.y, seen.view, ink);
    drawRoute(ctx, world, drive.recorder.hands, seen.view, { width, height }, ink, layers);
    const contact = layers.contact ? trace.contacts.at(drive.row) : null;
    if (contact) drawContact(ctx, contact, parameters.body, seen.view, ink);
    drawPebbles(ctx, trace, drive.row, parameters.facing.launchSpeed, world.walls, seen.view, ink);
    drawBody(ctx, pose, parameters.body, seen.view, ink, layers);
    ctx.restore();
  });

  /** Whether clicks lead the feet. */
  const clicks = () => drive.world.parameters.route.enabled && drive.world.parameters.scheme !== 'step';
  const pointAt = (event: PointerEvent<HTMLCanvasElement>) => {
    if (!lens.current) return;
    const box = event.currentTarget.getBoundingClientRect();
    const at = worldAt(lens.current, event.clientX - box.left, event.clientY - box.top);
    hub.point(Number(at.x.toFixed(2)), Number(at.y.toFixed(2)));
  };
  const space = useSpace();
  const swiping = useRef<Touch | null>(null);
  const drop = (event: PointerEvent) => {
    dragging.current = null;
    hub.release('pointer', 'pointer');
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
      event.currentTarget.setPointerCapture(event.pointerId);
      if (clicks()) {
        pointAt(event);
        hub.press('pointer', 'pointer');
      }
      return;
    }
    if (event.button !== 1 && event.button !== 0) return;
    event.preventDefault();
    event.currentTarget.setPointerCapture(event.pointerId);
    dragging.current = { x: event.clientX, y: event.clientY };
  };
  const drag = (event: PointerEvent<HTMLCanvasElement>) => {
    if (!view.current || !lens.current) return;
    if (clicks() || drive.world.parameters.facing.from === 'pointer') pointAt(event);
    if (!dragging.current) return;
    fitted.current = false;
    view.current = pan(view.current, event.clientX - dragging.current.x, event.clientY - dragging.current.y);
    dragging.current = { x: event.clientX, y: event.clientY };
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
        data-surveyed={found?.isWhole ? found.survey.gaps?.length : undefined}
      />
      <Legend layers={layers} change={setLayers} />
      <FirstSteps />
      {layers.touch && <ScreenControls hub={hub} />}
      <p className="absolute top-8 right-2 flex flex-col items-end gap-1 text-xs" role="status">
        {through && <span className="bg-sheet px-2 py-1">Through the camera (V leaves)</span>}
        {lookBack !== null && <span className="bg-sheet px-2 py-1 text-now">Looking back</span>}
      </p>
    </section>
  );
}

/** Shows only what a player's screen holds. */
function clipToScreen(
  ctx: CanvasRenderingContext2D,
  { viewWidth, viewHeight }: { viewWidth: number; viewHeight: number },
  scale: number,
  width: number,
  height: number,
): void {
  ctx.beginPath();
  ctx.rect((width - viewWidth * scale) / 2, (height - viewHeight * scale) / 2, viewWidth * scale, viewHeight * scale);
  ctx.clip();
}

/** The one line that a newcomer needs, until the character has been driven. */
function FirstSteps() {
  const { drive, editing } = useBench();
  const line = useRef<HTMLParagraphElement>(null);
  const { route, scheme } = useStore(editing.$tuning).parameters;
  const clicks = route.enabled && scheme !== 'step';
  usePainter(() => {
    const moved = drive.recorder.hands.presses > 0;
    if (line.current && line.current.hidden !== moved) line.current.hidden = moved;
  });
  return (
    <p ref={line} className="absolute bottom-7 left-1/2 -translate-x-1/2 border border-now bg-sheet px-3 py-1 whitespace-nowrap">
      {clicks && 'Click where to go, hold to follow. '}
      Drive with <kbd className="keycap">W A S D</kbd> or the arrows, sprint with <kbd className="keycap">Shift</kbd>.
    </p>
  );
}
