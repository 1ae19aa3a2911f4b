import { turnTo } from '../math/angles.ts';
import { LN2, log } from '../math/functions.ts';
import { bodyRadius, bodySize } from '../tuning/body.ts';
import type { Parameters } from '../tuning/catalogue/catalogue.ts';
import { shortNumber } from '../tuning/expression.ts';
import { agreed, ENOUGH, isOff, spansOf } from './evidence.ts';
import { type Phase, phases, type RampSample, type Stage, type SteadySample, stages, type TickByTick } from './tickByTick.ts';

/** Names of what a game may do otherwise than the model. */
export type FindingKind =
  | 'ramp-rate'
  | 'per-frame'
  | 'speed'
  | 'stale-restore'
  | 'drain'
  | 'double-drain'
  | 'regain'
  | 'regain-delay'
  | 'sprint'
  | 'integration'
  | 'centre-clamp'
  | 'edge'
  | 'through-wall'
  | 'stops-at-wall'
  | 'late-facing'
  | 'flipped-facing'
  | Stage;

/** A difference between a game and the model, in words, with the rows in which it shows. */
export interface Finding {
  kind: FindingKind;
  stage: Stage;
  words: string;
  /** The first rows of the spans in which it shows. */
  rows: number[];
  /** The parameter that would make the model the same, and its value in the model's units. */
  mend?: { path: string; value: number };
}

interface Unit {
  /** The ground's unit. */
  unit: string;
  hz: number;
  /** The value of a parameter by the game's own account, in the model's units. */
  declared?: ((path: string) => number | undefined) | undefined;
}

/** Ticks that a span lasts before it counts. */
const LASTS = 3;
/** Share of the facings that are off which one reason must explain. */
const MOST = 0.7;
/** Ticks by which a facing may be late. */
const LATE = 4;

const figure = (value: number, digits = 0) => shortNumber(value, digits);

const verbs: Readonly<Record<Phase, string>> = {
  accelerate: 'Accelerates',
  decelerate: 'Decelerates',
  brake: 'Brakes',
  ease: 'Slows to a walk',
};

function ramps({ ramps: samples }: TickByTick, { ramp }: Parameters, { unit, hz }: Unit): Finding[] {
  const offs: { phase: Phase; rate: number; own: RampSample[] }[] = [];
  const uneven: RampSample[] = [];
  for (const phase of phases) {
    const own = samples.filter((sample) => sample.phase === phase);
    const rate = agreed(own.map((sample) => sample.rate));
    if (rate !== null && (ramp.model !== 'linear' || isOff(rate, ramp[phase]))) offs.push({ phase, rate, own });
    if (rate === null) uneven.push(...own);
  }
  const share = agreed(
    uneven.map((sample) => sample.share),
    2 * ENOUGH,
  );
  const found: Finding[] = [];
  if (share !== null && share < 0.95 && ramp.model !== 'smooth')
    found.push({
      kind: 'per-frame',
      stage: 'velocity',
      words: `Velocity closes ${figure(share * 100)} % of the gap to its target per frame: another frame rate changes the motion`,
      rows: spansOf(uneven.map(({ row }) => row)),
    });
  else if (share !== null && ramp.model === 'smooth') {
    const halfLife = -LN2 / log(1 - share) / hz;
    if (isOff(halfLife, ramp.halfLife))
      found.push({
        kind: 'ramp-rate',
        stage: 'velocity',
        words: `Half-life of the velocity is ${figure(halfLife, 3)} s, not ${figure(ramp.halfLife, 3)} s`,
        rows: spansOf(uneven.map(({ row }) => row)),
        mend: { path: 'ramp.halfLife', value: Number(halfLife.toPrecision(3)) },
      });
  }
  if (ramp.model !== 'linear') return found;
  for (const { phase, rate, own } of offs)
    found.push({
      kind: 'ramp-rate',
      stage: 'velocity',
      words: `${verbs[phase]} at ${figure(rate)} ${unit}/s², not ${figure(ramp[phase])} ${unit}/s²`,
      rows: spansOf(own.map(({ row }) => row)),
      mend: { path: `ramp.${phase}`, value: Number(rate.toPrecision(4)) },
    });
  return found;
}

