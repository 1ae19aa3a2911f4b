import { z } from 'zod';
import { type Format, readDocument, readJson } from '../document/document.ts';
import type { Reading } from '../document/fault.ts';
import { scheme } from '../tuning/catalogue/hands.ts';
import { controls, swipes } from './controls.ts';
import type { HandsEvent } from './hands.ts';

/** An event and the tick at whose start it applies. */
export type TapeEvent = { at: number } & HandsEvent;

const part = z.number().min(-1).max(1);
const coordinate = z.number().min(-1e7).max(1e7);
const name = z.string().trim().min(1).max(120);

/** The schema of an event at a tick up to `last`. The type and the check require exactly one of the five. */
export const eventUpTo = (last: number): z.ZodType<TapeEvent> =>
  z
    .strictObject({
      at: z.int().min(0).max(last),
      press: z.enum(controls).optional(),
      release: z.enum(controls).optional(),
      stick: z.tuple([part, part]).optional(),
      point: z.tuple([coordinate, coordinate]).optional(),
      swipe: z.enum(swipes).optional(),
    })
    .refine((e) => Object.keys(e).length === 2, 'at and just one of press, release, stick, point, swipe') as z.ZodType<TapeEvent>;
const event = eventUpTo(1e7);

const heldHands = z.strictObject({
  held: z
    .array(z.enum(controls))
    .max(controls.length)
    .refine((held) => new Set(held).size === held.length, 'each control once')
    .optional(),
  stick: z.tuple([part, part]).optional(),
  point: z.tuple([coordinate, coordinate]).optional(),
  spoke: z.enum(['keys', 'stick']).optional(),
});

const snapshot = z.strictObject({
  hands: heldHands,
  /** The numbers of the body by name, those alone that differ from a new body's; null stands for infinity. Absent: the ground's start. */
  body: z
    .record(z.string().regex(/^[a-z][A-Za-z]{0,39}$/), z.number().nullable())
    .refine((numbers) => Object.keys(numbers).length <= 300, 'at most 300 numbers')
    .optional(),
  /** A key of the body's tuning: with an equal one the motion continues bit for bit, any other one takes it over. */
  tuning: z
    .string()
    .regex(/^[0-9a-f]{16}$/)
    .optional(),
  /** True if its stamina was full, whatever the maximum. */
  full: z.boolean().optional(),
});

/** The state at the start of a tape that begins in the middle of a drive. */
export type TapeSnapshot = z.infer<typeof snapshot>;

const schema = z.strictObject({
  format: z.literal('zygopod/tape'),
  version: z.literal(3),
  name,
  /** The name of the ground that it was driven on, and how the character was moved; absent if nobody knows. */
  ground: name.optional(),
  scheme: z.enum(scheme.options).optional(),
  hz: z.number().min(1).max(1000),
  ticks: z.int().min(1).max(1e7),
  /** The state at the start of the tape; absent if the hands are at rest and the body is at the ground's start. */
  snapshot: snapshot.optional(),
  events: z.array(event).max(1e6),
});

/** Recorded hands: `ticks` ticks at `hz` a second; events sorted by tick. */
export type Tape = z.infer<typeof schema>;

/** The tape format. */
export const tapeFormat: Format<Tape> = {
  format: 'zygopod/tape',
  version: 3,
  lists: { events: { item: event, most: 1e6 } },
  // Version 2 can begin with held controls; version 3 names its ground and tuning.
  migrations: [(old) => ({ ...old, version: 2 }), (old) => ({ ...old, version: 3 })],
  schema,
};

/** A tape with only the given events. */
export const tapeOf = (given: Omit<Tape, 'format' | 'version'>): Tape => ({ format: 'zygopod/tape', version: 3, ...given });

/** Reads a parsed JSON value as a tape; events are put in order of their ticks, equal ticks as in the file. */
export function readTape(value: unknown): Reading<Tape> {
  const reading = readDocument(tapeFormat, value);
  if (!reading.ok) return reading;
  const tape = reading.value;
  return { ok: true, value: { ...tape, events: [...tape.events].sort((a, b) => a.at - b.at) } };
}

/** Reads the text of a `*.tape.json`. */
export function parseTape(text: string): Reading<Tape> {
  const json = readJson(text);
  return json.ok ? readTape(json.value) : json;
}
