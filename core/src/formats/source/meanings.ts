/** Names of parameters in games: the meanings of their words together. */

/** The meaning of a set of words: a parameter, its certainty, and the reading of the number. */
export interface Meaning {
  path: string;
  words: readonly string[];
  isSure: boolean;
  /** A ratio to the walk; twice the number (a diameter); one by the number (a rate in place of a time); a time in which the walk is reached. */
  as?: 'ratioToWalk' | 'half' | 'inverse' | 'timeToWalk' | 'timeToStop' | 'timeOfHalf';
}

const meanings: Meaning[] = [];
/** Sets of words with a certain meaning, or a possible one (`?` before them). */
function mean(path: string, sets: string, as?: Meaning['as']): void {
  for (const set of sets.split(',').map((one) => one.trim()))
    meanings.push({ path, words: set.replace('?', '').trim().split(' '), isSure: !set.startsWith('?'), ...(as ? { as } : {}) });
}

mean('pace.walkSpeed', 'walk, walk speed, walk max, walk max speed, move speed, ?speed, ?max speed, ?move max speed, ?move, ?drive speed');
mean('pace.sprintSpeed', 'sprint, sprint speed, sprint max, sprint max speed, run speed, run max, run max speed, run, ?dash, ?dash speed');
mean(
  'pace.sprintSpeed',
  'sprint factor, sprint speed factor, sprint walk factor, run factor, run speed factor, dash factor, dash speed factor, ?speed factor',
  'ratioToWalk',
);
mean('pace.sprintMinStick', 'sprint min stick, sprint stick threshold');
mean('pace.backwardFactor', 'backward factor, backward speed factor, back factor, backpedal factor');
mean('pace.backwardFactor', 'backward speed percent, backward percent');
mean('pace.sidewaysFactor', 'sideways speed percent, strafe speed percent');
mean('pace.sidewaysFactor', 'sideways factor, strafe factor, strafe speed factor, sideways speed factor');
mean('ramp.accelerate', 'acceleration, walk acceleration, move acceleration, run acceleration, ground acceleration, max acceleration');
mean('ramp.accelerate', 'acceleration time, time max speed, time full speed, ?rise time', 'timeToWalk');
mean(
  'ramp.decelerate',
  'deceleration, walk deceleration, move deceleration, ground deceleration, max deceleration, stop deceleration, ?friction, ?ground friction, ?drag',
);
mean('ramp.decelerate', 'deceleration time, stop time, time stop', 'timeToStop');
mean(
  'ramp.brake',
  'brake, brake deceleration, brake acceleration, turn around acceleration, reverse acceleration, ?turn deceleration, ?turn acceleration',
);
mean('ramp.halfLife', 'move half life, speed half life, acceleration half life, ?half life');
mean('ramp.turnRate', '?move turn rate, ?heading turn rate, ?steer rate, ?steer speed, ?steer');
mean('stamina.max', 'stamina, stamina max, max stamina, ?energy, ?max energy');
mean(
  'stamina.drain',
  'stamina drain, stamina drain rate, sprint drain, sprint stamina drain, run stamina drain, drain rate, ?drain, ?energy drain',
);
mean('stamina.regain', 'stamina regain, stamina regain rate, regain rate, ?regain, ?energy regain');
mean('stamina.regainDelay', 'stamina regain delay, regain delay, stamina delay, ?delay regain time');
mean('stamina.regainMovingFactor', 'regain walk factor, regain move factor, stamina regain walk factor, stamina regain move factor');
mean(
  'stamina.startAt',
  'sprint min stamina, min stamina, stamina min, stamina sprint min, min stamina sprint, stamina threshold, sprint stamina threshold, stamina start, sprint min start, stamina start at, stamina min start',
);
mean(
  'stamina.recoverTo',
  'stamina regain threshold, stamina unlock, exhausted threshold, stamina exhausted threshold, exhausted until, exhausted recover, stamina unlock at',
);
mean('stamina.spentFactor', 'exhausted speed factor, exhausted factor, spent factor, spent speed factor, tired speed factor');
mean('stamina.interval', 'stamina tick interval, stamina interval, stamina tick');
mean('body.radius', 'radius, body radius, ?size radius, ?radian');
mean('body.radius', 'diameter, body diameter', 'half');
mean('body.width', 'width, body width, body x, body size x, size x');
mean('body.height', 'height, body height, body y, body size y, size y');
mean('input.deadZone', 'dead zone, stick dead zone, input dead zone, inner dead zone, stick inner, inner zone, stick inner zone');
mean('input.outerZone', 'outer zone, stick outer zone, outer dead zone, stick outer');
mean('input.curve', 'stick curve, input curve, stick exponent, response curve, stick response exponent');
mean('input.swipeDistance', 'swipe min distance, swipe distance, swipe length');
mean('input.swipeTime', 'swipe max time, swipe time');
mean('contact.wallFriction', 'wall friction, slide friction, wall slide friction');
mean('contact.cornerAssist', 'corner assist, corner correction, corner rounding, corner cut');
mean('contact.skin', 'skin, skin width, contact skin');
mean('bounds.push', 'push back, edge push, bounds push, push back distance, edge push distance');
mean(
  'facing.rate',
  'turn speed, turn rate, facing rate, facing speed, facing turn rate, facing turn speed, max turn speed, max turn rate, max turn, ?turn',
);
mean('facing.start', 'facing start, start facing, facing start angle');
mean('facing.directions', 'facing directions, facing direction, ?directions');
mean('facing.halfLife', 'facing half life, turn half life');
mean('facing.stickiness', 'facing stickiness, facing hysteresis, facing dead zone angle');
mean('facing.launchSpeed', '?projectile speed, ?throw speed, ?launch speed');
mean('step.time', 'step time, cell time, cell move time, step move time, step millisecond, step frame, ?move time');
mean('step.time', 'cell often, step often, step rate, cell speed', 'inverse');
mean('step.cell', 'cell size, cell width, cell, ?cell height');
mean('step.buffer', 'input buffer, input buffer time, buffer time, buffer, step buffer, buffer window');
mean('step.turnTime', 'step turn time, turn delay, turn time, turn first time, step turn delay');
mean('step.bumpTime', 'bump time, bump delay, blocked delay, bump');
mean(
  'route.arriveRadius',
  'arrive radius, arrive distance, stop distance, stop radius, destination radius, click arrive radius, ?reach distance, ?arrive threshold',
);
mean('route.waypointRadius', 'waypoint radius, waypoint distance, waypoint threshold, path point radius');
mean('route.margin', 'path margin, route margin, wall margin, path clearance');
mean('route.tapTime', 'tap, tap time, click time, tap max time, click tap, hold threshold time, ?hold threshold');
mean('route.stuckAfter', 'stuck, stuck time, stuck after, stuck timeout');
mean('camera.halfLife', 'camera half life, camera smooth half life');
mean('camera.halfLife', '?camera smooth time, ?camera lag, ?camera smoothing', 'timeOfHalf');
mean('camera.perTick', '?camera lerp, ?camera follow lerp, ?camera smooth factor');
mean('camera.lookAhead', 'camera look ahead, camera look ahead time, look ahead time');
mean('camera.deadZoneWidth', 'camera dead zone width, camera dead zone x');
mean('camera.deadZoneHeight', 'camera dead zone height, camera dead zone y');
mean('camera.viewWidth', 'view width, camera width, camera view width, view x');
mean('camera.viewHeight', 'view height, camera height, camera view height, view y');
mean('clock.hz', 'rate tick, physics rate tick, fixed rate tick, simulation rate tick, target rate tick, rate tick tick');
mean('clock.hz', 'tick time, fixed time step, fixed delta time, delta time, time step, physics step', 'inverse');

