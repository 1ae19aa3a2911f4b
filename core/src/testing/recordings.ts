import { cos, PI, sin } from '../math/functions.ts';
import { plainGround } from '../measure/scenes/plainGround.ts';
import { World } from '../motion/world.ts';
import type { Recording } from '../search/recording/recording.ts';
import { Recorder } from '../tape/recorder.ts';
import type { Parameters } from '../tuning/catalogue/catalogue.ts';
import { sequence } from './sequence.ts';
import { oneOf, sound } from './soundTuning.ts';

const ways = [['right'], ['right', 'down'], ['down'], ['down', 'left'], ['left'], ['left', 'up'], ['up'], ['up', 'right']] as const;

/** Wishes of random hands: the directions that are held, and the sprint, each for a while. */
export function randomHands(
  next: () => number,
  seconds: number,
): { time: number; held: readonly (typeof ways)[number][number][]; isSprint: boolean }[] {
  const wishes = [];
  for (let time = 0.3; time < seconds; time += 0.15 + next() * 0.9)
    wishes.push({
      time,
      held: next() < 0.78 ? (ways[Math.floor(next() * ways.length)] as (typeof ways)[number]) : [],
      isSprint: next() < 0.35,
    });
  return wishes;
}

/** The hands on a device: keys, or a stick that is pushed all the way in any direction. */
export type RecordedDevice = 'keys' | 'stick';

const gauss = (next: () => number): number => Array.from({ length: 12 }, next).reduce((sum, value) => sum + value, -6);

/** Places at a rate, with noise, of a motion that was computed tick by tick. */
export function recorded(rows: readonly (readonly [number, number, number])[], rate: number, noise: number, next: () => number): Recording {
  const [begin, end] = [rows[0]?.[0] as number, rows.at(-1)?.[0] as number];
  const places: [number, number, number][] = [];
  for (let i = 0, row = 0; begin + i / rate < end; i++) {
    const time = begin + i / rate;
    while ((rows[row + 1]?.[0] as number) < time) row++;
    const [[t0, x0, y0], [t1, x1, y1]] = [rows[row], rows[row + 1]] as [[number, number, number], [number, number, number]];
    const share = (time - t0) / (t1 - t0);
    places.push([time, x0 + share * (x1 - x0) + noise * gauss(next), y0 + share * (y1 - y0) + noise * gauss(next)]);
  }
  const column = (k: 0 | 1 | 2) => Float64Array.from(places, (place) => place[k]);
  return { times: column(0), x: column(1), y: column(2), facing: null, notes: [] };
}

/** Places after each tick of random play with a tuning on open ground: [s, x, y]. */
export function playRandomly(
  parameters: Parameters,
  seconds: number,
  next: () => number,
  device: RecordedDevice = 'keys',
): [number, number, number][] {
  const { hz } = parameters.clock;
  const world = new World(parameters, plainGround({ start: { x: 5e5, y: 5e5, facing: 0 } }), seconds * hz + 10);
  const recorder = new Recorder();
  const wishes = randomHands(next, seconds);
  const rows: [number, number, number][] = [];
  let held: readonly (typeof ways)[number][number][] = [];
  let isSprint = false;
  for (let tick = 0; tick < seconds * hz; tick++) {
    while (wishes[0] && wishes[0].time <= tick / hz) {
      const wish = wishes.shift() as (typeof wishes)[number];
      if (device === 'stick') {
        const angle = next() * 2 * PI;
        recorder.push({ stick: wish.held.length > 0 ? [cos(angle), sin(angle)] : [0, 0] });
      } else {
        for (const release of held) recorder.push({ release });
        for (const press of wish.held) recorder.push({ press });
      }
      if (wish.isSprint !== isSprint) recorder.push(wish.isSprint ? { press: 'sprint' } : { release: 'sprint' });
      [held, isSprint] = [wish.held, wish.isSprint];
    }
    world.tick(recorder.next());
    rows.push([(tick + 1) / hz, world.body.x, world.body.y]);
  }
  return rows;
}

/** Twelve seconds of random play with a hidden tuning, recorded at some rate with some noise. */
export function hiddenRecording(
  seed: number,
  device: RecordedDevice = 'keys',
): { parameters: Parameters; recording: Recording; noise: number } {
  const next = sequence(seed * 31_337);
  const { parameters } = sound(seed, {
    scheme: 'steer',
    'pace.autoRun': 'off',
    'stamina.enabled': false,
    'route.enabled': false,
    'bounds.policy': 'none',
    'camera.follow': 'none',
    'clock.hz': oneOf(next, 30, 60, 60, 144),
  });
  const rows = playRandomly(parameters, 12, next, device);
  const noise = next();
  return { parameters, recording: recorded(rows, oneOf(next, 20, 30, 60, 60, 144), noise, next), noise };
}
