import { describe, expect, it } from 'vitest';
import { traceHeader, traceRows } from '../formats/traceCsv.ts';
import { newGround } from '../ground/ground.ts';
import { outAndBack } from '../replay/outAndBack.ts';
import { rerun } from '../replay/rerun.ts';
import { parametersWith } from '../testing/drive.ts';
import { sequence } from '../testing/sequence.ts';
import { verifyTrace } from './verifyTrace.ts';

const traceOf = (values = {}) => rerun(outAndBack, parametersWith(values), newGround('Yard')).trace;
const csvOf = (values = {}) => traceHeader() + [...traceRows(traceOf(values), '8')].join('');
const model = traceOf();
const verified = (text: string, slack = 1e-9) => {
  const found = verifyTrace(model, text, slack);
  if (typeof found === 'string') throw new Error(found);
  return found;
};

describe('a game’s trace', () => {
  it('that is the model’s parts nowhere', () => {
    expect(verified(csvOf())).toMatchObject({ rows: model.end - model.first, first: null, most: [], left: 0 });
  });

  it('parts where its numbers do, by the stage that they belong to', () => {
    const slow = verified(csvOf({ 'ramp.accelerate': 800 }));
    // The hands ask for it at tick 10; its speed is 800/60 in place of 900/60 then.
    expect(slow.first).toMatchObject({ tick: 10, column: 'vx', stage: 'velocity' });
    expect(slow.first?.by).toBeCloseTo(100 / 60, 9);
    const late = verified(csvOf({ 'facing.turn': 'rate', 'facing.rate': 90 }));
    expect(late.first?.stage).toBe('facing');
    const empty = verified(csvOf({ 'stamina.enabled': true, 'stamina.drain': 30 }));
    expect(empty.first?.stage).toBe('gait and stamina');
  });

  it('that is moved elsewhere with the same speed parts at a wall or an edge', () => {
    const lines = csvOf().split('\r\n');
    const head = (lines[0] as string).split(',');
    const at = lines.findIndex((line) => line.startsWith('100,'));
    const cells = (lines[at] as string).split(',');
    cells[head.indexOf('x')] = String(Number(cells[head.indexOf('x')]) + 3);
    lines[at] = cells.join(',');
    const { first, most } = verified(lines.join('\r\n'));
    expect(first).toMatchObject({ tick: 100, column: 'x', stage: 'contact and bounds' });
    expect(most).toHaveLength(1);
    expect(most[0]?.by).toBeCloseTo(3, 9);
    expect(verified(lines.join('\r\n'), 0.5).first).toBeNull();
  });

  it('may have some of the columns, in any order, gaits by number or name, and angles beyond a turn', () => {
    const rows = Array.from({ length: model.end - model.first }, (_, i) => [
      model.at('gait', i),
      model.at('facing', i) + 360,
      model.at('x', i),
      i - 1,
    ]);
    expect(verified(`gait,facing,x,tick\n${rows.map((row) => row.join(',')).join('\n')}\n`)).toMatchObject({
      columns: ['gait', 'x', 'facing'],
      first: null,
    });
  });

  it('is compared by its ticks, in whatever order its rows are', () => {
    const [head, ...lines] = csvOf({ 'ramp.accelerate': 800 }).trimEnd().split('\r\n');
    const next = sequence(5);
    const mixed = lines.map((line) => ({ line, at: next() })).sort((a, b) => a.at - b.at);
    const found = verified([head, ...mixed.map(({ line }) => line)].join('\n'));
    expect(found).toEqual(verified(csvOf({ 'ramp.accelerate': 800 })));
    expect(found.first?.tick).toBe(10);
  });

  it('without ticks is as long as the model’s, with or without the start', () => {
    const [head = '', ...lines] = csvOf().trimEnd().split('\r\n');
    const bare = (rows: readonly string[]) => [head, ...rows].map((line) => line.split(',').slice(1).join(',')).join('\n');
    expect(verified(bare(lines))).toMatchObject({ rows: lines.length, first: null, left: 0 });
    expect(verified(bare(lines.slice(1)))).toMatchObject({ rows: lines.length - 1, first: null, left: 0 });
    expect(verifyTrace(model, bare(lines.slice(0, 50)), 0)).toContain('found 50 rows without a column tick');
  });

  it('that has no row for some ticks, or rows of none, says so', () => {
    const [head, ...lines] = csvOf().trimEnd().split('\r\n');
    const half = verified([head, ...lines.filter((_, i) => i % 2 === 0)].join('\n'));
    expect(half).toMatchObject({ first: null, missing: Math.floor(lines.length / 2), firstMissing: 0 });
    const last = lines.at(-1) as string;
    const more = verified([head, ...lines, last.replace(/^\d+/, '99999')].join('\n'));
    expect(more).toMatchObject({ first: null, missing: 0, left: 1 });
    expect(verified([head, ...lines.slice(1)].join('\n'))).toMatchObject({ first: null, missing: 0, left: 0 });
  });

  it('that is malformed is reported by its line', () => {
    for (const [text, why] of [
      ['', 'found nothing'],
      ['a,b\n1,2', 'found the columns a, b'],
      ['tick,x\n0,fast', 'line 2, x: found fast'],
      ['tick,x\n0,', 'line 2, x: found nothing'],
      ['tick,x\n0, ', 'line 2, x: found  '],
      ['tick,x\n,1', 'line 2, tick: found nothing, expected a whole number'],
      ['tick,x\nsoon,1', 'line 2, tick: found soon'],
      ['tick,x\n0.5,1', 'line 2, tick: found 0.5'],
      ['tick,x\n3,1\n3,1', 'line 3, tick: found 3 a second time'],
      ['tick,gait\n0,Walk', 'line 2, gait: found Walk, expected one of stand, walk, sprint, spent'],
      ['tick,gait\n0,7', 'line 2, gait: found 7'],
    ] as const)
      expect(verifyTrace(model, text, 0)).toContain(why);
  });
});
