import { readFileSync } from 'node:fs';
import { XMLParser, XMLValidator } from 'fast-xml-parser';
import { describe, expect, it } from 'vitest';
import { metricsOf, runDrills } from '../measure/drills/run.ts';
import { sequence } from '../testing/sequence.ts';
import type { FileValue } from '../tuning/schema.ts';
import { newTuning, readTuning, withValue } from '../tuning/tuning.ts';
import { type Formula, formulasOf } from './formulas.ts';
import { formulaMath } from './mathml.ts';
import { formulaReference } from './reference.ts';
import { formulasMarkdown, termText } from './text.ts';

function parametersOf(values: Record<string, FileValue>) {
  const read = readTuning(Object.entries(values).reduce((file, [path, value]) => withValue(file, path, value), newTuning('Made')));
  if (!read.ok) throw new Error(JSON.stringify(read.faults[0]));
  return read.value.parameters;
}
const byId = (formulas: readonly Formula[]) => new Map(formulas.map((formula) => [formula.id, formula]));

/** A random tuning over what decides which formulas hold. */
function randomParameters(seed: number) {
  const next = sequence(seed);
  const pick = <T>(...all: T[]): T => all[Math.floor(next() * all.length)] as T;
  const walk = Math.round(60 + next() * 240);
  return parametersOf({
    scheme: pick('steer', 'steer', 'latch', 'turn', 'step'),
    'pace.walkSpeed': walk,
    'pace.sprintSpeed': Math.round(walk * (1.2 + next())),
    'ramp.model': pick('linear', 'linear', 'smooth', 'instant', 'curve'),
    'ramp.accelerate': Math.round(300 + next() * 1500),
    'ramp.decelerate': Math.round(300 + next() * 1500),
    'ramp.brake': Math.round(300 + next() * 1500),
    'ramp.turning': pick('vector', 'heading'),
    'clock.integration': pick('exact', 'trapezoid', 'semiImplicit'),
    'clock.hz': pick(30, 60, 144),
    'stamina.enabled': pick(true, true, false),
    'stamina.drain': 10 + next() * 40,
    'stamina.regain': 5 + next() * 30,
    'stamina.regainDelay': next(),
    'stamina.recoverTo': 20 + next() * 30,
    'stamina.startAt': next() * 15,
    'contact.wallFriction': pick(0, 0.3),
    'input.curve': pick(1, 1.8),
    'facing.directions': pick('2', '4', '8', '16', 'free'),
    'facing.from': pick('movement', 'input'),
    'facing.turn': pick('instant', 'rate', 'smooth'),
    'route.enabled': pick(true, false),
    'camera.follow': pick('locked', 'smooth'),
    'step.diagonals': pick(true, false),
    'step.diagonalTime': pick('same', 'scaled'),
  });
}