/** Words that name a unit, if the others have a meaning without them. */
const unitWords = new Set(['frame', 'tick', 'millisecond', 'radian', 'percent']);

/** The meaning of words together, or without those of units: the one that has exactly these words, certain ones first; null if there is none. */
export function meaningOf(words: readonly string[]): Meaning | null {
  const bare = words.filter((word) => !unitWords.has(word));
  const barer = bare.filter((word) => word !== 'rate');
  for (const some of [words, bare, barer]) {
    const meaning = some.length > 0 ? meaningOfJust(some) : null;
    if (meaning) return meaning;
  }
  return null;
}

function meaningOfJust(words: readonly string[]): Meaning | null {
  const wanted = new Set(words);
  const fits = meanings.filter((one) => one.words.every((word) => wanted.has(word)) && wanted.size === new Set(one.words).size);
  return fits.find(({ isSure }) => isSure) ?? fits[0] ?? null;
}

/** Names of flags: on or off. */
const flagMeanings: Readonly<Record<string, string>> = {
  'stamina enabled': 'stamina.enabled',
  'stamina use': 'stamina.enabled',
  'stamina has': 'stamina.enabled',
  stamina: 'stamina.enabled',
  'normalize diagonal': 'input.normaliseDiagonals',
  'normalize input': 'input.normaliseDiagonals',
  'click move': 'route.enabled',
  'click move enabled': 'route.enabled',
  'click enabled': 'route.enabled',
  'route enabled': 'route.enabled',
  diagonal: 'step.diagonals',
  'allow diagonal': 'step.diagonals',
  'step diagonal': 'step.diagonals',
  'snap pixel': 'clock.snapToPixel',
  'pixel snap': 'clock.snapToPixel',
  'keep speed': 'contact.keepSpeed',
  'empty ends sprint': 'stamina.emptyEndsSprint',
};

/** Parameters set by a word, and the words of each option. */
const wordMeanings: Readonly<Record<string, { path: string; says: Readonly<Record<string, string>> }>> = {
  scheme: { path: 'scheme', says: { step: 'step', steps: 'step', grid: 'step', turn: 'turn', steer: 'steer', latch: 'latch' } },
  'input scheme': { path: 'scheme', says: { step: 'step', grid: 'step', turn: 'turn', steer: 'steer', latch: 'latch' } },
  shape: { path: 'body.shape', says: { circle: 'circle', disc: 'circle', round: 'circle', box: 'box', rect: 'box', rectangle: 'box' } },
  'body shape': {
    path: 'body.shape',
    says: { circle: 'circle', disc: 'circle', round: 'circle', box: 'box', rect: 'box', rectangle: 'box' },
  },
  'ramp model': { path: 'ramp.model', says: { instant: 'instant', linear: 'linear', smooth: 'smooth', curve: 'curve' } },
  'facing directions': { path: 'facing.directions', says: { 2: '2', 4: '4', 8: '8', 16: '16', free: 'free' } },
};

/** The words in any order, as a key. */
const keyOf = (words: readonly string[]) => [...words].sort().join(' ');
const flagsByKey = new Map(Object.entries(flagMeanings).map(([words, path]) => [keyOf(words.split(' ')), path]));
const wordsByKey = new Map(Object.entries(wordMeanings).map(([words, meaning]) => [keyOf(words.split(' ')), meaning]));

export const flagOf = (words: readonly string[]): string | null => flagsByKey.get(keyOf(words)) ?? null;

/** The parameter that words choose by a word, and what that says there; null if either is unknown. */
export function choiceOf(words: readonly string[], said: string): { path: string; says: string } | null {
  const meaning = wordsByKey.get(keyOf(words));
  const says = meaning?.says[said];
  return meaning && says !== undefined ? { path: meaning.path, says } : null;
}
