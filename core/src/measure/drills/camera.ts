import { cannotMove, openGround } from './course.ts';
import type { Drill, Ran } from './drill.ts';
import { Script } from './script.ts';

/** Seconds at full speed after which the view has settled. */
const SETTLED = 2;

/** Full speed until the view has settled. cameraLag: how far the body is from where it stands in the view at rest, the larger of both axes. */
export const viewLag: Drill = {
  name: 'view-lag',
  title: 'View lag',
  words: 'Full walking speed until the view has settled.',
  main: 'cameraLag',
  drawing: 'speed',
  unless: (parameters) => cannotMove(parameters) ?? (parameters.camera.follow === 'none' ? 'the view stays' : null),
  lay: ({ parameters, rise }) => {
    const script = new Script(parameters);
    return [{ ground: openGround(), tape: script.press(0, script.ahead).tape('View lag', rise + SETTLED) }];
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
