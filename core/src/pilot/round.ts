import { isClear, type PlacedBody, placedBody } from '../collision/placedBody.ts';
import { type CoursePath, courseNavigator, planCourse } from '../course/coursePath.ts';
import { beyondGate, crossingsOf, crossingTime, type GateLine, gateLines } from '../course/gates.ts';
import type { Gate, Ground } from '../ground/ground.ts';
import type { WallIndex } from '../ground/wallIndex.ts';
import type { Navigator } from '../route/navigator.ts';
import { bodySize } from '../tuning/body.ts';
import type { Parameters } from '../tuning/catalogue/catalogue.ts';
import { CellField } from './cellField.ts';
import { type Line, lineAlong, PER_WIDTH } from './line.ts';
import type { PilotLine } from './options.ts';
import { learn, type Skills } from './skills.ts';

/** Distance of crossings from the ends of a gate, in body widths. */
const INSET = 0.6;
/** Distance before and behind a gate that the line goes straight across it, in body widths. */
const ACROSS = 0.35;
/** Least distance of an aim behind a gate, in body widths. */
const BEHIND = 0.5;
/** The same where a wall is close behind the gate. */
const BARELY = 0.1;
/** Samples by which progress along the line may advance or fall back at one look. */
const WINDOW = 24;
/** Samples from before a gate to behind it. */
const PAST = Math.ceil(2 * ACROSS * PER_WIDTH);
/** Samples by which the pilot looks ahead where nothing farther is in sight. */
const NEAR = 3;
/** Samples before a gate, and half of those behind it, by which a turn back is known. */
const TURN = 6;
/** Distance from the line, in body widths, beyond which the pilot plans again. */
const ASTRAY = 3;

/** Everything about a tuning on a course that laps share: the planned path, the line, the skills. Prepared once for any number of laps. */
export interface Briefing {
  parameters: Parameters;
  ground: Ground;
  walls: WallIndex;
  skills: Skills;
  gates: readonly GateLine[];
  /** Number of crossings from the start to the finish. */
  crossings: number;
  /** The shortest path, and the line that is driven. */
  path: CoursePath;
  kind: PilotLine;
  line: Line;
  /** Index of the line's sample at each crossing. */
  gateSamples: readonly number[];
  body: PlacedBody;
  navigator: Navigator;
  /** The steps over cells of scheme step; null for the others. */
  cells: CellField | null;
}

/** Prepares laps of a tuning on a ground with a course. */
export function brief(parameters: Parameters, ground: Ground, walls: WallIndex, kind: PilotLine): Briefing {
  const skills = learn(parameters, ground);
  const navigator = courseNavigator(parameters, ground, walls);
  const gates = gateLines(ground);
  const path = planCourse(parameters, ground, walls, { navigator });
  const { width, height } = bodySize(parameters.body);
  const body = placedBody(parameters, ground, walls);
  const size = Math.max(width, height);
  const driven = path.blocked ? path : planCourse(parameters, ground, walls, { navigator, inset: INSET * size, across: ACROSS * size });
  const usable = driven.blocked ? path : driven;
  const line = lineAlong(usable.points, body, skills, gates, kind);
  const gateSamples = usable.gates.map((s) => Math.min(line.count - 1, Math.round(s / line.spacing)));
  const cells = parameters.scheme === 'step' ? new CellField(parameters, ground, walls, gates) : null;
  const crossings = ground.course ? crossingsOf(ground.course) : 0;
  return { parameters, ground, walls, skills, gates, crossings, path, kind, line, gateSamples, body, navigator, cells };
}

/** Where the pilot is on its line, and where it aims. Allocates nothing but for a new plan. */
export class Progress {
  readonly #briefing: Briefing;
  #line: Line;
  #gateSamples: readonly number[];
  /** Crossings that the gates' samples are counted from: 0 but after a new plan. */
  #base = 0;
  /** The sample nearest to the body, and its distance, unit. */
  sample = 0;
  away = 0;
  aimX = 0;
  aimY = 0;
  /** The sample aimed at. */
  aimSample = 0;

