import type { Ground } from '../../ground/ground.ts';
import type { Parameters } from '../../tuning/catalogue/catalogue.ts';
import { resolveTuning, type Tuning, withValue } from '../../tuning/tuning.ts';
import { cameraRules } from './rules/camera.ts';
import { clicksRules } from './rules/clicks.ts';
import { clockRules } from './rules/clock.ts';
import { edgesRules } from './rules/edges.ts';
import { facingRules } from './rules/facing.ts';
import { handsRules } from './rules/hands.ts';
import { paceRules } from './rules/pace.ts';
import { mendTo, neat, numberWords } from './rules/rule.ts';
import { staminaRules } from './rules/stamina.ts';
import { wallsRules } from './rules/walls.ts';
import type { Snag } from './snag.ts';

/** Share of the ground's longest straight within which full speed should be reached. */
const ROOM = 0.25;

/** The distance (unit) to 99 % of a speed by the ramp: V²/2a; V·h·(log₂100 − 0.99/ln 2) with a half-life. */
function riseDistance({ ramp }: Parameters, speed: number): number {
  if (ramp.model === 'instant') return 0;
  if (ramp.model === 'smooth') return speed * ramp.halfLife * (Math.log2(100) - 0.99 / Math.LN2);
  return speed ** 2 / (2 * ramp.accelerate);
}

/** By figure, in the order of work. */
const rules = [
  ...paceRules,
  ...staminaRules,
  ...handsRules,
  ...wallsRules,
  ...edgesRules,
  ...facingRules,
  ...clicksRules,
  ...cameraRules,
  ...clockRules,
];

/** The snags in a tuning's numbers; with a ground also lack of room for them. Each mend removes its snag and adds none. */
export function tuningSnags(tuning: Tuning, ground?: Ground): Snag[] {
  const found = snagsOf(tuning, ground);
  const before = new Set(found.map(keyOf));
  return found.map(({ mend, ...snag }) => {
    const whole = mend && completed(mend, keyOf(snag), before, tuning, ground);
    return whole ? { ...snag, mend: whole } : snag;
  });
}

type Mend = NonNullable<Snag['mend']>;

/** The identity of a snag: some kinds concern several parameters. */
const keyOf = ({ id, path }: Pick<Snag, 'id' | 'path'>) => `${id} ${path}`;

/** Mends of snags that a mend brings up, which are taken over, at most. */
const MORE = 4;

/** A mend combined with those of the snags that it would add; undefined if that is impossible. */
function completed(mend: Mend, key: string, before: ReadonlySet<string>, tuning: Tuning, ground?: Ground): Mend | undefined {
  let { set } = mend;
  for (let more = 0; more <= MORE; more++) {
    const file = Object.entries(set).reduce((changed, [path, value]) => withValue(changed, path, value), tuning.file);
    const mended = resolveTuning(file);
    if (!mended.ok) return undefined;
    const after = snagsOf(mended.value, ground);
    const added = after.filter((one) => !before.has(keyOf(one)));
    if (added.length === 0) return after.some((one) => keyOf(one) === key) ? undefined : { ...mend, set };
    const further = added.flatMap((one) => (one.mend ? [one.mend.set] : []));
    if (further.length < added.length) return undefined;
    set = Object.assign({}, set, ...further);
  }
  return undefined;
}

function snagsOf(tuning: Tuning, ground?: Ground): Snag[] {
  const { parameters } = tuning;
  const found = rules.flatMap(([id, severity, rule]) => {
    const snag = rule(parameters, tuning);
    return snag ? [{ id, severity, ...snag }] : [];
  });
  const room = ground && neverAtSpeed(parameters, ground);
  return room ? [...found, room] : found;
}

/** Full walking speed that needs more room than the ground's longest straight. */
function neverAtSpeed(p: Parameters, ground: Ground): Snag | null {
  const longest = Math.max(ground.size.width, ground.size.height);
  const need = riseDistance(p, p.pace.walkSpeed);
  if (p.scheme === 'step' || need <= longest) return null;
  const evidence = `full speed needs ${numberWords(need)} ${ground.unit}, the longest straight has ${numberWords(longest)}`;
  const mend =
    p.ramp.model === 'smooth'
      ? mendTo('Reach full speed within a quarter of it', {
          'ramp.halfLife': neat(Math.max(0.001, (p.ramp.halfLife * ROOM * longest) / need)),
        })
      : mendTo('Reach full speed within a quarter of it', {
          'ramp.accelerate': neat(Math.min(1e8, (p.ramp.accelerate * need) / (ROOM * longest))),
        });
  return {
    id: 'never-at-speed',
    severity: 'risk',
    path: p.ramp.model === 'smooth' ? 'ramp.halfLife' : 'ramp.accelerate',
    evidence,
    ...mend,
  };
}
