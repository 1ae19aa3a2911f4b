import { useStore } from '@nanostores/react';
import { bodyRadius, type Parameters } from '@zygopod/core';
import { useEffect, useRef, useState } from 'react';
import { drawGates } from '../chart/drawCourse.ts';
import { drawContact, drawPebbles, drawScreen } from '../chart/drawEncounters.ts';
import { drawGhost } from '../chart/drawGhost.ts';
import { drawCoordinates, drawGround } from '../chart/drawGround.ts';
import { drawBody, drawPrints } from '../chart/drawMotion.ts';
import { drawRoute } from '../chart/drawRoute.ts';
import { drawSnags, snagMarks } from '../chart/drawSnags.ts';
import { drawSurvey } from '../chart/drawSurvey.ts';
import { usePainter } from '../chart/frames.ts';
import { type Layers, surveyed } from '../chart/layers.ts';
import { cameraLens, flatLens, type Lens, lookThrough } from '../chart/lens.ts';
import { Overview } from '../chart/Overview.tsx';
import { shownCamera, shownPose, shownTime } from '../chart/pose.ts';
import { usePointerHands } from '../chart/usePointerHands.ts';
import { useSheet } from '../chart/useSheet.ts';
import { centred } from '../chart/view.ts';
import { YardMenus } from '../chart/YardMenus.tsx';
import { ScreenControls } from '../drive/ScreenControls.tsx';
import { useTuning } from '../tuning/context.ts';
import type { HandLaps } from './laps/handLaps.ts';
import { LapClock } from './laps/LapClock.tsx';

/** Seconds of prints to come that are shown while a tape plays. */
const PRINTS_AHEAD = 20;

