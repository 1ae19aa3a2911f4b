import { readFileSync } from 'node:fs';
import fc from 'fast-check';
import { encode } from 'fast-png';
import { describe, expect, it } from 'vitest';
import { type Ground, parseGround } from '../../ground/ground.ts';
import { openGround } from '../../testing/drive.ts';
import { exportGround, formatOf, type GroundFormat, groundFormats, importGround } from './convert.ts';

const options = { cell: 32, threshold: 0.5 };
const bytesOf = (content: string | Uint8Array) => (typeof content === 'string' ? new TextEncoder().encode(content) : content);
const read = (name: string, content: string | Uint8Array) => importGround(name, bytesOf(content), options);
const good = (name: string, content: string | Uint8Array) => {
  const reading = read(name, content);
  if (!reading.ok) throw new Error(JSON.stringify(reading.faults));
  return reading.value;
};
const fault = (name: string, content: string | Uint8Array) => {
  const reading = read(name, content);
  return reading.ok ? null : reading.faults[0];
};
const demo = (name: string) => {
  const reading = parseGround(readFileSync(new URL(`../../../../demo/${name}.ground.json`, import.meta.url), 'utf8'));
  if (!reading.ok) throw new Error(JSON.stringify(reading.faults));
  return reading.value;
};
const round = (ground: Ground, format: GroundFormat) => {
  const ending = groundFormats.find(({ id }) => id === format)?.ending;
  return good(`${ground.name}.${ending}`, exportGround(ground, format).content).ground;
};

describe('round trips', () => {
  it.each(['boardwalk', 'ferry-deck', 'sorting-floor', 'tidal-flats'])('of %s lose nothing as JSON and as SVG', (name) => {
    const ground = demo(name);
    expect(round(ground, 'json')).toEqual(ground);
    const back = round(ground, 'svg');
    const whole = (cells: string[]) =>
      cells
        .map((row) => row.replace(/\.+$/, ''))
        .join('\n')
        .trimEnd();
    expect({ ...back, cells: whole(back.cells) }).toEqual({ ...ground, cells: whole(ground.cells) });
    expect(exportGround(ground, 'svg').lost).toEqual([]);
  });

  it.each(['csv', 'octile', 'png'] as const)('of cells through %s keep what is solid, and say what is lost', (format) => {
    fc.assert(
      fc.property(
        fc.array(
          fc.array(fc.constantFrom('.', '#'), { minLength: 7, maxLength: 7 }).map((row) => row.join('')),
          { minLength: 1, maxLength: 9 },
        ),
        (cells) => {
          const ground = openGround({ cells, size: { width: 7 * 32, height: cells.length * 32 } });
          expect(round(ground, format).cells).toEqual(cells);
        },
      ),
      { numRuns: 100 },
    );
    const { lost } = exportGround(demo('boardwalk'), format);
    expect(lost.join()).toMatch(/the start,13 free walls,the goal,the screen frame,the course/);
  });

  it('keep surfaces where the format has them', () => {
    const ground = openGround({
      cells: ['.~m#'],
      size: { width: 128, height: 32 },
      surfaces: { '~': { name: 'pool', speed: 0.6 }, m: { name: 'mud', speed: 0.2 } },
    });
    expect(round(ground, 'csv').cells).toEqual(['.~m#']);
    expect(exportGround(ground, 'octile').content).toContain('.SW@');
    expect(round(ground, 'octile').cells).toEqual(['.SW#']);
    expect(exportGround(ground, 'csv').lost).toContain('names and speeds of surfaces');
  });
});

