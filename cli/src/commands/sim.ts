import { once } from 'node:events';
import { createWriteStream } from 'node:fs';
import { FrameClock, type FramePattern, framePatterns, Replay, traceCsv, World } from '@zygopod/core';
import { groundFile, tapeFile, tuningFile } from '../files.ts';
import { GOOD, Misuse } from '../misuse.ts';

interface SimOptions {
  tuning: string;
  ground: string;
  tape: string;
  hz?: string;
  frames?: string;
  trace?: string;
}

/** The most frames a second that a pattern gives. */
const MOST_FRAMES = 150;

/** Replays a tape and writes the trace; the state hash goes to stderr. */
export async function sim(options: SimOptions): Promise<number> {
  const { parameters } = tuningFile(options.tuning);
  const ground = groundFile(options.ground);
  const tape = tapeFile(options.tape);
  const hz = options.hz === undefined ? parameters.clock.hz : Number(options.hz);
  if (!(hz >= 1 && hz <= 1000)) throw new Misuse(`--hz: found ${options.hz}, expected a number from 1 to 1000`);

  const perFrame = parameters.clock.stepping === 'perFrame' && options.frames !== undefined;
  if (options.frames !== undefined && !Object.hasOwn(framePatterns, options.frames))
    throw new Misuse(`--frames: found ${options.frames}, expected one of ${Object.keys(framePatterns).join(', ')}`);

  const replay = new Replay(tape, hz);
  const capacity = perFrame ? Math.ceil((tape.ticks / tape.hz) * MOST_FRAMES) : replay.ticks;
  const world = new World({ ...parameters, clock: { ...parameters.clock, hz } }, ground, capacity);
  if (perFrame) {
    const frames = new FrameClock(options.frames as FramePattern);
    const end = tape.ticks / tape.hz - 1e-9;
    for (let time = 0; time < end; time = world.body.clockTime) world.tickFrame(replay.at(time), frames.next());
  } else for (let tick = 0; tick < replay.ticks; tick++) world.tick(replay.next());

  const toFile = options.trace !== undefined && options.trace !== '-';
  const out = toFile ? createWriteStream(options.trace as string) : process.stdout;
  for (const line of traceCsv(world.trace, parameters.facing.directions)) if (!out.write(line)) await once(out, 'drain');
  if (toFile) await new Promise<void>((done, failed) => out.on('error', failed).end(done));
  process.stderr.write(`${world.hash()}\n`);
  return GOOD;
}
