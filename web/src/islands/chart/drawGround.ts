import { type Ground, type Wall, wallSegments } from '@zygopod/core';
import { drawGates } from './drawCourse.ts';
import type { Inks } from './theme.ts';
import { gridStep, isAllInSight, MAP_HEIGHT, type View } from './view.ts';

type Canvas = CanvasRenderingContext2D;

/** Draws what does not move: sheet, grid, water, walls, start, goal and screen frame. */
export function drawGround(
  ctx: Canvas,
  ground: Ground,
  view: View,
  width: number,
  height: number,
  inks: Inks,
  layers: { grid: boolean; frame: boolean },
): void {
  const { scale, x, y } = view;
  const sx = (wx: number) => (wx - x) * scale;
  const sy = (wy: number) => (wy - y) * scale;
  ctx.fillStyle = inks.paper;
  ctx.fillRect(0, 0, width, height);
  ctx.fillStyle = inks.sheet;
  ctx.fillRect(sx(0), sy(0), ground.size.width * scale, ground.size.height * scale);

  ctx.save();
  ctx.beginPath();
  ctx.rect(sx(0), sy(0), ground.size.width * scale, ground.size.height * scale);
  ctx.clip();
  if (layers.grid) drawGrid(ctx, ground, view, width, height, inks);
  drawCells(ctx, ground, view, width, height, inks);
  outlineCells(ctx, ground, view, width, height, inks);
  ctx.restore();

  ctx.save();
  ctx.translate(-x * scale, -y * scale);
  ctx.scale(scale, scale);
  for (const wall of ground.walls) drawWall(ctx, wall, scale, inks);
  drawPlaces(ctx, ground, scale, inks);
  ctx.lineWidth = 1 / scale;
  ctx.strokeStyle = inks.inkSoft;
  ctx.strokeRect(0, 0, ground.size.width, ground.size.height);
  if (layers.frame && ground.frame) drawFrame(ctx, ground.frame, scale, inks);
  ctx.restore();
  drawGates(ctx, ground, view, inks);
}

function drawGrid(ctx: Canvas, ground: Ground, view: View, width: number, height: number, inks: Inks): void {
  const step = gridStep(view.scale, ground.cell, 36);
  ctx.beginPath();
  for (let gx = Math.max(0, Math.floor(view.x / step)) * step; gx < view.x + width / view.scale && gx <= ground.size.width; gx += step) {
    const px = Math.round((gx - view.x) * view.scale) + 0.5;
    ctx.moveTo(px, 0);
    ctx.lineTo(px, height);
  }
  for (let gy = Math.max(0, Math.floor(view.y / step)) * step; gy < view.y + height / view.scale && gy <= ground.size.height; gy += step) {
    const py = Math.round((gy - view.y) * view.scale) + 0.5;
    ctx.moveTo(0, py);
    ctx.lineTo(width, py);
  }
  ctx.globalAlpha = 0.45;
  ctx.strokeStyle = inks.rule;
  ctx.lineWidth = 1;
  ctx.stroke();
  ctx.globalAlpha = 1;
}

/** Coordinates along the lower and the right margin of what is in sight, on every other line of the grid. */
export function drawCoordinates(ctx: Canvas, ground: Ground, view: View, width: number, height: number, inks: Inks): void {
  // What lies under the map of the ground is not written on.
  const top = isAllInSight(ground.size, view, { width, height }) ? 16 : MAP_HEIGHT + 24;
  const step = gridStep(view.scale, ground.cell, 72);
  ctx.font = '10.5px "Spline Sans Mono", monospace';
  ctx.fillStyle = inks.inkSoft;
  ctx.textBaseline = 'alphabetic';
  const write = (text: string, px: number, py: number) => {
    ctx.lineWidth = 4;
    ctx.strokeStyle = inks.paper;
    ctx.globalAlpha = 0.8;
    ctx.strokeText(text, px, py);
    ctx.globalAlpha = 1;
    ctx.fillText(text, px, py);
  };
  ctx.textAlign = 'center';
  // Below the ground while it ends in sight, else along the margin.
  const bottom = Math.min(height - 6, (ground.size.height - view.y) * view.scale + 16);
  for (let gx = Math.ceil(Math.max(0, view.x) / step) * step; gx <= ground.size.width; gx += step) {
    const px = (gx - view.x) * view.scale;
    if (px > width - 60) break;
    if (px > 24) write(String(gx), px, bottom);
  }
  ctx.textAlign = 'right';
  // Beside the ground while it ends in sight, else along the margin.
  const right = Math.min(width - 6, (ground.size.width - view.x) * view.scale + 32);
  for (let gy = Math.ceil(Math.max(0, view.y) / step) * step; gy <= ground.size.height; gy += step) {
    const py = (gy - view.y) * view.scale;
    if (py > height - 24) break;
    if (py > top) write(String(gy), right, py + 4);
  }
}

