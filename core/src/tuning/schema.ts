import { z } from 'zod';
import type { Format } from '../formats/document.ts';
import { catalogue } from './catalogue/catalogue.ts';
import type { Group, Link, Spec } from './catalogue/specs.ts';

/** A value as a file may hold it: a number may be a link. */
export type FileValue = number | Link | string | boolean | readonly string[] | readonly (readonly [number, number])[];

/** The sparse contents of a file below its header: only what differs from the defaults. */
export type Overrides = { readonly [name: string]: FileValue | Overrides };

/** A tuning as it stands in a file. */
export interface TuningFile {
  format: 'zygopod/tuning';
  version: 1;
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
      return z.union([z.number().min(spec.min).max(spec.max), link]);
    case 'choice':
      return z.enum(spec.options as [string, ...string[]]);
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

function groupSchema(group: Group): Record<string, z.ZodType> {
  return Object.fromEntries(
    Object.entries(group).map(([name, entry]) => {
      if (typeof entry['kind'] !== 'string') return [name, z.strictObject(groupSchema(entry as Group)).optional()];
      const spec = entry as Spec;
      return [name, valueSchema(spec).describe(spec.help).optional()];
    }),
  );
}

/** The tuning format: header, then the catalogue's groups, each sparse. */
export const tuningFormat: Format = {
  format: 'zygopod/tuning',
  version: 1,
  migrations: [],
  schema: z.strictObject({
    format: z.literal('zygopod/tuning'),
    version: z.literal(1),
    name: z.string().trim().min(1).max(120),
    unit: z.enum(['px', 'm']).default('px'),
    ...groupSchema(catalogue),
  }),
};
