import { deflateSync } from 'node:zlib';
import { encode } from 'fast-png';
import { describe, expect, it } from 'vitest';
import { cpuTime } from '../../testing/cpuTime.ts';
import { countUpTo, numbersIn } from './budget.ts';
import { importGround } from './convert.ts';

const options = { cell: 32, threshold: 0.5 };
const bytesOf = (text: string) => new TextEncoder().encode(text);
const svg = (content: string, more = 'viewBox="0 0 640 384"') => `<svg xmlns="http://www.w3.org/2000/svg" ${more}>${content}</svg>`;

/** A PNG chunk; the decoder that would look at its sum is not to be reached. */
function chunk(type: string, data: Uint8Array): Uint8Array {
  const bytes = new Uint8Array(12 + data.length);
  new DataView(bytes.buffer).setUint32(0, data.length);
  bytes.set(bytesOf(type), 4);
  bytes.set(data, 8);
  return bytes;
}

/** A picture of a pixel, with a chunk before its pixels. */
function picture(before: Uint8Array, pixels?: Uint8Array): Uint8Array {
  const plain = encode({ width: 1, height: 1, data: new Uint8Array([0]), channels: 1 });
  const head = plain.subarray(0, 33);
  return Buffer.concat([head, before, ...(pixels ? [chunk('IDAT', pixels), plain.subarray(plain.length - 12)] : [plain.subarray(33)])]);
}

const zeros = (megabytes: number) => deflateSync(Buffer.alloc(megabytes * 1024 * 1024));
const repeated = (count: number, itemAt: (i: number) => string) => Array.from({ length: count }, (_, i) => itemAt(i)).join('');

