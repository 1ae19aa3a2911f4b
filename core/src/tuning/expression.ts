import { type Parameters, specs, unitOf } from './catalogue/catalogue.ts';
import { type EntryRule, isWhole, type Link, type NumberSpec } from './catalogue/specs.ts';
import { follow } from './links.ts';
import { HALF_LIVES_TO_90, rateToStopIn } from './outcomes.ts';
import { numberAt, numberSpec } from './tuning.ts';

/** The meaning of an entry in a number field: a number or a link, or the reason why it has none. */
type Entry = { ok: true; value: number | Link; number: number } | { ok: false; why: string };

const N = String.raw`([+-]?(?:\d+\.?\d*|\.\d+)(?:e[+-]?\d+)?)`;
const refuse = (why: string): Entry => ({ ok: false, why });

interface Context {
  path: string;
  spec: NumberSpec;
  parameters: Parameters;
  length: string;
}

type Rule = [pattern: RegExp, meaning: (match: RegExpMatchArray, context: Context) => number | Link | string | null];

const takes = ({ spec }: Context, rule: EntryRule): boolean => spec.entries?.includes(rule) ?? false;

/** Speed that a ramp's rate has to cover: from rest to walk, or from sprint to walk. */
function rampSpan(context: Context): number | null {
  const { walkSpeed, sprintSpeed } = context.parameters.pace;
  if (takes(context, 'toWalkFromSprint')) return Math.abs(sprintSpeed - walkSpeed);
  return takes(context, 'toWalk') ? walkSpeed : null;
}

/** `0.2 s to full`, `5 s to empty`, `0.1 s to stop`, `0.15 s to 90 %`: a rate from a time. */
function fromTime(seconds: number, goal: string, context: Context): number | string | null {
  if (seconds <= 0) return 'a time above 0';
  const span = rampSpan(context);
  if (span !== null && goal !== '90%') return span / seconds;
  if (takes(context, 'toNineTenths')) return goal === '90%' ? seconds / HALF_LIVES_TO_90 : null;
  if ((takes(context, 'toEmpty') && goal === 'empty') || (takes(context, 'toFull') && goal === 'full'))
    return context.parameters.stamina.max / seconds;
  return null;
}

/** `3 px/frame at 30`: a speed, or with `/frame²` an acceleration. */
function perFrame(value: number, squared: boolean, hz: number, { spec }: Context): number | null {
  if (spec.quantity === 'speed' && !squared) return value * hz;
  if (spec.quantity === 'acceleration' && squared) return value * hz * hz;
  return null;
}

/** `8 px to stop`: the rate that stops from walk in this distance. */
function fromStop(distance: number, context: Context): number | string | null {
  if (!takes(context, 'toStop')) return null;
  const { parameters } = context;
  if (distance <= 0) return 'a distance above 0';
  return rateToStopIn(distance, parameters.pace.walkSpeed, 1 / parameters.clock.hz, parameters.clock.integration);
}

/** The path that a name in an entry stands for: a path, a last part of one, or a label. */
function pathNamed(name: string): string | null {
  const wanted = name.trim().toLowerCase();
  for (const [path, spec] of specs) {
    if (spec.kind !== 'number') continue;
    const last = path.split('.').at(-1) as string;
    if ([path, last, spec.label].some((known) => known.toLowerCase() === wanted)) return path;
  }
  return null;
}

function linkTo(name: string, times: number, plus: number): Link | string {
  const of = pathNamed(name);
  if (!of) return `“${name.trim()}” isn’t a number of the tuning`;
  return { of, ...(times === 1 ? {} : { times }), ...(plus === 0 ? {} : { plus }) };
}

const signed = (sign: string | undefined, value: string | undefined) => (value === undefined ? 0 : Number(value) * (sign === '-' ? -1 : 1));

