import { controls, edgeMargins, type Parameters, type Standalone, standalone, swipes, type Tuning } from '@zygopod/core';
import type { Routine } from './fold/ir.ts';
import { Sources } from './fold/source.ts';
import { Specialiser } from './fold/specialise.ts';
import { fieldsOf, tidied } from './fold/tidy.ts';
import { BODY, CannotHold, edgeStarts, known, type Value } from './fold/values.ts';
import type { Motion } from './languages/program.ts';
import { madeLive } from './live.ts';

/** Fields that contact writes, and that stages pass to it: declared whether they are read or not. */
export const atContact = [
  'x',
  'y',
  'vx',
  'vy',
  'velocityX',
  'velocityY',
  'velocityDx',
  'velocityDy',
  'velocityToX',
  'velocityToY',
  'contactX',
  'contactY',
  'contactVx',
  'contactVy',
  'contactCount',
  'contactSides',
  'contactStops',
  'contactKeeps',
  'contactSurface',
];
/** Fields that the game reads. */
const reported = ['facingAngle', 'gaitIndex', 'gaitStamina', 'happened'];

/** Fields of the body that are the same in every tick though they are set: its ticks are of one length. */
const steadyOf = ({ clock }: Standalone['plan']): Record<string, number> => (clock.fixed ? { clockDt: clock.dt } : {});

/** Substitutes for steps of the tick in code: an interaction uses the nearest object, and a game has its own camera. */
const inCode: Readonly<Record<string, string | null>> = { stepContact: 'meet', stepBounds: 'meetEdges', stepCamera: null };

/** A step of a tick: its file, its function, and the part of the plan that it is given. */
interface TickStep {
  path: string;
  name: string;
  part: keyof Standalone['plan'];
}

/** The steps of a tick in their order, as the core's own tick calls them. Throws if that does anything else. */
export function tickSteps(sources: Sources): TickStep[] {
  const file = sources.file('motion/tick.ts');
  return file.callsOf('tick').flatMap(({ name, args }): TickStep[] => {
    const at = file.imports.get(name);
    const part = /^plan\.(\w+)$/.exec(args[1] ?? '')?.[1];
    if (!at || !part) throw new Error(`the tick calls ${name}(${args.join(', ')}), and a step of it is a stage with its part of the plan`);
    const own = Object.hasOwn(inCode, name) ? inCode[name] : name;
    return own ? [{ path: sources.file(at.path).place, name: own, part: part as keyof Standalone['plan'] }] : [];
  });
}

/**
 * Folds the stages with what never changes. Which fields those are is found from the other side: each is taken for one until a stage
 * gives it another value than it starts with (a greatest fixed point; conditional constant propagation, Wegman and Zadeck 1991).
 */
function fold(
  { plan, start }: Standalone,
  sources: Sources,
  isLive: boolean,
): { specialiser: Specialiser; tick: Routine[]; place: Routine } {
  const begins = start as unknown as Record<string, number>;
  const varies = new Set([...atContact, ...reported]);
  const steps = tickSteps(sources);
  for (;;) {
    const steady = Object.fromEntries(Object.entries(begins).flatMap(([field, value]) => (varies.has(field) ? [] : [[field, value + 0]])));
    const specialiser = new Specialiser(sources, { ...steady, ...steadyOf(plan) });
    // A changed speed is in force at the next tick, also for a gait that goes on.
    const retuned = isLive ? [specialiser.entry('motion/gait.ts', 'takeOverGait', [known(BODY), known(plan.gait), known(false)])] : [];
    const tick = [...retuned, ...steps.map(({ path, name, part }) => specialiser.stage(path, name, plan[part]))];
    const place = specialiser.entry('motion/start.ts', 'placeAtStart', [known(BODY), ...['x', 'y', 'facing'].map(local)]);
    const before = varies.size;
    for (const field of specialiser.varying) varies.add(field);
    if (varies.size === before) return { specialiser, tick, place };
  }
}

/** The core's sources, read once. */
export const core = new Sources();

/** True if a body meets walls while it moves: one that steps from cell to cell tests for them before. */
export const meetsWalls = ({ scheme, contact }: Parameters): boolean => scheme !== 'step' && contact.response !== 'none';

const local = (name: string): Value => ({ is: { is: 'local', name, kind: 'number' } });

/** Where the edges of an area hold the body. */
function edgesOf(parameters: Parameters): Motion['edges'] {
  const { policy, inset, axes } = parameters.bounds;
  if (policy === 'none') return {};
  const margins = edgeMargins(parameters);
  return {
    ...(axes === 'y' ? {} : { left: [inset.left, margins.left], right: [inset.right, margins.right] }),
    ...(axes === 'x' ? {} : { top: [inset.top, margins.top], bottom: [inset.bottom, margins.bottom] }),
  };
}

/**
 * The stages that a tuning uses, folded with its numbers; those at the paths `live` stay variables, fields of the body. Throws `CannotHold` with what no
 * file can hold.
 */
export function motionOf(tuning: Tuning, { sources = core, live = [] }: { sources?: Sources; live?: readonly string[] } = {}): Motion {
  const { file, parameters } = tuning;
  const { plan: whole, start } = standalone(parameters);
  const { plan, numbers } = madeLive(tuning, whole, live);
  const { specialiser, tick, place } = fold(
    { plan: { ...plan, contact: { ...plan.contact, felt: meetsWalls(parameters) } }, start },
    sources,
    live.length > 0,
  );
  const others = new Set([...atContact, ...reported]);
  const program = tidied(
    specialiser.program,
    [...tick, place].map(({ name }) => name),
    others,
  );
  // A stage that has nothing to do in this tuning is none.
  const isIdle = new Set(program.routines.filter(({ body, gives }) => gives === null && body.length === 0).map(({ name }) => name));
  const byName = new Map(program.routines.map((routine) => [routine.name, routine]));
  const read = new Set(fieldsOf(program));
  const idle = numbers.find(({ field }) => !read.has(field));
  if (idle) throw new CannotHold(`${idle.path} can’t be live: this tuning doesn’t use it`);
  const starts: Readonly<Record<string, number>> = {
    ...edgeStarts,
    ...(start as unknown as Record<string, number>),
    ...Object.fromEntries(numbers.map(({ field, value }) => [field, value])),
  };
  const fields = [...new Set([...read, ...others])].sort().map((field): [string, number] => [field, (starts[field] ?? 0) + 0]);
  return {
    tuning: file.name,
    live: numbers,
    program: { ...program, routines: program.routines.filter(({ name }) => !isIdle.has(name)) },
    tick: tick.flatMap((routine) => (isIdle.has(routine.name) ? [] : [byName.get(routine.name) ?? routine])),
    fields,
    controls,
    swipes,
    place: byName.get(place.name) ?? place,
    edges: edgesOf(parameters),
  };
}
