import type { TuningFile } from '@zygopod/core';

interface Draft {
  file: TuningFile;
  version: number;
  base: number;
}

/** How a request meets the server: answered; refused by the network; without an answer, done or not; or answered late. */
export type Network = 'online' | 'offline' | 'lost' | 'frozen' | 'slow' | 'failing';

/** One tuning on a server, as the API keeps it (docs/api.md), in memory: an oracle for what pages do with their drafts. */
export class ModelServer {
  revisions: TuningFile[];
  draft: Draft | null = null;
  drafted = 0;
  isArchived = false;

  constructor(file: TuningFile) {
    this.revisions = [file];
  }

  get head(): number {
    return this.revisions.length;
  }

  /** The initial data of a page. */
  opened() {
    const { draft, head } = this;
    const saved = this.revisions.at(-1) as TuningFile;
    return { id: 'doc', head, saved, draft: draft && { ...draft, from: this.revisions[draft.base - 1] as TuningFile } };
  }

  answer(method: string, path: string, headers: Record<string, string>, body: unknown): { status: number; body: unknown } {
    if (this.isArchived) return { status: 404, body: { title: 'Archived', putAwayAt: '2026-05-12T18:00:00Z' } };
    const seen = headers['if-none-match'] === '*' ? 0 : Number((headers['if-match'] ?? '').replaceAll('"', ''));
    const { head } = this;
    const file = this.revisions.at(-1);
    if (method === 'GET' && path === '') return { status: 200, body: { head, file } };
    if (method === 'GET' && path === '/draft')
      return this.draft ? { status: 200, body: this.draft } : { status: 404, body: { title: 'None' } };
    if (method === 'GET') return { status: 200, body: { file: this.revisions[Number(path.split('/').at(-1)) - 1] } };
    if (method === 'PUT') return this.putDraft(body as { file: TuningFile; base: number }, seen);
    const { file: created, draft } = body as { file: TuningFile; draft?: string };
    if (seen !== head) return { status: 409, body: { current: { file, number: head } } };
    this.revisions.push(created);
    if (this.draft && draft === `"${this.draft.version}"`) this.draft = null;
    return { status: 201, body: { number: this.head, draft: this.draft } };
  }

  private putDraft({ file, base }: { file: TuningFile; base: number }, seen: number): { status: number; body: unknown } {
    if ((this.draft?.version ?? 0) !== seen) return { status: 409, body: { current: this.draft } };
    if (!this.draft && base < this.head) return { status: 409, body: { current: null } };
    this.draft = { file, base, version: ++this.drafted };
    return { status: 200, body: { version: this.drafted } };
  }
}
