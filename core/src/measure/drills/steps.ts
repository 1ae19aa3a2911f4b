import type { Trace } from '../../motion/trace.ts';
import type { Parameters } from '../../tuning/catalogue/catalogue.ts';
import type { Metrics } from '../metricSpecs.ts';
import { plainGround } from '../scenes/plainGround.ts';
import type { Drill, Ran } from './drill.ts';
import { distanceBetween } from './read.ts';
import { Script } from './script.ts';

/** Steps that are walked right, and then down: ten, or as many as take so many ticks, where steps are short. */
const STEPS = 10;
const TICKS = 24;

/** The fraction of its time at which an eased step (s²·(3 − 2s)) has covered a fraction of its length. */
const easedAt = (share: number): number => 0.5 - Math.sin(Math.asin(1 - 2 * share) / 3);

/** Seconds from one step to the next, and from the press to the first, of steps to the right: each row gives the step and the position on it. */
function stepTimes(trace: Trace, { cell, ease }: Parameters['step'], pressed: number): Metrics {
  const start = trace.at('x', trace.first);
  const gone = (row: number) => (trace.at('x', row) - start) / cell;
  let from = trace.first;
  while (from < trace.end - 1 && gone(from) === 0) from++;
  let to = from;
  while (to < trace.end - 2 && gone(to + 2) > gone(to + 1)) to++;
  const stepsAt = (row: number) => {
    const whole = Math.floor(gone(row));
    return ease === 'linear' ? gone(row) : whole + easedAt(gone(row) - whole);
  };
  const steps = stepsAt(to) - stepsAt(from);
  if (to <= from || steps <= 0) return {};
  const stepTime = (trace.at('time', to) - trace.at('time', from)) / steps;
  return { stepTime, stepLatency: Math.max(0, trace.at('time', from) - stepsAt(from) * stepTime - pressed) };
}

/**
 * Steps to the right, then down, the turn pressed before the last step is over. stepTime: from one step to the next. stepLatency: from the
 * press to the first motion. stepDrift: the farthest from a cell's centre at rest. The keys are held, and repeat.
 */
export const gridWalk: Drill = {
  name: 'grid-walk',
  title: 'Grid walk',
  words: 'Steps ten cells right and ten down, pressing the turn before the last step ends.',
  main: 'stepTime',
  drawing: 'path',
  gives: ['stepTime', 'stepLatency', 'stepDrift'],
  unless: ({ scheme, step }) => (scheme !== 'step' ? 'needs grid steps' : step.time <= 0 ? 'a step takes no time' : null),
  lay: ({ parameters }) => {
    const { step } = parameters;
    const long = step.turnTime + Math.max(STEPS * step.time, TICKS / parameters.clock.hz);
    const cell = step.cell;
    const start = { x: 1000.5 * cell, y: 1000.5 * cell, facing: 0 };
    const turn = 0.1 + long - Math.min(step.buffer, step.time) / 2;
    const script = new Script(parameters)
      .press(0.1, 'right')
      .release(turn, 'right')
      .press(turn, 'down')
      .release(turn + long - step.time / 2, 'down');
    // With a press for each step it is the presses that would be measured.
    const held = { ...parameters, step: { ...step, repeat: true } };
    return [{ ground: plainGround({ cell, start }), tape: script.tape('Grid walk', 0.1 + 2.4 * long + 0.5), parameters: held }];
  },
  measure: ([ran], { parameters, hz }) => {
    const { trace } = ran as Ran;
    const { cell } = parameters.step;
    const [x, y] = [trace.at('x', 0), trace.at('y', 0)];
    const pressed = Math.round(0.1 * hz) / hz;
    const end = trace.end - 1;
    const off = (value: number, from: number) => Math.abs((((value - from) / cell + 0.5) % 1) - 0.5) * cell;
    const isStill = distanceBetween(trace, trace.at('time', end) - 2 / hz, Infinity) === 0;
    return {
      ...stepTimes(trace, parameters.step, pressed),
      stepDrift: isStill ? Math.max(off(trace.at('x', end), x), off(trace.at('y', end), y)) : undefined,
    };
  },
};
