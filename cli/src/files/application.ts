import { setTimeout as pause } from 'node:timers/promises';
import { collectionOf, type DocumentKind, type KeptSource, readAny } from '@zygopod/core';

/** A document as the application lists it. */
export interface Listed {
  id: string;
  kind: DocumentKind;
  name: string;
  head: number;
  /** Hash of its newest revision. */
  hash: string;
}

/** A hand-off with a place in the folder, from the application's answer. */
export interface Standing {
  tuning: { id: string; revision: number; name: string };
  to: string;
  units: string;
  style?: string;
  all?: boolean;
  path: string;
}

/** A game's source that is linked to a file of the folder, as the application keeps it with a tuning. */
export interface LinkedSource {
  document: string;
  version: number;
  path: string;
  source: KeptSource;
}

export interface ProjectHead {
  id: string;
  name: string;
  unit: 'px' | 'm';
  names: Record<string, string>;
  /** Counts the changes of these. */
  version: number;
}

/** Somebody else was faster. */
export class Overtaken extends Error {}

/** The application refuses a document; the others go on. */
export class Refused extends Error {}

/** The application cannot be reached, or answers that it cannot. */
export class Away extends Error {}

/** Requests of one kind in a row that meet others who are writing the same. */
const TRIES = 4;

/** A client of a running application's API. */
export class Application {
  readonly address: string;
  readonly #token: string | undefined;

  constructor(address: string, token = process.env['ZYGOPOD_TOKEN']) {
    this.address = address;
    this.#token = token;
  }

  async #ask(method: string, path: string, body?: unknown, headers: Record<string, string> = {}, tries = TRIES): Promise<unknown> {
    let response: Response;
    try {
      response = await fetch(`${this.address}/api/v1${path}`, {
        method,
        headers: {
          ...(body === undefined ? {} : { 'content-type': 'application/json' }),
          ...(this.#token ? { authorization: `Bearer ${this.#token}` } : {}),
          ...headers,
        },
        body: body === undefined ? null : JSON.stringify(body),
        signal: AbortSignal.timeout(30_000),
      });
    } catch (error) {
      throw new Away(`the application cannot be reached: ${error instanceof Error ? error.message : error}`);
    }
    const problem = (await response.json().catch(() => ({}))) as { title?: string };
    if (response.ok) return problem;
    // Others were writing the same: nothing was saved, and it may be sent again in a moment.
    if (response.status === 503 && response.headers.get('retry-after') === '1' && tries > 1) {
      await pause(1000);
      return this.#ask(method, path, body, headers, tries - 1);
    }
    if (response.status === 409 || response.status === 404) throw new Overtaken(problem.title ?? `the server answered ${response.status}`);
    if ([400, 413, 422].includes(response.status)) throw new Refused(problem.title ?? `the server answered ${response.status}`);
    throw new Away(`${path}: ${problem.title ?? `the server answered ${response.status}`}`);
  }

