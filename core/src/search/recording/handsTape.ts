import { cos, PI, sin } from '../../math/functions.ts';
import type { Control } from '../../tape/controls.ts';
import { type Tape, tapeOf } from '../../tape/tape.ts';
import type { HandsChange } from './hands.ts';
import type { Recording } from './recording.ts';

/** Keys by their direction, from the right clockwise, in eighths of a turn. */
const keys: readonly (readonly Control[])[] = [
  ['right'],
  ['right', 'down'],
  ['down'],
  ['down', 'left'],
  ['left'],
  ['left', 'up'],
  ['up'],
  ['up', 'right'],
];

/** Radians by which an angle may be off the direction of keys. */
const OFF = 0.01;

/** The hands that were found behind a recording, as a tape: keys where directions are those of keys, else the stick. */
export function handsTape(name: string, { times }: Recording, changes: readonly HandsChange[], hz: number): Tape {
  const start = times[0] as number;
  const ticks = Math.max(1, Math.ceil(((times.at(-1) as number) - start) * hz));
  const byKeys = changes.every(({ angle }) => angle === null || Math.abs(angle / (PI / 4) - Math.round(angle / (PI / 4))) < OFF);
  const events: Tape['events'] = [];
  let held: readonly Control[] = [];
  let isSprint = false;
  for (const { time, angle, isSprint: sprints } of changes) {
    const at = Math.min(ticks - 1, Math.max(0, Math.round((time - start) * hz)));
    if (byKeys) {
      const next = angle === null ? [] : (keys[((Math.round(angle / (PI / 4)) % 8) + 8) % 8] as readonly Control[]);
      for (const release of held) if (!next.includes(release)) events.push({ at, release });
      for (const press of next) if (!held.includes(press)) events.push({ at, press });
      held = next;
    } else events.push({ at, stick: angle === null ? [0, 0] : [cos(angle), sin(angle)] });
    if (sprints !== isSprint) events.push(sprints ? { at, press: 'sprint' } : { at, release: 'sprint' });
    isSprint = sprints;
  }
  return tapeOf({ name, hz, ticks, events });
}
