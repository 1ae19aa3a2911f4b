import { describe, expect, it } from 'vitest';
import { firstYard } from '../../ground/yard.ts';
import { metricsOf, runDrills } from '../../measure/drills/run.ts';
import { traceMetrics } from '../../measure/metrics.ts';
import { rerun } from '../../replay/rerun.ts';
import { type Tape, tapeOf } from '../../tape/tape.ts';
import { seeds } from '../../testing/campaign.ts';
import { sequence } from '../../testing/sequence.ts';
import { axis, tuned } from '../../testing/tuned.ts';
import { resolveTuning, withValue } from '../../tuning/tuning.ts';
import { nearestMet } from './nearest.ts';
import { coarseToFine } from './order.ts';
import { wholeChunk } from './queued.ts';
import { sweepCsv, sweepReport } from './report.ts';
import { MET, type MetricKey, MISSED, Sweep, type SweepChunk, type SweepDefinition, sweepFaults } from './sweep.ts';

const swept = (more: Partial<SweepDefinition>): Sweep => {
  const sweep = new Sweep({ tuning: tuned(), axes: [], metrics: [], targets: [], ground: null, ...more });
  while (sweep.run(7));
  return sweep;
};

describe('the order of cells', () => {
  it('has each once, the whole plane after the first hundredth, and each level between the cells of the one before', () => {
    for (const seed of seeds(30, 500)) {
      const next = sequence(seed);
      const [width, height] = [1 + Math.floor(next() * 90), 1 + Math.floor(next() * 90)];
      const order = [...coarseToFine(width, height)];
      expect(new Set(order).size).toBe(width * height);
      expect(order.length).toBe(width * height);
      expect(order.every((cell) => cell >= 0 && cell < width * height)).toBe(true);
    }
    const first = [...coarseToFine(100, 100)].slice(0, 100);
    for (const quarter of [0, 1, 2, 3])
      expect(first.filter((cell) => (cell % 100 >= 50 ? 1 : 0) + (cell >= 5000 ? 2 : 0) === quarter).length).toBeGreaterThan(8);
  });
});

describe('the search for a place', () => {
  it('finds the nearest cell that meets all targets', () => {
    const axes = [axis('pace.walkSpeed=60:320:12'), axis('ramp.decelerate=300:4800:9:log')];
    const sweep = swept({ axes, metrics: [], targets: [{ metric: 'stopDistance', min: 4, max: 9 }] });
    for (const seed of seeds(5, 60)) {
      const next = sequence(seed);
      const [x, y] = [next() * 11, next() * 8];
      const far = (cell: number) => Math.hypot(((cell % 12) - x) / 12, (Math.floor(cell / 12) - y) / 9);
      const met = [...sweep.met.keys()].filter((cell) => sweep.met[cell] === MET);
      expect(far(nearestMet(sweep, [x, y]) as number)).toBe(Math.min(...met.map(far)));
    }
    expect(nearestMet(swept({ axes, metrics: [], targets: [{ metric: 'stopDistance', min: 1e6 }] }), [0, 0])).toBeNull();
  });
});

