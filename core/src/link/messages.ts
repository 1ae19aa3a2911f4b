import { z } from 'zod';
import { eventUpTo } from '../tape/tape.ts';

/** The version of the protocol that `hello` names. */
export const PROTOCOL = 1;

/** Bytes of a message at most. */
export const LARGEST_MESSAGE = 65_536;

/** Rows, and events of the hands, in a message. */
const MOST_ROWS = 4000;
const MOST_EVENTS = 1000;
const MOST_COLUMNS = 32;
const MOST_PARAMETERS = 200;
const LAST_TICK = 2 ** 40;

const word = (longest: number) => z.string().min(1).max(longest);
const number = z.number();
const value = z.union([number, z.boolean(), z.string().max(80)]);
const tick = z.int().min(0).max(LAST_TICK);
const id = z
  .int()
  .min(0)
  .max(2 ** 31 - 1);
const place = z.number().min(-1e7).max(1e7);

/** A parameter of a game by its own name; the path is that of the catalogue, where the game knows it. */
const parameter = z.strictObject({
  name: word(80),
  path: word(80).optional(),
  value,
  min: number.optional(),
  max: number.optional(),
});

/** Abilities that a game may have. */
export const abilities = ['set', 'restart', 'place', 'pause', 'tape'] as const;
export type Ability = (typeof abilities)[number];

const columns = z
  .array(word(40))
  .min(1)
  .max(MOST_COLUMNS)
  .refine((names) => names[0] === 'tick', 'tick as the first column')
  .refine((names) => new Set(names).size === names.length, 'each column once');

const hello = z
  .strictObject({
    type: z.literal('hello'),
    protocol: z.literal(PROTOCOL),
    /** The session of an earlier `welcome`, to go on with it. */
    session: z.uuid().optional(),
    game: word(80),
    build: z.string().max(40).default(''),
    hz: z.number().min(1).max(1000),
    unit: z.enum(['px', 'm', 'tiles']).default('px'),
    yUp: z.boolean().default(false),
    parameters: z
      .array(parameter)
      .max(MOST_PARAMETERS)
      .refine((all) => new Set(all.map(({ name }) => name)).size === all.length, 'each name once')
      .default([]),
    columns,
    can: z.array(z.enum(abilities)).max(abilities.length).default([]),
  })
  .meta({ id: 'LinkHello', description: 'The first message of a game' });

const event = eventUpTo(LAST_TICK);

const rows = z
  .strictObject({
    type: z.literal('rows'),
    rows: z.array(z.array(number).min(1).max(MOST_COLUMNS)).max(MOST_ROWS),
    hands: z.array(event).max(MOST_EVENTS).default([]),
  })
  .meta({ id: 'LinkRows', description: 'Rows of the columns that hello names, and events of the hands, both in the order of their ticks' });

const done = z
  .strictObject({ type: z.literal('done'), id, tick })
  .meta({ id: 'LinkDone', description: 'What a message with this id asked for is in effect from this tick on' });

const refused = z
  .strictObject({ type: z.literal('refused'), id, name: word(80).optional(), why: z.string().max(300) })
  .meta({ id: 'LinkRefused', description: 'What a message with this id asked for is not done' });

const bye = z.strictObject({ type: z.literal('bye') }).meta({ id: 'LinkBye', description: 'The last message of a game' });

/** The messages of a game. */
const gameMessage = z.discriminatedUnion('type', [hello, rows, done, refused, bye]);
export type GameMessage = z.infer<typeof gameMessage>;
export type Hello = z.infer<typeof hello>;
export type RowsMessage = z.infer<typeof rows>;

const welcome = z
  .strictObject({ type: z.literal('welcome'), session: z.uuid(), from: tick })
  .meta({ id: 'LinkWelcome', description: 'The answer to hello; `from` is the first tick that is not kept yet' });

