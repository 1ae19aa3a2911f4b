import type { Control } from '../tape/controls.ts';
import { CellField, neighbours } from './cellField.ts';
import { type DriverOf, wantsSprint } from './driver.ts';

const NO_KEYS: readonly Control[] = [];

/** Grid steps: holds the direction that leads soonest to the finish from the cell that the current step leads to. */
export const cellsDriver: DriverOf = (briefing, options, hands) => {
  const { skills, parameters, ground, walls, gates } = briefing;
  const field = new CellField(parameters, ground, walls, gates);
  const { step } = parameters;
  let held = -1;
  let heldFrom = -1;
  let pressedAt = 0;
  return {
    begin: () => {
      held = -1;
      heldFrom = -1;
      pressedAt = 0;
    },
    decide: (look) => {
      const { seen, crossed, time } = look;
      const wasSprinting = hands.sprints;
      hands.sprint(wantsSprint(briefing, options, look, wasSprinting));
      // The cell that the step under way leads to: half a cell on in the direction of the motion.
      const reach = seen.speed > 0.01 * skills.walk ? (0.5 * step.cell) / seen.speed : 0;
      const cell = field.cellAt(seen.x + seen.vx * reach, seen.y + seen.vy * reach);
      const next = field.stepFrom(cell, crossed % Math.max(1, gates.length));
      const isWaiting = !step.repeat && seen.speed === 0 && time - pressedAt > options.reaction + step.time + step.turnTime;
      if (next === held && !(isWaiting && cell !== heldFrom) && !(isWaiting && time - pressedAt > 0.5))
        return wasSprinting !== hands.sprints;
      if (next === held) hands.hold(NO_KEYS);
      held = next;
      heldFrom = cell;
      pressedAt = time;
      hands.hold(next < 0 ? NO_KEYS : (skills.keys[next]?.keys ?? NO_KEYS));
      const [dx, dy] = next < 0 ? [0, 0] : (neighbours[next] as readonly [number, number]);
      const speed = step.time > 0 ? step.cell / step.time : 0;
      seen.command(time, dx * speed, dy * speed);
      return true;
    },
  };
};
