import { useStore } from '@nanostores/react';
import { bodyRadius, bodySize, clearanceAt, type Ground, removeGate, removeWall, solidTester, unitOf } from '@zygopod/core';
import { type KeyboardEvent, type PointerEvent, useEffect, useRef, useState } from 'react';
import { drawCoursePath } from '../chart/drawCourse.ts';
import { drawContact, drawPebbles } from '../chart/drawEncounters.ts';
import { drawCoordinates, drawGround } from '../chart/drawGround.ts';
import { drawBody, drawPrints } from '../chart/drawMotion.ts';
import { drawSurvey } from '../chart/drawSurvey.ts';
import { usePainter } from '../chart/frames.ts';
import type { Layers } from '../chart/layers.ts';
import { flatLens } from '../chart/lens.ts';
import { Overview } from '../chart/Overview.tsx';
import { shownPose } from '../chart/pose.ts';
import { useSheet } from '../chart/useSheet.ts';
import { useSpace } from '../chart/useZoom.ts';
import { centred, pan } from '../chart/view.ts';
import { YardMenus } from '../chart/YardMenus.tsx';
import { write } from '../controls/inPlace.ts';
import { drawEditing } from './drawEditing.ts';
import { useGround } from './groundWork.ts';
import type { Stroke } from './stroke.ts';
import { beginStroke, finishPath } from './strokes.ts';
import { snapped } from './tools.ts';

const names = { prints: 'Prints', grid: 'Grid', frame: 'Screen', gaps: 'Gaps', reach: 'Reach', room: 'Room' };

