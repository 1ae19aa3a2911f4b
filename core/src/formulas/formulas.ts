import { type Parameters, specOf, unitOf } from '../tuning/catalogue/catalogue.ts';
import type { Quantity } from '../tuning/catalogue/specs.ts';
import { call, comesTo, degrees, minus, named, open, over, pi, plus, power, root, squared, type Term, times } from './term.ts';

/** A formula of a tuning: its quantity, its expression, and its value. */
export interface Formula {
  /** The metric that measures the same in the drills, or a name of its own. */
  id: string;
  group: string;
  /** Its quantity, the left side. */
  words: string;
  term: Term;
  /** Its value, with its unit; null if it has free variables. */
  value: number | null;
  unit: string;
  /** A remark beside it. */
  note?: string;
}

/** Of a speed that is aimed at, the part that counts as reached; of a smooth ramp both times are to a hundredth. */
const REACHED = 0.99;

/** Makes the terms of one tuning. */
class Writer {
  readonly formulas: Formula[] = [];
  readonly #parameters: Parameters;
  readonly #length: string;
  #group = '';

  constructor(parameters: Parameters, length: string) {
    this.#parameters = parameters;
    this.#length = length;
  }

  group(title: string): void {
    this.#group = title;
  }

  /** A parameter of the tuning, by its path. */
  p(path: string): Term {
    const spec = specOf(path);
    const value = Number(path.split('.').reduce<unknown>((at, part) => (at as Record<string, unknown>)[part], this.#parameters));
    const unit = spec.kind === 'number' ? unitOf(spec.quantity, this.#length) : '';
    return { is: 'parameter', path, label: spec.label.toLowerCase(), value, unit: unit === '×' ? '' : unit };
  }

  add(id: string, words: string, quantity: Quantity, term: Term, note?: string): void {
    const value = comesTo(term);
    const unit = unitOf(quantity, this.#length);
    this.formulas.push({
      id,
      group: this.#group,
      words,
      term,
      value: Number.isNaN(value) ? null : value,
      unit: unit === '×' ? '' : unit,
      ...(note ? { note } : {}),
    });
  }
}

/**
 * The formulas that hold for a tuning, with its own numbers in them. Lengths in `length`, times in seconds. They are closed forms of the stages
 * (docs/model.md names their sources); drills measure the same to within a tick.
 */
export function formulasOf(parameters: Parameters, length: string): Formula[] {
  const writer = new Writer(parameters, length);
  if (parameters.scheme === 'step') steps(writer, parameters);
  else pace(writer, parameters);
  if (parameters.stamina.enabled && parameters.scheme !== 'step') stamina(writer, parameters);
  if (parameters.scheme !== 'step') walls(writer, parameters);
  hands(writer, parameters);
  facing(writer, parameters);
  if (parameters.route.enabled && parameters.scheme !== 'step') clicks(writer, parameters);
  if (parameters.camera.follow === 'smooth') {
    writer.group('Camera');
    writer.add('cameraLag', 'view lags', 'length', over(times(writer.p('pace.walkSpeed'), writer.p('camera.halfLife')), call('ln', 2)));
  }
  return writer.formulas;
}

function pace(w: Writer, { ramp, clock, scheme }: Parameters): void {
  w.group('Pace');
  const [v, V] = [open('v'), open('v*')];
  const [walk, up, down, brake] = ['pace.walkSpeed', 'ramp.accelerate', 'ramp.decelerate', 'ramp.brake'].map((path) => w.p(path)) as [
    Term,
    Term,
    Term,
    Term,
  ];
  if (ramp.model === 'instant') w.add('ramp', 'v after a tick', 'speed', V);
  if (ramp.model === 'smooth') {
    const half = w.p('ramp.halfLife');
    const left = power(2, minus(0, over(1, times(w.p('clock.hz'), half))));
    w.add('ramp', 'v after a tick', 'speed', plus(V, times(minus(v, V), left)));
    const hundredth = times(call('log2', 100), half);
    w.add('riseTime', 'reaches speed after', 'time', hundredth);
    w.add('stopTime', 'stops after', 'time', hundredth, 'to a hundredth of the speed');
  }
  if (ramp.model === 'linear') {
    w.add('ramp', 'v gains in a tick, at most', 'speed', over(up, w.p('clock.hz')));
    w.add('riseTime', 'reaches speed after', 'time', over(times(REACHED, walk), up));
    w.add('riseDistance', 'reaches speed within', 'length', over(squared(times(REACHED, walk)), times(2, up)));
    w.add('stopTime', 'stops after', 'time', over(walk, down));
    const distance = stopDistanceTerm(w, walk, down, clock.integration);
    w.add('stopDistance', 'stops within', 'length', distance);
    const isVector = ramp.turning === 'vector' && scheme !== 'turn';
    if (isVector) {
      w.add('reverseTime', 'reverses after', 'time', plus(over(walk, brake), over(times(REACHED, walk), up)));
      w.add('reverseOvershoot', 'reversal overshoot', 'length', over(squared(walk), times(2, brake)), 'where ticks are short against it');
    }
  }
  if (scheme === 'turn' || ramp.turning === 'heading')
    w.add(
      'turnRadius',
      'turns in a circle of radius',
      'length',
      over(times(walk, degrees(180)), times(pi, w.p('ramp.turnRate'))),
      'with the turn rate in degrees a second',
    );
}

/** V²/2d, or what ticks make of it: n = ⌊V/(d·dt)⌋ of them add up to n·V·dt − d·dt²·n(n+1)/2, trapezoids to V·dt/2 more. */
function stopDistanceTerm(w: Writer, speed: Term, rate: Term, integration: Parameters['clock']['integration']): Term {
  if (integration === 'exact') return over(squared(speed), times(2, rate));
  const hz = w.p('clock.hz');
  const whole = call('floor', over(times(speed, hz), rate));
  w.add('stopTicks', 'whole ticks of stopping, n', 'count', whole);
  const ticks = named('n', whole);
  const sum = minus(over(times(ticks, speed), hz), over(times(rate, ticks, plus(ticks, 1)), times(2, squared(hz))));
  return integration === 'semiImplicit' ? sum : plus(sum, over(speed, times(2, hz)));
}

function stamina(w: Writer, { stamina: own, pace: { sprintSpeed, walkSpeed } }: Parameters): void {
  w.group('Stamina');
  const [full, drain, regain, wait] = ['stamina.max', 'stamina.drain', 'stamina.regain', 'stamina.regainDelay'].map((path) =>
    w.p(path),
  ) as [Term, Term, Term, Term];
  if (own.drain <= 0 || own.interval > 0) return;
  const goal = call('max', w.p('stamina.recoverTo'), w.p('stamina.startAt'));
  w.add('sprintTime', 'a full bar lasts', 'time', over(full, drain));
  if (sprintSpeed > walkSpeed)
    w.add('sprintDistance', 'distance on one bar, at most', 'length', over(times(full, w.p('pace.sprintSpeed')), drain));
  if (own.regain <= 0) return;
  w.add('recoverTime', 'sprints again after, standing', 'time', plus(wait, over(goal, regain)));
  const isCycle = own.afterEmpty === 'resume' && own.regainWhile === 'notSprinting' && own.emptyEndsSprint && own.regainMovingFactor > 0;
  if (!isCycle) return;
  const on = over(goal, drain);
  const off = plus(wait, over(goal, times(regain, w.p('stamina.regainMovingFactor'))));
  w.add('sprintShare', 'sprint share of a long run', 'ratio', over(on, plus(on, off)));
}

function walls(w: Writer, { contact }: Parameters): void {
  if (contact.response !== 'slide' || contact.keepSpeed) return;
  w.group('Walls');
  const angle = open('θ');
  const kept = (at: Term) => call('max', 0, minus(call('cos', at), times(w.p('contact.wallFriction'), call('sin', at))));
  w.add('slide', 'a slide at θ keeps', 'ratio', kept(angle));
  w.add('slideKept(45)', 'a slide at 45° keeps', 'ratio', kept(degrees(45)), 'where speed is at once what it is to be');
}

function hands(w: Writer, { input }: Parameters): void {
  if (input.outerZone <= input.deadZone) return;
  w.group('Hands');
  const [dead, outer] = [w.p('input.deadZone'), w.p('input.outerZone')];
  const share = over(minus(open('travel'), dead), minus(outer, dead));
  w.add('stick', 'stick amount', 'ratio', input.curve === 1 ? share : power(share, w.p('input.curve')), 'held in 0 to 1');
}

function facing(w: Writer, { facing: own }: Parameters): void {
  w.group('Facing');
  if (own.directions !== 'free') {
    const half = over(degrees(360), times(2, w.p('facing.directions')));
    w.add('sector', 'a direction is kept until', 'angle', plus(half, w.p('facing.stickiness')), 'off its middle');
  }
  // From the hands' own direction at once; along the motion it comes after the ramp's time.
  const id = own.from === 'input' ? 'facingLag' : 'facingTurn';
  if (own.turn === 'rate') w.add(id, '90 % of a quarter turn after', 'time', over(times(0.9, degrees(90)), w.p('facing.rate')));
  if (own.turn === 'smooth') w.add(id, '90 % of a turn after', 'time', times(call('log2', 10), w.p('facing.halfLife')));
}

function clicks(w: Writer, { route, body, ramp }: Parameters): void {
  w.group('Clicks');
  if (route.brake) w.add('brake', 'speed is at most', 'speed', root(times(2, w.p('ramp.decelerate'), open('distance left'))));
  if (route.arrival === 'radiusOnly' && ramp.model === 'instant')
    w.add('circles', 'circles if its radius is under', 'length', over(w.p('pace.walkSpeed'), times(2, w.p('clock.hz'))));
  const wide = body.shape === 'circle' ? times(2, w.p('body.radius')) : call('min', w.p('body.width'), w.p('body.height'));
  w.add('room', 'passes gaps of', 'length', plus(wide, times(2, plus(w.p('contact.skin'), w.p('route.margin')))));
}

function steps(w: Writer, { step, pace: { walkSpeed } }: Parameters): void {
  w.group('Grid steps');
  w.add('steps', 'N steps take', 'time', times(open('N'), w.p('step.time')));
  if (step.time > 0) w.add('stepTime', 'a step takes', 'time', w.p('step.time'));
  if (step.time > 0 && walkSpeed > 0) w.add('stepSpeed', 'speed of steps', 'speed', over(w.p('step.cell'), w.p('step.time')));
  if (step.diagonals && step.diagonalTime === 'scaled')
    w.add('diagonal', 'a diagonal step takes', 'time', times(root({ is: 'number', value: 2 }), w.p('step.time')));
}
