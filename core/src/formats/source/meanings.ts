/** What names in games call parameters: the words of a name, and what they mean together. */

/** Other writings of a word. */
const same: Readonly<Record<string, string>> = {
  acc: 'acceleration',
  accel: 'acceleration',
  accelerate: 'acceleration',
  accelrate: 'acceleration',
  decel: 'deceleration',
  decelerate: 'deceleration',
  dec: 'deceleration',
  spd: 'speed',
  vel: 'speed',
  velocity: 'speed',
  walking: 'walk',
  running: 'run',
  sprinting: 'sprint',
  moving: 'move',
  movement: 'move',
  movespeed: 'move speed',
  walkspeed: 'walk speed',
  runspeed: 'run speed',
  sprintspeed: 'sprint speed',
  stam: 'stamina',
  regen: 'regain',
  regeneration: 'regain',
  regenerate: 'regain',
  recharge: 'regain',
  recovery: 'regain',
  recover: 'regain',
  refill: 'regain',
  restore: 'regain',
  consumption: 'drain',
  cost: 'drain',
  usage: 'drain',
  depletion: 'drain',
  deplete: 'drain',
  maximum: 'max',
  minimum: 'min',
  capacity: 'max',
  wait: 'delay',
  cooldown: 'delay',
  pause: 'delay',
  deadzone: 'dead zone',
  outerzone: 'outer zone',
  rotation: 'turn',
  rotate: 'turn',
  turning: 'turn',
  rot: 'turn',
  angular: 'turn',
  tile: 'cell',
  tiles: 'cell',
  grid: 'cell',
  cells: 'cell',
  multiplier: 'factor',
  mult: 'factor',
  mul: 'factor',
  modifier: 'factor',
  scale: 'factor',
  ratio: 'factor',
  boost: 'factor',
  arrival: 'arrive',
  arrived: 'arrive',
  stopping: 'stop',
  stops: 'stop',
  duration: 'time',
  seconds: 'second',
  secs: 'second',
  sec: 'second',
  s: 'second',
  ms: 'millisecond',
  millis: 'millisecond',
  milliseconds: 'millisecond',
  msec: 'millisecond',
  frames: 'frame',
  ticks: 'tick',
  pixels: 'pixel',
  px: 'pixel',
  meters: 'metre',
  metres: 'metre',
  meter: 'metre',
  deg: 'degree',
  degrees: 'degree',
  rads: 'radian',
  rad: 'radian',
  radians: 'radian',
  pct: 'percent',
  percentage: 'percent',
  fps: 'rate tick',
  hz: 'rate tick',
  tickrate: 'rate tick',
  framerate: 'rate tick',
  dist: 'distance',
  len: 'length',
  cam: 'camera',
  halflife: 'half life',
  lookahead: 'look ahead',
  collider: 'body',
  collision: 'body',
  hitbox: 'body',
  capsule: 'body',
  buffered: 'buffer',
  joystick: 'stick',
  gamepad: 'stick',
};

/** Words that say nothing about which parameter it is. */
const fillers = new Set(
  (
    'player character char hero pc actor carrier unit my the a m k g c s p self this config settings setting params param tuning constants const value values default current amount ' +
    'pixel metre second degree percent per is base top data stats stat controller locomotion motion physics state normal node cfg options props inner number float of in to set get with'
  ).split(' '),
);

/** The words of a name, in the order in which they stand. */
export function wordsOf(name: string): string[] {
  return name
    .replace(/([\p{Ll}\p{N}])(\p{Lu})/gu, '$1 $2')
    .replace(/(\p{Lu})(\p{Lu}\p{Ll})/gu, '$1 $2')
    .toLowerCase()
    .split(/[^\p{L}\p{N}]+/u)
    .filter(Boolean)
    .flatMap((word) => (same[word] ?? word).split(' '));
}

/** Words of what is counted by the second anyway. */
const rates = new Set(['speed', 'acceleration', 'deceleration', 'rate', 'drain', 'regain', 'turn', 'walk', 'run', 'sprint', 'move']);

/** The words of a name that say which parameter it is. What is told per second, and is no speed, is how often something is done. */
export function tellingWords(words: readonly string[]): string[] {
  const isRate = words.includes('per') && words.includes('second') && !words.some((word) => rates.has(word));
  return [...new Set([...words.filter((word) => !fillers.has(word)), ...(isRate ? ['often'] : [])])];
}

/** What a set of words means: a parameter, how sure that is, and how the number is to be taken. */
export interface Meaning {
  path: string;
  words: readonly string[];
  isSure: boolean;
  /** A ratio to the walk; twice the number (a diameter); one by the number (a rate in place of a time); a time in which the walk is reached. */
  as?: 'ratioToWalk' | 'half' | 'inverse' | 'timeToWalk' | 'timeToStop' | 'timeOfHalf';
}

const meanings: Meaning[] = [];
/** What sets of words mean for sure, or perhaps (`?` before them). */
function mean(path: string, sets: string, as?: Meaning['as']): void {
  for (const set of sets.split(',').map((one) => one.trim()))
    meanings.push({ path, words: set.replace('?', '').trim().split(' '), isSure: !set.startsWith('?'), ...(as ? { as } : {}) });
}

