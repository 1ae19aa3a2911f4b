import { type TapeEvent, tapeOf } from '../tape/tape.ts';
import type { FileValue } from '../tuning/schema.ts';
import { openGround } from './drive.ts';

/** With cells and a wall to meet and to go round. */
export const walled = openGround({
  start: { x: 500, y: 500 },
  cells: Array.from({ length: 20 }, (_, y) => Array.from({ length: 20 }, (_, x) => ((x * 7 + y * 13) % 11 === 0 ? '#' : '.')).join('')),
  walls: [
    {
      points: [
        [300, 420],
        [620, 470],
        [560, 640],
      ],
      closed: true,
    },
  ],
});

/** Keys, a stick and swipes, changed every few ticks by a fixed rule. */
export const events: TapeEvent[] = Array.from({ length: 120 }, (_, i): TapeEvent => {
  const at = i * 5;
  const control = (['right', 'down', 'left', 'up', 'sprint'] as const)[i % 5] ?? 'right';
  if (i % 11 === 5) return { at, point: [(i * 61) % 900, (i * 97) % 900] };
  if (i % 11 === 6) return { at, press: 'pointer' };
  if (i % 11 === 7) return { at, release: 'pointer' };
  if (i % 7 === 3) return { at, stick: [((i * 37) % 200) / 100 - 1, ((i * 53) % 200) / 100 - 1] };
  return i % 2 === 0 ? { at, press: control } : { at, release: control };
});
export const tape = tapeOf({ name: 'Every way', hz: 60, ticks: 600, events });

export const tunings: [string, Record<string, FileValue>][] = [
  ['the defaults', {}],
  ['smooth, free facing', { 'ramp.model': 'smooth', 'facing.directions': 'free', 'facing.turn': 'smooth', 'clock.integration': 'exact' }],
  [
    'a curve, heading, stamina',
    {
      'ramp.model': 'curve',
      'ramp.points': [
        [0, 0.4],
        [0.5, 1.5],
        [1, 0.3],
      ],
      'ramp.turning': 'heading',
      'stamina.enabled': true,
    },
  ],
  ['clicks round walls', { 'route.enabled': true, 'camera.heading': 30, 'input.deadZone': 0.9, 'contact.cornerAssist': 4 }],
  ['clicks over cells, a box', { 'route.enabled': true, 'route.planner': 'grid8', 'body.shape': 'box', 'input.deadZone': 0.95 }],
  ['grid steps', { scheme: 'step', 'step.ease': 'smooth', 'step.diagonals': true }],
  ['turn', { scheme: 'turn', 'facing.turn': 'rate', 'input.curve': 2.2 }],
];

/** The core with `replayAll` as one script, which gives it to whoever runs it as `core`: for engines that load no modules. */
export async function asScript(): Promise<string> {
  const { build } = await import('vite');
  const built = (await build({
    configFile: false,
    logLevel: 'silent',
    build: {
      write: false,
      minify: false,
      lib: { entry: new URL('./replayAll.ts', import.meta.url).pathname, formats: ['iife'], name: 'core' },
    },
  })) as { output: { code: string }[] }[];
  return built[0]?.output[0]?.code ?? '';
}
