import { beforeEach, describe, expect, it, vi } from 'vitest';
import { endTrouble, lastTrouble, noteTrouble } from './trouble.ts';

const coded = (code: string) => new Error('a statement failed', { cause: Object.assign(new Error('inside'), { code }) });

beforeEach(endTrouble);

describe('trouble with a database that answers', () => {
  it.each([
    ['53100', 'full'],
    ['58030', 'full'],
    ['25006', 'readOnly'],
    ['53300', null],
    ['23505', null],
  ])('%s is %s', (code, trouble) => {
    expect(noteTrouble(coded(code))).toBe(trouble);
    expect(lastTrouble()).toBe(trouble);
  });

  it('is a full disk where a new connection has no space for its file', () => {
    expect(noteTrouble(Object.assign(new Error('could not write init file'), { code: 'XX000' }))).toBe('full');
    expect(noteTrouble(Object.assign(new Error('unexpected chunk number'), { code: 'XX000' }))).toBeNull();
  });

  it('is forgotten when a write succeeds, and after a while by itself', () => {
    noteTrouble(coded('53100'));
    endTrouble();
    expect(lastTrouble()).toBeNull();
    noteTrouble(coded('25006'));
    const now = performance.now();
    const clock = vi.spyOn(performance, 'now').mockReturnValue(now + 60_000);
    expect(lastTrouble()).toBeNull();
    clock.mockRestore();
  });
});