describe('the formulas of a tuning', () => {
  it('come to what the drills measure, within a tick', () => {
    const seen = new Set<string>();
    for (let seed = 1; seed <= 60; seed++) {
      const parameters = randomParameters(seed * 131);
      if (parameters.scheme !== 'steer' || parameters.ramp.turning !== 'vector') continue;
      const measured = metricsOf([...runDrills(parameters)]);
      const dt = 1 / parameters.clock.hz;
      for (const { id, value, unit } of formulasOf(parameters, 'px')) {
        const found = measured[id as keyof typeof measured];
        if (found === undefined || value === null) continue;
        seen.add(id);
        // Tolerance: one tick; for a distance, the fastest pace's travel in one; for a ramp, half its ticks.
        const slack =
          unit === 's'
            ? 1.5 * dt
            : unit === 'px'
              ? 1.5 * dt * parameters.pace.sprintSpeed
              : unit === '' && id === 'sprintShare'
                ? 0.03
                : 0.02;
        if (id === 'sprintDistance') expect(found, `${id}, seed ${seed}`).toBeLessThanOrEqual(value + slack);
        else if (id === 'slideKept(45)' && parameters.ramp.model !== 'instant') continue;
        else
          expect(Math.abs(found - value), `${id} of seed ${seed}: ${found} measured, ${value} by the formula`).toBeLessThanOrEqual(slack);
      }
    }
    for (const id of ['riseTime', 'riseDistance', 'stopTime', 'stopDistance', 'reverseTime', 'sprintTime', 'recoverTime'])
      expect(seen, id).toContain(id);
  });

  it('say of a stop what ticks add up to', () => {
    for (let seed = 1; seed <= 60; seed++) {
      const next = sequence(seed * 7);
      const [walk, rate, hz] = [50 + next() * 300, 200 + next() * 2000, [30, 50, 60, 144][seed % 4] as number];
      for (const integration of ['semiImplicit', 'trapezoid', 'exact'] as const) {
        const value = byId(
          formulasOf(
            parametersOf({ 'pace.walkSpeed': walk, 'ramp.decelerate': rate, 'clock.hz': hz, 'clock.integration': integration }),
            'px',
          ),
        ).get('stopDistance')?.value as number;
        let [v, distance] = [walk, 0];
        while (v > 0) {
          const after = Math.max(0, v - rate / hz);
          distance += integration === 'semiImplicit' ? after / hz : integration === 'trapezoid' ? (v + after) / 2 / hz : 0;
          if (integration === 'exact') distance += (v * v - after * after) / (2 * rate);
          v = after;
        }
        // Trapezoids down to rest lose half a tick of what is left in the last one: that is under a tick of a tick's loss.
        expect(Math.abs(value - distance), `${walk} ${rate} ${hz} ${integration}`).toBeLessThanOrEqual(rate / hz / hz);
      }
    }
  });

  it('are worked out from the numbers that they show', () => {
    for (let seed = 1; seed <= 80; seed++)
      for (const { id, term, value } of formulasOf(randomParameters(seed * 17), 'px')) {
        if (value === null) continue;
        const code = termText(term, 'numbers')
          .replaceAll(/ (px\/s²|px\/s|px|°\/s|\/s|s|Hz)(?![\w(])/g, '')
          .replaceAll('°', '')
          .replaceAll('π', 'Math.PI')
          .replaceAll('−', '-')
          .replaceAll('·', '*')
          .replaceAll('²', '**2')
          .replaceAll('^', '**')
          .replaceAll('√', 'Math.sqrt')
          .replaceAll('⌊', 'Math.floor(1e-9+')
          .replaceAll('⌋', ')')
          .replaceAll(/\b(max|min|log2)\(/g, 'Math.$1(')
          .replaceAll('ln(', 'Math.log(')
          .replaceAll(/\b(cos|sin)\(([^)]*)\)/g, 'Math.$1(($2)*Math.PI/180)');
        const shown = new Function(`return ${code}`)() as number;
        // What is shown is rounded to three places.
        expect(Math.abs(shown - value), `${id}: ${code} is ${shown}, not ${value}`).toBeLessThanOrEqual(0.01 + 0.01 * Math.abs(value));
      }
  });

  it('are those alone that hold: of a tuning that steps none of its ramp, of one without stamina none of that', () => {
    const ids = (values: Record<string, FileValue>) => [...byId(formulasOf(parametersOf(values), 'px')).keys()];
    expect(ids({ scheme: 'step' })).toContain('stepTime');
    expect(ids({ scheme: 'step' })).not.toContain('riseTime');
    expect(ids({ 'stamina.enabled': false })).not.toContain('sprintTime');
    expect(ids({ 'stamina.enabled': true })).toContain('sprintTime');
    expect(ids({ 'ramp.model': 'instant' })).not.toContain('riseTime');
    expect(ids({ 'contact.response': 'stop' })).not.toContain('slide');
    expect(ids({ 'ramp.turning': 'heading' })).toContain('turnRadius');
  });
});

describe('formulas as mathematics', () => {
  const parser = new XMLParser({ preserveOrder: true, trimValues: false });
  const textIn = (nodes: unknown): string =>
    (nodes as Record<string, unknown>[])
      .map((node) =>
        Object.entries(node)
          .map(([key, inner]) => (key === '#text' ? String(inner) : key === ':@' ? '' : textIn(inner)))
          .join(''),
      )
      .join('');

  it('are well-formed MathML with the words, the numbers and the result', () => {
    for (let seed = 1; seed <= 40; seed++)
      for (const formula of formulasOf(randomParameters(seed * 53), 'px')) {
        const math = formulaMath(formula);
        expect(XMLValidator.validate(math), math).toBe(true);
        expect(math).not.toMatch(/NaN|undefined|Infinity|\[object/);
        const words = textIn(parser.parse(math));
        expect(words.startsWith(`${formula.words}=`), words).toBe(true);
        // Every fraction has just two parts.
        for (const fraction of math.split('<mfrac>').slice(1)) expect(fraction.startsWith('<mrow>')).toBe(true);
      }
  });

  it('are safe in a page whatever they are called', () => {
    const [formula] = formulasOf(parametersOf({}), 'px') as [Formula];
    const math = formulaMath({ ...formula, words: '<img src=x onerror="alert(1)">&' });
    expect(math).toContain('&lt;img src=x onerror=&quot;alert(1)&quot;&gt;&amp;');
    expect(XMLValidator.validate(math)).toBe(true);
  });
});

describe('formulas as Markdown', () => {
  it('show each by words, by numbers and by what it comes to', () => {
    const parameters = parametersOf({
      'pace.walkSpeed': 140,
      'ramp.model': 'linear',
      'ramp.accelerate': 900,
      'ramp.decelerate': 1200,
      'clock.integration': 'exact',
    });
    const text = formulasMarkdown(formulasOf(parameters, 'px'), 'Formulas');
    expect(text).toContain('## Pace\n');
    expect(text).toContain('- reaches speed after = 0.99 · walk / accelerate = 0.99 · 140 px/s / 900 px/s² = **0.154 s**\n');
    expect(text).toContain('- stops within = walk² / (2 · decelerate) = (140 px/s)² / (2 · 1200 px/s²) = **8.167 px**\n');
    expect(text).toContain('- stick amount = (travel − dead zone) / (outer zone − dead zone)');
  });
});

describe('the reference of the formulas', () => {
  it('is current (./zygopod docs writes it), and holds all formulas of random tunings', () => {
    const text = formulaReference();
    expect(readFileSync(new URL('../../../docs/formulas.md', import.meta.url), 'utf8')).toBe(text);
    for (let seed = 1; seed <= 120; seed++)
      for (const { words, term } of formulasOf(randomParameters(seed * 29), 'px')) {
        const line = `${words} = ${termText(term, 'words')}`;
        expect(text.includes(line), line).toBe(true);
      }
  });
});
