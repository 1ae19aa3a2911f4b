import { z } from 'zod';
import type { Format } from '../document/document.ts';
import { catalogue, unitOf } from './catalogue/catalogue.ts';
import { type Group, isWhole, type Link, type Spec } from './catalogue/specs.ts';

/** A value as a file may hold it: a number may be a link. */
export type FileValue = number | Link | string | boolean | readonly string[] | readonly (readonly [number, number])[];

/** The sparse content of a file below its header: only values that differ from the defaults. */
export type Overrides = { readonly [name: string]: FileValue | Overrides };

/** A tuning as it stands in a file. */
export interface TuningFile {
  format: 'zygopod/tuning';
  version: 2;
  name: string;
  unit: 'px' | 'm';
  [group: string]: FileValue | Overrides;
}

const link = z
  .strictObject({ of: z.string().max(100), times: z.number().optional(), plus: z.number().optional() })
  .describe('Follows another number: value(of) × times + plus');

function valueSchema(spec: Spec): z.ZodType {
  switch (spec.kind) {
    case 'number':
      return z.union([(isWhole(spec) ? z.int() : z.number()).min(spec.min).max(spec.max), link]);
    case 'choice':
      return choiceSchema(spec.options as [string, ...string[]]);
    case 'set':
      return z.array(z.enum(spec.options as [string, ...string[]])).max(spec.options.length);
    case 'flag':
      return z.boolean();
    case 'curve':
      return z
        .array(z.tuple([z.number().min(0).max(1), z.number().min(spec.min).max(spec.max)]))
        .min(2)
        .max(16)
        .refine((points) => points.every((point, i) => i === 0 || point[0] > (points[i - 1]?.[0] ?? 0)), 'points whose first numbers rise')
        .refine((points) => points[0]?.[0] === 0 && points.at(-1)?.[0] === 1, 'points from 0 to 1');
  }
}

/** One of the options; those that are numbers (`"8"`) can be written as such (`8`). */
function choiceSchema(options: [string, ...string[]]): z.ZodType {
  const numbers = options.filter((option) => String(Number(option)) === option).map(Number);
  if (numbers.length === 0) return z.enum(options);
  return z.union([z.enum(options), z.literal(numbers).transform(String)]);
}

/** The description of a row in its schema, for those who write files by it. */
function annotations(spec: Spec): Record<string, unknown> {
  const unit = spec.kind === 'number' && unitOf(spec.quantity, 'px');
  return { title: spec.label, description: spec.help, default: spec.default, ...(unit ? { unit } : {}) };
}

function groupSchema(group: Group): Record<string, z.ZodType> {
  return Object.fromEntries(
    Object.entries(group).map(([name, entry]) => {
      if (typeof entry['kind'] !== 'string') return [name, z.strictObject(groupSchema(entry as Group)).optional()];
      const spec = entry as Spec;
      return [name, valueSchema(spec).optional().meta(annotations(spec))];
    }),
  );
}

/** Version 1 called the contacts in a tick `maxSlides`. */
function namedContactsPerTick(old: Record<string, unknown>): Record<string, unknown> {
  const { contact } = old;
  if (typeof contact !== 'object' || contact === null || !Object.hasOwn(contact, 'maxSlides')) return { ...old, version: 2 };
  const { maxSlides, ...rest } = contact as Record<string, unknown>;
  return { ...old, version: 2, contact: { contactsPerTick: maxSlides, ...rest } };
}

/** The tuning format: header, then the catalogue's groups, each sparse. */
export const tuningFormat: Format<TuningFile> = {
  format: 'zygopod/tuning',
  version: 2,
  migrations: [namedContactsPerTick],
  schema: z.strictObject({
    format: z.literal('zygopod/tuning'),
    version: z.literal(2),
    name: z.string().trim().min(1).max(120),
    unit: z.enum(['px', 'm']).default('px'),
    // What the catalogue's rows allow is known as the program runs, not as it is compiled.
    ...groupSchema(catalogue),
  }) as z.ZodType<TuningFile>,
};
