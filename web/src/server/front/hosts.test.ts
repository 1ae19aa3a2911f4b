import { describe, expect, it } from 'vitest';
import { isKnownHost } from './hosts.ts';

describe('a host', () => {
  it.each(['localhost', 'localhost:4600', '127.0.0.1:80', 'LOCALHOST:1', '[::1]', '[::1]:4600', '192.168.0.7:4600', 'studio.local:4600'])(
    'is known: %s',
    (host) => {
      expect(isKnownHost(host, 'studio.local')).toBe(true);
    },
  );

  it.each([
    null,
    '',
    'evil.example',
    'evil.example:4600',
    'localhost.evil.example',
    '127.0.0.1.evil.example',
    'localhost:80:80',
    'a b',
    '[::1',
    '1.2.3.4.5',
    '127.0.0.1:99999',
    '999.0.0.1',
    '[::::]',
    '[1:2]',
  ])('is not: %s', (host) => {
    expect(isKnownHost(host, 'studio.local')).toBe(false);
  });
});