const values = z.record(word(80), value).refine((all) => {
  const count = Object.keys(all).length;
  return count > 0 && count <= MOST_PARAMETERS;
}, 'at least one value');

const set = z.strictObject({ type: z.literal('set'), values }).meta({ description: 'Values by the game’s names, in its units' });
const restart = z.strictObject({ type: z.literal('restart') });
const pause = z.strictObject({ type: z.literal('pause') });
const run = z.strictObject({ type: z.literal('run') });
const step = z.strictObject({ type: z.literal('step') });
const placed = z
  .strictObject({ type: z.literal('place'), x: place, y: place })
  .meta({ description: 'Puts the body at a place, in the game’s unit and axes' });
const tape = z
  .strictObject({ type: z.literal('tape'), hands: z.array(event).max(MOST_EVENTS), ticks: z.int().min(0).max(1e6) })
  .meta({ description: 'Hands to be replayed; their ticks count from the one in which the game begins' });

/** Requests to a game, before the server numbers them. */
export const linkRequest = z.discriminatedUnion('type', [set, restart, pause, run, step, placed, tape]);
export type LinkRequest = z.infer<typeof linkRequest>;

const problem = z
  .strictObject({ type: z.literal('problem'), status: z.int(), title: z.string(), detail: z.string().optional() })
  .meta({ id: 'LinkProblem', description: 'What was wrong with a message, as in RFC 9457' });

const numbered = { id };

/** The messages of the server. Requests have a number; each is answered by `done` or `refused` with it. */
export const serverMessage = z.discriminatedUnion('type', [
  welcome,
  set.extend(numbered).meta({ id: 'LinkSet' }),
  restart.extend(numbered).meta({ id: 'LinkRestart' }),
  pause.extend(numbered).meta({ id: 'LinkPause' }),
  run.extend(numbered).meta({ id: 'LinkRun' }),
  step.extend(numbered).meta({ id: 'LinkStep' }),
  placed.extend(numbered).meta({ id: 'LinkPlace' }),
  tape.extend(numbered).meta({ id: 'LinkTape' }),
  problem,
]);
export type ServerMessage = z.infer<typeof serverMessage>;

/** The ability that a request needs. */
export const abilityFor = ({ type }: Pick<LinkRequest, 'type'>): Ability => (type === 'run' || type === 'step' ? 'pause' : type);

/** Reads a message of a game; a fault says what was found where. */
export function readGameMessage(text: string): { message: GameMessage } | { fault: string } {
  let json: unknown;
  try {
    json = JSON.parse(text);
  } catch {
    return { fault: 'the message is not JSON' };
  }
  const read = gameMessage.safeParse(json);
  if (read.success) return { message: read.data };
  const [issue] = read.error.issues;
  const path = issue?.path.map(String).join('.') ?? '';
  return { fault: `${path === '' ? 'the message' : path}: ${issue?.message ?? 'not valid'}`.slice(0, 300) };
}

/** The JSON Schema (2020-12) of all messages: those of a game and those of the server. */
export const linkSchema = (): Record<string, unknown> => ({
  $schema: 'https://json-schema.org/draft/2020-12/schema',
  title: `Zygopod link, protocol ${PROTOCOL}`,
  $defs: Object.fromEntries(
    Object.entries({ game: gameMessage, server: serverMessage }).map(([side, schema]) => {
      const { $schema: _, ...own } = z.toJSONSchema(schema, { target: 'draft-2020-12', io: 'input', reused: 'inline' });
      return [side, inlined(own)];
    }),
  ),
});

/** A schema with its own definitions in place of the references to them. */
function inlined({ $defs = {}, ...schema }: Record<string, unknown>): unknown {
  const named = $defs as Record<string, unknown>;
  return JSON.parse(
    JSON.stringify(schema, (_, value) => {
      const name = typeof value?.$ref === 'string' ? value.$ref.replace('#/$defs/', '') : undefined;
      return name !== undefined && named[name] ? named[name] : value;
    }),
  );
}
