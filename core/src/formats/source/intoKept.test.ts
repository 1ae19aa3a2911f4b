import { describe, expect, it } from 'vitest';
import { campaign } from '../../testing/campaign.ts';
import { sequence } from '../../testing/sequence.ts';
import { fragmentsOf } from '../../testing/sources/corpus.ts';
import { heldIn } from '../../tuning/catalogue/specs.ts';
import { isLink } from '../../tuning/links.ts';
import type { TuningFile } from '../../tuning/schema.ts';
import { numberAt, numberSpec, rawAt, resolveTuning, type Tuning, withValue } from '../../tuning/tuning.ts';
import { intoKept, takeByHand } from './intoKept.ts';
import { type KeptSource, keepSource, keptSource, placeKept, termsOfKept } from './kept.ts';
import { pastedTuning } from './pasted.ts';
import { type Placed, placeNumbers } from './placing.ts';
import { proposeUnits } from './proposeUnits.ts';
import { readSource } from './source.ts';

const fragments = (['compiled', 'scripts', 'data'] as const).flatMap(fragmentsOf);

/** A third of them in the suite, all with `--long`. */
const share = fragments.map((one, i) => ({ ...one, i })).filter(({ i }) => i % campaign(3, 1) === 0);

function resolved(file: TuningFile): Tuning {
  const read = resolveTuning(file);
  if (!read.ok) throw new Error(JSON.stringify(read.faults));
  return read.value;
}

/** A source as the page keeps it, all its guesses confirmed, and the tuning that it comes to. */
function kept(code: string): { source: KeptSource; tuning: Tuning; placed: Placed[] } {
  const read = readSource(code);
  const placed = placeNumbers(read.found).map((one): Placed => ({ ...one, isGuess: false }));
  const { terms } = proposeUnits(placed, read);
  const source = keepSource('hero', code, placed, terms);
  return { source, placed, tuning: resolved(pastedTuning('Kept', placed, terms).file) };
}

function changed(tuning: Tuning, path: string, by: number): Tuning {
  const raw = rawAt(tuning.file, path);
  if (isLink(raw)) return tuning;
  const read = resolveTuning(withValue(tuning.file, path, heldIn(numberSpec(path), numberAt(tuning.parameters, path) * by)));
  return read.ok ? read.value : tuning;
}

const numbersIn = (placed: readonly Placed[]) =>
  placed.flatMap((one) => (one.path !== null && one.says === undefined && one.found.kind === 'number' ? [{ ...one, path: one.path }] : []));

