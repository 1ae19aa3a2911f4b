import '../../../../testing/provided.ts';
import { expect, inject, it } from 'vitest';
import { sequence } from '../../../../core/src/testing/sequence.ts';

const address = inject('address');
const tuning = (walkSpeed: number) => ({ format: 'zygopod/tuning', version: 2, name: 'Boots at once', pace: { walkSpeed } });

async function send(method: string, path: string, body: unknown, condition: Record<string, string>) {
  const headers = { ...(body === undefined ? {} : { 'content-type': 'application/json' }), ...condition };
  const answer = await fetch(`${address}/api/v1/tunings${path}`, {
    method,
    headers,
    body: body === undefined ? null : JSON.stringify(body),
  });
  const text = await answer.text();
  return { status: answer.status, body: text ? (JSON.parse(text) as Record<string, unknown>) : {} };
}

/** The stored state of a document: its newest revision, and the version (0: none) and file of its draft. */
interface Kept {
  head: number;
  draft: number;
  speed: number;
}

interface Request {
  do: 'put' | 'delete' | 'save';
  /** Version of the draft that the writer has seen. */
  seen: number;
  head: number;
  base: number | undefined;
  speed: number;
}

/** The result of a request on its own: its status, and the state after it. A draft that it creates has version -1: any new one. */
function alone(kept: Kept, { do: kind, seen, head, base, speed }: Request): { status: number; kept: Kept } {
  const refused = (status: number) => ({ status, kept });
  if (kind === 'save') {
    if (head !== kept.head) return refused(409);
    return { status: 201, kept: { ...kept, head: head + 1, draft: kept.draft === seen ? 0 : kept.draft } };
  }
  if (kind === 'delete') {
    if (kept.draft === 0) return refused(404);
    return kept.draft === seen ? { status: 204, kept: { ...kept, draft: 0 } } : refused(409);
  }
  if (kept.draft !== seen) return refused(409);
  if (base !== undefined && base > kept.head) return refused(422);
  if (seen === 0 && base !== undefined && base < kept.head) return refused(409);
  return { status: seen === 0 ? 201 : 200, kept: { ...kept, draft: -1, speed } };
}

const orders = (n: number): number[][] =>
  n === 0
    ? [[]]
    : orders(n - 1).flatMap((order) => Array.from({ length: n }, (_, at) => [...order.slice(0, at), n - 1, ...order.slice(at)]));

it('come to what they would one after the other, in some order, whoever drafts, saves and throws away at once', async () => {
  const next = sequence(20261129);
  const pick = <T>(...of: T[]): T => of[Math.floor(next() * of.length)] as T;
  for (let document = 0; document < 12; document++) {
    const { id } = (await send('POST', '', { file: tuning(100) }, {})).body as { id: string };
    let kept: Kept = { head: 1, draft: 0, speed: 0 };
    const versions = new Set<number>([0]);
    for (let round = 0; round < 12; round++) {
      const requests = Array.from({ length: 3 }, (_, i): Request => {
        const known = pick(kept.draft, kept.draft, kept.draft, pick(...versions));
        const kind = pick('put', 'put', 'put', known > 0 ? 'delete' : 'put', 'save');
        const head = pick(kept.head, kept.head, Math.max(1, kept.head - 1));
        const base = pick(undefined, undefined, kept.head, kept.head + 1, Math.max(1, kept.head - 1));
        return { do: kind, seen: known, head, base, speed: 100 + round * 10 + i };
      });
      const answers = await Promise.all(
        requests.map(({ do: kind, seen, head, base, speed }) => {
          if (kind === 'save')
            return send('POST', `/${id}/revisions`, { file: tuning(speed), draft: `"${seen}"` }, { 'if-match': `"${head}"` });
          const condition: Record<string, string> = seen === 0 ? { 'if-none-match': '*' } : { 'if-match': `"${seen}"` };
          const body = kind === 'put' ? { file: tuning(speed), ...(base === undefined ? {} : { base }) } : undefined;
          return send(kind === 'put' ? 'PUT' : 'DELETE', `/${id}/draft`, body, condition);
        }),
      );
      const statuses = answers.map(({ status }) => status);
      const now = await send('GET', `/${id}/draft`, undefined, {});
      const head = (await send('GET', `/${id}`, undefined, {})).body['head'];
      const outcomes = orders(3).map((order) => {
        let after = kept;
        const found: number[] = [];
        for (const n of order) {
          const one = alone(after, requests[n] as Request);
          found[n] = one.status;
          after = one.kept;
        }
        return { found, after };
      });
      const speed = (now.body['file'] as { pace: { walkSpeed: number } } | undefined)?.pace.walkSpeed;
      const fits = outcomes.find(
        ({ found, after }) =>
          found.every((status, n) => status === statuses[n]) &&
          after.head === head &&
          (after.draft === 0 ? now.status === 404 : now.status === 200 && after.speed === speed),
      );
      expect(fits, JSON.stringify({ kept, requests, statuses, now, head })).toBeDefined();
      const created = answers
        .filter((_, n) => requests[n]?.do === 'put' && (statuses[n] as number) < 300)
        .map(({ body }) => Number(body['version']));
      for (const version of created) {
        expect(versions).not.toContain(version);
        versions.add(version);
      }
      kept = { head: Number(head), draft: now.status === 200 ? Number(now.body['version']) : 0, speed: speed ?? 0 };
    }
  }
});
