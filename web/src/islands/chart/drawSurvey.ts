import { bodyRadius, bodySize, type Gap, type Mesh, type Parameters, type SurveyPart } from '@zygopod/core';
import { fillPolygons, outlineMesh } from './drawMesh.ts';
import type { Inks } from './theme.ts';
import type { View } from './view.ts';

type Canvas = CanvasRenderingContext2D;

/** Draws a survey over the chart: room, reachable and unreachable places, narrow gaps. */
export function drawSurvey(
  ctx: Canvas,
  survey: SurveyPart,
  body: Parameters['body'],
  view: View,
  size: { width: number; height: number },
  inks: Inks,
  layers: { gaps: boolean; reach: boolean; room: boolean },
): void {
  if (layers.room) drawRoom(ctx, survey, body, view, inks);
  if (layers.reach && survey.mesh) drawReach(ctx, survey.mesh, survey.startRegion, view, size, inks);
  if (layers.gaps) for (const gap of survey.gaps ?? []) if (gap.ratio < TIGHT) drawGap(ctx, gap, body, view, inks);
}

/** Gaps up to this many times the body's need are drawn. */
const TIGHT = 1.4;

/** Places where the body would stick out of its room in magenta, places with more and more room in paler blue. */
function drawRoom(ctx: Canvas, { clearance }: SurveyPart, body: Parameters['body'], view: View, inks: Inks): void {
  const { step, columns, rows, values, most } = clearance;
  const need = bodyRadius(body);
  const side = step * view.scale;
  for (let row = 0; row < rows; row++)
    for (let column = 0; column < columns; column++) {
      const room = values[row * columns + column] as number;
      if (room === 0 || room >= most) continue;
      ctx.fillStyle = room < need ? inks.now : inks.other;
      ctx.globalAlpha = room < need ? 0.22 : 0.3 * (1 - (room - need) / (most - need));
      ctx.fillRect((column * step - view.x) * view.scale, (row * step - view.y) * view.scale, side, side);
    }
  ctx.globalAlpha = 1;
}

/** Where the body's centre gets from the start, in green; where it would fit and does not get, in magenta. */
function drawReach(ctx: Canvas, mesh: Mesh, startRegion: number, view: View, size: { width: number; height: number }, inks: Inks): void {
  fillPolygons(ctx, mesh, view, size, inks.route, 0.14, (polygon) => mesh.regions[polygon] === startRegion);
  fillPolygons(ctx, mesh, view, size, inks.now, 0.2, (polygon) => mesh.regions[polygon] !== startRegion);
  outlineMesh(ctx, mesh, view, size, inks.route, 1);
}

/** A gap: the line across it with its width, and the body in it; a cross where it does not fit. */
function drawGap(ctx: Canvas, { a, b, width, ratio }: Gap, body: Parameters['body'], view: View, inks: Inks): void {
  const at = ([x, y]: [number, number]) => [(x - view.x) * view.scale, (y - view.y) * view.scale] as const;
  const [ax, ay] = at(a);
  const [bx, by] = at(b);
  const [mx, my] = [(ax + bx) / 2, (ay + by) / 2];
  const ink = ratio < 1 ? inks.now : ratio < 1.15 ? inks.staminaInk : inks.inkSoft;
  ctx.strokeStyle = ink;
  ctx.fillStyle = ink;
  ctx.lineWidth = 1.5;
  ctx.beginPath();
  ctx.moveTo(ax, ay);
  ctx.lineTo(bx, by);
  ctx.stroke();
  const size = bodySize(body);
  ctx.setLineDash([3, 3]);
  ctx.lineWidth = 1;
  ctx.beginPath();
  if (body.shape === 'circle') ctx.arc(mx, my, body.radius * view.scale, 0, 2 * Math.PI);
  else ctx.rect(mx - (size.width / 2) * view.scale, my - (size.height / 2) * view.scale, size.width * view.scale, size.height * view.scale);
  ctx.stroke();
  ctx.setLineDash([]);
  if (ratio < 1) {
    ctx.beginPath();
    for (const side of [-1, 1]) {
      ctx.moveTo(mx - 4, my - 4 * side);
      ctx.lineTo(mx + 4, my + 4 * side);
    }
    ctx.lineWidth = 2;
    ctx.stroke();
  }
  const reach = Math.max(9, (Math.max(size.width, size.height) / 2) * view.scale + 4);
  ctx.font = '500 10.5px "Spline Sans Mono", monospace';
  ctx.textAlign = 'center';
  ctx.textBaseline = 'alphabetic';
  ctx.lineWidth = 3;
  ctx.strokeStyle = inks.sheet;
  const words = width >= 100 ? width.toFixed(0) : width.toFixed(1);
  ctx.strokeText(words, mx, my - reach);
  ctx.fillText(words, mx, my - reach);
}
