import { controls, type Standalone, standalone, type Tuning } from '@zygopod/core';
import { C, TypeScript } from './curly.ts';
import { CSharp, Rust } from './curlyMore.ts';
import type { Motion, Printer } from './printer.ts';
import { Sources } from './source.ts';
import { Specialiser } from './specialise.ts';
import { withoutUnread } from './unread.ts';
import { CannotHold } from './values.ts';
import { Lua, Python } from './worded.ts';

/** The languages in which the motion itself is written. */
export const motionPrinters = (): Printer[] => [new TypeScript(), new C(), new CSharp(), new Python(), new Lua(), new Rust()];

/** Fields of the body that are the same in every tick: no route leads it, it steps into no cells, and its ticks are of one length. */
const steadyOf = ({ clock }: Standalone['plan']) => ({ routeActive: 0, stepLive: 0, ...(clock.fixed ? { clockDt: clock.dt } : {}) });

/** What a tick does, with the file and the part of the plan of each stage; null stands for the game's own contact. */
const stages: readonly (readonly [string, string, keyof Standalone['plan'] | null] | null)[] = [
  ['motion/clock.ts', 'stepClock', 'clock'],
  ['motion/intent.ts', 'stepIntent', 'intent'],
  ['motion/route.ts', 'stepRoute', 'route'],
  ['motion/gait.ts', 'stepGait', 'gait'],
  ['motion/velocity.ts', 'stepVelocity', 'velocity'],
  null,
  ['motion/gait.ts', 'nameGait', null],
  ['motion/facing.ts', 'stepFacing', 'facing'],
];

/** The stages that a tuning uses, folded with its numbers. Throws `CannotHold` with what no file can hold. */
export function motionOf({ file, parameters }: Tuning): Motion {
  if (parameters.scheme === 'step') throw new CannotHold('scheme step: steps look into the cells of the ground, which are the game’s');
  if (parameters.route.enabled) throw new CannotHold('click to go: routes are the game’s');
  const { plan, start } = standalone(parameters);
  const maker = new Specialiser(new Sources(), steadyOf(plan));
  const tick = stages.map((stage) => stage && maker.stage(stage[0], stage[1], stage[2] ? plan[stage[2]] : undefined));
  // What the game's contact writes, and what stages hand on to it, is there whether they read it or not.
  for (const field of [
    'x',
    'y',
    'vx',
    'vy',
    'velocityX',
    'velocityY',
    'velocityToX',
    'velocityToY',
    'facingAngle',
    'gaitIndex',
    'gaitStamina',
    'happened',
  ])
    maker.fields.add(field);
  const fields = [...maker.fields]
    .sort()
    .map((field): [string, number] => [field, (start as unknown as Record<string, number>)[field] ?? 0]);
  return {
    tuning: file.name,
    program: withoutUnread(
      maker.program,
      tick.flatMap((routine) => (routine ? [routine.name] : [])),
    ),
    tick,
    fields,
    controls,
  };
}
