import { z } from 'zod';
import type { Format } from '../document/document.ts';
import { type DocumentKind, documentKinds, kindNames } from '../project/kinds.ts';
import { projectFormat } from '../project/project.ts';

/** The names of the file formats: the kinds of document, and the project. */
export const formatNames = [...kindNames, 'project'] as const satisfies readonly (DocumentKind | 'project')[];
type FormatName = (typeof formatNames)[number];

const formatCalled = (name: FormatName): Format => (name === 'project' ? projectFormat : documentKinds[name].format);

/** Keeps a schema's default, which is left out otherwise where writing and reading differ. */
function keepDefault({ zodSchema, jsonSchema }: { zodSchema: z.core.$ZodTypes; jsonSchema: Record<string, unknown> }): void {
  const value = z.globalRegistry.get(zodSchema)?.['default'];
  if (value !== undefined) jsonSchema['default'] = value;
}

/** The JSON Schema (2020-12) of a file format, as a writer of such files needs it: what has a default may be left out. */
export function jsonSchema(name: FormatName): Record<string, unknown> {
  const { schema, version } = formatCalled(name);
  return {
    ...z.toJSONSchema(schema, { target: 'draft-2020-12', io: 'input', override: keepDefault }),
    title: `Zygopod ${name}, version ${version}`,
  };
}