mean('pace.walkSpeed', 'walk, walk speed, walk max speed, move speed, ?speed, ?max speed, ?move max speed, ?move');
mean('pace.sprintSpeed', 'sprint, sprint speed, sprint max speed, run speed, run max speed, run, ?dash speed');
mean('pace.sprintSpeed', 'sprint factor, sprint speed factor, run factor, run speed factor', 'ratioToWalk');
mean('pace.sprintMinStick', 'sprint min stick, sprint stick threshold');
mean('pace.backwardFactor', 'backward factor, backward speed factor, back factor, backpedal factor');
mean('pace.sidewaysFactor', 'sideways factor, strafe factor, strafe speed factor, sideways speed factor');
mean('ramp.accelerate', 'acceleration, walk acceleration, move acceleration, run acceleration, ground acceleration, max acceleration');
mean('ramp.accelerate', 'acceleration time, ?time max speed', 'timeToWalk');
mean(
  'ramp.decelerate',
  'deceleration, walk deceleration, move deceleration, ground deceleration, max deceleration, stop deceleration, ?friction, ?ground friction, ?drag',
);
mean('ramp.decelerate', 'deceleration time, stop time', 'timeToStop');
mean(
  'ramp.brake',
  'brake, brake deceleration, brake acceleration, turn around acceleration, reverse acceleration, ?turn deceleration, ?turn acceleration',
);
mean('ramp.halfLife', 'move half life, speed half life, acceleration half life, ?half life');
mean('ramp.turnRate', '?move turn rate, ?heading turn rate');
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
  'sprint min stamina, min stamina, stamina min, stamina sprint min, min stamina sprint, stamina threshold, sprint stamina threshold, stamina start',
);
mean('stamina.recoverTo', 'stamina regain threshold, stamina unlock, exhausted threshold, stamina exhausted threshold');
mean('stamina.spentFactor', 'exhausted speed factor, exhausted factor, spent factor, spent speed factor, tired speed factor');
mean('stamina.interval', 'stamina tick interval, stamina interval, stamina tick');
mean('body.radius', 'radius, body radius, ?size radius');
mean('body.radius', 'diameter, body diameter', 'half');
mean('body.width', 'width, body width, body x, body size x, size x');
mean('body.height', 'height, body height, body y, body size y, size y');
mean('input.deadZone', 'dead zone, stick dead zone, input dead zone, inner dead zone');
mean('input.outerZone', 'outer zone, stick outer zone, outer dead zone');
mean('input.curve', 'stick curve, input curve, stick exponent, response curve, stick response exponent');
mean('contact.wallFriction', 'wall friction, slide friction, wall slide friction');
mean('contact.cornerAssist', 'corner assist, corner correction, corner rounding, corner cut');
mean('contact.skin', 'skin, skin width, contact skin');
mean('bounds.push', 'push back, edge push, bounds push, push back distance, edge push distance');
mean('facing.rate', 'turn speed, turn rate, facing rate, facing speed, facing turn rate, facing turn speed, max turn speed, max turn rate');
mean('facing.halfLife', 'facing half life, turn half life');
mean('facing.stickiness', 'facing stickiness, facing hysteresis, facing dead zone angle');
mean('facing.launchSpeed', '?projectile speed, ?throw speed, ?launch speed');
mean('step.time', 'step time, cell time, cell move time, step move time, ?move time');
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
mean('route.tapTime', 'tap time, click time, tap max time, hold threshold time, ?hold threshold');
mean('route.stuckAfter', 'stuck time, stuck after, stuck timeout');
mean('camera.halfLife', 'camera half life, camera smooth half life');
mean('camera.halfLife', '?camera smooth time, ?camera lag, ?camera smoothing', 'timeOfHalf');
mean('camera.perTick', '?camera lerp, ?camera follow lerp, ?camera smooth factor');
mean('camera.lookAhead', 'camera look ahead, camera look ahead time, look ahead time');
mean('camera.deadZoneWidth', 'camera dead zone width, camera dead zone x');
mean('camera.deadZoneHeight', 'camera dead zone height, camera dead zone y');
mean(
  'camera.viewWidth',
  'view width, screen width, camera width, camera view width, viewport width, resolution x, screen x, ?window width',
);
mean(
  'camera.viewHeight',
  'view height, screen height, camera height, camera view height, viewport height, resolution y, screen y, ?window height',
);
mean('clock.hz', 'rate tick, physics rate tick, fixed rate tick, simulation rate tick, target rate tick, rate tick tick');
mean('clock.hz', 'tick time, fixed time step, fixed delta time, delta time, time step, physics step', 'inverse');

/** Words that tell a unit, where the others mean something without them. */
const unitWords = new Set(['frame', 'tick', 'millisecond', 'radian']);

/** What words mean together, or what they mean without those of units: the meaning that has just these words, those that are sure first; null where none has. */
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
