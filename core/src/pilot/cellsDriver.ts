import { crossingTime, type GateLine } from '../course/gates.ts';
import type { Control } from '../tape/controls.ts';
import { CellField, neighbours } from './cellField.ts';
import { type DriverOf, type Look, wantsSprint } from './driver.ts';

const NO_KEYS: readonly Control[] = [];
/** Commands that are remembered, and cells that are walked in thought, at most. */
const REMEMBERED = 32;
const MOST_CELLS = 64;
/** Seconds after which a step has begun for sure. */
const SURE = 0.04;
/** Fraction of the walk speed above which the body moves. */
const MOVES = 0.01;

/** The direction of a velocity, as an index of `neighbours`. */
function directionOf(vx: number, vy: number): number {
  const x = Math.abs(vx) > 0.3 * Math.abs(vy) ? Math.sign(vx) : 0;
  const y = Math.abs(vy) > 0.3 * Math.abs(vx) ? Math.sign(vy) : 0;
  for (let d = 0; d < 8; d++) {
    const [dx, dy] = neighbours[d] as readonly [number, number];
    if (dx === x && dy === y) return d;
  }
  return -1;
}

/**
 * Grid steps. From the state of a reaction ago the pilot walks on in thought, step by step by its own commands, to the cell that the current step
 * leads to, and holds the direction that leads soonest to the finish from there.
 */
export const cellsDriver: DriverOf = (briefing, options, hands) => {
  const { skills, parameters, ground, walls, gates, crossings } = briefing;
  const field = briefing.cells ?? new CellField(parameters, ground, walls, gates);
  const { step } = parameters;
  const at = new Float64Array(REMEMBERED);
  const sent = new Int8Array(REMEMBERED);
  const sure = Math.max(SURE, 2 / parameters.clock.hz);
  let count = 0;
  let held = -1;
  /** The cell that is walked to in thought, and its gate. */
  let column = 0;
  let row = 0;
  let isAtRest = false;
  /** Time at which the current step began in thought, s. */
  let begun = 0;

  /** The direction held at a time; −1 for none. */
  const heldAt = (time: number): number => {
    for (let k = count - 1; k >= Math.max(0, count - REMEMBERED); k--)
      if ((at[k % REMEMBERED] as number) <= time) return sent[k % REMEMBERED] as number;
    return -1;
  };
  /** The time of the first command after a time; infinite if there is none. */
  const nextCommand = (time: number): number => {
    for (let k = Math.max(0, count - REMEMBERED); k < count; k++)
      if ((at[k % REMEMBERED] as number) > time) return at[k % REMEMBERED] as number;
    return Number.POSITIVE_INFINITY;
  };
  const cellOf = (): number => (column < 0 || row < 0 || column >= field.columns || row >= field.rows ? -1 : row * field.columns + column);

  /** Walks on in thought until the present; leaves the cell that the body comes to, and returns the gate that is next there. */
  const walkOn = ({ seen, time, crossed }: Look): number => {
    const { cell } = field;
    const speed = Math.sqrt(seen.seenVx * seen.seenVx + seen.seenVy * seen.seenVy);
    let direction = speed > MOVES * skills.walk ? directionOf(seen.seenVx, seen.seenVy) : -1;
    let t = seen.seenAt;
    let gate = crossed;
    column = Math.floor(seen.seenX / cell);
    row = Math.floor(seen.seenY / cell);
    isAtRest = false;
    let left = 0;
    if (direction >= 0) {
      const [dx, dy] = neighbours[direction] as readonly [number, number];
      // The centre ahead: this cell's, or, past it, the next one's.
      const past = (seen.seenX / cell - column - 0.5) * dx + (seen.seenY / cell - row - 0.5) * dy;
      if (past > 1e-6) {
        column += dx;
        row += dy;
      }
      const away = Math.max(Math.abs((column + 0.5) * cell - seen.seenX), Math.abs((row + 0.5) * cell - seen.seenY));
      left = (away / cell) * stepTime(direction);
    }
    for (let n = 0; n < MOST_CELLS; n++) {
      if (direction >= 0) {
        const [dx, dy] = neighbours[direction] as readonly [number, number];
        if (gate === crossed && crosses(gate, column - dx, row - dy, column, row)) gate++;
        begun = t;
        t += left;
        if (t > time) return gate;
      }
      const next = heldAt(t);
      if (next < 0 || !(field.isOpen(cellOf(), next) || field.stepFrom(cellOf(), gate % gates.length) < 0)) {
        direction = -1;
        t = nextCommand(t);
        if (t > time) {
          isAtRest = true;
          return gate;
        }
        continue;
      }
      const [dx, dy] = neighbours[next] as readonly [number, number];
      left = stepTime(next) + (next === direction ? 0 : step.turnTime);
      direction = next;
      column += dx;
      row += dy;
    }
    return gate;
  };

  const stepTime = (direction: number): number =>
    (step.time * (direction % 2 === 1 && step.diagonalTime === 'scaled' ? Math.SQRT2 : 1)) /
    (hands.sprints && skills.walk > 0 ? skills.sprint / skills.walk : 1);

  const crosses = (crossed: number, column0: number, row0: number, column1: number, row1: number): boolean => {
    if (crossed >= crossings) return false;
    const { cell } = field;
    return (
      crossingTime(
        gates[crossed % gates.length] as GateLine,
        (column0 + 0.5) * cell,
        (row0 + 0.5) * cell,
        (column1 + 0.5) * cell,
        (row1 + 0.5) * cell,
      ) >= 0
    );
  };

  /** The direction back onto the grid from a cell beyond it. */
  const backInside = (): number => directionOf(column < 0 ? 1 : column >= field.columns ? -1 : 0, row < 0 ? 1 : row >= field.rows ? -1 : 0);

  const stepFrom = (cell: number, gate: number, { seen }: Look): number => {
    const next = field.stepFrom(cell, gate);
    return next < 0 && isAtRest ? field.stepBeside(seen.seenX, seen.seenY, gate) : next;
  };

  const { x, y } = ground.start;
  const isReached = field.stepFrom(field.cellAt(x, y), 0) >= 0 || field.stepBeside(x, y, 0) >= 0;
  return {
    fault: isReached ? null : 'no steps from cell to cell lead through all gates',
    begin: () => {
      held = -1;
      count = 0;
    },
    decide: (look) => {
      const wasSprinting = hands.sprints;
      hands.sprint(wantsSprint(briefing, options, look, wasSprinting));
      const gate = walkOn(look);
      const cell = cellOf();
      const next = gate >= crossings && crossings > 0 ? held : cell < 0 ? backInside() : stepFrom(cell, gate % gates.length, look);
      // A step that may not have begun yet keeps its key.
      if (!isAtRest && look.time - begun < sure) return wasSprinting !== hands.sprints;
      // Without repeat a held key is pressed again for each step.
      const isAgain = next === held && next >= 0 && isAtRest && !step.repeat;
      if (next === held && !isAgain) return wasSprinting !== hands.sprints;
      if (isAgain) hands.hold(NO_KEYS);
      held = next;
      hands.hold(next < 0 ? NO_KEYS : (skills.keys[next]?.keys ?? NO_KEYS));
      at[count % REMEMBERED] = look.time;
      sent[count % REMEMBERED] = next;
      count++;
      return true;
    },
  };
};
