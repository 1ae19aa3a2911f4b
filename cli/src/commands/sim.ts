import {
  FrameClock,
  type FramePattern,
  framePatterns,
  type Parameters,
  Replay,
  type Tape,
  traceHeader,
  traceRows,
  World,
} from '@zygopod/core';
import { groundFile, tapeFile, tuningFile } from '../files.ts';
import { GOOD, Misuse } from '../misuse.ts';
import { Output } from '../output.ts';
import { Progress } from '../progress.ts';

interface SimOptions {
  tuning: string;
  ground: string;
  tape: string;
  hz?: string;
  from?: string;
  frames?: string;
  trace?: string;
}

/** Rows of the trace that are held before they are written: memory does not grow with the tape. */
const HELD = 4096;
/** Ticks at most. */
const MOST_TICKS = 1e8;

/** Advances a world tick by tick until the tape ends. */
type Advance = (world: World) => boolean;

function byTicks(tape: Tape, hz: number): Advance {
  const replay = new Replay(tape, hz);
  return (world) => {
    if (replay.tick >= replay.ticks) return false;
    world.tick(replay.next());
    return true;
  };
}

function byFrames(tape: Tape, hz: number, pattern: FramePattern): Advance {
  const replay = new Replay(tape, hz);
  const frames = new FrameClock(pattern);
  const end = tape.ticks / tape.hz - 1e-9;
  return (world) => {
    const time = world.body.clockTime;
    if (time >= end) return false;
    world.tickFrame(replay.at(time), frames.next());
    return true;
  };
}

function rateOf(options: SimOptions, parameters: Parameters, tape: Tape): number {
  const hz = options.hz === undefined ? parameters.clock.hz : Number(options.hz);
  if (!(hz >= 1 && hz <= 1000)) throw new Misuse(`--hz: found ${options.hz}, expected a number from 1 to 1000`);
  const ticks = (tape.ticks / tape.hz) * hz;
  if (ticks > MOST_TICKS) throw new Misuse(`--tape: found ${Math.ceil(ticks)} ticks at ${hz} Hz, expected at most ${MOST_TICKS}`);
  return hz;
}

/** A tape with the beginning of another one. */
function begunFrom(tape: Tape, path: string | undefined): Tape {
  if (path === undefined) return tape;
  const { snapshot } = tapeFile(path);
  if (!snapshot) throw new Misuse(`--from: found ${path} without a snapshot, expected a tape that begins in the middle of a drive`);
  return { ...tape, snapshot };
}

/** Replays a tape and writes the trace as it comes; the state hash goes to stderr. */
export async function sim(options: SimOptions): Promise<number> {
  const { parameters } = tuningFile(options.tuning);
  const ground = groundFile(options.ground);
  const tape = begunFrom(tapeFile(options.tape), options.from);
  const hz = rateOf(options, parameters, tape);
  if (options.frames !== undefined && !Object.hasOwn(framePatterns, options.frames))
    throw new Misuse(`--frames: found ${options.frames}, expected one of ${Object.keys(framePatterns).join(', ')}`);
  const perFrame = parameters.clock.stepping === 'perFrame' && options.frames !== undefined;
  const advance = perFrame ? byFrames(tape, hz, options.frames as FramePattern) : byTicks(tape, hz);

  const world = new World({ ...parameters, clock: { ...parameters.clock, hz } }, ground, HELD);
  if (tape.snapshot) {
    const unknown = world.resume(tape.snapshot);
    if (unknown.length > 0)
      process.stderr.write(
        `${options.from ?? options.tape}: snapshot.body: found ${unknown.join(', ')}, unknown to this core: the start is approximate\n`,
      );
  }
  const output = new Output(options.trace);
  const progress = new Progress(tape.ticks / tape.hz);
  const { directions } = parameters.facing;
  await output.write(traceHeader());
  let written = 0;
  const writeRows = async () => {
    for (const line of traceRows(world.trace, directions, written)) await output.write(line);
    written = world.trace.end;
  };
  while (advance(world) && !output.isClosed) {
    if (world.trace.end - written < HELD) continue;
    await writeRows();
    progress.at(world.body.clockTime);
  }
  await writeRows();
  await output.end();
  progress.end();
  process.stderr.write(`${world.hash()}\n`);
  return GOOD;
}
