import Ajv2020, { type ValidateFunction } from 'ajv/dist/2020.js';
import addFormats from 'ajv-formats';
import { expect } from 'vitest';

interface Answers {
  responses: Record<string, { content?: Record<string, { schema: object }>; headers?: object }>;
}
interface Description {
  openapi: string;
  paths: Record<string, Record<string, Answers>>;
}

/** A running application held to what its API says of itself. */
export class Described {
  readonly address: string;
  description!: Description;
  /** Answers that were seen: `GET /projects 200`. */
  readonly seen = new Set<string>();
  readonly #ajv = new Ajv2020({ strict: false, allErrors: true });
  readonly #validators = new Map<string, ValidateFunction>();

  constructor(address: string) {
    this.address = address;
  }

  async load(): Promise<void> {
    this.description = (await (await fetch(`${this.address}/api/v1/openapi.json`)).json()) as Description;
    addFormats.default(this.#ajv);
    this.#ajv.addSchema({ $id: 'api', ...this.description });
  }

  /** The faults of a value by the schema at this place of the description. */
  faultsOf(path: string, method: string, status: number, type: string, value: unknown): unknown {
    const at = ['paths', path, method, 'responses', String(status), 'content', type, 'schema'];
    const pointer = at.map((key) => encodeURIComponent(key.replaceAll('~', '~0').replaceAll('/', '~1'))).join('/');
    const validate = this.#validators.get(pointer) ?? this.#ajv.compile({ $ref: `api#/${pointer}` });
    this.#validators.set(pointer, validate);
    return validate(value) ? [] : validate.errors;
  }

  /** Asks, and holds the answer to what is written of it. */
  async ask(
    method: string,
    path: string,
    values: Record<string, string>,
    expected: number,
    { body, headers = {}, query = '' }: { body?: unknown; headers?: Record<string, string>; query?: string } = {},
  ): Promise<{ value: Record<string, unknown>; headers: Headers }> {
    const url = path.replace(/\{(\w+)\}/g, (_, name: string) => values[name] as string);
    const answer = await fetch(`${this.address}/api/v1${url}${query}`, {
      method,
      headers: body === undefined ? headers : { 'content-type': 'application/json', ...headers },
      body: body === undefined ? null : typeof body === 'string' ? body : JSON.stringify(body),
    });
    const text = await answer.text();
    expect([answer.status, text.slice(0, 300)]).toEqual([expected, expect.anything()]);
    const described = this.description.paths[path]?.[method.toLowerCase()]?.responses[String(expected)];
    expect(described, `${method} ${path} ${expected} is described`).toBeDefined();
    this.seen.add(`${method} ${path} ${expected}`);
    const type = Object.keys(described?.content ?? {})[0];
    const value = text === '' ? {} : type === 'text/csv' ? { text } : (JSON.parse(text) as Record<string, unknown>);
    if (type) expect(this.faultsOf(path, method.toLowerCase(), expected, type, type === 'text/csv' ? text : value)).toEqual([]);
    else expect(text).toBe('');
    if (described?.headers) expect(answer.headers.get('etag')).toMatch(/^"/);
    return { value, headers: answer.headers };
  }

  /** Opens a stream of events, reads until there are some words, and closes it again. */
  async hears(path: string, url: string, words: string): Promise<void> {
    const over = new AbortController();
    const answer = await fetch(`${this.address}/api/v1${url}`, { signal: over.signal });
    expect([answer.status, answer.headers.get('content-type')]).toEqual([200, 'text/event-stream']);
    this.seen.add(`GET ${path} 200`);
    const reader = (answer.body as ReadableStream<Uint8Array>).getReader();
    let heard = '';
    while (!heard.includes(words)) heard += new TextDecoder().decode((await reader.read()).value);
    over.abort();
  }
}
