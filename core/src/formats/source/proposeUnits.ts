import type { Quantity } from '../../tuning/catalogue/specs.ts';
import { shortNumber } from '../../tuning/expression.ts';
import { numberSpec } from '../../tuning/tuning.ts';
import { type GameUnits, plainUnits } from '../handOff/units.ts';
import { factorFor, ownUnitOf, type Terms } from './convert.ts';
import { namesOf } from './pasted.ts';
import type { Placed } from './placing.ts';
import type { Source } from './source.ts';
import { worthOf } from './take.ts';

/** Units that a source is likely to be in, with what speaks for them. */
export interface ProposedUnits {
  terms: Terms;
  evidence: string[];
  /** No evidence for others: no question is needed. */
  isSure: boolean;
  /** Outcomes beyond belief in these units, in words. */
  doubts: string[];
}

/** The units that remarks and names state. */
interface Said {
  length: 'px' | 'm' | 'tiles' | null;
  tile: number | null;
  metre: number | null;
  time: 'second' | 'frame' | null;
  hz: number | null;
  angle: 'degree' | 'radian' | null;
  evidence: string[];
}

const number = '(\\d+(?:\\.\\d+)?)';
const tileIs: readonly RegExp[] = [
  new RegExp(`${number}\\s*(?:px|pixels?)[\\s-]*(?:per\\s+|a\\s+|/\\s*)?(?:tiles?|cells?)`, 'i'),
  new RegExp(`(?:tiles?|cells?)(?:\\s+(?:size|of|are|is|=|:))*\\s*(?:=|:|of|are|is)?\\s*${number}\\s*(?:px|pixels?)`, 'i'),
  new RegExp(`(?:tile|cell)(?:[_ ]?size)?\\s*[=:]\\s*${number}`, 'i'),
];
const metreIs: readonly RegExp[] = [
  new RegExp(`${number}\\s*(?:px|pixels?)\\s*(?:per|a|an|/|=)\\s*(?:m\\b|metres?|meters?|units?)`, 'i'),
  new RegExp(`(?:1\\s*m|metre|meter|unit)\\s*(?:=|is)\\s*${number}\\s*(?:px|pixels?)`, 'i'),
  new RegExp(`\\bppu\\b\\s*[=:]?\\s*${number}`, 'i'),
];
const rateIs = new RegExp(`(?:@|at)?\\s*${number}\\s*(?:fps|hz|frames?\\s*(?:per|a|/)\\s*s(?:ec(?:ond)?)?)\\b`, 'i');

const firstOf = (patterns: readonly RegExp[], text: string): number | null => {
  for (const pattern of patterns) {
    const found = pattern.exec(text)?.[1];
    if (found && Number(found) > 0) return Number(found);
  }
  return null;
};

/** How often remarks, names and units say each of several things. */
function count(texts: readonly string[], pattern: RegExp): number {
  return texts.filter((text) => pattern.test(text)).length;
}

