import { describe, expect, it } from 'vitest';
import { seeds } from '../../testing/campaign.ts';
import { sequence } from '../../testing/sequence.ts';
import type { GameUnits } from '../handOff/units.ts';
import { pastedTuning } from './pasted.ts';
import { placeNumbers } from './placing.ts';
import { proposeUnits } from './proposeUnits.ts';
import { readSource } from './source.ts';

interface Known {
  code: string;
  units: Pick<GameUnits, 'length' | 'time' | 'tile' | 'hz' | 'angle'>;
  /** Something in it says, or leaves no doubt, which units it is in. */
  isStated: boolean;
  walk: number;
}

const short = (value: number) => Number(value.toPrecision(3));

/** A game's numbers in units that are known: made up, with the habits in which games say them, or don't. */
function known(seed: number): Known {
  const next = sequence(seed * 2_654_435_761);
  const pick = <T>(...all: T[]): T => all[Math.floor(next() * all.length)] as T;
  const length = pick<GameUnits['length']>('px', 'px', 'tiles', 'tiles', 'm');
  const time = pick<GameUnits['time']>('second', 'second', 'second', 'frame');
  const [tile, hz, angle] = [pick(16, 24, 32, 48, 64), pick(30, 50, 60, 120), pick<GameUnits['angle']>('degree', 'degree', 'radian')];
  // A body's width is 0.6 to 0.9 of a tile, or of 24 px; it goes 3.5 to 8 of them a second.
  const width = (length === 'px' ? 24 : length === 'm' ? 0.8 : tile) * (0.6 + 0.3 * next());
  const walk = width * (3.5 + 4.5 * next());
  const per = (length === 'tiles' ? 1 / tile : 1) * (time === 'frame' ? 1 / hz : 1);
  const accel = walk / (0.08 + 0.25 * next());
  const rate = time === 'frame' ? 1 / hz : 1;
  const turns = next() < 0.4;
  const degrees = 200 + 500 * next();
  const numbers: [string[], number][] = [
    [['walk', 'speed'], walk * per],
    [['sprint', 'speed'], walk * (1.4 + 0.5 * next()) * per],
    [['acceleration'], accel * per * rate],
    [['deceleration'], accel * (1 + next()) * per * rate],
    [['radius'], (width / 2) * (length === 'tiles' ? 1 / tile : 1)],
    ...(turns ? [[['turn', 'rate'], degrees * (angle === 'radian' ? Math.PI / 180 : 1) * rate] as [string[], number]] : []),
  ];
  const name = pick(
    (words: string[]) => words.join('_'),
    (words: string[]) => words.join('_').toUpperCase(),
    (words: string[]) => words.map((word, i) => (i ? (word[0] as string).toUpperCase() + word.slice(1) : word)).join(''),
  );
  const [remark, line, head, foot] = pick<[string, (n: string, v: string) => string, string, string]>(
    ['//', (n, v) => `const float ${n} = ${v}f;`, '', ''],
    ['--', (n, v) => `  ${n} = ${v},`, 'player = {', '}'],
    ['#', (n, v) => `${n} = ${v}`, '', ''],
    ['#', (n, v) => `  ${n}: ${v}`, 'player:', ''],
    ['//', (n, v) => `  "${n}": ${v},`, '{', '}'],
  );
  const constant = (own: string, value: number) => line(name([own, ...(own === 'tile' ? ['size'] : [])]), String(value));
  const lengthWords = { px: pick('pixels', 'px'), tiles: pick('tiles', 'cells'), m: pick('metres', 'meters') }[length];
  const timeWords = time === 'frame' ? pick('per frame', 'a frame') : pick('seconds', 'per second');
  const tileWords = length === 'tiles' ? pick(`, ${tile} px tiles`, `; tiles of ${tile} px`, `, a tile is ${tile} px`) : '';
  const rateWords = time === 'frame' ? pick(`, ${hz} fps`, ` @${hz}fps`, ` at ${hz} Hz`) : '';
  const turnWords = turns ? (angle === 'radian' ? ', radians' : ', degrees') : '';
  const habit = pick('heading', 'heading', 'heading', 'constants', 'beside', 'none');
  const body = numbers.map(([words, value]) => {
    const unit = words.includes('turn')
      ? `${angle === 'radian' ? 'rad' : 'deg'}/${time === 'frame' ? 'frame' : 's'}`
      : words.includes('radius')
        ? lengthWords
        : `${lengthWords}/${time === 'frame' ? 'frame' : 's'}${words[0]?.endsWith('ation') ? '^2' : ''}`;
    return line(name(words), String(short(value))) + (habit === 'beside' ? ` ${remark} ${unit}` : '');
  });
  const constants = [
    ...(length === 'tiles' && habit !== 'heading' ? [constant('tile', tile)] : []),
    ...(time === 'frame' && habit !== 'heading' ? [constant('fps', hz)] : []),
  ];
  const heading = habit === 'heading' ? [`${remark} ${lengthWords}, ${timeWords}${tileWords}${rateWords}${turnWords}`] : [];
  const isStated = habit === 'heading' || habit === 'beside' || (length !== 'm' && time === 'second');
  return {
    code: [...heading, head, ...(habit === 'none' ? [] : constants), ...body, foot].filter(Boolean).join('\n'),
    units: { length, time, tile, hz, angle: turns ? angle : 'degree' },
    isStated: isStated && !(habit === 'none' && length === 'tiles'),
    walk,
  };
}

describe('the units of a source', () => {
  it('are proposed rightly where there is evidence, and never wrong without a question: 300 sources in known units', () => {
    let [right, all] = [0, 0];
    const wrong: string[] = [];
    for (const seed of seeds(300, 3000)) {
      const { code, units, isStated, walk } = known(seed);
      const source = readSource(code);
      const placed = placeNumbers(source.found);
      const { terms, isSure, evidence } = proposeUnits(placed, source);
      const pasted = pastedTuning('Known', placed, terms).values['pace.walkSpeed'];
      // What the walk comes to says it all: px or m, and the tile, the rate.
      const isRight = terms.units.length === units.length && Math.abs((pasted as number) / walk - 1) < 0.02;
      const isTurned =
        !placed.some(({ path }) => path === 'facing.rate') ||
        Math.abs(turnOf(placed, terms) - turnWanted(code, units)) < 0.03 * turnWanted(code, units);
      if (isStated) {
        all++;
        if (isRight && isTurned) right++;
        else wrong.push(`${JSON.stringify(units)} read as ${JSON.stringify(terms.units)} (${evidence.join('; ')}):\n${code}`);
      }
      if (isSure)
        expect(
          isRight && isTurned,
          `taken without a question: ${JSON.stringify(units)} as ${JSON.stringify(terms.units)} (${evidence.join('; ')}):\n${code}`,
        ).toBe(true);
    }
    expect(all).toBeGreaterThan(200);
    expect(right / all, wrong.slice(0, 5).join('\n\n')).toBeGreaterThanOrEqual(0.95);
  });
});

function turnOf(placed: ReturnType<typeof placeNumbers>, terms: ReturnType<typeof proposeUnits>['terms']): number {
  return pastedTuning('Turn', placed, terms).values['facing.rate'] as number;
}

function turnWanted(code: string, { time, hz, angle }: Known['units']): number {
  const value = Number(/turn_?rate"?\s*(?:=|:)\s*([\d.]+)/i.exec(code)?.[1]);
  return value * (angle === 'radian' ? 180 / Math.PI : 1) * (time === 'frame' ? hz : 1);
}