  constructor(briefing: Briefing) {
    this.#briefing = briefing;
    this.#line = briefing.line;
    this.#gateSamples = briefing.gateSamples;
  }

  /** Returns to the start of the lap. */
  begin(): void {
    this.#line = this.#briefing.line;
    this.#gateSamples = this.#briefing.gateSamples;
    this.#base = 0;
    this.sample = 0;
    this.away = 0;
  }

  get line(): Line {
    return this.#line;
  }

  /** The sample of the next crossing. */
  #gateSample(crossed: number): number {
    return this.#gateSamples[crossed - this.#base] ?? this.#line.count - 1;
  }

  /** Finds the body's place on the line: the nearest sample within a window about the last one, not beyond the gate that is next. */
  locate(x: number, y: number, crossed: number): void {
    const { x: xs, y: ys, count } = this.#line;
    const last = Math.min(count - 1, this.#gateSample(crossed));
    // Not before the gate that was crossed last: out and back may lie on one another.
    const first = crossed > this.#base ? Math.min(last, this.#gateSample(crossed - 1) + PAST) : 0;
    const here = Math.max(first, Math.min(this.sample, last));
    const from = Math.max(first, here - WINDOW);
    const to = Math.min(last, here + WINDOW);
    let best = Number.POSITIVE_INFINITY;
    let nearest = from;
    for (let i = from; i <= to; i++) {
      const dx = (xs[i] as number) - x;
      const dy = (ys[i] as number) - y;
      const d = dx * dx + dy * dy;
      if (d < best) {
        best = d;
        nearest = i;
      }
    }
    this.sample = nearest;
    this.away = Math.sqrt(best);
  }

  /** True if the body is too far from its line, or behind a gate that it has missed. */
  isLost(x: number, y: number, crossed: number): boolean {
    const { skills, gates, crossings, body } = this.#briefing;
    if (this.away > ASTRAY * skills.width) return true;
    // A line of a new plan ends after a lap.
    if (crossed < crossings && this.#gateSamples[crossed - this.#base] === undefined) return true;
    if (crossed >= crossings || this.sample < this.#gateSample(crossed)) return false;
    const gate = gates[crossed % gates.length] as GateLine;
    const beyond = (x - gate.ax) * gate.nx + (y - gate.ay) * gate.ny;
    return beyond > 0.1 * skills.width || !isClear(body, x, y, this.#line.x[this.sample] as number, this.#line.y[this.sample] as number);
  }

  /** Plans again from a place; false without a path. */
  replan(x: number, y: number, crossed: number): boolean {
    const { parameters, ground, walls, navigator, skills, gates, body, kind } = this.#briefing;
    if (!ground.course) return false;
    // The gates of a lap from here on, over the finish of this one.
    const many = Math.min(this.#briefing.crossings - crossed, gates.length);
    const rest = Array.from({ length: many }, (_, i) => (crossed + i) % gates.length);
    const course = { gates: rest.map((i) => ground.course?.gates[i] as Gate), laps: 1 };
    const left: Ground = { ...ground, start: { ...ground.start, x, y }, course };
    const lines = rest.map((i) => gates[i] as GateLine);
    const wide = planCourse(parameters, left, walls, { navigator, inset: INSET * skills.width, across: ACROSS * skills.width, lines });
    const path = wide.blocked?.gate === 0 ? planCourse(parameters, left, walls, { navigator, lines }) : wide;
    if (path.blocked?.gate === 0 || path.points.length < 2) return false;
    this.#line = lineAlong(path.points, body, skills, gates, kind);
    this.#gateSamples = path.gates.map((s) => Math.min(this.#line.count - 1, Math.round(s / this.#line.spacing)));
    this.#base = crossed;
    this.sample = 0;
    this.away = 0;
    return true;
  }

  /**
   * Aims at the line `ahead` (unit) past the body's place: at the farthest sample up to there that is in sight, and to which a straight move crosses
   * the gates in between. Aims behind a gate that is near, so that it is crossed.
   */
  aim(x: number, y: number, ahead: number, crossed: number): void {
    const { skills, gates, crossings, body } = this.#briefing;
    const { x: xs, y: ys, count, spacing } = this.#line;
    const gateAt = this.#gateSample(crossed);
    const gate = crossed < crossings ? (gates[crossed % gates.length] as GateLine) : null;
    let i = Math.min(count - 1, this.sample + Math.max(1, Math.round(ahead / spacing)));
    if (gate && i > gateAt && this.#turnsBack(gateAt)) i = gateAt;
    for (; i > this.sample; i = this.sample + ((i - this.sample) >> 1)) {
      let tx = xs[i] as number;
      let ty = ys[i] as number;
      if (gate && i >= gateAt) {
        const short = BEHIND * skills.width - beyondGate(gate, tx, ty);
        if (short > 0) {
          tx += gate.nx * short;
          ty += gate.ny * short;
        }
        if (crossingTime(gate, x, y, tx, ty) < 0) {
          // Straight there it would miss the gate: through the gate's own sample instead.
          tx = (xs[gateAt] as number) + gate.nx * BEHIND * skills.width;
          ty = (ys[gateAt] as number) + gate.ny * BEHIND * skills.width;
          if (gateAt > this.sample && crossingTime(gate, x, y, tx, ty) < 0) continue;
        }
      }
      if (gate && i >= gateAt && !isClear(body, x, y, tx, ty)) {
        // A wall stands close behind the gate: just across it.
        const deep = beyondGate(gate, tx, ty) - BARELY * skills.width;
        tx -= gate.nx * deep;
        ty -= gate.ny * deep;
      }
      if (!isClear(body, x, y, tx, ty)) continue;
      this.#set(tx, ty, i);
      return;
    }
    // Nothing farther will do: the next sample, or, from before a gate that is near, a place behind it.
    const near = Math.min(count - 1, gate ? Math.min(gateAt, this.sample + NEAR) : this.sample + NEAR);
    const isAtGate = gate !== null && near === gateAt && beyondGate(gate, x, y) < 0;
    this.#set(
      (xs[near] as number) + (isAtGate ? gate.nx * (ACROSS + BEHIND) * skills.width : 0),
      (ys[near] as number) + (isAtGate ? gate.ny * (ACROSS + BEHIND) * skills.width : 0),
      near,
    );
  }

  /** True if the line turns by more than a right angle after a sample: nothing beyond it is aimed at before the gate there is crossed. */
  #turnsBack(sample: number): boolean {
    const { x, y, count } = this.#line;
    const [a, b] = [Math.max(0, sample - TURN), Math.min(count - 1, sample + 2 * TURN)];
    const inX = (x[sample] as number) - (x[a] as number);
    const inY = (y[sample] as number) - (y[a] as number);
    const outX = (x[b] as number) - (x[sample] as number);
    const outY = (y[b] as number) - (y[sample] as number);
    return inX * outX + inY * outY < 0;
  }

  #set(x: number, y: number, sample: number): void {
    this.aimX = x;
    this.aimY = y;
    this.aimSample = sample;
  }

  /** The lowest speed that the line allows from the body's place over a distance (unit). */
  limitAhead(distance: number): number {
    const { limit, count, spacing } = this.#line;
    const to = Math.min(count - 1, this.sample + Math.ceil(distance / spacing));
    let least = Number.POSITIVE_INFINITY;
    for (let i = this.sample; i <= to; i++) least = Math.min(least, limit[i] as number);
    return least;
  }

  /** The speed that the line allows at the body's place. */
  get limit(): number {
    return this.#line.limit[this.sample] as number;
  }
}
