import type { Ground } from '@zygopod/core';
import { atom } from 'nanostores';
import type { Steps } from '../work/steps.ts';

/** Tools of the pointer on the ground. Keys are digits: none of them drives. */
export const tools = [
  {
    id: 'select',
    key: '1',
    title: 'Select, move',
    help: 'Click a wall or a place. Drag its points, sides or all of it; Delete removes it.',
  },
  {
    id: 'line',
    key: '2',
    title: 'Line',
    help: 'Click point after point, Enter ends; or drag a single line. A thin wall, felt from both sides.',
  },
  { id: 'shape', key: '3', title: 'Solid shape', help: 'Click corner after corner, Enter closes it. Solid inside.' },
  { id: 'block', key: '4', title: 'Solid block', help: 'Drag a rectangle that is solid inside.' },
  { id: 'cells', key: '5', title: 'Cells', help: 'Drag over cells to give them the mark chosen below.' },
  { id: 'cellBlock', key: '6', title: 'Block of cells', help: 'Drag a rectangle of cells.' },
  { id: 'fill', key: '7', title: 'Fill cells', help: 'Click a cell: all like it that hang together get the mark.' },
  { id: 'erase', key: '8', title: 'Erase', help: 'Drag: cells become open, walls that are touched go.' },
  { id: 'start', key: '9', title: 'Start', help: 'Click or drag to where the body begins.' },
  { id: 'goal', key: '0', title: 'Goal', help: 'Click or drag to place the goal; drag its ring to resize it.' },
  {
    id: 'gate',
    key: 'T',
    title: 'Gate',
    help: 'Drag a line that the course crosses. Gates are crossed in order; the last one is the finish.',
  },
  { id: 'frame', key: 'F', title: 'Screen frame', help: 'Drag the rectangle that a fixed screen shows.' },
] as const;
export type Tool = (typeof tools)[number]['id'];

export const snaps = [
  { id: 'cell', title: 'cell' },
  { id: 'half', title: 'half' },
  { id: 'one', title: '1' },
  { id: 'off', title: 'off' },
] as const;
type Snap = (typeof snaps)[number]['id'];

/** A ground to draw on, and what is in the hand of whoever draws. */
export function newDrawing(steps: Steps<Ground>) {
  return {
    steps,
    $tool: atom<Tool>('select'),
    /** The mark that cells get. */
    $mark: atom<string>('#'),
    $snap: atom<Snap>('half'),
    /** The wall that is selected, by its number. */
    $selected: atom<number | null>(null),
    /** The gate that is selected, by its number. */
    $gate: atom<number | null>(null),
    /** Points of a wall that is not ended yet. */
    $pending: atom<readonly [number, number][]>([]),
    /** A place to bring into sight. */
    $lookAt: atom<{ x: number; y: number } | null>(null),
  };
}
export type Drawing = ReturnType<typeof newDrawing>;

/** A place on the grid that is chosen. */
export function snapped(x: number, y: number, cell: number, snap: Snap): { x: number; y: number } {
  const step = snap === 'cell' ? cell : snap === 'half' ? cell / 2 : snap === 'one' ? 1 : 0;
  if (step === 0) return { x: Number(x.toFixed(2)), y: Number(y.toFixed(2)) };
  return { x: Math.round(x / step) * step, y: Math.round(y / step) * step };
}
