import { atan2, cos, sin } from '../math/functions.ts';
import type { Control } from '../tape/controls.ts';
import { aheadOf, type DriverOf, type Look, wantsSprint } from './driver.ts';
import { type KeySkill, travelFor } from './skills.ts';

/** Advantage, as a fraction of the walk speed, that another direction must have over the held one. */
const HOLD = 0.12;
/** Speed over the limit by which the pilot brakes, as a fraction of the limit. */
const OVER = 1.15;
/** Lag (s) from which the pilot steers against the motion to slow down; below it, less. */
const SLOW = 0.1;
/** Lowest wanted speed, as a fraction of the walk. */
const SLOWEST = 0.2;
/** Least change of a stick's deflection. */
const STICK = 0.12;

const NO_KEYS: readonly Control[] = [];

/**
 * Schemes steer and latch with keys or a stick. The wanted velocity points from where the body would coast to, to the aim; of the learned directions
 * the nearest one is held. Above the speed that the line allows, the pilot wants less by as much: it releases, or steers against the motion.
 */
export const steerDriver: DriverOf = (briefing, options, hands) => {
  const { skills, parameters } = briefing;
  const isLatched = parameters.scheme === 'latch';
  const isStick = options.device === 'stick';
  const choices: readonly KeySkill[] =
    options.device === 'keys4' || parameters.input.directions === '4' ? skills.keys.filter(({ keys }) => keys.length === 1) : skills.keys;
  /** The held choice; −1 for none. */
  let held = -1;
  let changedAt = Number.NEGATIVE_INFINITY;
  let [stickX, stickY] = [0, 0];
  let wantX = 0;
  let wantY = 0;

  const want = ({ seen, progress, shake, crossed, isCareful }: Look): void => {
    const coastX = seen.x + seen.vx * skills.lag;
    const coastY = seen.y + seen.vy * skills.lag;
    progress.aim(seen.x, seen.y, aheadOf(briefing, options, seen.speed), crossed);
    const angle = atan2(progress.aimY - coastY, progress.aimX - coastX) + shake;
    const top = hands.sprints ? skills.sprint : skills.walk;
    const limit = Math.min(top, Math.max(progress.limit * (isCareful ? 0.5 : 1), SLOWEST * skills.walk));
    wantX = cos(angle) * limit;
    wantY = sin(angle) * limit;
    if (seen.speed > OVER * limit) {
      const brake = Math.min(1, skills.lag / SLOW);
      wantX += (wantX - seen.vx) * brake;
      wantY += (wantY - seen.vy) * brake;
    } else if (!isStick && (limit > 0.8 * top || seen.speed < 0.9 * limit)) {
      // Full speed is free: only the direction matters.
      wantX *= top / limit;
      wantY *= top / limit;
    }
  };

  /** Speed of a choice: the sprint's, where it sprints. */
  const gain = (): number => (hands.sprints && skills.walk > 0 ? skills.sprint / skills.walk : 1);

  /** The choice that a body which stands against a wall holds in vain; −1 for none. */
  let blocked = -1;

  const choose = (): number => {
    const scale = gain();
    let best = -1;
    let least = (wantX * wantX + wantY * wantY) / (skills.walk * skills.walk || 1);
    if (held === -1) least -= HOLD;
    for (let i = 0; i < choices.length; i++) {
      const { vx, vy } = choices[i] as KeySkill;
      if ((vx === 0 && vy === 0) || i === blocked) continue;
      const dx = (vx * scale - wantX) / (skills.walk || 1);
      const dy = (vy * scale - wantY) / (skills.walk || 1);
      const away = dx * dx + dy * dy - (i === held ? HOLD : 0);
      if (away < least) {
        least = away;
        best = i;
      }
    }
    return best;
  };

  const isReversal = (from: number, to: number): boolean => {
    const a = choices[from];
    const b = choices[to];
    return a !== undefined && b !== undefined && a.vx * b.vx + a.vy * b.vy < -0.1 * skills.walk * skills.walk;
  };

  const holdKeys = (look: Look): boolean => {
    blocked = look.isCareful && look.seen.seenVx ** 2 + look.seen.seenVy ** 2 < (0.02 * skills.walk) ** 2 ? held : -1;
    const next = choose();
    if (next === held) return false;
    // No turning back before the last change can be seen.
    if (isReversal(held, next) && look.time < changedAt + options.reaction) return false;
    changedAt = look.time;
    const { vx, vy } = choices[next] ?? { vx: 0, vy: 0 };
    if (isLatched) {
      hands.hold(NO_KEYS);
      if (next >= 0) hands.hold((choices[next] as KeySkill).keys);
      else {
        hands.press('plant');
        hands.release('plant');
      }
    } else hands.hold(next >= 0 ? (choices[next] as KeySkill).keys : NO_KEYS);
    held = next;
    look.seen.command(look.time, vx * gain(), vy * gain());
    return true;
  };

  /** The deflection for a wanted velocity, by the learned eight: the two neighbours that it lies between. */
  const deflect = (look: Look): boolean => {
    const size = Math.sqrt(wantX * wantX + wantY * wantY);
    const top = gain() * skills.walk;
    let [x, y] = [0, 0];
    if (size > 0.05 * top)
      for (let i = 0; i < 8; i++) {
        const a = skills.keys[i] as KeySkill;
        const b = skills.keys[(i + 1) % 8] as KeySkill;
        const det = a.vx * b.vy - a.vy * b.vx;
        if (Math.abs(det) < 1e-12) continue;
        const p = (wantX * b.vy - wantY * b.vx) / det;
        const q = (a.vx * wantY - a.vy * wantX) / det;
        if (p < -1e-9 || q < -1e-9) continue;
        x = a.stick[0] * p + b.stick[0] * q;
        y = a.stick[1] * p + b.stick[1] * q;
        break;
      }
    const travel = Math.sqrt(x * x + y * y);
    // A latched direction is driven at full speed, whatever the travel.
    const full = travel > 0 ? (isLatched ? 1 : travelFor(skills, Math.min(1, size / (top || 1)))) / travel : 0;
    x = Math.round(x * full * 1000) / 1000;
    y = Math.round(y * full * 1000) / 1000;
    if ((x - stickX) ** 2 + (y - stickY) ** 2 < STICK * STICK && (x !== 0 || y !== 0 || (stickX === 0 && stickY === 0))) return false;
    // No turning back before the last change can be seen.
    if (x * stickX + y * stickY < 0 && look.time < changedAt + options.reaction) return false;
    changedAt = look.time;
    if (isLatched && x === 0 && y === 0) {
      hands.press('plant');
      hands.release('plant');
    }
    stickX = x;
    stickY = y;
    hands.stick(x, y);
    const share = travel > 0 ? Math.min(size, top) / (size || 1) : 0;
    look.seen.command(look.time, wantX * share, wantY * share);
    return true;
  };

  return {
    begin: () => {
      held = -1;
      changedAt = Number.NEGATIVE_INFINITY;
      [stickX, stickY] = [0, 0];
    },
    decide: (look) => {
      const wasSprinting = hands.sprints;
      hands.sprint(wantsSprint(briefing, options, look, wasSprinting));
      want(look);
      const isChanged = isStick ? deflect(look) : holdKeys(look);
      return isChanged || wasSprinting !== hands.sprints;
    },
  };
};