/** The ground as a chart to draw on, with the body that drives over it all the while. */
export function GroundSheet() {
  const { steps, drive, surveyor, parameters, drawing } = useGround();
  const { canvas, size, chart, theme, view, $mode, inks, look, choose, move: moveView, show } = useSheet('whole');
  const reading = useRef<HTMLParagraphElement>(null);
  const [layers, setLayers] = useState<Layers>({
    prints: true,
    wedge: true,
    velocity: true,
    grid: true,
    frame: true,
    contact: true,
    snags: false,
    course: true,
    gaps: true,
    reach: true,
    room: false,
    grown: false,
    searched: false,
    touch: false,
  });
  const stroke = useRef<Stroke | null>(null);
  const panning = useRef<{ x: number; y: number } | null>(null);
  const pointer = useRef<{ x: number; y: number } | null>(null);
  const space = useSpace();
  const tester = useRef<{ ground: Ground; test: (x: number, y: number) => boolean } | null>(null);
  const versions = useRef<{ ground: Ground | null; survey: unknown; number: number }>({ ground: null, survey: null, number: 0 });
  const tool = useStore(drawing.$tool);
  const found = useStore(surveyor.$survey);
  useEffect(() => {
    drawing.$pending.set([]);
    void tool;
  }, [tool, drawing]);
  useEffect(
    () =>
      drawing.$lookAt.listen((place) => {
        if (!place) return;
        show(place.x, place.y);
        drawing.$lookAt.set(null);
      }),
    [show, drawing],
  );

  usePainter((now) => {
    const ctx = canvas.current?.getContext('2d');
    if (!ctx) return;
    const { width, height, ratio } = size.current;
    const ground = steps.$now.get();
    const { world } = drive;
    const ink = inks();
    const pose = shownPose(drive);
    const at = look({ ground: ground.size, x: pose.x, y: pose.y, radius: bodyRadius(parameters.body), isRunning: false }, now);
    // While the newest survey runs, the last one stays visible.
    const survey = found?.survey ?? null;
    if (versions.current.ground !== ground || versions.current.survey !== survey)
      versions.current = { ground, survey, number: versions.current.number + 1 };
    ctx.setTransform(ratio, 0, 0, ratio, 0, 0);
    const key = JSON.stringify([layers.grid, layers.frame, layers.gaps, layers.reach, layers.room, theme, versions.current.number]);
    chart.current.lay(ctx, flatLens(at, width, height), { width, height }, ratio, key, (on, seen, w, h) => {
      drawGround(on, ground, seen, w, h, ink, { grid: layers.grid, frame: layers.frame });
      if (survey?.course) drawCoursePath(on, survey.course, seen, ink);
      if (survey) drawSurvey(on, survey, parameters.body, seen, { width: w, height: h }, ink, layers);
    });
    if (layers.prints) drawPrints(ctx, world.trace, drive.row, at, ink);
    const contact = world.trace.contacts.at(drive.row);
    if (contact) drawContact(ctx, contact, parameters.body, at, ink);
    drawPebbles(ctx, world.trace, drive.row, parameters.facing.launchSpeed, world.walls, at, ink);
    drawBody(ctx, pose, parameters.body, at, ink, layers);
    drawEditing(ctx, ground, at, ink, {
      selected: drawing.$selected.get(),
      gate: drawing.$gate.get(),
      selecting: tool === 'select',
      preview: stroke.current?.preview ?? null,
      pending: drawing.$pending.get(),
      pointer: pointer.current && snapped(pointer.current.x, pointer.current.y, ground.cell, drawing.$snap.get()),
      closing: tool === 'shape',
    });
    if (layers.grid) drawCoordinates(ctx, ground, at, width, height, ink);
    describe(ground);
  });

  /** Where the pointer is, and how wide a body has room there. */
  const describe = (ground: Ground) => {
    if (!reading.current) return;
    const at = pointer.current;
    const motion = drive.world.body;
    const body = `body ${motion.x.toFixed(0)}, ${motion.y.toFixed(0)}`;
    let words = `Drive with W A S D while you draw · ${body}`;
    if (at) {
      if (tester.current?.ground !== ground) tester.current = { ground, test: solidTester(ground) };
      const { width, height } = bodySize(parameters.body);
      const room = clearanceAt(tester.current.test, drive.world.walls, at.x, at.y, Math.max(width, height) * 4);
      const place = snapped(at.x, at.y, ground.cell, drawing.$snap.get());
      const wide =
        room >= Math.max(width, height) * 4 ? 'plenty of room' : room === 0 ? 'solid' : `room for a body ${(room * 2).toFixed(1)} wide`;
      words = `${place.x}, ${place.y} ${unitOf('length', ground.unit)} · cell ${Math.floor(at.x / ground.cell)}, ${Math.floor(at.y / ground.cell)} · ${wide} · ${body}`;
    }
    write(reading.current, words);
  };

  const placeOf = (event: PointerEvent<HTMLCanvasElement>) => {
    const box = event.currentTarget.getBoundingClientRect();
    const at = view.current ?? { scale: 1, x: 0, y: 0 };
    return { x: at.x + (event.clientX - box.left) / at.scale, y: at.y + (event.clientY - box.top) / at.scale };
  };
  const down = (event: PointerEvent<HTMLCanvasElement>) => {
    event.currentTarget.setPointerCapture(event.pointerId);
    event.currentTarget.focus({ preventScroll: true });
    if (event.button === 1 || (event.button === 0 && space.current)) {
      event.preventDefault();
      panning.current = { x: event.clientX, y: event.clientY };
    } else if (event.button === 0) stroke.current = beginStroke(tool, drawing, placeOf(event), view.current?.scale ?? 1);
  };
  const move = (event: PointerEvent<HTMLCanvasElement>) => {
    pointer.current = placeOf(event);
    if (panning.current && view.current) {
      moveView(pan(view.current, event.clientX - panning.current.x, event.clientY - panning.current.y));
      panning.current = { x: event.clientX, y: event.clientY };
    } else stroke.current?.move(placeOf(event));
  };
  const up = (event: PointerEvent<HTMLCanvasElement>) => {
    panning.current = null;
    stroke.current?.end(placeOf(event));
    stroke.current = null;
  };
  const cancel = () => {
    panning.current = null;
    stroke.current = null;
    steps.cancelGesture();
  };
  const key = (event: KeyboardEvent) => {
    const selected = drawing.$selected.get();
    const gate = drawing.$gate.get();
    if (event.key === 'Enter') finishPath(drawing, tool === 'shape');
    else if (event.key === 'Escape') {
      drawing.$pending.set([]);
      drawing.$selected.set(null);
      drawing.$gate.set(null);
      cancel();
    } else if ((event.key === 'Delete' || event.key === 'Backspace') && gate !== null) {
      steps.replace(removeGate(steps.$now.get(), gate), 'delete a gate');
      drawing.$gate.set(null);
    } else if ((event.key === 'Delete' || event.key === 'Backspace') && selected !== null) {
      steps.replace(removeWall(steps.$now.get(), selected), 'delete a wall');
      drawing.$selected.set(null);
    } else return;
    event.preventDefault();
  };

  return (
    <section aria-label="Ground" className="relative min-w-0 overflow-hidden">
      <canvas
        ref={canvas}
        tabIndex={0}
        role="img"
        aria-label={`The ground ${steps.$now.get().name}, to draw on`}
        className={`absolute inset-0 size-full touch-none ${tool === 'select' ? 'cursor-default' : 'cursor-crosshair'}`}
        onPointerDown={down}
        onPointerMove={move}
        onPointerUp={up}
        onPointerCancel={cancel}
        onPointerLeave={() => {
          if (!stroke.current) pointer.current = null;
        }}
        onDoubleClick={() => {
          if (drawing.$pending.get().length > 0) finishPath(drawing, tool === 'shape');
          else if (tool === 'select') choose('whole');
        }}
        onKeyDown={key}
        data-testid="ground"
        data-surveyed={found?.isWhole ? String(found.ground === steps.$now.get()) : 'no'}
      />
      <Overview
        look={() => {
          const { world, row } = drive;
          const [x, y] = [world.trace.at('x', row), world.trace.at('y', row)];
          const ground = steps.$now.get();
          return { ground, version: `${versions.current.number} ${theme}`, view: view.current, canvas: size.current, x, y };
        }}
        inks={inks}
        go={(x, y) => view.current && moveView(centred(view.current, size.current, x, y))}
      />
      <YardMenus layers={layers} names={names} change={setLayers} $mode={$mode} choose={choose} />
      <p
        ref={reading}
        className="digits pointer-events-none absolute bottom-6 left-2 bg-sheet/85 px-2 py-0.5 text-[11px] text-ink"
        data-testid="ground-reading"
      />
    </section>
  );
}