function saidBy(placed: readonly Placed[], { remarks, text }: Pick<Source, 'remarks' | 'text'>): Said {
  const evidence: string[] = [];
  const numbers = placed.filter(({ found }) => found.kind === 'number');
  const texts = [
    ...remarks,
    ...numbers.map(({ found }) => found.remark),
    ...placed.filter(({ found }) => found.kind === 'word').map(({ found }) => String(found.value)),
  ];
  const all = texts.join('\n');
  const named = (pattern: RegExp) => numbers.find(({ found }) => pattern.test(found.own.replace(/[._-]/g, '')))?.found;
  const tileNumber =
    named(/^(?:k|m)?(?:tile|cell|grid)(?:size|width|px|pixels?)?$/i) ?? numbers.find(({ path }) => path === 'step.cell')?.found;
  const metreNumber = named(/^(?:k|m)?(?:ppu|ppm|pixelsper(?:unit|metre|meter)|(?:metre|meter)(?:size|px)?)$/i);
  const rateNumber =
    numbers.find(({ path, as }) => path === 'clock.hz' && !as)?.found ?? named(/^(?:k|m)?(?:fps|hz|framerate|tickrate|ticks?persecond)$/i);
  const dtNumber = numbers.find(({ path, as }) => path === 'clock.hz' && as === 'inverse')?.found;
  const owns = numbers.map(({ found }) => ownUnitOf(found));
  const tile =
    firstOf(tileIs, all) ??
    firstOf(tileIs.slice(0, 1), text) ??
    (tileNumber && Number(tileNumber.value) >= 4 ? Number(tileNumber.value) : null);
  const metre = firstOf(metreIs, all) ?? firstOf(metreIs.slice(0, 1), text) ?? (metreNumber ? Number(metreNumber.value) : null);
  const fps = rateIs.exec(all)?.[1];
  const hz = fps
    ? Number(fps)
    : rateNumber
      ? Number(rateNumber.value)
      : dtNumber && Number(dtNumber.value) > 0
        ? Math.round(1 / Number(dtNumber.value))
        : null;
  // What a tile or a metre is in pixels says nothing of the numbers.
  const bare = [...tileIs.slice(0, 2), ...metreIs].reduce((text, pattern) => text.replace(new RegExp(pattern, 'gi'), ' '), all);
  const votes = {
    tiles: count(bare.split('\n'), /\b(?:tiles?|cells?)\b/i) + owns.filter((one) => one.length === 'tiles').length,
    m: count(bare.split('\n'), /\bmet(?:re|er)s?\b|\bm\s*\/\s*s/i) + owns.filter((one) => one.length === 'm').length,
    px: count(bare.split('\n'), /\bpx\b|\bpixels?\b/i) + owns.filter((one) => one.length === 'px').length,
  };
  const length = (['tiles', 'm', 'px'] as const).filter((one) => votes[one] > 0).sort((a, b) => votes[b] - votes[a])[0] ?? null;
  const perFrame =
    count(texts, /(?:per|\/|a)\s*(?:frame|tick)s?\b/i) +
    count(
      numbers.map(({ found }) => `${found.own} ${found.unit}`),
      /per_?(?:frame|tick)|\/(?:frame|tick)/i,
    );
  const perSecond = count(texts, /(?:per|\/|a)\s*s(?:ec(?:ond)?s?)?\b|\bseconds?\b/i) + owns.filter(({ time }) => time === 'second').length;
  const time = perFrame > perSecond ? 'frame' : perSecond > 0 ? 'second' : perFrame > 0 ? 'frame' : null;
  const radians = owns.filter(({ angle }) => angle === 'radian').length + count(texts, /\bradians?\b|\brad\b/i);
  const degrees = owns.filter(({ angle }) => angle === 'degree').length + count(texts, /\bdegrees?\b|\bdeg\b|°/i);
  if (length) evidence.push(length === 'm' ? 'it mentions metres' : length === 'tiles' ? 'it mentions tiles' : 'it mentions pixels');
  if (tile !== null) evidence.push(`a tile is ${shortNumber(tile)} px`);
  if (metre !== null) evidence.push(`a metre is ${shortNumber(metre)} px`);
  if (time) evidence.push(time === 'frame' ? 'it mentions frames' : 'it mentions seconds');
  if (hz !== null) evidence.push(`${shortNumber(hz)} frames a second`);
  if (radians !== degrees) evidence.push(radians > degrees ? 'it mentions radians' : 'it mentions degrees');
  return { length, tile, metre, time, hz, angle: radians > degrees ? 'radian' : degrees > radians ? 'degree' : null, evidence };
}

/** A figure that hardly depends on the game: what is usual, and the factor up and down that still is. */
interface Usual {
  words: string;
  usual: number;
  spread: number;
}

/** Outcomes of a tuning, by what games are like: from the numbers that are placed, in px or m and seconds. */
const usuals = {
  px: { radius: { words: 'wide', usual: 22, spread: 2.2 }, walk: { words: 'px/s', usual: 130, spread: 2.2 } },
  m: { radius: { words: 'wide', usual: 0.8, spread: 1.7 }, walk: { words: 'm/s', usual: 3.2, spread: 1.9 } },
} as const;
const widths: Usual = { words: 'body widths a second', usual: 5.5, spread: 1.9 };
const rise: Usual = { words: 's to full speed', usual: 0.16, spread: 2.6 };
const turn: Usual = { words: '° a second', usual: 450, spread: 2.4 };

/** How far off from the usual, in its spreads (log scale). */
const off = (value: number, { usual, spread }: { usual: number; spread: number }) =>
  value > 0 ? Math.log(value / usual) / Math.log(spread) : 9;

interface Outcome {
  off: number;
  words: string;
}

