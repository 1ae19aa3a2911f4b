import { existsSync, mkdtempSync, readFileSync, statSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { beforeEach, describe, expect, it } from 'vitest';
import { Lock, runningNow } from './lock.ts';

let folder: string;
let said: string[];
const say = (line: string) => said.push(line);
const path = () => join(folder, 'up.pid');
const written = () => JSON.parse(readFileSync(path(), 'utf8')) as { pid: number; started: string; address?: string };

beforeEach(() => {
  folder = join(mkdtempSync(join(tmpdir(), 'zygopod-lock-')), 'state');
  said = [];
});

describe('the lock of a folder', () => {
  it('names the process that holds it, and is gone when it is released', async () => {
    const lock = new Lock(folder);
    await lock.take(folder, say);
    expect(written()).toEqual(runningNow(process.pid));
    expect([statSync(folder).mode & 0o777, statSync(path()).mode & 0o777]).toEqual([0o700, 0o600]);
    lock.record({ address: 'http://127.0.0.1:4380' });
    expect(written()).toMatchObject({ pid: process.pid, address: 'http://127.0.0.1:4380' });
    lock.release();
    expect(existsSync(path())).toBe(false);
    expect(said).toEqual([]);
  });

  it('is not given to another as long as its holder lives', async () => {
    const first = new Lock(folder);
    await first.take(folder, say);
    first.record({ address: 'http://127.0.0.1:4380' });
    await expect(new Lock(folder).take(folder, say)).rejects.toThrow(
      `Zygopod is running already on http://127.0.0.1:4380 (process ${process.pid}).`,
    );
  });

  it.each([
    ['a process that is no more', { pid: 2 ** 22 + 1, started: '1' }],
    ['one whose number another has by now', { ...runningNow(process.pid), started: '1' }],
  ])('is taken over from %s', async (_, held) => {
    await new Lock(folder).take(folder, say);
    writeFileSync(path(), JSON.stringify(held));
    await new Lock(folder).take(folder, say);
    expect(said).toEqual([`An earlier run (process ${held.pid}) was killed; taking over its processes.`]);
    expect(written()).toEqual(runningNow(process.pid));
  });

  it.each(['', '17\nhttp://127.0.0.1:4380\n', '{"pid":"x"}', 'null'])(
    'is taken where the file says nothing that can be read: %j',
    async (text) => {
      await new Lock(folder).take(folder, say);
      writeFileSync(path(), text);
      await new Lock(folder).take(folder, say);
      expect([said, written().pid]).toEqual([[], process.pid]);
    },
  );

  it('waits for the one that clears up what a killed run has left', async () => {
    await new Lock(folder).take(folder, say);
    // This very process stands for a sweeper that still works: it is waited for, but not forever.
    writeFileSync(path(), JSON.stringify({ pid: 2 ** 22 + 1, started: '1', sweeper: runningNow(process.pid) }));
    const begun = performance.now();
    await new Lock(folder, 300).take(folder, say);
    expect(performance.now() - begun).toBeGreaterThan(250);
    expect(written().pid).toBe(process.pid);
  });
});