/** Files that ask for far more than they are: each is refused, or taken, soon. */
const crafted: [string, string, () => string | Uint8Array, RegExp | null][] = [
  ['a pixel that unpacks to 300 MB', 'x.png', () => picture(new Uint8Array(), zeros(300)), /unpacks to more/],
  ['a colour profile that unpacks to 300 MB', 'x.png', () => picture(chunk('iCCP', Buffer.concat([bytesOf('p\0\0'), zeros(300)]))), null],
  ['a text that unpacks to 300 MB', 'x.png', () => picture(chunk('zTXt', Buffer.concat([bytesOf('p\0\0'), zeros(300)]))), null],
  [
    'a picture that is larger than it may be',
    'x.png',
    () => encode({ width: 4097, height: 1, data: new Uint8Array(4097), channels: 1 }),
    /4097 × 1 pixels/,
  ],
  ['two million elements', 'x.svg', () => svg('<g/>'.repeat(2_000_000)), /elements/],
  ['a million attributes', 'x.svg', () => svg(`<g ${repeated(1_000_000, (i) => `a${i}="" `)}/>`), /attributes/],
  ['elements nested a hundred thousand deep', 'x.svg', () => svg(`${'<g>'.repeat(49_000)}${'</g>'.repeat(49_000)}`), /nesting|unreadable/],
  ['a path of a million points', 'x.svg', () => svg(`<path d="M0 0${'L1 2 3 4'.repeat(500_000)}"/>`), /numbers|points/],
  ['a path of numbers without anything between', 'x.svg', () => svg(`<path d="M0 0L${'-1+2.5.5'.repeat(400_000)}"/>`), /numbers/],
  ['curves that are halved without end', 'x.svg', () => svg(repeated(2000, () => '<path d="M0 0C1e6 9e6 -9e6 1e6 5 5"/>')), /points/],
  ['a curve to infinity', 'x.svg', () => svg('<path d="M0 0C1e300 1e300 -1e300 1e308 1e308 1e308"/>'), /./],
  ['a rectangle to infinity', 'x.svg', () => svg('<rect x="-1e300" y="0" width="1e308" height="1e308"/>'), /./],
  ['cells to infinity', 'x.svg', () => svg('<rect data-mark="#" x="-1e300" y="-5" width="1e308" height="1e308"/>'), null],
  [
    'cells that are filled again and again',
    'x.svg',
    () => svg('<rect data-mark="#" x="0" y="0" width="9e9" height="9e9"/>'.repeat(20_000), 'viewBox="0 0 4000 4000" data-cell="1"'),
    /filled/,
  ],
  [
    'cells as small as can be',
    'x.svg',
    () => svg('<rect data-mark="#" width="9" height="9"/>', 'viewBox="0 0 1e6 1e6" data-cell="1e-300"'),
    /./,
  ],
  ['a drawing to infinity', 'x.svg', () => svg('<rect width="9" height="9"/>', 'viewBox="0 0 1e300 1e300"'), /./],
  [
    'a transform of a megabyte',
    'x.svg',
    () => svg(`<g transform="${'scale(1) '.repeat(120_000)}"><rect width="9" height="9"/></g>`),
    /transform/,
  ],
  [
    'transforms of transforms',
    'x.svg',
    () => svg(`${'<g transform="rotate(1)">'.repeat(60)}${'<rect width="9" height="9"/>'.repeat(20_000)}${'</g>'.repeat(60)}`),
    /transforms/,
  ],
  ['ten million fields', 'x.csv', () => ','.repeat(20_000_000), /fields/],
  ['ten million lines', 'x.csv', () => '\n.'.repeat(10_000_000), /lines/],
  ['a line of quotes', 'x.csv', () => '"'.repeat(10_000_000), /./],
  ['thousands of kinds of marks', 'x.csv', () => repeated(2000, (i) => `${String.fromCodePoint(0x4e00 + i)},`), /marks/],
  ['an octile grid of lines', 'x.map', () => `type octile\nheight 9\nwidth 9\nmap\n${'\n'.repeat(18_000_000)}`, /lines/],
  ['an octile grid to infinity', 'x.map', () => 'type octile\nheight 999999999999\nwidth 999999999999\nmap\n', /cells/],
  ['lists without end', 'x.json', () => '['.repeat(19_000_000), /nested/],
  [
    'walls without end',
    'x.json',
    () =>
      `{"format":"zygopod/ground","version":1,"name":"x","size":{"width":9,"height":9},"start":{"x":1,"y":1},"walls":[${'{},'.repeat(4_000_000)}{}]}`,
    /./,
  ],
  [
    'points without end',
    'x.json',
    () =>
      `{"format":"zygopod/ground","version":1,"name":"x","size":{"width":9,"height":9},"start":{"x":1,"y":1},"walls":[{"points":[${'[1,2],'.repeat(2_500_000)}[1,2]]}]}`,
    /points/,
  ],
];

describe('a file that asks for more than it is', () => {
  it.each(crafted)('%s', async (_, name, itemAt, refusal) => {
    const content = itemAt();
    const bytes = typeof content === 'string' ? bytesOf(content) : content;
    const { result: reading, milliseconds } = await cpuTime(() => importGround(name, bytes, options));
    expect(milliseconds).toBeLessThan(3000);
    if (refusal === null) expect(reading.ok).toBe(true);
    else {
      const faults = reading.ok ? [] : reading.faults;
      expect(faults.length).toBeGreaterThan(0);
      expect(faults.length).toBeLessThanOrEqual(50);
      expect(faults.map(({ found, expected }) => `${found} ${expected}`).join('\n')).toMatch(refusal);
      expect(JSON.stringify(faults).length).toBeLessThan(20_000);
    }
  });
});

describe('counting', () => {
  it('stops just above its limit', () => {
    expect(countUpTo('a,b,c', ',', 10)).toBe(2);
    expect(countUpTo(','.repeat(1000), ',', 10)).toBe(11);
  });

  it('of numbers finds those that stand without anything between, too', () => {
    expect(numbersIn('M1 2L3,4')).toBe(4);
    expect(numbersIn('M1-2.5.5')).toBeGreaterThanOrEqual(3);
    expect(numbersIn('none')).toBe(0);
  });
});
