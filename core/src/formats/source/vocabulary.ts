/** Names of parameters in games: the words of a name, and their meanings together. */

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
  w: 'width',
  h: 'height',
  braking: 'brake',
  brakes: 'brake',
  normalise: 'normalize',
  normalised: 'normalize',
  normalized: 'normalize',
  diagonals: 'diagonal',
  backwards: 'backward',
  reverse: 'backward',
  top: 'max',
  steering: 'steer',
  driving: 'drive',
  facings: 'facing',
  zones: 'zone',
  clicks: 'click',
  clicking: 'click',
  viewport: 'view',
  screen: 'view',
  resolution: 'view',
  window: 'view',
  throwing: 'throw',
  bumped: 'bump',
  hertz: 'rate tick',
};

/** Words that say nothing about which parameter it is. */
const fillers = new Set(
  (
    'my the a m k g c s p self this config settings setting params param tuning constants const value values default defaults current amount conf opts ' +
    'pixel metre second degree per is base data stats stat controller locomotion motion mover physics state normal node cfg options props number float of in to set get with ' +
    'movement script component profile preset spec main game global'
  ).split(' '),
);

/** Words of whoever is played. */
const players = new Set('player character char hero pc actor carrier avatar protagonist you p1 player1'.split(' '));

/** Words of somebody or something else that moves, or of what is no walking. */
const others = new Set(
  (
    'enemy enemies foe foes monster monsters mob mobs npc npcs boss bosses minion minions slime goblin orc bat troll guard guards zombie skeleton wolf bird fish ghost villager pet ally companion ' +
    'bullet bullets projectile projectiles arrow arrows missile rocket bomb bombs weapon weapons gun sword spell spells particle particles item items loot coin coins pickup pickups ' +
    'jump jumping swim swimming climb climbing ladder fly flying fall falling glide air water ' +
    'wind rain cloud platform elevator door vehicle car ball lamp light shadow audio sound music sfx shop menu ui hud tooltip dialog combat attack damage health mana hunger ' +
    'spawn respawn wave level quest score'
  ).split(' '),
);

export const isPlayers = (words: readonly string[]): boolean => words.some((word) => players.has(word));
export const isOthers = (words: readonly string[]): boolean => words.some((word) => others.has(word));

/** Words of sections that say no more than the names within them. */
const sections = new Set(
  (
    'move speed stick input stamina body ground camera click path step cell turn walk sprint run rate tick route bounds facing clock pace ramp contact collision view gait gaits ' +
    'entities entity characters character units actors'
  ).split(' '),
);

/** True if a thing's name adds nothing to the names within it. */
export const isNeutral = (words: readonly string[]): boolean => namingWords(words).every((word) => sections.has(word));

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

/** The words of a name that identify a parameter. Something per second that is no speed is how often it happens. */
export function namingWords(words: readonly string[]): string[] {
  const isRate = words.includes('per') && words.includes('second') && !words.some((word) => rates.has(word));
  return [...new Set([...words.filter((word) => !fillers.has(word) && !players.has(word)), ...(isRate ? ['often'] : [])])];
}
