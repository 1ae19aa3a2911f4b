import { readDocument, readJson } from '../document/document.ts';
import type { Reading } from '../document/fault.ts';
import { type Parameters, specOf, specs } from './catalogue/catalogue.ts';
import type { NumberSpec } from './catalogue/specs.ts';
import { resolveNumbers } from './links.ts';
import { type FileValue, type Overrides, type TuningFile, tuningFormat } from './schema.ts';

/** A tuning ready to use: the file it came from, and all its parameters. */
export interface Tuning {
  file: TuningFile;
  parameters: Parameters;
}

/** The keys of the catalogue's paths, split once. */
const keys = /* @__PURE__ */ new Map([...specs.keys()].map((path) => [path, path.split('.')]));
const keysOf = (path: string): readonly string[] => keys.get(path) ?? path.split('.');

/** The value of `path` as written in the file; undefined if the default holds. */
export function writtenAt(file: TuningFile, path: string): FileValue | undefined {
  let value: FileValue | Overrides | undefined = file as Overrides;
  for (const key of keysOf(path)) value = Object.hasOwn((value ?? {}) as Overrides, key) ? (value as Overrides)[key] : undefined;
  return value as FileValue | undefined;
}

/** The value of `path`: from the file, or the default. */
export function rawAt(file: TuningFile, path: string): FileValue {
  return writtenAt(file, path) ?? specOf(path).default;
}

function withKey(group: Overrides, keys: readonly string[], value: FileValue | undefined): Overrides {
  const [key, ...rest] = keys as [string, ...string[]];
  const next = rest.length === 0 ? value : withKey((group[key] ?? {}) as Overrides, rest, value);
  const empty = next === undefined || (rest.length > 0 && Object.keys(next as Overrides).length === 0);
  const { [key]: _replaced, ...others } = group;
  return empty ? others : { ...group, [key]: next };
}

/** A copy of the file with `path` set. A value equal to the default is left out; `undefined` takes the default back. */
export function withValue(file: TuningFile, path: string, value: FileValue | undefined): TuningFile {
  const isDefault = JSON.stringify(value) === JSON.stringify(specOf(path).default);
  return withKey(file as Overrides, path.split('.'), isDefault ? undefined : value) as TuningFile;
}

/** Fills in defaults and follows links. A file that the schema passed can still fail here: loops, unknown paths, ranges. */
export function resolveTuning(file: TuningFile): Reading<Tuning> {
  const { numbers, faults } = resolveNumbers((path) => rawAt(file, path));
  if (faults.length > 0) return { ok: false, faults };
  const parameters: Record<string, unknown> = {};
  for (const [path, spec] of specs) {
    const own = keysOf(path);
    let group = parameters;
    for (let i = 0; i < own.length - 1; i++) {
      const key = own[i] as string;
      group[key] ??= {};
      group = group[key] as Record<string, unknown>;
    }
    group[own.at(-1) as string] = spec.kind === 'number' ? numbers.get(path) : rawAt(file, path);
  }
  return { ok: true, value: { file, parameters: parameters as unknown as Parameters } };
}

/** Reads a parsed JSON value as a tuning. */
export function readTuning(value: unknown): Reading<Tuning> {
  const reading = readDocument(tuningFormat, value);
  return reading.ok ? resolveTuning(reading.value) : reading;
}

/** Reads the text of a `*.tuning.json`. */
export function parseTuning(text: string): Reading<Tuning> {
  const json = readJson(text);
  return json.ok ? readTuning(json.value) : json;
}

/** A tuning of defaults. */
export function newTuning(name: string, unit: 'px' | 'm' = 'px'): TuningFile {
  return { format: 'zygopod/tuning', version: 2, name, unit };
}

/** The number at `path`, after links. */
export function numberAt(parameters: Parameters, path: string): number {
  const value = valueAt(parameters, path);
  if (typeof value !== 'number') throw new Error(`${path} isn’t a number`);
  return value;
}

/** The value at `path`, after links. */
export function valueAt(parameters: Parameters, path: string): unknown {
  return keysOf(path).reduce<unknown>((value, key) => (value as Record<string, unknown>)[key], parameters);
}

/** The row of a path that is known to be a number. */
export function numberSpec(path: string): NumberSpec {
  const spec = specOf(path);
  if (spec.kind !== 'number') throw new Error(`${path} isn’t a number`);
  return spec;
}
