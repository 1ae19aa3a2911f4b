import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { getQuickJS } from 'quickjs-emscripten';
import { describe, expect, it } from 'vitest';
import { lapInTrace } from '../course/lap.ts';
import { type Ground, groundWith, parseGround } from '../ground/ground.ts';
import { bucketWalls, WallIndex } from '../ground/wallIndex.ts';
import { rerun } from '../replay/rerun.ts';
import { campaign, seeds } from '../testing/campaign.ts';
import { asScript } from '../testing/everyWay.ts';
import { randomCourse } from '../testing/randomCourse.ts';
import { traceKeys } from '../testing/replayAll.ts';
import { sequence } from '../testing/sequence.ts';
import { sound, tuningWith } from '../testing/soundTuning.ts';
import { bodySize } from '../tuning/body.ts';
import type { Parameters } from '../tuning/catalogue/catalogue.ts';
import { parseTuning } from '../tuning/tuning.ts';
import { driveLaps, driveMedianLap } from './laps.ts';
import { deviceFault, type PilotDevice, pilotDevices } from './options.ts';
import { brief } from './round.ts';
import { learn } from './skills.ts';

const demo = (name: string) => readFileSync(join(import.meta.dirname, '../../../demo', name), 'utf8');
const demoGround = (name: string): Ground => {
  const read = parseGround(demo(`${name}.ground.json`));
  if (!read.ok) throw new Error(JSON.stringify(read.faults));
  return read.value;
};
const demoTuning = (name: string): Parameters => {
  const read = parseTuning(demo(`${name}.tuning.json`));
  if (!read.ok) throw new Error(JSON.stringify(read.faults));
  return read.value.parameters;
};

/** A random sound tuning, a device that can drive it, and a course with room for its turning circle. */
function randomDrive(seed: number): { parameters: Parameters; device: PilotDevice; ground: Ground } {
  const { parameters } = sound(seed);
  const next = sequence(seed * 7919 + 13);
  const { width, height } = bodySize(parameters.body);
  const size = Math.max(width, height);
  const devices = pilotDevices.filter((device) => deviceFault(parameters, device) === null);
  const device = devices[Math.floor(next() * devices.length)] as PilotDevice;
  const empty = groundWith({ name: 'Empty', size: { width: 10, height: 10 }, start: { x: 5, y: 5 } });
  const { walk, turnRate } = learn(parameters, empty);
  const radius = parameters.scheme === 'turn' ? walk / turnRate / size : 0;
  return { parameters, device, ground: randomCourse(parameters, next, size, Math.max(0.3, radius)).ground };
}

const median = (values: readonly number[]): number => [...values].sort((a, b) => a - b)[values.length >> 1] as number;
const mean = (values: readonly number[]): number => values.reduce((sum, value) => sum + value, 0) / values.length;

