import { bodyRadius, type Hands, type World } from '@zygopod/core';
import { outlineMesh } from './drawMesh.ts';
import type { Inks } from './theme.ts';
import type { View } from './view.ts';

type Canvas = CanvasRenderingContext2D;

/** Draws the path to the destination: its line, its waypoints, the ring where it was clicked; for a hold, the line to the pointer. */
export function drawRoute(
  ctx: Canvas,
  world: World,
  hands: Hands,
  view: View,
  size: { width: number; height: number },
  inks: Inks,
  layers: { grown: boolean; searched: boolean },
): void {
  const { body } = world;
  const { navigator, parameters } = world;
  const at = (x: number, y: number) => [(x - view.x) * view.scale, (y - view.y) * view.scale] as const;
  if (parameters.route.enabled && navigator.ready) {
    if (layers.searched) drawSearched(ctx, world, view, inks);
    if (layers.grown) outlineMesh(ctx, navigator.mesh, view, size, inks.route, 1);
  }
  if (body.routeActive === 0) return;
  ctx.strokeStyle = inks.route;
  ctx.lineWidth = 1.6;
  ctx.setLineDash([2, 4]);
  ctx.lineCap = 'round';
  ctx.beginPath();
  ctx.moveTo(...at(body.x, body.y));
  if (body.routeActive === 2) {
    ctx.lineTo(...at(hands.pointX, hands.pointY));
    ctx.stroke();
    ctx.setLineDash([]);
    ring(ctx, ...at(hands.pointX, hands.pointY), parameters.route.arriveRadius * view.scale, inks);
    return;
  }
  const plan = navigator.plan(body.routeFromX, body.routeFromY, body.routeToX, body.routeToY);
  if (!plan) return;
  for (const [x, y] of plan.points.slice(body.routeLeg)) ctx.lineTo(...at(x, y));
  ctx.stroke();
  ctx.setLineDash([]);
  ctx.lineCap = 'butt';
  ctx.fillStyle = inks.sheet;
  for (const [x, y] of bends(plan.points.slice(body.routeLeg, -1), 2 * bodyRadius(parameters.body))) {
    const [px, py] = at(x, y);
    ctx.beginPath();
    ctx.moveTo(px, py - 4);
    ctx.lineTo(px + 4, py);
    ctx.lineTo(px, py + 4);
    ctx.lineTo(px - 4, py);
    ctx.closePath();
    ctx.fill();
    ctx.stroke();
  }
  const [endX, endY] = plan.points.at(-1) as [number, number];
  ring(ctx, ...at(endX, endY), parameters.route.arriveRadius * view.scale, inks);
  if (!plan.reached) cross(ctx, ...at(body.routeToX, body.routeToY), inks);
}

/** One point a bend: those that follow each other nearer than `near` (unit) are an arc round one corner, and stand for its middle. */
export function bends(points: readonly (readonly [number, number])[], near: number): (readonly [number, number])[] {
  const runs: (readonly [number, number])[][] = [];
  for (const point of points) {
    const last = runs.at(-1)?.at(-1);
    if (last && Math.hypot(point[0] - last[0], point[1] - last[1]) < near) runs.at(-1)?.push(point);
    else runs.push([point]);
  }
  return runs.map((run) => run[Math.floor(run.length / 2)] as readonly [number, number]);
}

/** Draws the end of the path: the arrive radius, and a ring that can be seen whatever the radius. */
function ring(ctx: Canvas, px: number, py: number, radius: number, inks: Inks): void {
  ctx.strokeStyle = inks.route;
  ctx.fillStyle = inks.route;
  ctx.lineWidth = 1.5;
  for (const size of [9, radius]) {
    ctx.beginPath();
    ctx.arc(px, py, Math.max(0.5, size), 0, 2 * Math.PI);
    ctx.stroke();
  }
  ctx.beginPath();
  ctx.arc(px, py, 2, 0, 2 * Math.PI);
  ctx.fill();
}

/** Draws a clicked place that is unreachable. */
function cross(ctx: Canvas, px: number, py: number, inks: Inks): void {
  ctx.strokeStyle = inks.now;
  ctx.lineWidth = 2;
  ctx.beginPath();
  for (const side of [-1, 1]) {
    ctx.moveTo(px - 5, py - 5 * side);
    ctx.lineTo(px + 5, py + 5 * side);
  }
  ctx.stroke();
}

/** Draws the sides of the path graph that the search visited, and the bends that they join. */
function drawSearched(ctx: Canvas, { navigator }: World, view: View, inks: Inks): void {
  const segments = navigator.searched;
  ctx.strokeStyle = inks.other;
  ctx.fillStyle = inks.other;
  ctx.lineWidth = 0.75;
  ctx.globalAlpha = 0.7;
  ctx.beginPath();
  for (let i = 0; i < segments.length; i += 2) {
    const x = ((segments[i] as number) - view.x) * view.scale;
    const y = ((segments[i + 1] as number) - view.y) * view.scale;
    if (i % 4 === 0) ctx.moveTo(x, y);
    else ctx.lineTo(x, y);
    ctx.fillRect(x - 1.5, y - 1.5, 3, 3);
  }
  ctx.stroke();
  ctx.globalAlpha = 1;
}
