/** The description of the API as lines to read. */

interface Schema {
  $ref?: string;
  type?: string | string[];
  format?: string;
  enum?: unknown[];
  const?: unknown;
  anyOf?: Schema[];
  items?: Schema;
  properties?: Record<string, Schema>;
  required?: string[];
  description?: string;
  default?: unknown;
  minimum?: number;
  maximum?: number;
  maxLength?: number;
}

interface Media {
  content?: Record<string, { schema: Schema }>;
}

interface Described {
  operationId: string;
  summary: string;
  tags: string[];
  parameters?: { in: string; name: string; required?: boolean; description?: string; schema: Schema }[];
  requestBody?: Media;
  responses: Record<string, Media & { description: string; headers?: object }>;
}

export interface Description {
  paths: Record<string, Record<string, Described>>;
  components: { schemas: Record<string, Schema> };
}

/** A member of a body or an answer, or a parameter. */
export interface Field {
  name: string;
  kind: string;
  isNeeded: boolean;
  words: string;
}

export interface Answer {
  status: string;
  words: string;
  shape: string;
  isGood: boolean;
  isTagged: boolean;
}

export interface Entry {
  id: string;
  method: string;
  path: string;
  words: string;
  parameters: (Field & { place: string })[];
  body: Field[];
  answers: Answer[];
}

const nameOf = (ref: string) => ref.split('/').at(-1) as string;

/** A type in words: string, whole number from 1, Document, list of Revision, one of … */
export function kindOf(schema: Schema): string {
  if (schema.$ref) return nameOf(schema.$ref);
  if (schema.anyOf) return schema.anyOf.map(kindOf).join(' or ');
  if (schema.enum) return `one of ${schema.enum.map(String).join(', ')}`;
  if (schema.items) return `list of ${kindOf(schema.items)}`;
  if (schema.type === 'integer' || schema.type === 'number') {
    const { minimum, maximum } = schema;
    const isBound = maximum !== undefined && maximum < 2 ** 31 - 1;
    const range = isBound ? ` from ${minimum} to ${maximum}` : minimum !== undefined && minimum > -(2 ** 31) ? ` from ${minimum}` : '';
    return `${schema.type === 'integer' ? 'whole number' : 'number'}${range}`;
  }
  if (schema.format === 'uuid') return 'UUID';
  if (schema.format === 'date-time') return 'time (RFC 3339)';
  if (Array.isArray(schema.type)) return schema.type.join(' or ');
  return schema.type ?? 'anything';
}

/** The members of a schema. */
export function fieldsOf(schema: Schema, components: Description['components']): Field[] {
  const own = schema.$ref ? (components.schemas[nameOf(schema.$ref)] ?? {}) : schema;
  return Object.entries(own.properties ?? {}).map(([name, member]) => ({
    name,
    kind: kindOf(member),
    isNeeded: own.required?.includes(name) ?? false,
    words: member.description ?? '',
  }));
}

/** The reference of each operation, by group, in the order of the description. */
export function entriesOf({ paths, components }: Description): Map<string, Entry[]> {
  const groups = new Map<string, Entry[]>();
  for (const [path, methods] of Object.entries(paths))
    for (const [method, described] of Object.entries(methods)) {
      const { operationId: id, summary: words, tags, parameters = [], requestBody, responses } = described;
      const body = requestBody?.content?.['application/json']?.schema;
      const group = tags[0] as string;
      const entry: Entry = {
        id,
        method: method.toUpperCase(),
        path: `/api/v1${path}`,
        words,
        parameters: parameters.map(({ in: place, name, required, description, schema }) => ({
          place,
          name: place === 'header' ? headerName(name) : name,
          kind: kindOf(schema) + (schema.default === undefined ? '' : `, ${schema.default} when absent`),
          isNeeded: required ?? false,
          words: description ?? schema.description ?? '',
        })),
        body: body ? fieldsOf(body, components) : [],
        answers: Object.entries(responses).map(([status, { description, content = {}, headers }]) => {
          const [schema] = Object.values(content).map((media) => media.schema);
          return {
            status,
            words: description,
            shape: schema ? kindOf(schema) : '',
            isGood: status < '400',
            isTagged: headers !== undefined,
          };
        }),
      };
      groups.set(group, [...(groups.get(group) ?? []), entry]);
    }
  return groups;
}

const headerName = (name: string) => name.replace(/(^|-)\w/g, (letter) => letter.toUpperCase());