describe('a sweep', () => {
  it('of walk and decelerate has the closed form of the stopping distance everywhere', () => {
    for (const integration of ['exact', 'semiImplicit']) {
      const tuning = tuned({ 'clock.integration': integration });
      const axes = [axis('pace.walkSpeed=60:320:9'), axis('ramp.decelerate=300:4800:7:log')];
      const sweep = swept({ tuning, axes, metrics: ['stopDistance'] });
      const distances = sweep.values.get('stopDistance') as Float64Array;
      for (let cell = 0; cell < sweep.cells; cell++) {
        const [x, y] = sweep.placesOf(cell) as [number, number];
        const [v, d] = [axes[0]?.values[x] as number, axes[1]?.values[y] as number];
        const whole = (v * v) / (2 * d);
        // Ticks that move by the velocity after them fall short by half a tick's travel, and less than a tick's change of it.
        const [low, high] =
          integration === 'exact' ? [whole - 1e-6, whole + 1e-6] : [whole - v / 120 - d / 7200, whole - v / 120 + d / 7200];
        expect(distances[cell], `${v} ${d}`).toBeGreaterThanOrEqual(low);
        expect(distances[cell], `${v} ${d}`).toBeLessThanOrEqual(high);
      }
    }
  });

  it('measures what each tuning by itself measures, bit for bit, whatever is shared between them', () => {
    const varied = ['body.radius=4:20:2', 'body.shape=*', 'route.margin=0:6:2', 'route.planner=*', 'contact.response=*', 'clock.hz=30,144'];
    const always = ['riseTime', 'stopDistance', 'slideKept(45)', 'tightestGap', 'rateSensitivity'] as const;
    const clicks = ['pathRatio', 'arriveError', 'followError', 'reclickKept'] as const;
    for (const seed of seeds(2, 40)) {
      const next = sequence(seed);
      const isLed = next() < 0.6;
      const one = varied[Math.floor(next() * varied.length)] as string;
      const other = next() < 0.5 ? `pace.walkSpeed=${80 + Math.round(next() * 50)}:300:2` : 'body.radius=7:11:2';
      const tuning = tuned({ 'route.enabled': isLed, 'body.radius': 6 + Math.round(next() * 12), 'route.margin': Math.round(next() * 4) });
      const metrics = isLed ? [...always, ...clicks] : always;
      const axes = [axis(other), ...(one.startsWith('body.radius') && other.startsWith('body.radius') ? [] : [axis(one)])];
      const sweep = swept({ tuning, axes, metrics });
      for (let cell = 0; cell < sweep.cells; cell++) {
        const read = resolveTuning(sweep.fileAt(cell));
        if (!read.ok) throw new Error('a hole');
        const whole = metricsOf([...runDrills(read.value.parameters)]);
        for (const key of metrics)
          expect(Object.is(sweep.values.get(key)?.[cell], whole[key] ?? Number.NaN), `${seed}: ${key} in ${cell}`).toBe(true);
      }
    }
  });

  it('measures a metric by itself as among all others, bit for bit, also where runs end early and traces are overwritten', () => {
    const wanted = [
      ...['riseTime', 'stopDistance', 'reverseTime', 'turn90Radius', 'sprintTime', 'sprintDistance', 'recoverTime', 'edgeOvershoot'],
      ...['edgeTremble', 'tightestGap', 'slideKept(30)', 'slideKept(45)', 'cornerTremble', 'seamCatches', 'sprintShare'],
    ] as MetricKey[];
    for (const seed of seeds(4, 200)) {
      const next = sequence(seed);
      const one = <T>(of: readonly T[]) => of[Math.floor(next() * of.length)] as T;
      const tuning = tuned({
        'pace.walkSpeed': 40 + Math.round(next() * 260),
        'pace.sprintKey': one(['hold', 'toggle']),
        'ramp.model': one(['linear', 'smooth', 'instant']),
        'contact.response': one(['slide', 'stop']),
        'contact.skin': one([0.01, 0.5]),
        'contact.swept': next() < 0.7,
        'bounds.policy': one(['clamp', 'push', 'none', 'wrap']),
        'body.radius': 4 + Math.round(next() * 20),
        'body.originX': next(),
        'clock.hz': one([30, 60, 144]),
        'stamina.enabled': true,
        'pace.sprintSpeed': 310 + Math.round(next() * 100),
        'stamina.interval': one([0, 0.5]),
        'stamina.emptyEndsSprint': next() < 0.8,
        'stamina.drain': one([0, 10, 40]),
        'stamina.regain': one([0, 15]),
      });
      const metrics = wanted.filter(() => next() < 0.3);
      if (metrics.length === 0) continue;
      const sweep = swept({ tuning, axes: [axis('ramp.decelerate=400,1500')], metrics });
      for (let cell = 0; cell < sweep.cells; cell++) {
        const read = resolveTuning(sweep.fileAt(cell));
        if (!read.ok) continue;
        const whole = metricsOf([...runDrills(read.value.parameters)]);
        for (const key of metrics)
          expect(Object.is(sweep.values.get(key)?.[cell], whole[key] ?? Number.NaN), `${seed}: ${key} in ${cell}`).toBe(true);
      }
    }
  });

  it('drives tapes on the ground as a replay of each by itself, bit for bit, beside drills that overwrite their traces', () => {
    const ground = firstYard('px');
    for (const seed of seeds(2, 60)) {
      const next = sequence(seed);
      const controls = ['right', 'down', 'left', 'up', 'sprint'] as const;
      const tapeNamed = (name: string): Tape => {
        const hz = [30, 60][Math.floor(next() * 2)] as number;
        const events = Array.from({ length: 12 }, (_, i) => {
          const control = controls[Math.floor(next() * controls.length)] as (typeof controls)[number];
          return next() < 0.6 ? { at: i * 9, press: control } : { at: i * 9, release: control };
        });
        return tapeOf({ name, ground: ground.name, scheme: 'steer', hz, ticks: 150, events });
      };
      const tapes = [tapeNamed('One'), tapeNamed('Two')];
      const metrics = ['peakSpeed@1', 'tightestGap', 'travelled@2', 'contacts@1', 'turned@2'] as const;
      const tuning = tuned({ 'body.radius': 6 + Math.round(next() * 8) });
      const sweep = swept({ tuning, axes: [axis('pace.walkSpeed=80:220:3'), axis('clock.hz=30,144')], metrics, ground, tapes });
      for (let cell = 0; cell < sweep.cells; cell++) {
        const read = resolveTuning(sweep.fileAt(cell));
        if (!read.ok) throw new Error('a hole');
        const alone = tapes.map((tape) => traceMetrics(rerun(tape, read.value.parameters, ground).trace, read.value.parameters));
        const value = (key: MetricKey) => sweep.values.get(key)?.[cell];
        expect([value('peakSpeed@1'), value('contacts@1')], `${seed}`).toEqual([alone[0]?.peakSpeed, alone[0]?.contacts]);
        expect([value('travelled@2'), value('turned@2')], `${seed}`).toEqual([alone[1]?.travelled, alone[1]?.turned]);
      }
      const faults = (metrics: readonly MetricKey[], on: typeof ground | null = ground) =>
        sweepFaults({ tuning, axes: [axis('pace.walkSpeed=80:220:3')], metrics, targets: [], ground: on, tapes }).join();
      expect(faults(['peakSpeed@3'])).toBe('peakSpeed@3: found 2 tapes, expected 3');
      expect(faults(['tightestGap@1'])).toMatch(/^tightestGap@1: found no such metric of a tape, expected one of riseTime,/);
      expect(faults(['peakSpeed@1'], null)).toMatch(/needs a ground/);
    }
  });

  it('is the same whoever measures its cells, in whatever order, and a chunk that comes twice counts once', () => {
    const definition = {
      tuning: tuned(),
      axes: [axis('pace.walkSpeed=60:320:5'), axis('ramp.decelerate=300:4800:4:log')],
      metrics: ['stopDistance', 'riseTime'] as const,
      targets: [],
      ground: null,
    };
    const whole = swept(definition);
    for (const seed of seeds(3, 40)) {
      const next = sequence(seed);
      const parts = new Sweep(definition);
      const workers = [new Sweep(definition), new Sweep(definition)];
      const chunks: SweepChunk[] = [];
      for (let cells = parts.next(3); cells.length > 0; cells = parts.next(1 + Math.floor(next() * 4)))
        chunks.push((workers[Math.floor(next() * 2)] as Sweep).measure(cells));
      for (const chunk of [...chunks, ...chunks].sort(() => next() - 0.5)) parts.take(chunk);
      expect(parts.done).toBe(parts.cells);
      for (const [key, values] of whole.values) expect(parts.values.get(key)).toEqual(values);
    }
  });

  it('shows a coarser cell in place of each that is not measured yet', () => {
    const sweep = new Sweep({
      tuning: tuned(),
      axes: [axis('pace.walkSpeed=60:320:9'), axis('ramp.decelerate=300:4800:7:log')],
      metrics: ['stopTime'],
      targets: [],
      ground: null,
    });
    expect(sweep.standIn(30)).toBe(-1);
    while (sweep.run(1)) {
      for (let cell = 0; cell < sweep.cells; cell++) {
        const own = sweep.standIn(cell);
        expect(sweep.isDone(own)).toBe(true);
        if (sweep.isDone(cell)) expect(own).toBe(cell);
        expect(own % 9 <= cell % 9 && Math.floor(own / 9) <= Math.floor(cell / 9)).toBe(true);
      }
    }
    expect(Array.from({ length: sweep.cells }, (_, cell) => sweep.standIn(cell))).toEqual(
      Array.from({ length: sweep.cells }, (_, cell) => cell),
    );
  });

  it('finds the same places that meet all targets, whether it stops at the first missed one or not', () => {
    for (const seed of seeds(3, 60)) {
      const next = sequence(seed);
      const axes = [axis(`pace.walkSpeed=${60 + next() * 60}:${200 + next() * 100}:5`), axis('ramp.decelerate=300:4800:4:log')];
      const band = (low: number, high: number) => ({ min: low + (next() * (high - low)) / 3, max: high - (next() * (high - low)) / 3 });
      const targets = [
        { metric: 'stopDistance', ...band(0, 20) },
        { metric: 'riseTime', ...band(0, 0.5) },
        { metric: 'reverseOvershoot', ...band(0, 20) },
        { metric: 'slideKept', at: 45, ...band(0.2, 1) },
        { metric: 'stepTime', min: 1 },
      ].filter(() => next() < 0.8);
      const whole = swept({ axes, metrics: ['riseDistance'], targets });
      const brief = swept({ axes, metrics: ['riseDistance'], targets, isMetOnly: true });
      expect(brief.met).toEqual(whole.met);
      expect([...brief.values.keys()]).toEqual(['riseDistance']);
      expect(brief.values.get('riseDistance')).toEqual(whole.values.get('riseDistance'));
    }
  });

  it('as one chunk gives all its values, comparisons and holes to another of the same definition', () => {
    const targets = [{ metric: 'stopDistance', max: 12 }];
    const file = withValue(tuned().file, 'pace.sprintSpeed', { of: 'pace.walkSpeed', times: 3e5 });
    const one = swept({
      tuning: { ...tuned(), file },
      axes: [axis('pace.walkSpeed=1,2,3,1000,4'), axis('ramp.decelerate=300:4800:3')],
      metrics: ['riseTime'],
      targets,
    });
    const other = new Sweep(one.definition);
    other.take(wholeChunk(one));
    expect([other.values, other.met, other.done]).toEqual([one.values, one.met, 15]);
    expect(other.holes).toEqual(one.holes);
    expect(one.holes.length).toBe(6);
  });

  it('has holes where there is no valid tuning, with the reason, and goes on', () => {
    const tuning = tuned();
    const file = withValue(tuning.file, 'pace.sprintSpeed', { of: 'pace.walkSpeed', times: 3e5 });
    const sweep = swept({ tuning: { ...tuning, file }, axes: [axis('pace.walkSpeed=1,2,200,1000')], metrics: ['riseTime'] });
    expect(sweep.done).toBe(4);
    expect(sweep.holes.map(({ at }) => at[0]).sort()).toEqual([2, 3]);
    expect(sweep.holes[0]?.why).toMatch(/^pace.sprintSpeed: found .* expected/);
  });

  it('compares each cell with the targets, and is written as JSON and CSV with the same values', () => {
    const sweep = swept({
      axes: [axis('ramp.decelerate=300:4800:9:log')],
      metrics: ['stopTime'],
      targets: [{ metric: 'stopDistance', min: 4, max: 9 }],
    });
    const distances = [...(sweep.values.get('stopDistance') as Float64Array)];
    expect([...sweep.met]).toEqual(distances.map((value) => (value >= 4 && value <= 9 ? MET : MISSED)));
    const report = sweepReport(sweep, 1);
    expect(report.metrics['stopDistance']).toEqual([distances]);
    expect(report.met?.[0]?.some((isMet) => isMet)).toBe(true);
    const [head, ...lines] = [...sweepCsv(sweep)];
    expect(head).toBe('ramp.decelerate,stopTime,stopDistance,met\r\n');
    expect(lines.map((line) => Number(line.split(',')[2]))).toEqual(distances);
  });

  it('is refused with metrics, axes and sizes that can’t be swept', () => {
    const faults = (more: Partial<SweepDefinition>) =>
      sweepFaults({
        tuning: tuned(),
        axes: [axis('pace.walkSpeed=60:320:4')],
        metrics: ['stopDistance'],
        targets: [],
        ground: null,
        ...more,
      });
    expect(faults({})).toEqual([]);
    expect(faults({ metrics: [] })).toEqual(['found no metric, expected one or more']);
    expect(faults({ metrics: ['nonsense' as 'stopDistance'] })[0]).toMatch(/^nonsense: found no such metric/);
    expect(faults({ metrics: ['stepTime'] })[0]).toMatch(/^stepTime: doesn’t apply to this tuning: needs /);
    expect(faults({ axes: [] })[0]).toMatch(/found 0 axes/);
    expect(faults({ axes: [axis('pace.walkSpeed=60:320:4'), axis('pace.walkSpeed=60:320:4')] })[0]).toMatch(/on both axes/);
    const long = axis('pace.walkSpeed=60:320:2000');
    expect(faults({ axes: [long, axis('ramp.decelerate=300:4800:2000')] })[0]).toMatch(/found 4000000 cells/);
  });
});
