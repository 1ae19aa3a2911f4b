// @vitest-environment jsdom
import { useEffect } from 'react';
import { afterEach, beforeEach, expect, it, vi } from 'vitest';
import { fakeServer, type Sent } from '../../testing/fakeServer.ts';
import { type Mounted, mount } from '../../testing/mount.tsx';
import { DocumentFinder } from './DocumentFinder.tsx';

const names = ['Ferry lap', 'Gap run', 'Out and back'];
let sent: Sent[];
let went: string[];
let page: Mounted;

/** A picture of which something has to be said: one in two does not fit. */
function Picture({ id, remark }: { id: string; remark(words: string | null): void }) {
  // biome-ignore lint/correctness/useExhaustiveDependencies: said once
  useEffect(() => remark(Number(id) % 2 ? 'driven elsewhere' : null), [id]);
  return null;
}

beforeEach(async () => {
  went = [];
  sent = fakeServer(({ query }) => ({
    body: {
      items: names
        .map((name, i) => ({ id: String(i), name, head: i + 1, updatedAt: '2026-01-01T00:00:00Z' }))
        .filter(({ name }) => name.toLowerCase().includes((query['q'] ?? '').toLowerCase())),
      next: null,
    },
  }));
  page = await mount(
    <DocumentFinder
      title="Tape"
      collection="tapes"
      actions={[]}
      picture={(id, remark) => <Picture id={id} remark={remark} />}
      go={(id) => went.push(id)}
      close={() => undefined}
    />,
  );
  await vi.waitFor(() => expect(options()).toHaveLength(3));
});
afterEach(async () => {
  await page.unmount();
  vi.unstubAllGlobals();
});

const options = () => [...document.body.querySelectorAll('[role=option]')];

it('opens the document that the arrows lead to, and goes no further than the ends', async () => {
  await page.press(/Find a tape/, 'ArrowUp');
  await page.press(/Find a tape/, 'ArrowDown');
  expect(options().map((one) => one.getAttribute('aria-selected'))).toEqual(['false', 'true', 'false']);
  for (let i = 0; i < 5; i++) await page.press(/Find a tape/, 'ArrowDown');
  await page.press(/Find a tape/, 'Enter');
  expect(went).toEqual(['2']);
});

it('finds by a part of the name, beginning with the first that is found', async () => {
  await page.press(/Find a tape/, 'ArrowDown');
  await page.type(/Find a tape/, 'out');
  await vi.waitFor(() => expect(options()).toHaveLength(1));
  await page.press(/Find a tape/, 'Enter');
  expect(went).toEqual(['2']);
  expect(sent.at(-1)?.query['q']).toBe('out');
});

it('says what there is to say of a document, and greys it', async () => {
  await vi.waitFor(() => expect(options()[1]?.textContent).toContain('driven elsewhere'));
  expect(options().map((one) => one.className.includes('text-ink-soft'))).toEqual([false, true, false]);
});

it('says why there is no list', async () => {
  await page.unmount();
  fakeServer(() => ({ status: 503, body: { title: 'The database is away' } }));
  page = await mount(<DocumentFinder title="Tape" collection="tapes" actions={[]} go={() => undefined} close={() => undefined} />);
  await vi.waitFor(() => expect(document.body.querySelector('[role=alert]')?.textContent).toContain('The database is away.'));
});