const rules: Rule[] = [
  [new RegExp(`^${N}$`), (m) => Number(m[1])],
  [/^([+-])(\d+\.?\d*|\.\d+)\s*%$/, (m, c) => numberAt(c.parameters, c.path) * (1 + signed(m[1], m[2]) / 100)],
  [new RegExp(`^([*/])\\s*${N}$`), (m, c) => numberAt(c.parameters, c.path) * (m[1] === '*' ? Number(m[2]) : 1 / Number(m[2]))],
  [new RegExp(`^${N}\\s*%$`), (m, c) => (c.spec.quantity === 'ratio' ? Number(m[1]) / 100 : null)],
  [
    new RegExp(`^${N}\\s*(?:px|m)?\\s*/\\s*frame(\\s*(?:²|\\^2|/\\s*frame))?(?:\\s*at\\s*${N}(?:\\s*hz)?)?$`),
    (m, c) => perFrame(Number(m[1]), m[2] !== undefined, m[3] === undefined ? c.parameters.clock.hz : Number(m[3]), c),
  ],
  [new RegExp(`^${N}\\s*s\\s+to\\s+(full|empty|stop|90\\s*%)$`), (m, c) => fromTime(Number(m[1]), (m[2] as string).replace(/\s/g, ''), c)],
  [new RegExp(`^${N}\\s*(?:px|m)\\s+to\\s+stop$`), (m, c) => fromStop(Number(m[1]), c)],
  [
    new RegExp(`^${N}\\s*\\*\\s*([a-z][a-z. -]*?)(?:\\s*([+-])\\s*(\\d+\\.?\\d*))?$`),
    (m) => linkTo(m[2] as string, Number(m[1]), signed(m[3], m[4])),
  ],
  [new RegExp(`^([a-z][a-z. ]*?)\\s*\\*\\s*${N}$`), (m) => linkTo(m[1] as string, Number(m[2]), 0)],
  [/^([a-z][a-z. ]*?)(?:\s*([+-])\s*(\d+\.?\d*))?$/, (m) => linkTo(m[1] as string, 1, signed(m[2], m[3]))],
];

/** Spellings of a unit on a plain keyboard. */
function spellings(unit: string): string[] {
  if (unit.endsWith('²')) return [unit, unit.replace('²', '2'), unit.replace('²', '^2')];
  if (unit.startsWith('°')) return [unit, unit.replace('°', 'deg')];
  return unit === '' ? [] : [unit];
}

/** A plain number without the parameter's own unit behind it. */
function withoutUnit(text: string, unit: string): string {
  for (const end of spellings(unit.toLowerCase())) {
    const bare = text.slice(0, -end.length).trim();
    if (text.endsWith(end) && new RegExp(`^${N}$`).test(bare)) return bare;
  }
  return text;
}

/** Parses an entry in the field of `path`: `140`, `1.75 × walk`, `3 px/frame at 30`, `0.2 s to full`, `8 px to stop`, `+10%`. */
export function readEntry(typed: string, path: string, parameters: Parameters, length: string): Entry {
  const spec = numberSpec(path);
  const unit = unitOf(spec.quantity, length);
  const text = withoutUnit(typed.trim().toLowerCase().replaceAll('−', '-').replaceAll('×', '*').replace(/\s+/g, ' '), unit);
  if (text === '') return refuse('a number is needed');
  const context: Context = { path, spec, parameters, length };
  for (const [pattern, meaning] of rules) {
    const match = pattern.exec(text);
    if (!match) continue;
    const value = meaning(match, context);
    if (value === null) continue;
    if (typeof value === 'string') return refuse(value.startsWith('“') ? value : `needs ${value}`);
    const number = typeof value === 'number' ? value : follow(value, numberAt(parameters, value.of));
    if (!Number.isFinite(number)) return refuse('that isn’t a number');
    if (number < spec.min || number > spec.max)
      return refuse(`${shortNumber(number)} is outside ${shortNumber(spec.min)} to ${shortNumber(spec.max)}${unit ? ` ${unit}` : ''}`);
    if (isWhole(spec) && !Number.isInteger(number)) return refuse(`${shortNumber(number)} isn’t a whole number`);
    return { ok: true, value, number };
  }
  return refuse(`“${typed.trim().slice(0, 40)}” is neither a number nor a rule such as +10%`);
}

/** A number for a person: at most `digits` decimals, without trailing zeros. */
export function shortNumber(value: number, digits = 3): string {
  if (value !== 0 && Math.abs(value) < 0.5 * 10 ** -digits) return value.toPrecision(2);
  return String(Number(value.toFixed(Math.abs(value) >= 1000 ? Math.min(digits, 1) : digits)));
}