describe('the pilot', () => {
  it('has a line on the planned path itself, or one that keeps off walls by moving away from it', () => {
    const moved = seeds(12, 200).map((seed) => {
      const { parameters, ground } = randomDrive(seed);
      const walls = new WallIndex(bucketWalls(ground, parameters.contact.seams));
      const [middle, shortest] = (['middle', 'shortest'] as const).map((line) => brief(parameters, ground, walls, line).line);
      if (!middle || !shortest) throw new Error('no line');
      expect([middle.count, middle.spacing]).toEqual([shortest.count, shortest.spacing]);
      for (let i = 1; i < shortest.count; i++) {
        // Samples of a polyline are never farther apart than along it.
        const apart = Math.hypot(
          (shortest.x[i] as number) - (shortest.x[i - 1] as number),
          (shortest.y[i] as number) - (shortest.y[i - 1] as number),
        );
        expect(apart, `seed ${seed}`).toBeLessThanOrEqual(shortest.spacing * (1 + 1e-9));
      }
      return shortest.x.some((x, i) => x !== middle.x[i]);
    });
    expect(moved).toContain(true);
  });

  it('drives random sound tunings of all schemes with all devices round random courses: at least 99 of 100 laps are finished', () => {
    const drawn = seeds(150, 2400, [20, 83, 298, 391, 706, 803]);
    const failed: string[] = [];
    let driven = 0;
    for (const seed of drawn) {
      const { parameters, device, ground } = randomDrive(seed);
      const lap = driveLaps(parameters, ground, { device }).laps[0];
      if (!lap) throw new Error('no lap');
      // Some courses can't be walked from cell to cell: that is told, and counts as neither.
      if (lap.why?.startsWith('no steps')) continue;
      driven++;
      if (lap.finished) expect(lap.time, `seed ${seed}`).toBe(lap.gates.at(-1));
      else {
        failed.push(`seed ${seed}: ${parameters.scheme} ${device}: ${lap.why}`);
        expect(lap.why).toMatch(/no progress for 3 s before gate|ideal time/);
      }
    }
    // One more than a hundredth may fail by chance in a small share.
    expect(failed.length, failed.join('\n')).toBeLessThanOrEqual(Math.floor(driven / 100) + campaign(2, 0));
  });

  it('of several laps with jitter gives the one in the middle, with the tape of just that one', () => {
    for (const seed of seeds(6, 60)) {
      const { parameters, device, ground } = randomDrive(seed);
      const options = { device, jitter: 0.3, seed: seed * 100 };
      const { laps, spread } = driveLaps(parameters, ground, options, 7);
      const median = driveMedianLap(parameters, ground, options, 7);
      const times = laps
        .filter((lap) => lap.finished)
        .map(({ time }) => time)
        .sort((a, b) => a - b);
      expect([seed, median.finished, median.spread]).toEqual([seed, times.length, spread]);
      if (times.length === 0) continue;
      expect(median.lap.time, `seed ${seed}`).toBe(times[(times.length - 1) >> 1]);
      const { trace } = rerun(median.tape, parameters, ground);
      expect(lapInTrace(trace, ground, median.tape.events, median.tape.hz).time, `seed ${seed}`).toBe(median.lap.time);
    }
  });

  it('writes a tape that drives the lap again bit for bit: replayed, it gives the same lap', () => {
    for (const seed of seeds(40, 600)) {
      const { parameters, device, ground } = randomDrive(seed);
      const { laps, tape } = driveLaps(parameters, ground, { device });
      const world = rerun(tape, parameters, ground);
      const { path: _, where: __, why: ___, ...lap } = laps[0] ?? ({} as never);
      expect(lapInTrace(world.trace, ground, tape.events, tape.hz), `seed ${seed}`).toEqual(lap);
    }
  });

  it('drives the same lap in another engine, from which its tape is replayed bit for bit', async () => {
    const engine = (await getQuickJS()).newContext();
    engine.unwrapResult(engine.evalCode(await asScript())).dispose();
    const ask = (code: string) => {
      const answer = engine.unwrapResult(engine.evalCode(`JSON.stringify(${code})`));
      const value = JSON.parse(engine.getString(answer));
      answer.dispose();
      return value;
    };
    for (const [tuning, ground, device] of [
      ['carrier-day-boots', 'boardwalk', 'keys8'],
      ['pram-cart', 'ferry-deck', 'stick'],
      ['sorting-clerk', 'sorting-floor', 'cells'],
    ] as const) {
      const [parameters, on] = [demoTuning(tuning), demoGround(ground)];
      const own = driveLaps(parameters, on, { device });
      const call = `${JSON.stringify(parameters)}, ${JSON.stringify(on)}`;
      const { laps, tape } = ask(`core.driveLaps(${call}, { device: '${device}' })`);
      expect(laps).toEqual(JSON.parse(JSON.stringify(own.laps)));
      expect(tape).toEqual(JSON.parse(JSON.stringify(own.tape)));
      expect(ask(`core.traceKeys(${call}, ${JSON.stringify(own.tape)})`)).toEqual(traceKeys(parameters, on, own.tape));
    }
    engine.dispose();
  }, 120_000);

  it('finishes all demo courses with the tunings that suit them', () => {
    for (const [tuning, ground] of [
      ['carrier-day-boots', 'boardwalk'],
      ['carrier-storm-boots', 'boardwalk'],
      ['first-draft', 'boardwalk'],
      ['ferry-hand', 'tidal-flats'],
      ['pram-cart', 'ferry-deck'],
      ['sorting-clerk', 'sorting-floor'],
    ] as const)
      expect(driveLaps(demoTuning(tuning), demoGround(ground)).laps[0], tuning).toMatchObject({ finished: true });
  });

  it('tells why a course can’t be driven, without driving for long', () => {
    const { parameters } = tuningWith({});
    const ground = (over: Partial<Ground>) =>
      groundWith({ name: 'Odd', size: { width: 600, height: 400 }, start: { x: 100, y: 200 }, ...over });
    const gate = { from: [300, 100] as [number, number], to: [300, 300] as [number, number] };
    const whyOf = (on: Ground, by = parameters, options = {}) => driveLaps(by, on, options).laps[0]?.why;
    expect(whyOf(ground({}))).toBe('the ground has no course');
    expect(
      whyOf(ground({ course: { gates: [gate], laps: 1 } }), tuningWith({ 'pace.walkSpeed': 0, 'pace.sprintSpeed': 0 }).parameters),
    ).toBe('the tuning can’t move');
    expect(whyOf(ground({ course: { gates: [{ from: [300, 200], to: [300, 200] }], laps: 1 } }))).toBe('gate 1: it has no length');
    expect(whyOf(ground({ course: { gates: [gate, { from: [700, 0], to: [700, 400] }], laps: 1 } }))).toBe(
      'gate 2: the body does not fit on it anywhere',
    );
    expect(whyOf(ground({ course: { gates: [gate], laps: 1 } }), parameters, { device: 'cells' })).toBe(
      'the device cells needs the scheme step',
    );
    const wall = {
      points: [
        [200, 0],
        [200, 400],
      ] as [number, number][],
      closed: false,
    };
    expect(whyOf(ground({ walls: [wall], course: { gates: [gate], laps: 1 } }))).toBe('gate 1: no path leads to it');
  });

  it('varies with jitter by its seed alone', () => {
    const [parameters, ground] = [demoTuning('carrier-day-boots'), demoGround('boardwalk')];
    const laps = driveLaps(parameters, ground, { jitter: 0.2, seed: 5 }, 12);
    expect(driveLaps(parameters, ground, { jitter: 0.2, seed: 5 }, 12)).toEqual(laps);
    expect(new Set(laps.laps.map(({ time }) => time)).size).toBeGreaterThan(6);
    expect(laps.spread.time?.p90).toBeGreaterThan(laps.spread.time?.p10 as number);
  });

  it('drives most mirrored courses with the mirrored lap: the mesh’s lattice is not symmetrical, and a few laps part over that', () => {
    let same = 0;
    const drawn = seeds(12, 200);
    for (const seed of drawn) {
      const next = sequence(seed * 91);
      const { parameters } = sound(seed, { scheme: 'steer', 'body.shape': 'circle', 'bounds.policy': 'clamp', 'ramp.turning': 'vector' });
      const { ground } = randomCourse(parameters, next, 2 * parameters.body.radius);
      const { width } = ground.size;
      const flip = ([x, y]: readonly [number, number]): [number, number] => [width - x, y];
      const mirrored: Ground = {
        ...ground,
        start: { ...ground.start, x: width - ground.start.x, facing: 180 - (ground.start.facing ?? 0) },
        walls: ground.walls.map((wall) => ({ ...wall, points: wall.points.map(flip) })),
        course: {
          laps: ground.course?.laps ?? 1,
          gates: (ground.course?.gates ?? []).map(({ from, to }) => ({ from: flip(from), to: flip(to) })),
        },
      };
      const [a, b] = [ground, mirrored].map((on) => driveLaps(parameters, on, { device: 'keys8' }).laps[0]);
      if (Math.abs((b?.time ?? 0) / (a?.time ?? 1) - 1) < 1e-6) same++;
    }
    expect(same).toBeGreaterThanOrEqual(drawn.length * 0.75);
  });

  it('tells tunings apart: slow ramps, wide bodies, friction and slow reactions cost time or touches', () => {
    const ratios: { faster: number; slower: number; friction: number; wide: number; reaction: number }[] = [];
    const count = campaign(14, 200);
    for (const seed of seeds(count, 200)) {
      const base = {
        scheme: 'steer',
        'body.shape': 'circle',
        'ramp.model': 'linear',
        'route.enabled': false,
        'bounds.policy': 'clamp',
        'stamina.enabled': false,
        'contact.wallFriction': 0,
      } as const;
      const { parameters } = sound(seed, base);
      const { ramp, body, contact } = parameters;
      const { ground } = randomCourse(parameters, sequence(seed * 31 + 7), 2 * body.radius, 0.8);
      const scaled = (by: number) => ({
        ...parameters,
        ramp: { ...ramp, accelerate: ramp.accelerate * by, decelerate: ramp.decelerate * by, brake: ramp.brake * by },
      });
      const laps = (own: Parameters, options = {}) => driveLaps(own, ground, { device: 'keys8', jitter: 0.15, ...options }, 3).laps;
      const time = (own: Parameters) => median(laps(own).map((lap) => (lap.finished ? lap.time : 1e4)));
      const touches = (own: Parameters, options = {}) => mean(laps(own, options).map((lap) => lap.touches));
      const now = time(parameters);
      ratios.push({
        faster: time(scaled(2)) / now,
        slower: time(scaled(0.5)) / now,
        friction: time({ ...parameters, contact: { ...contact, wallFriction: 1 } }) / now,
        wide: touches({ ...parameters, body: { ...body, radius: body.radius * 1.3 } }) - touches(parameters),
        reaction: touches(parameters, { reaction: 0.35 }) - touches(parameters, { reaction: 0.15 }),
      });
    }
    expect(median(ratios.map(({ faster }) => faster))).toBeLessThan(1.01);
    expect(median(ratios.map(({ slower }) => slower))).toBeGreaterThan(1);
    // These are small against the spread of a few courses: all of them together show them.
    const slack = campaign(0.6, 0);
    expect(mean(ratios.map(({ friction }) => friction))).toBeGreaterThan(1 - slack / 25);
    expect(mean(ratios.map(({ wide }) => wide))).toBeGreaterThan(-slack);
    expect(mean(ratios.map(({ reaction }) => reaction))).toBeGreaterThan(-slack);
  });
});
