import {
  addWall,
  cellAt,
  cellsAlong,
  cellsBetween,
  cellsLike,
  type Ground,
  gateNear,
  insertPoint,
  movePoint,
  moveWall,
  OPEN,
  paintCells,
  removeWall,
  wallNear,
} from '@zygopod/core';
import { dragGate, holdGate } from './gateStrokes.ts';
import { type Drag, type Place, type Stroke, snap } from './stroke.ts';
import type { Drawing, Tool } from './tools.ts';

/** Distance (screen pixels) within which something is grabbed. */
const REACH = 8;

/** Begins what the tool does at a place; `scale` is screen pixels a unit. Null if there is nothing to do. */
export function beginStroke(tool: Tool, drawing: Drawing, at: Place, scale: number): Stroke | null {
  const reach = REACH / scale;
  switch (tool) {
    case 'select':
      return takeHold(drawing, at, reach);
    case 'line':
    case 'shape':
      return drawPath(tool, drawing, at, reach);
    case 'block':
      return dragRectangle(drawing, at, (x0, y0, x1, y1) => {
        if (x0 === x1 || y0 === y1) return;
        const points: [number, number][] = [
          [x0, y0],
          [x1, y0],
          [x1, y1],
          [x0, y1],
        ];
        putWall(drawing, points, true);
      });
    case 'frame':
      return dragRectangle(drawing, at, (x0, y0, x1, y1) => {
        const [width, height] = [Math.abs(x1 - x0), Math.abs(y1 - y0)];
        if (width >= 1 && height >= 1)
          drawing.steps.replace(
            { ...drawing.steps.$now.get(), frame: { x: Math.min(x0, x1), y: Math.min(y0, y1), width, height } },
            'frame',
          );
      });
    case 'gate':
      return dragGate(drawing, at);
    case 'cells':
      return brush(drawing, at, 'cells', (ground, cells) => paintCells(ground, cells, drawing.$mark.get()));
    case 'erase':
      return brush(drawing, at, 'erase', (ground, cells, place) => {
        const open = paintCells(ground, cells, OPEN);
        const found = wallNear(open, place.x, place.y, reach);
        return found ? removeWall(open, found.wall) : open;
      });
    case 'cellBlock':
      return cellBlock(drawing, at);
    case 'fill': {
      const ground = drawing.steps.$now.get();
      drawing.steps.replace(paintCells(ground, cellsLike(ground, cellAt(ground, at.x, at.y)), drawing.$mark.get()), 'fill');
      return null;
    }
    case 'start':
      return follow(drawing, 'start', at, (ground, place) => ({ ...ground, start: { ...ground.start, ...snap(drawing, place) } }));
    case 'goal':
      return follow(drawing, 'goal', at, (ground, place) => ({ ...ground, goal: { radius: 16, ...ground.goal, ...snap(drawing, place) } }));
  }
}

function putWall(drawing: Drawing, points: [number, number][], closed: boolean): void {
  const ground = addWall(drawing.steps.$now.get(), { points, closed, solid: true });
  drawing.steps.replace(ground, closed ? 'solid wall' : 'line');
  drawing.$selected.set(ground.walls.length - 1);
}

/** Makes a wall of the corners clicked so far, if they are enough. */
export function finishPath(drawing: Drawing, closed: boolean): void {
  const points = drawing.$pending.get().filter(([x, y], i, all) => i === 0 || x !== all[i - 1]?.[0] || y !== all[i - 1]?.[1]);
  drawing.$pending.set([]);
  if (points.length >= (closed ? 3 : 2)) putWall(drawing, [...points], closed);
}

function drawPath(tool: 'line' | 'shape', drawing: Drawing, at: Place, reach: number): Stroke {
  const from = snap(drawing, at);
  const stroke: Stroke = {
    preview: null,
    move(to) {
      const end = snap(drawing, to);
      const far = Math.hypot(to.x - at.x, to.y - at.y) > reach;
      if (drawing.$pending.get().length === 0 && far && tool === 'line')
        stroke.preview = {
          kind: 'path',
          points: [
            [from.x, from.y],
            [end.x, end.y],
          ],
          closed: false,
        };
    },
    end(to) {
      const end = snap(drawing, to);
      if (stroke.preview && (end.x !== from.x || end.y !== from.y)) {
        putWall(
          drawing,
          [
            [from.x, from.y],
            [end.x, end.y],
          ],
          false,
        );
        return;
      }
      const first = drawing.$pending.get()[0];
      // A click on the first corner closes a shape.
      if (tool === 'shape' && first && drawing.$pending.get().length > 2 && Math.hypot(first[0] - to.x, first[1] - to.y) < reach * 1.5)
        finishPath(drawing, true);
      else drawing.$pending.set([...drawing.$pending.get(), [from.x, from.y]]);
    },
  };
  return stroke;
}

function dragRectangle(drawing: Drawing, at: Place, paint: (x0: number, y0: number, x1: number, y1: number) => void): Stroke {
  const from = snap(drawing, at);
  const stroke: Stroke = {
    preview: null,
    move(to) {
      const end = snap(drawing, to);
      stroke.preview = { kind: 'rectangle', x0: from.x, y0: from.y, x1: end.x, y1: end.y };
    },
    end(to) {
      const end = snap(drawing, to);
      paint(from.x, from.y, end.x, end.y);
    },
  };
  return stroke;
}

/** Changes the ground along the pointer's path; the whole stroke is one step of undo. */
function brush(
  drawing: Drawing,
  at: Place,
  what: string,
  change: (ground: Ground, cells: [number, number][], place: Place) => Ground,
): Stroke {
  drawing.steps.beginGesture(what);
  let last = cellAt(drawing.steps.$now.get(), at.x, at.y);
  const to = (place: Place) => {
    const ground = drawing.steps.$now.get();
    const cell = cellAt(ground, place.x, place.y);
    drawing.steps.replace(change(ground, cellsAlong(last, cell), place), what);
    last = cell;
  };
  to(at);
  return { preview: null, move: to, end: () => drawing.steps.endGesture() };
}

