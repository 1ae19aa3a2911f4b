import { describe, expect, it } from 'vitest';
import { type Description, entriesOf, fieldsOf, kindOf } from './reference.ts';

describe('a type in words', () => {
  it.each([
    [{ type: 'string' }, 'string'],
    [{ type: 'string', format: 'uuid' }, 'UUID'],
    [{ type: 'integer', minimum: 1, maximum: 200 }, 'whole number from 1 to 200'],
    [{ type: 'integer', minimum: 1, maximum: Number.MAX_SAFE_INTEGER }, 'whole number from 1'],
    [{ type: 'number' }, 'number'],
    [{ enum: ['a', 'b'] }, 'one of a, b'],
    [{ type: 'array', items: { $ref: '#/components/schemas/Revision' } }, 'list of Revision'],
    [{ anyOf: [{ type: 'string' }, { type: 'null' }] }, 'string or null'],
    [{}, 'anything'],
  ])('%o', (schema, words) => {
    expect(kindOf(schema)).toBe(words);
  });
});

it('an operation is listed by its group, with parameters, body and answers', () => {
  const description: Description = {
    paths: {
      '/boats/{id}': {
        put: {
          operationId: 'moor',
          summary: 'Moors a boat',
          tags: ['Boats'],
          parameters: [{ in: 'header', name: 'if-match', required: true, schema: { type: 'string' } }],
          requestBody: { content: { 'application/json': { schema: { $ref: '#/components/schemas/Boat' } } } },
          responses: {
            204: { description: 'Moored' },
            404: { description: 'No boat', content: { 'application/problem+json': { schema: {} } } },
          },
        },
      },
    },
    components: {
      schemas: {
        Boat: { properties: { name: { type: 'string', description: 'At the bow' }, oars: { type: 'integer' } }, required: ['name'] },
      },
    },
  };
  const [entry] = entriesOf(description).get('Boats') ?? [];
  expect(entry).toMatchObject({
    id: 'moor',
    method: 'PUT',
    path: '/api/v1/boats/{id}',
    parameters: [{ name: 'If-Match', place: 'header', isNeeded: true }],
  });
  expect(entry?.body).toEqual(fieldsOf({ $ref: '#/components/schemas/Boat' }, description.components));
  expect(entry?.body).toEqual([
    { name: 'name', kind: 'string', isNeeded: true, words: 'At the bow' },
    { name: 'oars', kind: 'whole number', isNeeded: false, words: '' },
  ]);
  expect(entry?.answers.map(({ status, isGood }) => [status, isGood])).toEqual([
    ['204', true],
    ['404', false],
  ]);
});
