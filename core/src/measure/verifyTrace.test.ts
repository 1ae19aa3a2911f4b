import { describe, expect, it } from 'vitest';
import { traceHeader, traceRows } from '../formats/traceCsv.ts';
import { newGround } from '../ground/ground.ts';
import { outAndBack } from '../replay/outAndBack.ts';
import { rerun } from '../replay/rerun.ts';
import { parametersWith } from '../testing/drive.ts';
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

  it('that is none is told by its line', () => {
    for (const [text, why] of [
      ['', 'found nothing'],
      ['a,b\n1,2', 'found the columns a, b'],
      ['tick,x\n0,fast', 'line 2, x: found fast'],
      ['tick,x\n0,', 'line 2, x: found nothing'],
    ] as const)
      expect(verifyTrace(model, text, 0)).toContain(why);
  });
});
