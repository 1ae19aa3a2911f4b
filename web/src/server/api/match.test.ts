import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { Matcher } from './match.ts';
import type { Operation } from './operation.ts';

const operation = (method: Operation['method'], path: string): Operation => ({
  method,
  path,
  name: `${method} ${path}`,
  words: '',
  answers: {},
  run: async () => new Response(),
});

const matcher = new Matcher([
  operation('GET', '/{kind}'),
  operation('POST', '/{kind}'),
  operation('GET', '/health'),
  operation('GET', '/openapi.json'),
  operation('DELETE', '/{kind}/{id}'),
  operation('GET', '/{kind}/{id}/draft'),
]);
const found = (path: string) => {
  const match = matcher.find(path);
  return match && { methods: [...match.methods.keys()], values: match.values };
};

describe('a path of the API', () => {
  it('has all the methods of its operations, and its parameters by name', () => {
    expect(found('/boats')).toEqual({ methods: ['GET', 'POST'], values: { kind: 'boats' } });
    expect(found('/boats/7/draft')).toEqual({ methods: ['GET'], values: { kind: 'boats', id: '7' } });
  });

  it('in plain words comes before one with parameters', () => {
    expect(found('/health')?.values).toEqual({});
  });

  it('may end with a slash, and is nothing where a part is missing or too many', () => {
    expect(found('/boats/7/')).toEqual({ methods: ['DELETE'], values: { kind: 'boats', id: '7' } });
    for (const path of ['', '/', '//', '/boats//draft', '/boats/7/draft/x']) expect(found(path)).toBeNull();
  });

  it('takes a point for a point', () => {
    expect(found('/openapiXjson')).toEqual({ methods: ['GET', 'POST'], values: { kind: 'openapiXjson' } });
  });

  it('gives back whatever stands in the place of its parameters', () => {
    const part = fc.string({ minLength: 1 }).filter((text) => !/[/\n]/.test(text));
    fc.assert(
      fc.property(part, part, (kind, id) => {
        expect(found(`/${kind}/${id}/draft`)?.values).toEqual({ kind, id });
      }),
    );
  });
});
