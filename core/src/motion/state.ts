import { type BoundsState, createBounds } from './bounds.ts';
import { type ClockState, createClock } from './clock.ts';
import { createFacing, type FacingState } from './facing.ts';
import { createGait, type GaitState } from './gait.ts';
import { createIntent, type IntentState } from './intent.ts';
import { createMotion, type Motion } from './motion.ts';
import { createVelocity, type VelocityState } from './velocity.ts';

/** What the world knows between ticks: the clock, and one slice a stage. Numbers only, so that it can be kept and hashed. */
export interface State {
  clock: ClockState;
  motion: Motion;
  intent: IntentState;
  gait: GaitState;
  velocity: VelocityState;
  bounds: BoundsState;
  facing: FacingState;
}

export function createState(): State {
  return {
    clock: createClock(),
    motion: createMotion(),
    intent: createIntent(),
    gait: createGait(),
    velocity: createVelocity(),
    bounds: createBounds(),
    facing: createFacing(),
  };
}

type Slice = Record<string, number>;

/** All numbers of a state, slice by slice in a fixed order. */
export function saveState(state: State): Float64Array {
  return Float64Array.from(Object.values(state).flatMap((slice: Slice) => Object.values(slice)));
}

/** Puts back what `saveState` gave. */
export function loadState(state: State, saved: Float64Array): void {
  let i = 0;
  for (const slice of Object.values(state) as Slice[]) for (const key of Object.keys(slice)) slice[key] = saved[i++] as number;
}

/** A 64-bit FNV-1a hash over the bytes of a state (little-endian doubles), as 16 hexadecimal digits. */
export function hashState(state: State): string {
  const saved = saveState(state);
  const view = new DataView(new ArrayBuffer(8));
  let hash = 0xcbf29ce484222325n;
  for (const value of saved) {
    view.setFloat64(0, value + 0, true);
    for (let i = 0; i < 8; i++) hash = BigInt.asUintN(64, (hash ^ BigInt(view.getUint8(i))) * 0x100000001b3n);
  }
  return hash.toString(16).padStart(16, '0');
}