  async projects(): Promise<ProjectHead[]> {
    const found: ProjectHead[] = [];
    for (let next: string | null = ''; next !== null; ) {
      const page = (await this.#ask('GET', `/projects${next ? `?after=${next}` : ''}`)) as { items: ProjectHead[]; next: string | null };
      found.push(...page.items);
      next = page.next;
    }
    return found;
  }

  async project(id: string): Promise<ProjectHead> {
    return (await this.#ask('GET', `/projects/${id}`)) as ProjectHead;
  }

  async createProject(values: Partial<ProjectHead> & { name: string }): Promise<ProjectHead> {
    return (await this.#ask('POST', '/projects', values)) as ProjectHead;
  }

  /** Changes a project in its known version. Throws `Overtaken` if somebody was faster. */
  async changeProject(
    { id, version }: Pick<ProjectHead, 'id' | 'version'>,
    values: Partial<Pick<ProjectHead, 'name' | 'unit' | 'names'>>,
  ): Promise<void> {
    await this.#ask('PUT', `/projects/${id}`, values, { 'if-match': `"${version}"` });
  }

  /** The hand-offs of a project that have a place in its folder, the newest of each place. */
  async standing(project: string): Promise<Standing[]> {
    return ((await this.#ask('GET', `/projects/${project}/handoffs`)) as { items: Standing[] }).items;
  }

  /** The sources of a project's tunings that are linked to files of its folder. */
  async linkedSources(project: string): Promise<LinkedSource[]> {
    return ((await this.#ask('GET', `/projects/${project}/sources`)) as { items: LinkedSource[] }).items;
  }

  /** Replaces the known version of a linked source. Throws `Overtaken` if somebody was faster. */
  async keepSource({ document, version, path }: LinkedSource, source: KeptSource): Promise<LinkedSource> {
    return (await this.#ask('PUT', `/tunings/${document}/source`, { source, path }, { 'if-match': `"${version}"` })) as LinkedSource;
  }

  /** All documents in use of a project. */
  async list(project: string): Promise<Listed[]> {
    const found: Listed[] = [];
    for (let next: string | null = ''; next !== null; ) {
      const query: string = `?limit=200&sort=made${next ? `&after=${next}` : ''}`;
      const page = (await this.#ask('GET', `/projects/${project}/shelf${query}`)) as {
        items: (Omit<Listed, 'hash'> & { revisions: { number: number; hash: string }[] })[];
        next: string | null;
      };
      for (const { id, kind, name, head, revisions } of page.items)
        found.push({ id, kind, name, head, hash: revisions.find(({ number }) => number === head)?.hash ?? '' });
      next = page.next;
    }
    return found;
  }

  /** The file of a revision, in the newest version of its format; null if it cannot be read. */
  async file({ id, kind }: Pick<Listed, 'id' | 'kind'>, revision: number): Promise<{ name: string } | null> {
    const { file } = (await this.#ask('GET', `/${collectionOf(kind)}/${id}/revisions/${revision}`)) as { file: unknown };
    const read = readAny(file);
    const member = read.ok ? read.value.members[0] : undefined;
    return member?.reading.ok ? member.reading.value : null;
  }

  async create(project: string, kind: DocumentKind, file: object, note: string): Promise<{ id: string }> {
    return (await this.#ask('POST', `/${collectionOf(kind)}?project=${project}`, { file, note })) as { id: string };
  }

  /** Saves a revision on top of `head`; gives its number. Throws `Overtaken` where somebody was faster. */
  async save({ id, kind }: Pick<Listed, 'id' | 'kind'>, head: number, file: object, note: string): Promise<number> {
    const saved = await this.#ask('POST', `/${collectionOf(kind)}/${id}/revisions`, { file, note }, { 'if-match': `"${head}"` });
    return (saved as { number: number }).number;
  }

  async archive({ id, kind, head }: Pick<Listed, 'id' | 'kind' | 'head'>): Promise<void> {
    await this.#ask('DELETE', `/${collectionOf(kind)}/${id}`, undefined, { 'if-match': `"${head}"` });
  }

  async restore({ id, kind }: Pick<Listed, 'id' | 'kind'>): Promise<void> {
    await this.#ask('POST', `/${collectionOf(kind)}/${id}/back`);
  }

  /** Hears of changes until `over`; calls `hear` at each, and once it listens. Ends where the connection does. */
  async listen(hear: () => void, over: AbortSignal): Promise<void> {
    const response = await fetch(`${this.address}/api/v1/changes`, {
      headers: this.#token ? { authorization: `Bearer ${this.#token}` } : {},
      signal: over,
    });
    if (!response.ok || !response.body) throw new Away(`the server answered ${response.status}`);
    const decoder = new TextDecoder();
    for await (const chunk of response.body as unknown as AsyncIterable<Uint8Array>)
      if (/^(event: (change|look)|: listening)/m.test(decoder.decode(chunk, { stream: true }))) hear();
  }
}