describe('SVG', () => {
  const svg = (inner: string, attributes = 'viewBox="0 0 200 100"') =>
    `<svg xmlns="http://www.w3.org/2000/svg" ${attributes}>${inner}</svg>`;
  const walls = (inner: string) => good('x.svg', svg(inner)).ground.walls;

  it('takes shapes and paths as walls, through transforms', () => {
    expect(walls('<rect x="10" y="20" width="30" height="5"/>')[0]).toMatchObject({
      closed: true,
      points: [
        [10, 20],
        [40, 20],
        [40, 25],
        [10, 25],
      ],
    });
    expect(walls('<g transform="translate(5 7)"><g transform="scale(2)"><line x1="1" y1="1" x2="3" y2="1"/></g></g>')[0]).toMatchObject({
      closed: false,
      points: [
        [7, 9],
        [11, 9],
      ],
    });
    expect(walls('<polyline points="0,0 10,0 10,10"/><polygon points="0 0 5 0 5 5"/>').map(({ closed }) => closed)).toEqual([false, true]);
    expect(walls('<path d="m10 10 h20 v20 z m50 0 l5 5"/>')).toHaveLength(2);
    expect(walls('<defs><rect width="9" height="9"/></defs><rect width="9" height="9" display="none"/>')).toEqual([]);
  });

  it('flattens curves to within a fifth of a unit', () => {
    const [circle] = walls('<circle cx="100" cy="50" r="40"/>');
    for (const [x, y] of circle?.points ?? []) expect(Math.abs(Math.hypot(x - 100, y - 50) - 40)).toBeLessThan(0.02);
    const points = circle?.points ?? [];
    points.forEach(([x, y], i) => {
      const [px, py] = points[(i + 1) % points.length] as [number, number];
      expect(40 - Math.hypot((x + px) / 2 - 100, (y + py) / 2 - 50)).toBeLessThan(0.21);
    });
    expect(walls('<path d="M0 0C0 50 100 50 100 0"/>')[0]?.points.length).toBeGreaterThan(8);
  });

  it('that cannot be read says where', () => {
    expect(fault('x.svg', '<svg viewBox="0 0 9 9"><rect></svg>')).toMatchObject({ path: expect.stringContaining('line 1') });
    expect(fault('x.svg', svg('', ''))).toMatchObject({ path: 'svg', found: 'no size' });
    expect(fault('x.svg', svg('<path d="M0 0 L oops"/>'))).toMatchObject({ path: 'svg/path[1]' });
    expect(fault('x.svg', svg('<g>'.repeat(80) + '</g>'.repeat(80)))).toMatchObject({ found: 'deeper nesting' });
    const bomb = `<!DOCTYPE svg [<!ENTITY a "aaaaaaaaaa"><!ENTITY b "&a;&a;&a;">]>${svg('<text>&b;</text>')}`;
    expect(read('x.svg', bomb).ok).toBe(true);
  });
});

describe('files that are wrong', () => {
  it('are refused with the place', () => {
    expect(fault('x.csv', '#,.\n#')).toMatchObject({ path: 'line 2', found: '1 fields' });
    expect(fault('x.csv', '#,abc')).toMatchObject({ path: 'line 1, field 2', expected: 'one mark' });
    expect(fault('x.csv', '')).toMatchObject({ found: 'no cells' });
    expect(fault('x.map', 'type octile\nheight 2\nwidth 3\nmap\n...\n..')).toMatchObject({ path: 'line 6', found: '2 marks' });
    expect(fault('x.map', 'type octile\nheight 1\nwidth 3\nmap\n.?.')).toMatchObject({ path: 'line 5, column 2' });
    expect(fault('x.map', 'type octile\nheight x\nwidth 3\nmap')).toMatchObject({ path: 'line 2' });
    expect(fault('x.doc', 'hello')).toMatchObject({ found: 'an unknown format' });
    expect(fault('x.csv', new Uint8Array([0x2e, 0xff, 0xfe]))).toMatchObject({ found: 'bytes that aren’t UTF-8' });
    expect(
      fault('x.json', '{"format":"zygopod/ground","version":1,"name":"Far","size":{"width":10,"height":10},"start":{"x":1e9,"y":0}}'),
    ).toMatchObject({ path: 'start.x' });
  });

  it('that are huge or broken pictures are refused before they are unpacked', () => {
    const png = encode({ width: 3, height: 2, data: new Uint8Array([0, 255, 0, 255, 90, 200]), channels: 1 });
    expect(good('x.png', png).ground.cells).toEqual(['#.#', '.#.']);
    const huge = png.slice();
    new DataView(huge.buffer).setUint32(16, 5000);
    expect(fault('x.png', huge)).toMatchObject({ found: '5000 × 2 pixels' });
    expect(fault('x.png', png.slice(0, 40))?.found).toContain('broken PNG');
    expect(fault('x.png', new Uint8Array([0x89, 0x50, 1, 2]))).toMatchObject({ expected: 'a PNG image' });
    expect(fault('x.svg', new Uint8Array(21 * 1024 * 1024))?.found).toBe('21.0 MB');
  });

  it('are known by what they hold, whatever their name', () => {
    expect(formatOf('a.txt', bytesOf('type octile\n'))).toBe('octile');
    expect(formatOf('a.png', bytesOf('<svg/>'))).toBe('svg');
    expect(formatOf('a.txt', bytesOf('nothing'))).toBeNull();
  });
});

describe('pictures of other kinds', () => {
  it('with colours, alpha and sixteen bits are read by their light', () => {
    const colours = encode({ width: 3, height: 1, data: new Uint8Array([200, 0, 0, 0, 200, 0, 0, 0, 200]), channels: 3 });
    expect(good('x.png', colours).ground.cells).toEqual(['#.#']);
    const clear = encode({ width: 2, height: 1, data: new Uint8Array([0, 0, 0, 255, 0, 0, 0, 0]), channels: 4 });
    expect(good('x.png', clear).ground.cells).toEqual(['#.']);
    const deep = encode({ width: 2, height: 1, data: new Uint16Array([1000, 60000]), channels: 1, depth: 16 });
    expect(good('x.png', deep).ground.cells).toEqual(['#.']);
  });
});
