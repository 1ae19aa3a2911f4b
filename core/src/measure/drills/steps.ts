import { plainGround } from '../scenes/plainGround.ts';
import type { Drill, Ran } from './drill.ts';
import { reaches, wayBetween } from './read.ts';
import { Script } from './script.ts';

/** Steps that are walked right, and then down. */
const STEPS = 10;

/**
 * Steps to the right, then down, the turn pressed before the last step is over. stepTime: from the middle of the first step to that of the tenth, by nine.
 * stepLatency: from the press to the first motion, half a step before that middle. stepDrift: the farthest from a cell's centre at rest.
 */
export const gridWalk: Drill = {
  name: 'grid-walk',
  title: 'Grid walk',
  words: 'Ten steps right and ten down, the turn pressed before the last step is over.',
  main: 'stepTime',
  drawing: 'way',
  unless: ({ scheme, step }) => (scheme !== 'step' ? 'it does not step from cell to cell' : step.time <= 0 ? 'a step takes no time' : null),
  lay: ({ parameters }) => {
    const { step } = parameters;
    const cell = step.cell;
    const long = step.turnTime + STEPS * step.time;
    const start = { x: 1000.5 * cell, y: 1000.5 * cell, facing: 0 };
    const script = new Script(parameters);
    const turn = 0.1 + long - Math.min(step.buffer, step.time) / 2;
    if (step.repeat)
      script
        .press(0.1, 'right')
        .release(turn, 'right')
        .press(turn, 'down')
        .release(turn + long - step.time / 2, 'down');
    else
      for (let i = 0; i < STEPS; i++) {
        const at = 0.1 + step.turnTime + i * step.time;
        script.press(at, 'right').release(at + step.time / 4, 'right');
        script.press(at + long, 'down').release(at + long + step.time / 4, 'down');
      }
    return [{ ground: plainGround({ cell, start }), tape: script.tape('Grid walk', 0.1 + 2.4 * long + 0.5) }];
  },
  measure: ([ran], { parameters, hz }) => {
    const { trace } = ran as Ran;
    const { cell } = parameters.step;
    const [x, y] = [trace.at('x', 0), trace.at('y', 0)];
    const pressed = Math.round(0.1 * hz) / hz;
    // Halfway through a step the body is at its most even: from there to there whole steps are told apart best.
    const halfway = (steps: number) => reaches(trace, 0, (steps + 0.5) * cell, (row) => trace.at('x', row) - x);
    const [first, last] = [halfway(0), halfway(STEPS - 1)];
    const time = first !== null && last !== null ? (last - first) / (STEPS - 1) : undefined;
    const end = trace.end - 1;
    const off = (value: number, from: number) => Math.abs((((value - from) / cell + 0.5) % 1) - 0.5) * cell;
    const isStill = wayBetween(trace, trace.at('time', end) - 2 / hz, Infinity) === 0;
    return {
      stepTime: time,
      stepLatency: first === null || time === undefined ? undefined : Math.max(0, first - time / 2 - pressed),
      stepDrift: isStill ? Math.max(off(trace.at('x', end), x), off(trace.at('y', end), y)) : undefined,
    };
  },
};
