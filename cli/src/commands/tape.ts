import { cutTape, type Tape, World } from '@zygopod/core';
import { groundFile, tapeFile, tuningFile, writeText } from '../files.ts';
import { GOOD, Misuse } from '../misuse.ts';

interface CutOptions {
  tuning: string;
  ground: string;
  from: string;
  to: string;
  name?: string;
  output?: string;
}

/** Seconds from an option. */
function seconds(option: string, text: string): number {
  const value = Number(text);
  if (text.trim() === '' || !Number.isFinite(value) || value < 0) throw new Misuse(`${option}: found ${text}, expected seconds, 0 or more`);
  return value;
}

/** Cuts a span out of a tape, with the state that the tuning gives the body at its start on the ground, and prints or writes it. */
export function cut(path: string, options: CutOptions): number {
  const tape = tapeFile(path);
  const { parameters } = tuningFile(options.tuning);
  const ground = groundFile(options.ground);
  const { hz } = parameters.clock;
  if (hz !== tape.hz) throw new Misuse(`--tuning: found ${hz} Hz, expected the tape’s ${tape.hz} Hz`);
  const from = Math.round(seconds('--from', options.from) * hz);
  const to = Math.min(tape.ticks, Math.round(seconds('--to', options.to) * hz));
  if (to <= from) throw new Misuse(`--to: found ${options.to}, expected more than --from, within the tape’s ${tape.ticks / hz} s`);
  const name = (options.name ?? `${tape.name}, ${options.from} to ${options.to} s`).slice(0, 120);
  const text = `${JSON.stringify({ ...cutTape(tape, from, to, new World(parameters, ground, 1)), name }, null, 2)}\n`;
  writeText(options.output ?? '-', text);
  return GOOD;
}

/** Describes an event. */
function words({ at: _at, ...event }: Tape['events'][number]): string {
  return Object.entries(event)
    .map(([kind, value]) => `${kind} ${Array.isArray(value) ? value.join(', ') : value}`)
    .join(' ');
}

/** Prints what is on a tape: how it begins, and its events with their times. */
export function show(path: string, options: { json?: boolean }): number {
  const tape = tapeFile(path);
  const { hz, ticks, snapshot, events } = tape;
  if (options.json) {
    const counts = Object.fromEntries(
      ['press', 'release', 'stick', 'point', 'swipe'].map((kind) => [kind, events.filter((e) => kind in e).length]),
    );
    const begins = snapshot?.body ? 'in a drive' : 'at the start of the ground';
    process.stdout.write(
      `${JSON.stringify({ name: tape.name, hz, ticks, seconds: ticks / hz, begins, held: snapshot?.hands ?? {}, events: counts })}\n`,
    );
    return GOOD;
  }
  const lines = [
    `${tape.name}: ${ticks} ticks at ${hz} Hz, ${(ticks / hz).toFixed(2)} s, ${events.length} events`,
    snapshot?.body ? 'begins in the middle of a drive, with the body as it was' : 'begins at the start of the ground',
    ...(snapshot?.hands.held ? [`held: ${snapshot.hands.held.join(', ')}`] : []),
    ...events.map((event) => `${(event.at / hz).toFixed(3).padStart(9)} s  ${words(event)}`),
  ];
  process.stdout.write(`${lines.join('\n')}\n`);
  return GOOD;
}