/** The live view: the ground as a chart with the body on it. Wheel zooms, middle- or space-drag pans, double-click goes back. */
export function Yard({ laps }: { laps: HandLaps }) {
  const { drive, hub, surveyor, editing, $look, $snags } = useTuning();
  const { canvas, size, chart, theme, view, $mode, inks, look, choose, move, show } = useSheet();
  const [layers, setLayers] = useState<Layers>({
    prints: true,
    wedge: true,
    velocity: true,
    grid: true,
    frame: true,
    contact: true,
    snags: true,
    course: true,
    gaps: false,
    reach: false,
    room: false,
    grown: false,
    searched: false,
    touch: matchMedia('(pointer: coarse)').matches,
  });
  const lens = useRef<Lens | null>(null);
  /** Inputs of the last drawing. */
  const drawn = useRef<readonly unknown[]>([]);
  const lookBack = useStore(drive.$lookBack);
  const through = useStore(drive.$throughCamera);
  const found = useStore(surveyor.$survey);
  const needsSurvey = surveyed.some((layer) => layers[layer]);

  useEffect(() => $look.listen((place) => place && show(place.x, place.y)), [$look, show]);

  usePainter((now) => {
    const ctx = canvas.current?.getContext('2d');
    if (!ctx) return;
    const { width, height, ratio } = size.current;
    const { world } = drive;
    const { parameters, trace, ground } = world;
    const ink = inks();
    const pose = shownPose(drive);
    const camera = shownCamera(drive);
    const radius = bodyRadius(parameters.body);
    const at = look({ ground: ground.size, x: pose.x, y: pose.y, radius, isRunning: drive.$running.get() }, now);
    const loop = drive.$loop.get();
    const { hands } = drive.recorder;
    const shows = [
      ...[world, parameters, ground, drive.groundVersion, trace.end, drive.row, pose.x, pose.y, pose.facing, camera.x, camera.y],
      ...[
        size.current,
        at.x,
        at.y,
        at.scale,
        ink,
        layers,
        through,
        found,
        loop,
        loop?.version,
        loop?.now,
        laps.rival,
        editing.$flipped.get(),
        $snags.get(),
      ],
      ...[hands.pointX, hands.pointY, hands.pointed, document.fonts.status],
    ];
    // At rest a frame is as the one before it.
    if (!drive.$running.get() && !loop?.$playing.get() && shows.every((one, i) => Object.is(one, drawn.current[i]))) return;
    drawn.current = shows;
    lens.current = through ? cameraLens(parameters.camera, camera.x, camera.y, width, height) : flatLens(at, width, height);
    const seen = lens.current;
    if (needsSurvey) surveyor.ask(ground, parameters);
    const survey = needsSurvey && found?.ground === ground ? found.survey : null;

    ctx.setTransform(ratio, 0, 0, ratio, 0, 0);
    ctx.fillStyle = ink.paper;
    ctx.fillRect(0, 0, width, height);
    ctx.save();
    if (through) clipToScreen(ctx, parameters.camera, seen.view.scale, width, height);
    lookThrough(ctx, seen, ratio);
    const key = JSON.stringify([
      layers.course,
      layers.grid,
      layers.frame,
      layers.gaps,
      layers.reach,
      layers.room,
      theme,
      through,
      parameters.body,
    ]);
    const version = drive.groundVersion + (survey ? (found?.milliseconds ?? 0) : 0);
    chart.current.lay(ctx, seen, { width, height }, ratio, `${key} ${version}`, (on, part, w, h) => {
      // The ground's own frame is the screen while the camera stays.
      drawGround(on, ground, part, w, h, ink, { grid: layers.grid && !through, frame: false });
      if (layers.course) drawGates(on, ground, part, ink);
      if (survey) drawSurvey(on, survey, parameters.body, part, { width: w, height: h }, ink, layers);
    });
    if (loop?.ghost) {
      const { trace: ghost, parameters: other } = loop.ghost;
      drawGhost(ctx, ghost, shownTime(drive), other.body, seen.view, ink, editing.$flipped.get() ? 'now' : 'before');
    }
    const rival = !loop && layers.course ? laps.ghost : null;
    if (rival) drawGhost(ctx, rival.trace, laps.rivalTime(shownTime(drive)), rival.body, seen.view, ink, 'best');
    // Of a tape the prints to come are shown, too.
    const last = loop ? Math.min(trace.end - 1, trace.rowAt(loop.now + PRINTS_AHEAD)) : drive.row;
    if (layers.prints) drawPrints(ctx, trace, last, seen.view, ink);
    if (layers.frame && !through) drawScreen(ctx, parameters.camera, camera.x, camera.y, seen.view, ink, height - 24);
    if (!loop) drawRoute(ctx, world, hands, seen.view, { width, height }, ink, layers);
    const contact = layers.contact ? trace.contacts.at(drive.row) : null;
    if (contact) drawContact(ctx, contact, parameters.body, seen.view, ink);
    drawPebbles(ctx, trace, drive.row, parameters.facing.launchSpeed, world.walls, seen.view, ink);
    drawBody(ctx, pose, parameters.body, seen.view, ink, layers);
    if (layers.snags && !through) drawSnags(ctx, snagMarks($snags.get(), loop?.isWhole ? trace : null, seen.view), ink);
    if (layers.grid && !through) drawCoordinates(ctx, ground, seen.view, width, height, ink);
    ctx.restore();
  });

  const pointer = usePointerHands({ drive, hub, lens, view, move });

  return (
    <section aria-label="Yard" className="relative min-w-0 overflow-hidden">
      <canvas
        ref={canvas}
        className="absolute inset-0 size-full touch-none"
        role="img"
        aria-label={`The ground ${drive.world.ground.name} with the character on it`}
        {...pointer}
        onDoubleClick={() => choose('first')}
        data-testid="yard"
        data-surveyed={found?.isWhole ? found.survey.gaps?.length : undefined}
      />
      <Overview
        look={() => {
          const { world, row, groundVersion } = drive;
          const [x, y] = [world.trace.at('x', row), world.trace.at('y', row)];
          const shown = through ? null : view.current;
          return { ground: world.ground, version: `${groundVersion} ${theme}`, view: shown, canvas: size.current, x, y };
        }}
        inks={inks}
        go={(x, y) => view.current && move(centred(view.current, size.current, x, y))}
      />
      <YardMenus layers={layers} change={setLayers} $mode={$mode} choose={choose} />
      <FirstSteps />
      {laps.hasCourse && <LapClock laps={laps} />}
      {layers.touch && <ScreenControls hub={hub} />}
      <p className="absolute top-2 left-1/2 flex -translate-x-1/2 flex-col items-center gap-1 text-xs" role="status">
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

/** How this tuning is moved, in a few words with its keys. */
function DrivingWords({ parameters: { route, scheme, pace } }: { parameters: Parameters }) {
  const keys = <kbd className="keycap">W A S D</kbd>;
  const clicks = route.enabled && scheme !== 'step' && 'Click where to go, hold to follow. ';
  const sprint = pace.sprintSpeed > pace.walkSpeed && (
    <>
      , sprint with <kbd className="keycap">Shift</kbd>
    </>
  );
  switch (scheme) {
    case 'step':
      return (
        <>
          Step from cell to cell with {keys} or the arrows{sprint}.
        </>
      );
    case 'turn':
      return (
        <>
          {clicks}Turn with <kbd className="keycap">A D</kbd>, drive with <kbd className="keycap">W S</kbd>
          {sprint}.
        </>
      );
    case 'latch':
      return (
        <>
          {clicks}Press {keys}, an arrow or swipe once: the body keeps that direction until <kbd className="keycap">X</kbd>
          {sprint}.
        </>
      );
    default:
      return (
        <>
          {clicks}Drive with {keys} or the arrows{sprint}.
        </>
      );
  }
}

/** The one line that a newcomer needs, until the character has been driven. */
function FirstSteps() {
  const { drive, editing } = useTuning();
  const line = useRef<HTMLParagraphElement>(null);
  const { parameters } = useStore(editing.$tuning);
  usePainter(() => {
    const moved = drive.recorder.hands.presses > 0 || drive.$loop.get() !== null;
    if (line.current && line.current.hidden !== moved) line.current.hidden = moved;
  });
  return (
    <p ref={line} className="absolute bottom-7 left-1/2 -translate-x-1/2 border border-now bg-sheet px-3 py-1 whitespace-nowrap">
      <DrivingWords parameters={parameters} />
    </p>
  );
}
