import type { Drill, Ran } from './drill.ts';
import { cannotMove, openGround } from './layout.ts';
import { Script } from './script.ts';

/** Seconds at full speed after which the view has settled: at least so many, or so many half-lives. */
const SETTLED = 2;
const HALVES = 12;

/**
 * Full speed until the view has settled. cameraLag: distance of the body from its place in the view at rest, the larger of both axes (with a
 * half-life h: V·h/ln 2).
 */
export const viewLag: Drill = {
  name: 'view-lag',
  title: 'View lag',
  words: 'Walks at full speed until the view has settled.',
  main: 'cameraLag',
  drawing: 'speed',
  gives: ['cameraLag'],
  unless: (parameters) => cannotMove(parameters) ?? (parameters.camera.follow === 'none' ? 'the view stays' : null),
  lay: ({ parameters, rise }) => {
    const { follow, halfLife } = parameters.camera;
    const settled = Math.max(SETTLED, follow === 'smooth' ? HALVES * halfLife : 0);
    const script = new Script(parameters);
    return [{ ground: openGround(), tape: script.press(0, script.ahead).tape('View lag', rise + settled) }];
  },
  measure: ([ran]) => {
    const { trace } = ran as Ran;
    const lag = (axis: 'x' | 'y', view: 'cameraX' | 'cameraY') => {
      const ahead = (row: number) => trace.at(axis, row) - trace.at(view, row);
      return Math.abs(ahead(trace.end - 1) - ahead(trace.first));
    };
    return { cameraLag: Math.max(lag('x', 'cameraX'), lag('y', 'cameraY')) };
  },
};
