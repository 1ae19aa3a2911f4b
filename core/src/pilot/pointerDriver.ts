import { cos, sin } from '../math/functions.ts';
import { aheadOf, type DriverOf, wantsSprint } from './driver.ts';

/** Least time between two clicks, in least times between two changes of keys. */
const CLICKS_APART = 2;
/** Longest press, s; a tuning's tap may be shorter. */
const PRESS = 0.05;
/** Samples of the line by which a body may fall back before it is sent on again. */
const BACK = 6;
/** Body widths that a click lies ahead at most. */
const FAR = 30;

/** Click to go: clicks the farthest place on the line that is in sight, and again before the body gets there. */
export const pointerDriver: DriverOf = (briefing, options, hands) => {
  const { skills, parameters } = briefing;
  const pressed = Math.min(PRESS, parameters.route.tapTime / 2);
  let releaseAt = -1;
  let nextAt = 0;
  let [targetX, targetY] = [0, 0];
  let hasTarget = false;
  let crossedThen = -1;
  let plansThen = 0;
  let farthest = 0;
  return {
    begin: () => {
      releaseAt = -1;
      nextAt = 0;
      hasTarget = false;
      crossedThen = -1;
      plansThen = 0;
    },
    decide: (look) => {
      const { seen, progress, crossed, time, shake } = look;
      if (releaseAt >= 0 && time >= releaseAt) {
        hands.release('pointer');
        releaseAt = -1;
      }
      const wasSprinting = hands.sprints;
      hands.sprint(wantsSprint(briefing, options, look, wasSprinting));
      if (releaseAt >= 0 || time < nextAt) return wasSprinting !== hands.sprints;
      const ahead = aheadOf(briefing, options, seen.speed);
      const left = Math.sqrt((targetX - seen.x) ** 2 + (targetY - seen.y) ** 2);
      const isResting = seen.speed < 0.05 * skills.walk;
      // Back on the line although the gate isn't crossed: it was missed.
      farthest = crossed === crossedThen && look.plans === plansThen ? Math.max(farthest, progress.sample) : progress.sample;
      const isBack = progress.sample < farthest - BACK;
      if (hasTarget && left > ahead && crossed === crossedThen && look.plans === plansThen && !isResting && !isBack)
        return wasSprinting !== hands.sprints;
      progress.aim(seen.x, seen.y, Math.max(ahead * 1.5, FAR * skills.width), crossed);
      const [dx, dy] = [progress.aimX - seen.x, progress.aimY - seen.y];
      const x = seen.x + dx * cos(shake) - dy * sin(shake);
      const y = seen.y + dx * sin(shake) + dy * cos(shake);
      if (hasTarget && !isResting && (x - targetX) ** 2 + (y - targetY) ** 2 < (0.25 * skills.width) ** 2) return false;
      hands.point(x, y);
      hands.press('pointer');
      releaseAt = time + pressed;
      nextAt = time + CLICKS_APART * options.handSpeed;
      targetX = x;
      targetY = y;
      hasTarget = true;
      crossedThen = crossed;
      plansThen = look.plans;
      farthest = progress.sample;
      const size = Math.sqrt(dx * dx + dy * dy) || 1;
      const speed = hands.sprints ? skills.sprint : skills.walk;
      seen.command(time, (dx / size) * speed, (dy / size) * speed);
      if (speed > 0) seen.command(time + size / speed, 0, 0);
      return true;
    },
  };
};