/** Cells by runs in a row: solid ones buff and hatched, other marks as water with waves. */
function drawCells(ctx: Canvas, ground: Ground, view: View, width: number, height: number, inks: Inks): void {
  const { cell } = ground;
  const side = cell * view.scale;
  // Only what is in sight: a large ground has a hundred times as many cells.
  const firstRow = Math.max(0, Math.floor(view.y / cell));
  const lastRow = Math.min(ground.cells.length - 1, Math.floor((view.y + height / view.scale) / cell));
  const firstColumn = Math.max(0, Math.floor(view.x / cell));
  const columns = Math.ceil((view.x + width / view.scale) / cell);
  for (let cy = firstRow; cy <= lastRow; cy++) {
    const row = ground.cells[cy] as string;
    const py = (cy * cell - view.y) * view.scale;
    const last = Math.min(row.length, columns);
    for (let cx = firstColumn; cx < last; ) {
      const mark = row[cx] as string;
      let end = cx + 1;
      while (end < last && row[end] === mark) end++;
      if (mark !== '.') {
        const px = (cx * cell - view.x) * view.scale;
        ctx.fillStyle = mark === '#' ? inks.solid : inks.water;
        ctx.fillRect(px, py, (end - cx) * side + 0.5, side + 0.5);
        if (mark !== '#') drawWaves(ctx, px, py, (end - cx) * side, side, inks);
      }
      cx = end;
    }
  }
}

const outlines = new WeakMap<Ground, Float64Array>();

/** The outlines of a ground's cells, found once. */
function cellOutlines(ground: Ground): Float64Array {
  const known = outlines.get(ground) ?? wallSegments({ ...ground, walls: [] });
  outlines.set(ground, known);
  return known;
}

/** The outlines of solid cells that hang together, as walls have them. */
function outlineCells(ctx: Canvas, ground: Ground, view: View, width: number, height: number, inks: Inks): void {
  // Cells of a pixel or two are all outline.
  if (ground.cells.length === 0 || ground.cell * view.scale < 4) return;
  const segments = cellOutlines(ground);
  const [right, bottom] = [view.x + width / view.scale, view.y + height / view.scale];
  ctx.beginPath();
  for (let i = 0; i < segments.length; i += 4) {
    const [ax, ay, bx, by] = segments.subarray(i, i + 4) as unknown as [number, number, number, number];
    if ((ax < view.x && bx < view.x) || (ax > right && bx > right) || (ay < view.y && by < view.y) || (ay > bottom && by > bottom))
      continue;
    ctx.moveTo((ax - view.x) * view.scale, (ay - view.y) * view.scale);
    ctx.lineTo((bx - view.x) * view.scale, (by - view.y) * view.scale);
  }
  ctx.strokeStyle = inks.ink;
  ctx.lineWidth = 1.4;
  ctx.lineCap = 'square';
  ctx.stroke();
  ctx.lineCap = 'butt';
}

function drawWaves(ctx: Canvas, px: number, py: number, width: number, height: number, inks: Inks): void {
  // Too small for details: only the colour is drawn.
  if (height < 9) return;
  ctx.beginPath();
  for (let y = py + 6; y < py + height - 1; y += 12)
    for (let x = px + 4; x < px + width - 10; x += 12) {
      ctx.moveTo(x, y);
      ctx.quadraticCurveTo(x + 3, y - 3, x + 6, y);
      ctx.quadraticCurveTo(x + 9, y + 3, x + 12, y);
    }
  ctx.globalAlpha = 0.4;
  ctx.strokeStyle = inks.wave;
  ctx.lineWidth = 1;
  ctx.stroke();
  ctx.globalAlpha = 1;
}

