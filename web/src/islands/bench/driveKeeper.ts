import { readTape, type Tape } from '@zygopod/core';
import type { Drive } from '../drive/drive.ts';

/** How often (ms) the drive is kept, ticks of a piece, and how old (ms) a piece may grow that nobody came back for. */
const EVERY = 1000;
const PIECE = 1200;
const FORGOTTEN = 24 * 3600 * 1000;
/** A page that has not been heard of for so long (ms) is gone, though it did not say so: one in the background is let speak once a minute. */
const GONE = 90 * EVERY;

const PREFIX = 'zygopod-drive:';

interface Head {
  at: number;
  hz: number;
  /** The tick of the recording at which the tape begins, and that up to which it goes. */
  from: number;
  to: number;
  snapshot: Tape['snapshot'];
  /** True if its page said that it goes. */
  isGone: boolean;
}

/** Keeps what is driven in this browser all the while, in pieces of which only the newest is written again: a page that is closed or dies loses a second of it. */
export class DriveKeeper {
  readonly #drive: Drive;
  readonly #key: string;
  #kept = { from: -1, to: -1 };

  constructor(drive: Drive, tuning: string) {
    this.#drive = drive;
    this.#key = `${PREFIX}${tuning}:${crypto.randomUUID().slice(0, 8)}`;
  }

  /** Keeps it from now on, until the answer is called. What is driven then stays for the next page. */
  start(): () => void {
    const timer = setInterval(() => this.keep(), EVERY);
    const leaving = () => this.keep(true);
    window.addEventListener('pagehide', leaving);
    return () => {
      clearInterval(timer);
      window.removeEventListener('pagehide', leaving);
    };
  }

  keep(isGone = false): void {
    const { recorder, beginning } = this.#drive;
    if (!beginning) return;
    const { tick: from, snapshot, hz } = beginning;
    const to = recorder.ticks;
    try {
      // A restart begins at 0: earlier rows belong to another drive. Rows replaced by another page are kept again.
      const isNew = to < this.#kept.to || from < this.#kept.from || localStorage.getItem(this.#key) === null;
      const last = isNew || this.#kept.to < 0 ? Math.floor(from / PIECE) : Math.floor(this.#kept.to / PIECE);
      if (isNew) forget(this.#key);
      for (let piece = last; piece <= Math.floor(to / PIECE); piece++) {
        const begin = piece * PIECE;
        const events = recorder.between(begin, begin + PIECE).map((event) => ({ ...event, at: event.at + begin }));
        localStorage.setItem(`${this.#key}:${piece}`, JSON.stringify(events));
      }
      for (let piece = Math.floor(from / PIECE) - 1; localStorage.getItem(`${this.#key}:${piece}`) !== null; piece--)
        localStorage.removeItem(`${this.#key}:${piece}`);
      localStorage.setItem(this.#key, JSON.stringify({ at: Date.now(), hz, from, to, snapshot, isGone } satisfies Head));
      this.#kept = { from, to };
    } catch {
      // The store is full: the drive is in memory alone, as it is elsewhere.
    }
  }
}

function forget(key: string): void {
  for (const name of Object.keys(localStorage)) if (name === key || name.startsWith(`${key}:`)) localStorage.removeItem(name);
}

/** Takes the newest drive of a tuning left by a closed page from the store; null if there is none. Old drives of all tunings are deleted. */
export function driveLeftBehind(tuning: string, now = Date.now()): Tape | null {
  let found: { key: string; head: Head } | null = null;
  for (const key of Object.keys(localStorage).filter((name) => name.startsWith(PREFIX) && name.split(':').length === 3)) {
    const head = read<Head>(key);
    if (!head || now - head.at > FORGOTTEN) forget(key);
    else if (key.startsWith(`${PREFIX}${tuning}:`) && (head.isGone || now - head.at > GONE) && head.at > (found?.head.at ?? 0))
      found = { key, head };
  }
  if (!found) return null;
  const { key, head } = found;
  const events: Tape['events'] = [];
  for (let piece = Math.floor(head.from / PIECE); piece <= Math.floor(head.to / PIECE); piece++)
    for (const event of read<Tape['events']>(`${key}:${piece}`) ?? [])
      if (event.at >= head.from && event.at < head.to) events.push({ ...event, at: event.at - head.from });
  forget(key);
  const tape = readTape({
    format: 'zygopod/tape',
    version: 2,
    name: 'Before the page was closed',
    hz: head.hz,
    ticks: head.to - head.from,
    snapshot: head.snapshot,
    events,
  });
  return tape.ok ? tape.value : null;
}

function read<T>(key: string): T | null {
  try {
    return JSON.parse(localStorage.getItem(key) ?? 'null') as T | null;
  } catch {
    return null;
  }
}