describe('a source that is kept with its tuning', () => {
  it('is a good one, reads as it was placed, and is itself again where nothing changed', () => {
    for (const { title, code } of fragments) {
      const { source, tuning, placed } = kept(code);
      expect(keptSource.parse(JSON.parse(JSON.stringify(source))), title).toEqual(source);
      expect(
        placeKept(source, code).map(({ path }) => path),
        title,
      ).toEqual(placed.map(({ path }) => path));
      const into = intoKept(source, tuning);
      expect([into.text, into.edits, into.missing], title).toEqual([code, [], []]);
    }
  });

  it('shows each line beside its new one, and taken as it is then needs no change any more', () => {
    let edits = 0;
    for (let round = 1; round <= campaign(1, 6); round++)
      for (const { i, title, code } of share) {
        const next = sequence(round * 104_729 + i);
        const { source, tuning, placed } = kept(next() < 0.3 ? code.replaceAll('\n', '\r\n') : code);
        const chosen = numbersIn(placed)
          .sort(() => next() - 0.5)
          .slice(0, 3);
        const after = chosen.reduce((one, { path }) => changed(one, path, 0.6 + 0.9 * next()), tuning);
        const into = intoKept(source, after);
        edits += into.edits.length;
        const texts = (side: 'before' | 'after') => into.lines.map((line) => line[side]).filter((line) => line !== null);
        const plain = (text: string) => text.split('\n').map((line) => line.replace(/\r$/, ''));
        expect(texts('before'), title).toEqual(plain(source.text));
        expect(texts('after'), title).toEqual(plain(into.text));
        const again = intoKept(into.next, after);
        expect(again.edits, `${title}\n${into.text}`).toEqual([]);
        // Whoever finds the file as it was written sees nothing that was changed by hand.
        const seen = takeByHand(into.next, { ...into.next, text: into.text }, after.file);
        expect([seen.values, seen.file], title).toEqual([{}, after.file]);
      }
    expect(edits).toBeGreaterThan(share.length);
  });

  it('gives its tuning the numbers that were changed in it by hand, and no other', () => {
    let taken = 0;
    for (const { i, title, code } of share) {
      const next = sequence(15_485_863 + i);
      const { source, tuning, placed } = kept(code);
      // The bench is ahead of the file: what rounding would lose there is kept.
      const ahead = numbersIn(placed).reduce((one, { path }) => changed(one, path, 1 + 0.0003 * next()), tuning);
      const synced = intoKept(source, ahead).next;
      // By hand: the digits of one number, wherever it stands alone.
      const [one] = numbersIn(placeKept(synced, synced.text))
        .filter(
          ({ found, as }) => found.literals.length === 1 && !found.times && !as && /^\d+(\.\d+)?$/.test(found.literals[0]?.text ?? ''),
        )
        .sort(() => next() - 0.5);
      const [literal] = one?.found.literals ?? [];
      if (!one || !literal || Number(literal.text) === 0) continue;
      const typed = literal.text.includes('.')
        ? (Number(literal.text) * 1.5).toFixed(3)
        : String(Math.max(1, Math.round(Number(literal.text) * 1.5)));
      const text = synced.text.slice(0, literal.at) + typed + synced.text.slice(literal.at + literal.text.length);
      const byHand = takeByHand(synced, { ...synced, text }, ahead.file);
      if (byHand.why) continue;
      taken++;
      const paths = Object.keys(byHand.values);
      expect(paths, title).toContain(one.path);
      // Others only where they are computed from it.
      for (const path of paths)
        if (path !== one.path) {
          const other = placeKept(synced, synced.text).find((each) => each.path === path);
          const isDerived =
            other?.found.times || other?.as || (other?.found.literals.length ?? 0) !== 1 || /step\.cell|clock\.hz/.test(one.path);
          expect(Boolean(isDerived) || one.path === 'pace.walkSpeed', `${title}: ${path} changed with ${one.path}`).toBe(true);
        }
      const ratio =
        numberAt(resolved(byHand.file).parameters, one.path) /
        numberAt(resolved(pastedTuning('', placeKept(synced, synced.text), termsOfKept(synced)).file).parameters, one.path);
      expect(ratio, `${title}: ${one.path} ${literal.text} → ${typed}`).toBeCloseTo(Number(typed) / Number(literal.text), 6);
      for (const { path } of numbersIn(placed))
        if (!paths.includes(path)) expect(rawAt(byHand.file, path), `${title}: ${path}`).toEqual(rawAt(ahead.file, path));
    }
    expect(taken).toBeGreaterThan(share.length / 3);
  });

  it('gets lines in its own style for numbers that it does not have; they read as those numbers, and all others stay', () => {
    let lines = 0;
    for (const { title, code } of share) {
      const { source, tuning, placed } = kept(code);
      const changes: [string, number][] = [
        ['ramp.brake', 1234],
        ['stamina.regainDelay', 0.6],
        ['contact.skin', 0.25],
      ];
      const missing = changes.filter(([path]) => !placed.some((one) => one.path === path));
      const after = missing.reduce((one, [path, value]) => {
        const read = resolveTuning(withValue(one.file, path, value));
        return read.ok ? read.value : one;
      }, tuning);
      const wanted = intoKept(source, after).missing.filter(({ line }) => line !== null);
      if (wanted.length === 0) continue;
      const into = intoKept({ ...source, added: wanted.map(({ path }) => path) }, after);
      lines += into.missing.filter(({ isAdded }) => isAdded).length;
      // Without the added lines it is the very source.
      const old = into.lines.filter(({ before }) => before !== null);
      expect(old.map(({ after: line }) => line).join('\n'), title).toBe(code);
      if (isJson(code)) expect(isJson(into.text), `${title}\n${into.text}`).toBe(true);
      const read = pastedTuning('', placeKept(into.next, into.text), termsOfKept(into.next)).values;
      for (const { path } of wanted) {
        const value = numberAt(after.parameters, path);
        expect(Math.abs((read[path] as number) - value), `${title}: ${path}\n${into.text}`).toBeLessThanOrEqual(0.02 * value);
      }
      expect(
        intoKept(into.next, after).missing.filter(({ path }) => wanted.some((one) => one.path === path)),
        title,
      ).toEqual([]);
    }
    expect(lines).toBeGreaterThan(share.length);
  });

  it('writes new lines as a programmer of that file would', () => {
    const cases: [string, string, number, string][] = [
      ['player = {\n  walk_speed = 140,\n  accel = 900, -- quick\n}', 'ramp.brake', 2000, '  brake = 2000,'],
      ['constexpr float kWalkSpeed = 140.5f;\n', 'ramp.brake', 2000, 'constexpr float kBrake = 2000.0f;'],
      ['#define WALK_SPEED 140\n#define ACCELERATE 900', 'ramp.brake', 2000, '#define BRAKE 2000'],
      ['{\n  "walkSpeed": 140,\n  "accelerate": 900\n}', 'ramp.brake', 2000, '  "brake": 2000,'],
      ['walk-speed: 140\n', 'stamina.regainDelay', 0.65, 'stamina-regain-delay: 0.65'],
    ];
    for (const [code, path, value, line] of cases) {
      const { source, tuning } = kept(code);
      const into = intoKept(source, resolved(withValue(tuning.file, path, value)));
      expect(into.missing.find((one) => one.path === path)?.line?.text, code).toBe(line);
    }
    const { source, tuning } = kept('walk_speed = 140\n');
    const named = intoKept(source, resolved(withValue(tuning.file, 'ramp.brake', 2000)), { gameNames: { 'ramp.brake': 'grip' } });
    expect(named.missing[0]?.line?.text).toBe('grip = 2000');
  });

  it('lists what the game does without apart', () => {
    const { source, tuning } = kept('walk_speed = 140\n');
    const after = resolved(withValue(tuning.file, 'ramp.brake', 2000));
    const into = intoKept({ ...source, skipped: ['ramp.brake'] }, after);
    expect([into.missing, into.skipped.map(({ path }) => path)]).toEqual([[], ['ramp.brake']]);
  });
});

function isJson(text: string): boolean {
  try {
    JSON.parse(text);
    return true;
  } catch {
    return false;
  }
}