function cellBlock(drawing: Drawing, at: Place): Stroke {
  const ground = drawing.steps.$now.get();
  const { cell } = ground;
  const from = cellAt(ground, at.x, at.y);
  const area = (to: Place) => {
    const end = cellAt(ground, to.x, to.y);
    const [left, top] = [Math.min(from[0], end[0]), Math.min(from[1], end[1])];
    const [right, bottom] = [Math.max(from[0], end[0]) + 1, Math.max(from[1], end[1]) + 1];
    return { end, box: { x0: left * cell, y0: top * cell, x1: right * cell, y1: bottom * cell } };
  };
  const stroke: Stroke = {
    preview: { kind: 'rectangle', ...area(at).box },
    move(to) {
      stroke.preview = { kind: 'rectangle', ...area(to).box };
    },
    end(to) {
      // No larger than the ground, however far the pointer was dragged.
      const limit = 4096;
      const end = area(to).end.map((value) => Math.min(limit, Math.max(-1, value))) as [number, number];
      drawing.steps.replace(
        paintCells(
          ground,
          cellsBetween(from.map((value) => Math.min(limit, Math.max(-1, value))) as [number, number], end),
          drawing.$mark.get(),
        ),
        'block of cells',
      );
    },
  };
  return stroke;
}

function follow(drawing: Drawing, what: string, at: Place, change: (ground: Ground, place: Place) => Ground): Stroke {
  drawing.steps.beginGesture(what);
  const to = (place: Place) => drawing.steps.replace(change(drawing.steps.$now.get(), place), what);
  to(at);
  return { preview: null, move: to, end: () => drawing.steps.endGesture() };
}

/** Takes hold of a place, of the frame, or of a wall: of one of its points, of the middle of a side, or of all of it. */
function takeHold(drawing: Drawing, at: Place, reach: number): Stroke | null {
  const ground = drawing.steps.$now.get();
  const near = (x: number, y: number) => Math.hypot(x - at.x, y - at.y) < reach * 1.2;
  const { start, goal, frame } = ground;
  const drag: Drag = (what, change) => {
    drawing.steps.beginGesture(what);
    return {
      preview: null,
      move: (to) => drawing.steps.replace(change(drawing.steps.$now.get(), to), what),
      end: () => drawing.steps.endGesture(),
    };
  };
  if (near(start.x, start.y)) return drag('start', (now, to) => ({ ...now, start: { ...now.start, ...snap(drawing, to) } }));
  if (goal && near(goal.x, goal.y)) return drag('goal', (now, to) => ({ ...now, goal: { ...goal, ...snap(drawing, to) } }));
  if (goal && Math.abs(Math.hypot(goal.x - at.x, goal.y - at.y) - goal.radius) < reach)
    return drag('goal', (now, to) => ({
      ...now,
      goal: { ...goal, radius: Math.max(1, Math.round(Math.hypot(goal.x - to.x, goal.y - to.y))) },
    }));
  const gate = gateNear(ground, at.x, at.y, reach);
  drawing.$gate.set(gate?.gate ?? null);
  if (gate) {
    drawing.$selected.set(null);
    return holdGate(drawing, gate, at, drag);
  }
  const found = wallNear(ground, at.x, at.y, reach);
  if (found) {
    drawing.$selected.set(found.wall);
    return holdWall(drawing, found, at, reach, drag);
  }
  drawing.$selected.set(null);
  if (frame && near(frame.x + frame.width, frame.y + frame.height))
    return drag('frame', (now, to) => {
      const end = snap(drawing, to);
      return { ...now, frame: { ...frame, width: Math.max(1, end.x - frame.x), height: Math.max(1, end.y - frame.y) } };
    });
  if (frame && near(frame.x, frame.y)) return drag('frame', (now, to) => ({ ...now, frame: { ...frame, ...snap(drawing, to) } }));
  return null;
}

function holdWall(drawing: Drawing, found: NonNullable<ReturnType<typeof wallNear>>, at: Place, reach: number, drag: Drag): Stroke {
  const ground = drawing.steps.$now.get();
  const wall = ground.walls[found.wall] as Ground['walls'][number];
  const toSnap = (now: Ground, number: number, to: Place) => {
    const place = snap(drawing, to);
    return movePoint(now, found.wall, number, place.x, place.y);
  };
  if (found.kind === 'point') return drag('point of a wall', (now, to) => toSnap(now, found.point, to));
  if (found.kind === 'side') {
    const [a, b] = [wall.points[found.side], wall.points[(found.side + 1) % wall.points.length]] as [[number, number], [number, number]];
    const [x, y] = [(a[0] + b[0]) / 2, (a[1] + b[1]) / 2];
    if (Math.hypot(x - at.x, y - at.y) < reach) {
      const stroke = drag('new point of a wall', (now, to) => toSnap(now, found.side + 1, to));
      drawing.steps.replace(insertPoint(ground, found.wall, found.side + 1, x, y), 'new point of a wall');
      return stroke;
    }
  }
  const [firstX, firstY] = wall.points[0] as [number, number];
  return drag('move a wall', (now, to) => {
    const place = snap(drawing, { x: firstX + to.x - at.x, y: firstY + to.y - at.y });
    const [x, y] = (now.walls[found.wall] as Ground['walls'][number]).points[0] as [number, number];
    return moveWall(now, found.wall, place.x - x, place.y - y);
  });
}
