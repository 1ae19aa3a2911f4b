import { controls, type Standalone, standalone, type Tuning } from '@zygopod/core';
import type { Routine } from './fold/ir.ts';
import { Sources } from './fold/source.ts';
import { Specialiser } from './fold/specialise.ts';
import { fieldsOf, tidied } from './fold/tidy.ts';
import { CannotHold, edgeStarts } from './fold/values.ts';
import { C } from './languages/c.ts';
import { CSharp } from './languages/csharp.ts';
import { Lua } from './languages/lua.ts';
import type { Motion, Printer } from './languages/printer.ts';
import { Python } from './languages/python.ts';
import { Rust } from './languages/rust.ts';
import { TypeScript } from './languages/typescript.ts';

/** The languages in which the motion itself is written. */
export const motionPrinters = (): Printer[] => [new TypeScript(), new C(), new CSharp(), new Python(), new Lua(), new Rust()];

/** What the game's contact writes, and what stages hand on to it: there whether they read it or not. */
const atContact = [
  'x',
  'y',
  'vx',
  'vy',
  'velocityX',
  'velocityY',
  'velocityToX',
  'velocityToY',
  'contactX',
  'contactY',
  'contactVx',
  'contactVy',
  'contactCount',
  'contactKeeps',
  'contactSurface',
];
/** What the game reads. */
const told = ['facingAngle', 'gaitIndex', 'gaitStamina', 'happened'];

/** Fields of the body that are the same in every tick: no route leads it, it steps into no cells, and its ticks are of one length. */
const steadyOf = ({ clock }: Standalone['plan']) => ({ routeActive: 0, ...(clock.fixed ? { clockDt: clock.dt } : {}) });

/** What a tick does, with the file and the part of the plan of each stage; null stands for the game's own contact. */
const stages: readonly (readonly [string, string, keyof Standalone['plan'] | null] | null)[] = [
  ['motion/clock.ts', 'stepClock', 'clock'],
  ['motion/intent.ts', 'stepIntent', 'intent'],
  ['motion/step.ts', 'stepGrid', 'step'],
  ['motion/route.ts', 'stepRoute', 'route'],
  ['motion/gait.ts', 'stepGait', 'gait'],
  ['motion/velocity.ts', 'stepVelocity', 'velocity'],
  ['motion/contact.ts', 'beginContact', null],
  null,
  ['motion/contact.ts', 'holdInside', 'contact'],
  ['motion/bounds.ts', 'meetEdges', 'bounds'],
  ['motion/gait.ts', 'nameGait', null],
  ['motion/facing.ts', 'stepFacing', 'facing'],
];

/**
 * Folds the stages with what never changes. Which fields those are is found from the other side: each is taken for one until a stage
 * gives it another value than it starts with (a greatest fixed point; conditional constant propagation, Wegman and Zadeck 1991).
 */
function fold({ plan, start }: Standalone, sources: Sources): { maker: Specialiser; tick: (Routine | null)[] } {
  const begins = start as unknown as Record<string, number>;
  const varies = new Set([...atContact, ...told]);
  for (;;) {
    const steady = Object.fromEntries(Object.entries(begins).flatMap(([field, value]) => (varies.has(field) ? [] : [[field, value + 0]])));
    const maker = new Specialiser(sources, { ...steady, ...steadyOf(plan) });
    const tick = stages.map((stage) => stage && maker.stage(stage[0], stage[1], stage[2] ? plan[stage[2]] : undefined));
    const known = varies.size;
    for (const field of maker.varying) varies.add(field);
    if (varies.size === known) return { maker, tick };
  }
}

/** The core's sources, read once. */
const core = new Sources();

/** The stages that a tuning uses, folded with its numbers. Throws `CannotHold` with what no file can hold. */
export function motionOf({ file, parameters }: Tuning, sources = core): Motion {
  if (parameters.route.enabled) throw new CannotHold('click to go: routes are the game’s');
  const alone = standalone(parameters);
  const { maker, tick } = fold(alone, sources);
  const others = new Set([...atContact, ...told]);
  const program = tidied(
    maker.program,
    tick.flatMap((routine) => (routine ? [routine.name] : [])),
    others,
  );
  // A stage that has nothing to do in this tuning is none.
  const isIdle = new Set(program.routines.filter(({ body, gives }) => gives === null && body.length === 0).map(({ name }) => name));
  const byName = new Map(program.routines.map((routine) => [routine.name, routine]));
  const fields = [...new Set([...fieldsOf(program), ...others])]
    .sort()
    .map((field): [string, number] => [field, ((alone.start as unknown as Record<string, number>)[field] ?? edgeStarts[field] ?? 0) + 0]);
  return {
    tuning: file.name,
    program: { ...program, routines: program.routines.filter(({ name }) => !isIdle.has(name)) },
    tick: tick.flatMap((routine) => (routine && isIdle.has(routine.name) ? [] : [routine && (byName.get(routine.name) ?? routine)])),
    fields,
    controls,
  };
}
