import type { Parameters } from '@zygopod/core';
import type { View } from './view.ts';

/** How the world comes onto the canvas: a view, turned and leaned about the canvas' middle. */
export interface Lens {
  view: View;
  /** Turn of the ground on the canvas, radians. */
  turn: number;
  /** Share of the height that a leaning view leaves. */
  squash: number;
  /** The middle of the canvas. */
  x: number;
  y: number;
}

/** The plain chart. */
export function flatLens(view: View, width: number, height: number): Lens {
  return { view, turn: 0, squash: 1, x: width / 2, y: height / 2 };
}

/** The camera's view fitted into the canvas. */
export function cameraLens(camera: Parameters['camera'], cameraX: number, cameraY: number, width: number, height: number): Lens {
  const scale = Math.min(width / camera.viewWidth, height / camera.viewHeight);
  return {
    view: { scale, x: cameraX - width / 2 / scale, y: cameraY - height / 2 / scale },
    turn: (-camera.heading * Math.PI) / 180,
    squash: Math.cos((camera.tilt * Math.PI) / 180),
    x: width / 2,
    y: height / 2,
  };
}

/** Sets the canvas so that drawing by the lens' view comes out through the lens. */
export function lookThrough(ctx: CanvasRenderingContext2D, lens: Lens, ratio: number): void {
  ctx.setTransform(ratio, 0, 0, ratio, 0, 0);
  if (lens.turn === 0 && lens.squash === 1) return;
  ctx.translate(lens.x, lens.y);
  ctx.scale(1, lens.squash);
  ctx.rotate(lens.turn);
  ctx.translate(-lens.x, -lens.y);
}

/** The world point under a point of the canvas. */
export function worldAt({ view, turn, squash, x, y }: Lens, px: number, py: number): { x: number; y: number } {
  const dx = px - x;
  const dy = (py - y) / squash;
  const cx = x + dx * Math.cos(turn) + dy * Math.sin(turn);
  const cy = y - dx * Math.sin(turn) + dy * Math.cos(turn);
  return { x: view.x + cx / view.scale, y: view.y + cy / view.scale };
}