function speeds({ steady }: TickByTick, { pace }: Parameters, { unit, declared }: Unit): Finding[] {
  const of = (kind: SteadySample['kind']) => {
    const own = steady.filter((sample) => sample.kind === kind);
    // Along an edge that one of both has passed, a speed is another one.
    const factor = agreed(
      own.map(({ speed, aim }) => speed / aim),
      ENOUGH,
      0.35,
    );
    return { own, factor };
  };
  const [before, after, sprint] = [of('walk'), of('walkAfterSprint'), of('sprint')];
  // A game that was never seen to walk before a sprint may always walk so, unless its own number says otherwise.
  const said = (declared?.('pace.walkSpeed') ?? Number.NaN) / pace.walkSpeed;
  const isSaid = after.factor !== null && !isOff(after.factor, said);
  const walk = before.factor !== null ? before : Number.isNaN(said) || isSaid ? after : { own: [], factor: said };
  const found: Finding[] = [];
  const add = (kind: FindingKind, words: string, rows: readonly { row: number }[], mend?: Finding['mend']) =>
    found.push({ kind, stage: 'velocity', words, rows: spansOf(rows.map(({ row }) => row)), ...(mend ? { mend } : {}) });
  const isWalkOff = walk.factor !== null && isOff(walk.factor, 1);
  const speedOf = (factor: number) => Number((factor * pace.walkSpeed).toPrecision(4));
  if (walk.factor !== null && isWalkOff)
    add('speed', `Walks at ${figure(speedOf(walk.factor))} ${unit}/s, not ${figure(pace.walkSpeed)} ${unit}/s`, walk.own, {
      path: 'pace.walkSpeed',
      value: speedOf(walk.factor),
    });
  if (after.factor !== null && walk.factor !== null && isOff(after.factor, walk.factor)) {
    const restored = Number((after.factor * (after.own[0]?.aim ?? 0)).toPrecision(4));
    const walks = figure(speedOf(walk.factor));
    add(
      'stale-restore',
      `Walks at ${figure(restored)} ${unit}/s after a sprint, not ${walks} ${unit}/s: a stale speed is restored`,
      after.own,
      {
        path: 'pace.restoredSpeed',
        value: restored,
      },
    );
  }
  if (sprint.factor !== null && isOff(sprint.factor, 1))
    add(
      'speed',
      `Sprints at ${figure(sprint.factor * pace.sprintSpeed)} ${unit}/s, not ${figure(pace.sprintSpeed)} ${unit}/s`,
      sprint.own,
      { path: 'pace.sprintSpeed', value: Number((sprint.factor * pace.sprintSpeed).toPrecision(4)) },
    );
  return found;
}

function drains({ stamina: samples }: TickByTick, { stamina }: Parameters): Finding[] {
  const found: Finding[] = [];
  const drains = samples.filter(({ model, game }) => model < 0 && game < 0);
  const drain = agreed(drains.map(({ game, model }) => game / model));
  if (drain !== null && isOff(drain, 1)) {
    const rate = Number((drain * stamina.drain).toPrecision(4));
    const isTwice = !isOff(drain, 2);
    found.push({
      kind: isTwice ? 'double-drain' : 'drain',
      stage: 'stamina',
      words: `Stamina drains at ${figure(rate, 1)} /s, not ${figure(stamina.drain, 1)} /s${isTwice ? ': it is drained twice per tick' : ''}`,
      rows: spansOf(drains.map(({ row }) => row)),
      mend: { path: 'stamina.drain', value: rate },
    });
  }
  const regains = samples.filter(({ model, game }) => model > 0 && game > 0);
  const regain = agreed(regains.map(({ game, model }) => game / model));
  if (regain !== null && isOff(regain, 1)) {
    const rate = Number((regain * stamina.regain).toPrecision(4));
    found.push({
      kind: 'regain',
      stage: 'stamina',
      words: `Stamina regains at ${figure(rate, 1)} /s, not ${figure(stamina.regain, 1)} /s`,
      rows: spansOf(regains.map(({ row }) => row)),
      mend: { path: 'stamina.regain', value: rate },
    });
  }
  return found;
}

/** Regains that begin at another time than the model's. */
function delays({ stamina: samples }: TickByTick): Finding[] {
  const early = samples.filter(({ model, game }) => Math.abs(model) < 1e-6 && game > 0);
  const late = samples.filter(({ model, game }) => model > 0 && Math.abs(game) < 1e-6);
  const [more, when] = early.length >= late.length ? [early, 'sooner'] : [late, 'later'];
  const rows = spansOf(more.map(({ row }) => row));
  // Single ticks are rounding.
  if (more.length < 2 * ENOUGH || more.length < LASTS * rows.length) return [];
  return [{ kind: 'regain-delay', stage: 'stamina', words: `Stamina regains ${when} than the model`, rows }];
}

function gaits({ gaits: rows }: TickByTick): Finding[] {
  return [true, false].flatMap((isGame): Finding[] => {
    const own = rows.filter((one) => one.isGame === isGame).map(({ row }) => row);
    if (own.length < ENOUGH) return [];
    const words = isGame ? 'Sprints where the model doesn’t' : 'Doesn’t sprint where the model does';
    return [{ kind: 'sprint', stage: 'velocity', words, rows: spansOf(own) }];
  });
}

