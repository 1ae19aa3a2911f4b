import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import Ajv2020 from 'ajv/dist/2020.js';
import addFormats from 'ajv-formats';
import { describe, expect, it } from 'vitest';
import { seeds } from '../testing/campaign.ts';
import { sequence } from '../testing/sequence.ts';
import { abilityFor, LARGEST_MESSAGE, linkRequest, linkSchema, readGameMessage, serverMessage } from './messages.ts';

const hello = { type: 'hello', protocol: 1, game: 'Letter run', hz: 60, columns: ['tick', 'x'] };
const session = '00000000-0000-4000-8000-000000000000';
/** The messages of the documentation, from both sides. */
const games = [
  {
    ...hello,
    session,
    build: '88',
    unit: 'px',
    yUp: false,
    parameters: [{ name: 'walk_speed', path: 'pace.walkSpeed', value: 140, min: 0, max: 400 }],
    can: ['set', 'restart', 'place', 'pause', 'tape'],
  },
  hello,
  { type: 'rows', rows: [[0, 1]], hands: [{ at: 0, press: 'right' }] },
  { type: 'done', id: 7, tick: 5012 },
  { type: 'refused', id: 7, name: 'walk_speed', why: 'not below 0' },
  { type: 'bye' },
];
const requests = [
  { type: 'set', values: { walk_speed: 150 } },
  { type: 'restart' },
  { type: 'pause' },
  { type: 'run' },
  { type: 'step' },
  { type: 'place', x: 1, y: 2 },
  { type: 'tape', hands: [{ at: 3, release: 'right' }], ticks: 20 },
];

describe('the messages of the link', () => {
  it('are read as they are documented, and a broken one says where', () => {
    for (const message of games) expect(readGameMessage(JSON.stringify(message)), message.type).toHaveProperty('message');
    for (const request of requests) {
      const read = linkRequest.parse(request);
      expect(serverMessage.parse({ ...request, id: 3 })).toEqual({ ...read, id: 3 });
      expect(['set', 'restart', 'pause', 'place', 'tape']).toContain(abilityFor(read));
    }
    const faultOf = (message: unknown) => {
      const read = readGameMessage(JSON.stringify(message));
      return 'fault' in read ? read.fault : '';
    };
    expect(faultOf({ ...hello, hz: 0 })).toMatch(/^hz: /);
    expect(faultOf({ ...hello, columns: ['tick', 'x', 'x'] })).toBe('columns: each column once');
    expect(faultOf({ ...hello, parameters: [1, 2].map(() => ({ name: 'walk', value: 1 })) })).toBe('parameters: each name once');
    expect(faultOf({ type: 'rows', rows: [], hands: [{ at: 0, press: 'up', release: 'up' }] })).toMatch(/^hands\.0: at and just one/);
    expect(faultOf({ type: 'jump' })).toMatch(/^type: /);
    expect(faultOf([])).not.toBe('');
  });

  it('never fail to be read or refused, whatever they are: mutated at random', () => {
    const pieces = ['null', '{', '}', '[', ']', '"', ',', ':', '1e999', '-', '"type"', '"hello"', '\\u0000', '__proto__', '9e9', '𝄞'];
    for (const seed of seeds(400, 100_000)) {
      const next = sequence(seed * 3);
      let text = JSON.stringify(games[Math.floor(next() * games.length)]);
      for (let k = 0; k < 1 + next() * 4; k++) {
        const at = Math.floor(next() * text.length);
        text = text.slice(0, at) + pieces[Math.floor(next() * pieces.length)] + text.slice(at + Math.floor(next() * 6));
      }
      const read = readGameMessage(text);
      if ('fault' in read) expect(read.fault.length).toBeGreaterThan(0);
      else expect(readGameMessage(JSON.stringify(read.message))).toEqual(read);
    }
    expect(readGameMessage('['.repeat(LARGEST_MESSAGE))).toEqual({ fault: 'the message is not JSON' });
  });

  it('have the JSON Schema that is in the documentation, which takes what is read and nothing that isn’t', () => {
    const schema = linkSchema();
    expect(JSON.parse(readFileSync(join(import.meta.dirname, '../../../docs/link.schema.json'), 'utf8'))).toEqual(schema);
    const ajv = new Ajv2020({ strict: false });
    addFormats(ajv);
    ajv.addSchema(schema, 'link');
    const [game, server] = ['game', 'server'].map((side) => ajv.compile({ $ref: `link#/$defs/${side}` }));
    for (const message of games) expect(game?.(message), JSON.stringify(game?.errors)).toBe(true);
    for (const request of requests) expect(server?.({ ...request, id: 1 }), JSON.stringify(server?.errors)).toBe(true);
    expect(server?.({ type: 'welcome', session, from: 0 })).toBe(true);
    for (const wrong of [{ ...hello, hz: 0 }, { type: 'jump' }, { ...hello, more: 1 }, { type: 'done', id: -1, tick: 0 }]) {
      expect(game?.(wrong)).toBe(false);
      expect(readGameMessage(JSON.stringify(wrong))).toHaveProperty('fault');
    }
  });
});