/** Plausibility of the placed numbers in some units, against usual values. */
function outcomesOf(placed: readonly Placed[], terms: Terms): Outcome[] {
  const names = namesOf(placed, terms);
  const inTuning = (path: string, quantity: Quantity): number | null => {
    const one = placed.find((other) => other.path === path && (!other.as || other.as === 'half'));
    const worth = one && worthOf(one.found, names);
    if (!one || !worth) return null;
    const value = worth.times(factorFor(worth, quantity, one.found, terms)).toNumber();
    return one.as === 'half' ? value / 2 : value;
  };
  const walk = inTuning('pace.walkSpeed', 'speed') ?? inTuning('pace.sprintSpeed', 'speed');
  const radius = inTuning('body.radius', 'length');
  const width = radius !== null ? 2 * radius : inTuning('body.width', 'length');
  const rates = ['ramp.accelerate', 'ramp.decelerate', 'ramp.brake']
    .map((path) => inTuning(path, 'acceleration'))
    .filter((value) => value !== null);
  const turning = inTuning('facing.rate', 'angularSpeed') ?? inTuning('ramp.turnRate', 'angularSpeed');
  const { fileUnit } = terms;
  const outcomes: Outcome[] = [];
  if (width !== null) outcomes.push({ off: off(width, usuals[fileUnit].radius), words: `a body ${shortNumber(width)} ${fileUnit} wide` });
  if (walk !== null) outcomes.push({ off: off(walk, usuals[fileUnit].walk), words: `${shortNumber(walk)} ${fileUnit}/s` });
  if (walk !== null && width !== null)
    outcomes.push({ off: off(walk / width, widths), words: `${shortNumber(walk / width)} ${widths.words}` });
  if (walk !== null)
    for (const rate of rates) outcomes.push({ off: off(walk / rate, rise), words: `${shortNumber(walk / rate)} ${rise.words}` });
  if (turning !== null) outcomes.push({ off: off(turning, turn), words: `${shortNumber(turning)}${turn.words}` });
  return outcomes;
}

/** Spreads from the usual beyond which an outcome is beyond belief. */
const BELIEF = 2.6;
/** How much likelier (sum of half the squares of spreads) units have to be than all others that nothing speaks against, to need no question. */
const MARGIN = 3;

const cost = (outcomes: readonly Outcome[]) => outcomes.reduce((sum, { off: far }) => sum + Math.min(18, (far * far) / 2), 0);

const unbelievable = (outcomes: readonly Outcome[]) => outcomes.filter(({ off: far }) => Math.abs(far) > BELIEF).map(({ words }) => words);

/** Implausible results of some units, in words: `a body 0.8 px wide`. */
export const doubtsIn = (placed: readonly Placed[], terms: Terms): string[] => unbelievable(outcomesOf(placed, terms));

/** Proposes the units of a source: what it says goes before what is plausible, and what is neither said nor the only plausible has to be confirmed. */
export function proposeUnits(placed: readonly Placed[], source: Pick<Source, 'remarks' | 'text'>): ProposedUnits {
  const said = saidBy(placed, source);
  const tile = said.tile ?? plainUnits.tile;
  const lengths = said.length ? [said.length] : (['px', 'tiles', 'm'] as const);
  const times = said.time ? [said.time] : (['second', 'frame'] as const);
  const angles = said.angle ? [said.angle] : (['degree', 'radian'] as const);
  const candidates = lengths.flatMap((length) =>
    times.flatMap((time) =>
      angles.map((angle) => {
        const units: GameUnits = {
          ...plainUnits,
          length,
          tile,
          metre: said.metre ?? plainUnits.metre,
          time,
          hz: said.hz ?? plainUnits.hz,
          angle,
        };
        const terms: Terms = { units, fileUnit: length === 'm' && said.metre === null ? 'm' : 'px', strictly: false };
        const outcomes = outcomesOf(placed, terms);
        // Plain pixels, seconds and degrees need less to speak for them.
        const plain =
          (length === 'px' ? 0 : length === 'tiles' ? (said.tile !== null ? 0.7 : 1.5) : said.tile !== null ? 3 : 1.5) +
          (time === 'second' ? 0 : 1.2) +
          (angle === 'degree' ? 0 : 0.2);
        return { terms, outcomes, cost: cost(outcomes) + plain };
      }),
    ),
  );
  candidates.sort((a, b) => a.cost - b.cost);
  const [best, ...others] = candidates as [(typeof candidates)[number], ...typeof candidates];
  const differs = ({ terms: { units } }: (typeof candidates)[number]) =>
    units.length !== best.terms.units.length ||
    units.time !== best.terms.units.time ||
    (units.angle !== best.terms.units.angle && placed.some(isTurned));
  const rival = others.find(differs);
  const { units } = best.terms;
  const needsTile = units.length === 'tiles' && said.tile === null;
  const needsRate = units.time === 'frame' && said.hz === null;
  const doubts = unbelievable(best.outcomes);
  const isSure = !needsTile && !needsRate && doubts.length === 0 && (!rival || rival.cost - best.cost > MARGIN);
  const evidence = [...said.evidence];
  if (!said.length || !said.time) evidence.push(...best.outcomes.slice(0, 3).map(({ words }) => words));
  return { terms: best.terms, evidence, isSure, doubts };
}

const isTurned = ({ path, found }: Placed): boolean =>
  path !== null && found.kind === 'number' && /^angular|^angle/.test(numberSpecOf(path)) && ownUnitOf(found).angle === null;
const numberSpecOf = (path: string): string => {
  try {
    return numberSpec(path).quantity;
  } catch {
    return '';
  }
};