function trace(ctx: Canvas, wall: Wall): void {
  ctx.beginPath();
  // Without a current point the first lineTo moves there.
  for (const [px, py] of wall.points) ctx.lineTo(px, py);
  if (wall.closed) ctx.closePath();
}

/** A closed wall is buff with hatching, an open one a line; a wall that is not felt has a broken outline and no hatching. */
function drawWall(ctx: Canvas, wall: Wall, scale: number, inks: Inks): void {
  const solid = wall.solid !== false;
  trace(ctx, wall);
  if (wall.closed) {
    ctx.fillStyle = inks.solid;
    ctx.globalAlpha = solid ? 1 : 0.4;
    ctx.fill();
    ctx.globalAlpha = 1;
    if (solid) hatch(ctx, wall, scale, inks);
  }
  trace(ctx, wall);
  ctx.lineWidth = (wall.closed ? 1.6 : 2.4) / scale;
  ctx.lineJoin = 'miter';
  ctx.strokeStyle = inks.ink;
  ctx.setLineDash(solid ? [] : [5 / scale, 4 / scale]);
  ctx.stroke();
  ctx.setLineDash([]);
}

function hatch(ctx: Canvas, wall: Wall, scale: number, inks: Inks): void {
  const xs = wall.points.map(([px]) => px);
  const ys = wall.points.map(([, py]) => py);
  const [left, right, top, bottom] = [Math.min(...xs), Math.max(...xs), Math.min(...ys), Math.max(...ys)];
  ctx.save();
  ctx.clip();
  ctx.beginPath();
  const gap = 7 / scale;
  const height = bottom - top;
  for (let d = Math.floor((left - height) / gap) * gap; d < right; d += gap) {
    ctx.moveTo(d, bottom);
    ctx.lineTo(d + height, top);
  }
  ctx.strokeStyle = inks.hatch;
  ctx.lineWidth = 0.8 / scale;
  ctx.stroke();
  ctx.restore();
}

/** Start: a ring with a cross. Goal: two rings and a point. */
function drawPlaces(ctx: Canvas, { start, goal }: Ground, scale: number, inks: Inks): void {
  ctx.lineWidth = 1 / scale;
  ctx.strokeStyle = inks.inkSoft;
  const arm = 5 / scale;
  ctx.beginPath();
  ctx.moveTo(start.x - arm, start.y);
  ctx.lineTo(start.x + arm, start.y);
  ctx.moveTo(start.x, start.y - arm);
  ctx.lineTo(start.x, start.y + arm);
  ctx.stroke();
  if (!goal) return;
  ctx.strokeStyle = inks.route;
  ctx.fillStyle = inks.route;
  ctx.lineWidth = 1.5 / scale;
  ctx.beginPath();
  ctx.arc(goal.x, goal.y, goal.radius, 0, 2 * Math.PI);
  ctx.stroke();
  ctx.beginPath();
  ctx.arc(goal.x, goal.y, 2.5 / scale, 0, 2 * Math.PI);
  ctx.fill();
}

function drawFrame(ctx: Canvas, frame: NonNullable<Ground['frame']>, scale: number, inks: Inks): void {
  ctx.strokeStyle = inks.now;
  ctx.lineWidth = 1 / scale;
  ctx.globalAlpha = 0.8;
  ctx.setLineDash([7 / scale, 5 / scale]);
  ctx.strokeRect(frame.x, frame.y, frame.width, frame.height);
  ctx.setLineDash([]);
  ctx.fillStyle = inks.now;
  ctx.font = `${10.5 / scale}px "Spline Sans Mono", monospace`;
  ctx.textAlign = 'left';
  ctx.globalAlpha = 1;
  ctx.fillText(`screen ${frame.width} × ${frame.height}`, frame.x + 6 / scale, frame.y + frame.height - 6 / scale);
}
