import { z } from 'zod';
import { groundFormat } from '../ground/ground.ts';
import { projectFormat } from '../project/project.ts';
import { tapeFormat } from '../tape/tape.ts';
import { targetsFormat } from '../targets/targets.ts';
import { tuningFormat } from '../tuning/schema.ts';

const formats = { tuning: tuningFormat, ground: groundFormat, tape: tapeFormat, targets: targetsFormat, project: projectFormat };

/** Keeps the default that a schema tells of itself, which is left out otherwise where writing and reading differ. */
function keepDefault({ zodSchema, jsonSchema }: { zodSchema: z.core.$ZodTypes; jsonSchema: Record<string, unknown> }): void {
  const told = z.globalRegistry.get(zodSchema)?.['default'];
  if (told !== undefined) jsonSchema['default'] = told;
}

/** The JSON Schema (2020-12) of a file format, as a writer of such files needs it: what has a default may be left out. */
export function jsonSchema(kind: keyof typeof formats): Record<string, unknown> {
  return {
    ...z.toJSONSchema(formats[kind].schema, { target: 'draft-2020-12', io: 'input', override: keepDefault }),
    title: `Zygopod ${kind}, version ${formats[kind].version}`,
  };
}
