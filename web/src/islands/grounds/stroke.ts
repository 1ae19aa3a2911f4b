import type { Ground } from '@zygopod/core';
import { type Drawing, snapped } from './tools.ts';

/** A place of the ground, in its unit. */
export type Place = { x: number; y: number };

/** Preview of a stroke's result, drawn while it lasts. */
export type Preview =
  | { kind: 'rectangle'; x0: number; y0: number; x1: number; y1: number }
  | { kind: 'path'; points: readonly [number, number][]; closed: boolean };

/** One press of the pointer, from down to up; places are raw, in the ground's unit. */
export interface Stroke {
  move(at: Place): void;
  end(at: Place): void;
  preview: Preview | null;
}

/** Drags what is held: changes the ground as the pointer moves, in one step of undo. */
export type Drag = (what: string, change: (now: Ground, place: Place) => Ground) => Stroke;

/** A place on the grid that is chosen. */
export const snap = ({ steps, $snap }: Drawing, at: Place) => snapped(at.x, at.y, steps.$now.get().cell, $snap.get());