function places({ places: samples }: TickByTick, { body, bounds }: Parameters, { unit }: Unit): Finding[] {
  const found: Finding[] = [];
  const add = (kind: FindingKind, words: string, rows: readonly { row: number }[]) =>
    rows.length >= 2 && found.push({ kind, stage: 'place', words, rows: spansOf(rows.map(({ row }) => row)) });
  const edge = samples.filter(({ atEdge }) => atEdge);
  const over = Math.max(0, ...edge.map(({ by }) => by));
  const { width, height } = bodySize(body);
  if (bounds.measure === 'body' && over > 0.85 * (Math.min(width, height) / 2) && over < 1.15 * bodyRadius(body))
    add('centre-clamp', `The edge holds the centre of the body: ${figure(over, 1)} ${unit} of it are outside`, edge);
  else if (over > 0) add('edge', `Ends up to ${figure(over, 1)} ${unit} from where the edge holds the model`, edge);
  const wall = samples.filter(({ atWall, atEdge }) => atWall && !atEdge);
  add(
    'through-wall',
    'Goes through walls that stop the model',
    wall.filter(({ game, model }) => game > 0.95 && model < 0.8),
  );
  add(
    'stops-at-wall',
    'Stops at walls along which the model slides',
    wall.filter(({ game, model }) => game < 0.05 && model > 0.2),
  );
  const free = samples.filter(({ atWall, atEdge }) => !atWall && !atEdge);
  const means = free.filter(({ mean }) => Math.abs(mean - 1) < 1e-3);
  const befores = free.filter(({ before }) => Math.abs(before - 1) < 1e-3);
  if (free.length >= ENOUGH && means.length >= MOST * free.length)
    add('integration', 'Moves by the mean of the velocities before and after a tick, not by the one after it', means);
  else if (free.length >= ENOUGH && befores.length >= MOST * free.length)
    add('integration', 'Moves by the velocity before a tick, not by the one after it', befores);
  return found;
}

function facings({ facings: all, off }: TickByTick): Finding[] {
  const rows = off.facing;
  if (rows.length < ENOUGH) return [];
  const explained = (is: (row: number) => boolean) => rows.filter(is).length >= MOST * rows.length;
  const same = (a: number | undefined, b: number | undefined) => a !== undefined && b !== undefined && Math.abs(turnTo(a, b)) <= 1;
  for (let by = 1; by <= LATE; by++)
    if (explained((row) => same(all[row]?.game, all[row - by]?.model)))
      return [{ kind: 'late-facing', stage: 'facing', words: `Facing is ${by} frame${by === 1 ? '' : 's'} late`, rows: spansOf(rows) }];
  const turned = (words: string, turn: (model: number) => number): Finding[] =>
    explained((row) => same(all[row]?.game, turn(all[row]?.model ?? Number.NaN)))
      ? [{ kind: 'flipped-facing', stage: 'facing', words, rows: spansOf(rows) }]
      : [];
  return [
    ...turned('Facing is flipped: up is down', (model) => -model),
    ...turned('Facing is flipped: left is right', (model) => 180 - model),
    ...turned('Faces backwards', (model) => model + 180),
  ].slice(0, 1);
}

const subjects: Readonly<Record<Stage, string>> = { stamina: 'Stamina', velocity: 'Velocity', place: 'The place', facing: 'Facing' };

/** Stages that are off in more ticks, and in a larger fraction of all, without a known reason, are reported as they are. */
const UNEXPLAINED = 3;
const FRACTION = 0.01;

/** The stages that are off, without reasons. */
function unexplained({ off, most, facings: all }: TickByTick, { unit }: Unit): Finding[] {
  const words: Record<Stage, string> = {
    stamina: figure(most.stamina, 2),
    velocity: `${figure(most.velocity, 1)} ${unit}/s`,
    place: `${figure(most.place, 1)} ${unit}`,
    facing: `${figure(most.facing)}°`,
  };
  return stages
    .filter((stage) => off[stage].length > Math.max(UNEXPLAINED, FRACTION * all.length))
    .map((stage) => ({
      kind: stage,
      stage,
      words: `${subjects[stage]} differs by up to ${words[stage]} in a tick`,
      rows: spansOf(off[stage]),
    }));
}

/**
 * Differences between a game and the model with these numbers, in the order of the stages. A difference without a known reason is reported only
 * where there is none with one: it may follow from that, and shows once that is mended.
 */
export function findingsOf(ticks: TickByTick, of: Unit): Finding[] {
  const { parameters } = ticks;
  const causes = [
    ...drains(ticks, parameters),
    ...speeds(ticks, parameters, of),
    ...ramps(ticks, parameters, of),
    ...places(ticks, parameters, of),
  ];
  const turns = facings(ticks);
  const loose = [...delays(ticks), ...gaits(ticks), ...unexplained(ticks, of)];
  const isKnown = (stage: Stage) => (stage === 'facing' ? turns : causes).length > 0;
  const rest = loose.filter(({ stage }) => !isKnown(stage));
  // A sprint that begins elsewhere is why the velocity differs.
  const open = rest.some(({ kind }) => kind === 'sprint') ? rest.filter(({ kind }) => kind !== 'velocity') : rest;
  return [...causes, ...turns, ...open].sort((a, b) => stages.indexOf(a.stage) - stages.indexOf(b.stage));
}
