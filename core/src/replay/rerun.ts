import type { Ground } from '../ground/ground.ts';
import type { Trace, TraceRooms } from '../motion/trace.ts';
import { World } from '../motion/world.ts';
import { FrameClock, type FramePattern, framePatterns } from '../tape/frames.ts';
import { Replay } from '../tape/replay.ts';
import type { Tape } from '../tape/tape.ts';
import type { Parameters } from '../tuning/catalogue/catalogue.ts';

interface RerunOptions {
  /** A world on the same ground, whose prepared data is shared. */
  known?: World | undefined;
  /** Maximum number of ticks. */
  most?: number | undefined;
  /** Where the trace finds room. */
  rooms?: TraceRooms | undefined;
  /** Ends the rerun early, once the trace has what is read of it. */
  until?: ((trace: Trace) => boolean) | undefined;
  /** Frames that a tuning which steps per frame gets; without them its frames are ticks of its rate. */
  frames?: FramePattern | undefined;
}

/** Ticks that a pattern of frames needs to reach the end of a tape. */
function framesOf(tape: Tape, pattern: FramePattern): number {
  const lengths: readonly number[] = framePatterns[pattern];
  const end = tape.ticks / tape.hz - 1e-9;
  let frames = 0;
  for (let time = 0; time < end; frames++) time += lengths[frames % lengths.length] as number;
  return frames;
}

/**
 * The same hands on a tuning and a ground, a piece at a time: from a tape's start to its end, or for a number of ticks of the tuning's rate. The
 * world's trace holds all of it, the start as its first row.
 */
export class Rerun {
  readonly world: World;
  /** Numbers of the tape's snapshot that this core does not know. */
  readonly unknown: readonly string[];
  /** Ticks that there are to drive. */
  readonly ticks: number;
  readonly #replay: Replay;
  readonly #frames: FrameClock | null;
  #time = 0;
  #done = 0;

  constructor(tape: Tape, parameters: Parameters, ground: Ground, { known, most = Infinity, frames, rooms }: RerunOptions = {}) {
    const pattern = parameters.clock.stepping === 'perFrame' ? frames : undefined;
    this.#replay = new Replay(tape, parameters.clock.hz);
    this.#frames = pattern ? new FrameClock(pattern) : null;
    this.ticks = Math.min(most, pattern ? framesOf(tape, pattern) : this.#replay.ticks);
    const isAlike = known?.ground === ground && known.parameters.contact.seams === parameters.contact.seams;
    this.world = new World(parameters, ground, this.ticks, isAlike ? known.walls : undefined, rooms);
    if (known && isAlike) this.world.takeNavigator(known.navigator);
    this.unknown = tape.snapshot ? this.world.resume(tape.snapshot) : [];
  }

  /** Ticks that are driven. */
  get done(): number {
    return this.#done;
  }

  /** Drives so many ticks more, or the rest of them. */
  run(ticks: number): void {
    for (let left = Math.min(ticks, this.ticks - this.#done); left > 0; left--) this.#tick();
  }

  #tick(): void {
    this.#done++;
    if (!this.#frames) {
      this.world.tick(this.#replay.next());
      return;
    }
    const length = this.#frames.next();
    this.world.tickFrame(this.#replay.at(this.#time), length);
    this.#time += length;
  }
}

/** All of a rerun at once. */
export function rerun(tape: Tape, parameters: Parameters, ground: Ground, options: RerunOptions = {}): World {
  const again = new Rerun(tape, parameters, ground, options);
  const { until } = options;
  if (!until) again.run(Infinity);
  else while (again.done < again.ticks && !until(again.world.trace)) again.run(1);
  return again.world;
}
