import fc from 'fast-check';
import { getQuickJS } from 'quickjs-emscripten';
import { beforeAll, describe, expect, it } from 'vitest';
import type { Control } from '../tape/controls.ts';
import { Recorder } from '../tape/recorder.ts';
import type { Tape, TapeEvent } from '../tape/tape.ts';
import { openGround, parametersWith } from '../testing/drive.ts';
import { asScript, events, tape, tunings, walled } from '../testing/everyWay.ts';
import { replayAll, traceKeys } from '../testing/replayAll.ts';
import { longTunings, middleOf, tenMinutes } from '../testing/tenMinutes.ts';
import { World } from './world.ts';

const ground = openGround({ start: { x: 500, y: 500 } });

describe('another JavaScript engine', () => {
  let script: string;
  beforeAll(async () => {
    script = await asScript();
  });

  it.each(tunings)('gives the same states bit for bit (%s)', async (_, values) => {
    const parameters = parametersWith(values);
    const engine = (await getQuickJS()).newContext();
    const call = `${script}; JSON.stringify(core.replayAll(${JSON.stringify(parameters)}, ${JSON.stringify(walled)}, ${JSON.stringify(tape)}))`;
    const answer = engine.unwrapResult(engine.evalCode(call));
    const hashes = JSON.parse(engine.getString(answer)) as string[];
    answer.dispose();
    engine.dispose();
    expect(hashes).toHaveLength(6);
    expect(hashes).toEqual(replayAll(parameters, walled, tape));
  });

  it.each(longTunings)(
    'drives ten minutes and a minute cut from their middle bit for bit the same (%s)',
    async (_, values) => {
      const parameters = parametersWith(values);
      const tape = tenMinutes(71);
      const engine = (await getQuickJS()).newContext();
      engine.unwrapResult(engine.evalCode(script)).dispose();
      const keys = (one: Tape) => {
        const call = `JSON.stringify(core.traceKeys(${JSON.stringify(parameters)}, ${JSON.stringify(walled)}, ${JSON.stringify(one)}))`;
        const answer = engine.unwrapResult(engine.evalCode(call));
        const found = JSON.parse(engine.getString(answer)) as string[];
        answer.dispose();
        return found;
      };
      expect(keys(tape)).toEqual(traceKeys(parameters, walled, tape));
      const middle = middleOf(tape, parameters);
      expect(keys(middle)).toEqual(traceKeys(parameters, walled, middle));
      engine.dispose();
    },
    180_000,
  );
});

describe('a world', () => {
  it('replays what was recorded, bit for bit', () => {
    const control = fc.constantFrom('up', 'down', 'left', 'right', 'sprint', 'sprintToggle', 'autoRun', 'action') as fc.Arbitrary<Control>;
    const part = fc.double({ min: -1, max: 1, noNaN: true });
    const event = fc.oneof(
      fc.record({ press: control }),
      fc.record({ release: control }),
      fc.record({ stick: fc.tuple(part, part) }),
      fc.record({ swipe: fc.constantFrom('up', 'left') as fc.Arbitrary<'up'> }),
    );
    fc.assert(
      fc.property(fc.array(fc.array(event, { maxLength: 3 }), { maxLength: 60 }), fc.constantFrom(...tunings), (script, [, values]) => {
        const parameters = parametersWith({ ...values, 'pace.sprintKey': 'both', 'pace.autoRun': 'walk' });
        const recorder = new Recorder();
        const world = new World(parameters, ground, 200);
        for (const said of script) {
          for (const one of said) recorder.push(one);
          world.tick(recorder.next());
        }
        if (script.length === 0) return;
        const again = new World(parameters, ground, 200);
        // The hash comes at every hundredth tick: go on to there. The second of two quick taps waits for a tick after the script.
        for (let tick = script.length; tick % 100 !== 0; tick++) world.tick(recorder.next());
        const replayed = replayAll(parameters, ground, recorder.tape('Copy', 60));
        expect(world.hash()).toBe(replayed.at(-1));
        expect(again.hash()).not.toBe(world.hash());
      }),
      // Two taps in the last tick of the script, which a tape cut there would lack.
      { numRuns: 100, examples: [[[[{ press: 'right' }, { release: 'right' }, { press: 'up' }]], tunings[0] as (typeof tunings)[number]]] },
    );
  });

  it('gives mirrored motion for mirrored input', () => {
    const mirror = (e: TapeEvent): TapeEvent =>
      'press' in e && e.press === 'left'
        ? { ...e, press: 'right' }
        : 'press' in e && e.press === 'right'
          ? { ...e, press: 'left' }
          : 'release' in e && e.release === 'left'
            ? { ...e, release: 'right' }
            : 'release' in e && e.release === 'right'
              ? { ...e, release: 'left' }
              : 'stick' in e
                ? { ...e, stick: [-e.stick[0], e.stick[1]] }
                : e;
    // Not with heading turning: at an exact half turn it has to choose a side.
    for (const [, values] of tunings.slice(0, 2)) {
      const parameters = parametersWith({ ...values, 'facing.start': 90, 'bounds.policy': 'none' });
      const run = (taped: TapeEvent[]) => {
        const world = new World(parameters, { ...ground, start: { x: 0, y: 0 } }, 700);
        const recorder = new Recorder();
        for (let tick = 0; tick < 600; tick++) {
          for (const { at, ...one } of taped) if (at === tick) recorder.push(one as never);
          world.tick(recorder.next());
        }
        return world.body;
      };
      const plain = run(events);
      const mirrored = run(events.map(mirror));
      expect(mirrored.x).toBeCloseTo(-plain.x, 9);
      expect(mirrored.y).toBeCloseTo(plain.y, 9);
    }
  });

  it('goes on the same after save and restore', () => {
    const parameters = parametersWith({ 'stamina.enabled': true });
    const world = new World(parameters, ground, 700);
    const recorder = new Recorder();
    recorder.push({ press: 'right' });
    recorder.push({ press: 'sprint' });
    for (let i = 0; i < 50; i++) world.tick(recorder.next());
    const saved = world.save();
    for (let i = 0; i < 50; i++) world.tick(recorder.next());
    const end = world.hash();
    world.restore(saved);
    for (let i = 0; i < 50; i++) world.tick(recorder.next());
    expect(world.hash()).toBe(end);
  });
});
