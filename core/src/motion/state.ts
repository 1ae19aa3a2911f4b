import {
  type BoundsState,
  type CameraState,
  type ClockState,
  type ContactState,
  createBounds,
  createCamera,
  createClock,
  createContact,
  createFacing,
  createGait,
  createIntent,
  createMotion,
  createRoute,
  createStep,
  createVelocity,
  type FacingState,
  type GaitState,
  type IntentState,
  type Motion,
  type RouteState,
  type StepState,
  type VelocityState,
} from './slices.ts';

/** What the world knows between ticks: the clock, and one slice a stage. Numbers only, so that it can be kept and hashed. */
export interface State {
  clock: ClockState;
  motion: Motion;
  intent: IntentState;
  route: RouteState;
  step: StepState;
  gait: GaitState;
  velocity: VelocityState;
  contact: ContactState;
  bounds: BoundsState;
  facing: FacingState;
  camera: CameraState;
}

export function createState(): State {
  return {
    clock: createClock(),
    motion: createMotion(),
    intent: createIntent(),
    route: createRoute(),
    step: createStep(),
    gait: createGait(),
    velocity: createVelocity(),
    contact: createContact(),
    bounds: createBounds(),
    facing: createFacing(),
    camera: createCamera(),
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

/** FNV-1a's prime, and the offsets of the two lanes that make 64 bits (the second lane's is the first's bits turned over). */
const PRIME = 0x01000193;
const OFFSET = 0x811c9dc5;

/**
 * A hash over the bytes of a state (little-endian doubles), as 16 hexadecimal digits: two 32-bit FNV-1a lanes (Fowler, Noll
 * and Vo), which need no integers that engines treat differently.
 */
export function hashState(state: State): string {
  const view = new DataView(new ArrayBuffer(8));
  let first = OFFSET;
  let second = ~OFFSET;
  for (const value of saveState(state)) {
    // Adding 0 turns −0 into 0: they are the same state.
    view.setFloat64(0, value + 0, true);
    for (let i = 0; i < 8; i++) {
      const byte = view.getUint8(i);
      first = Math.imul(first ^ byte, PRIME);
      second = Math.imul(second ^ byte ^ i, PRIME);
    }
  }
  const digits = (lane: number) => (lane >>> 0).toString(16).padStart(8, '0');
  return digits(first) + digits(second);
}
