import { atan2, PI, sin, wrapAngle } from '../math/functions.ts';
import type { Control } from '../tape/controls.ts';
import { aheadOf, type DriverOf, wantsSprint } from './driver.ts';

/** Sets of held keys, by turn (−1, 0, 1) + 1 and drive (0, 1). */
const held: readonly (readonly (readonly Control[])[])[] = [
  [['left'], ['left', 'up']],
  [[], ['up']],
  [['right'], ['right', 'up']],
];

/** Angle (radians) within which the heading is straight enough, and beyond which it turns before it drives. */
const STRAIGHT = 0.06;
const AROUND = PI / 3;

/** Scheme turn: turns towards the aim, and drives unless the aim lies inside of its turning circle or the line asks for less speed. */
export const turnDriver: DriverOf = (briefing, options, hands) => {
  const { skills } = briefing;
  const isStick = options.device === 'stick';
  let turn = 0;
  let drive = 0;
  return {
    begin: () => {
      turn = 0;
      drive = 0;
    },
    decide: (look) => {
      const { seen, progress, crossed, time, shake } = look;
      const wasSprinting = hands.sprints;
      hands.sprint(wantsSprint(briefing, options, look, wasSprinting));
      progress.aim(seen.x, seen.y, aheadOf(briefing, options, seen.speed), crossed);
      const [dx, dy] = [progress.aimX - seen.x, progress.aimY - seen.y];
      const distance = Math.sqrt(dx * dx + dy * dy);
      const off = wrapAngle(atan2(dy, dx) + shake - seen.facing);
      const size = Math.abs(off);
      // As long as a change of keys lasts, the heading turns on: it stops in time.
      const slack = Math.max(STRAIGHT, (skills.turnRate * options.handSpeed) / 2);
      const isBlocked = look.isCareful && drive === 1 && seen.seenVx ** 2 + seen.seenVy ** 2 < (0.02 * skills.walk) ** 2;
      const nextTurn = size < (isBlocked ? STRAIGHT : slack) ? 0 : off > 0 ? 1 : -1;
      const radius = skills.turnRate > 0 ? (hands.sprints ? skills.sprint : skills.walk) / skills.turnRate : Number.POSITIVE_INFINITY;
      const isInside = size > slack && 2 * radius * sin(Math.min(size, PI / 2)) > distance;
      const isFast = seen.speed > 1.15 * progress.limit * (look.isCareful ? 0.5 : 1);
      const nextDrive = size > AROUND || isInside || isFast ? 0 : 1;
      if (nextTurn === turn && nextDrive === drive) return wasSprinting !== hands.sprints;
      turn = nextTurn;
      drive = nextDrive;
      if (isStick) hands.stick(turn, -drive);
      else hands.hold(held[turn + 1]?.[drive] as readonly Control[]);
      seen.command(time, drive * (hands.sprints ? skills.sprint : skills.walk), 0, turn * skills.turnRate);
      return true;
    },
  };
};
