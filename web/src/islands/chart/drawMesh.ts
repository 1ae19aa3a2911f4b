import type { Mesh } from '@zygopod/core';
import type { View } from './view.ts';

type Canvas = CanvasRenderingContext2D;

/** Part of the canvas that is painted, in CSS pixels. */
interface Size {
  width: number;
  height: number;
}

/** Polygons in view up to which they are filled as one path; of more, most are smaller than a pixel, and a path of them takes minutes. */
const AS_PATH = 6000;

/** Sides in view up to which outlines are drawn; more are a blur. */
const OUTLINED = 40_000;

/** Fills those polygons of a mesh that are in view and that `wanted` takes. */
export function fillPolygons(
  ctx: Canvas,
  mesh: Mesh,
  view: View,
  size: Size,
  ink: string,
  alpha: number,
  wanted: (polygon: number) => boolean,
): void {
  const polygons: number[] = [];
  for (let polygon = 0; polygon + 1 < mesh.starts.length; polygon++)
    if (wanted(polygon) && isInView(mesh, polygon, view, size)) polygons.push(polygon);
  ctx.globalAlpha = alpha;
  ctx.fillStyle = ink;
  if (polygons.length > AS_PATH) ctx.drawImage(pixelsOf(mesh, polygons, view, size, ink), 0, 0, size.width, size.height);
  else {
    ctx.beginPath();
    for (const polygon of polygons) tracePolygon(ctx, mesh, polygon, view);
    ctx.fill();
  }
  ctx.globalAlpha = 1;
}

/** The border of where a body's centre can be: the outlines of the walls grown by the body. */
export function outlineMesh(ctx: Canvas, mesh: Mesh, view: View, size: Size, ink: string, width: number): void {
  const lines: number[] = [];
  for (let polygon = 0; polygon + 1 < mesh.starts.length; polygon++) {
    const [from, to] = [mesh.starts[polygon] as number, mesh.starts[polygon + 1] as number];
    for (let i = from; i < to; i++) {
      if (mesh.neighbours[i] !== -1) continue;
      const [ax, ay] = cornerAt(mesh, i, view);
      const [bx, by] = cornerAt(mesh, i + 1 === to ? from : i + 1, view);
      const beside = Math.max(ax, bx) < 0 || Math.min(ax, bx) > size.width || Math.max(ay, by) < 0 || Math.min(ay, by) > size.height;
      if (!beside) lines.push(ax, ay, bx, by);
    }
    if (lines.length > 4 * OUTLINED) return;
  }
  ctx.beginPath();
  for (let i = 0; i < lines.length; i += 4) {
    ctx.moveTo(lines[i] as number, lines[i + 1] as number);
    ctx.lineTo(lines[i + 2] as number, lines[i + 3] as number);
  }
  ctx.strokeStyle = ink;
  ctx.lineWidth = width;
  ctx.stroke();
}

/** Where on the canvas the corner lies at which a side starts. */
function cornerAt(mesh: Mesh, side: number, view: View): [number, number] {
  const corner = mesh.corners[side] as number;
  return [((mesh.x[corner] as number) - view.x) * view.scale, ((mesh.y[corner] as number) - view.y) * view.scale];
}

function tracePolygon(ctx: Canvas, mesh: Mesh, polygon: number, view: View): void {
  const first = mesh.starts[polygon] as number;
  for (let i = first; i < (mesh.starts[polygon + 1] as number); i++) {
    const [px, py] = cornerAt(mesh, i, view);
    if (i === first) ctx.moveTo(px, py);
    else ctx.lineTo(px, py);
  }
  ctx.closePath();
}

function isInView(mesh: Mesh, polygon: number, view: View, { width, height }: Size): boolean {
  let [left, top, right, bottom] = [Infinity, Infinity, -Infinity, -Infinity];
  for (let i = mesh.starts[polygon] as number; i < (mesh.starts[polygon + 1] as number); i++) {
    const corner = mesh.corners[i] as number;
    left = Math.min(left, mesh.x[corner] as number);
    right = Math.max(right, mesh.x[corner] as number);
    top = Math.min(top, mesh.y[corner] as number);
    bottom = Math.max(bottom, mesh.y[corner] as number);
  }
  return right >= view.x && bottom >= view.y && left <= view.x + width / view.scale && top <= view.y + height / view.scale;
}

/** A picture of polygons, a pixel of it in the ink where the pixel's middle lies in one of them. */
function pixelsOf(mesh: Mesh, polygons: readonly number[], view: View, size: Size, ink: string): HTMLCanvasElement {
  const canvas = document.createElement('canvas');
  canvas.width = Math.ceil(size.width);
  canvas.height = Math.ceil(size.height);
  const ctx = canvas.getContext('2d') as Canvas;
  const picture = ctx.createImageData(canvas.width, canvas.height);
  for (const polygon of polygons) scan(mesh, polygon, view, picture);
  ctx.putImageData(picture, 0, 0);
  ctx.globalCompositeOperation = 'source-in';
  ctx.fillStyle = ink;
  ctx.fillRect(0, 0, canvas.width, canvas.height);
  return canvas;
}

/** Makes the pixels of a convex polygon opaque, row by row. */
export function scan(mesh: Mesh, polygon: number, view: View, { data, width, height }: Pick<ImageData, 'data' | 'width' | 'height'>): void {
  const [from, to] = [mesh.starts[polygon] as number, mesh.starts[polygon + 1] as number];
  let [top, bottom] = [Infinity, -Infinity];
  for (let i = from; i < to; i++) {
    const [, y] = cornerAt(mesh, i, view);
    top = Math.min(top, y);
    bottom = Math.max(bottom, y);
  }
  for (let row = Math.max(0, Math.ceil(top - 0.5)); row <= Math.min(height - 1, Math.floor(bottom - 0.5)); row++) {
    const middle = row + 0.5;
    let [left, right] = [Infinity, -Infinity];
    for (let i = from; i < to; i++) {
      const [ax, ay] = cornerAt(mesh, i, view);
      const [bx, by] = cornerAt(mesh, i + 1 === to ? from : i + 1, view);
      if (ay < middle === by < middle) continue;
      const x = ax + ((bx - ax) * (middle - ay)) / (by - ay);
      left = Math.min(left, x);
      right = Math.max(right, x);
    }
    for (let column = Math.max(0, Math.ceil(left - 0.5)); column <= Math.min(width - 1, Math.floor(right - 0.5)); column++)
      data[(row * width + column) * 4 + 3] = 255;
  }
}
