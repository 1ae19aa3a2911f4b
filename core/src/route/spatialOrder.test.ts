import { describe, expect, it } from 'vitest';
import { spatialOrder } from './spatialOrder.ts';

describe('an order by place', () => {
  it('holds every thing once, and keeps neighbours far nearer together than rows do', () => {
    const side = 64;
    const x = Float64Array.from({ length: side * side }, (_, i) => (i % side) * 10);
    const y = Float64Array.from({ length: side * side }, (_, i) => Math.floor(i / side) * 10);
    const order = spatialOrder(x, y);
    expect([...order].sort((a, b) => a - b)).toEqual(Array.from(x.keys()));
    // How far apart in the order what lies above one another is: in rows it is 64 for all.
    const places = new Int32Array(order.length);
    order.forEach((thing, place) => {
      places[thing] = place;
    });
    const gaps = Array.from({ length: side * (side - 1) }, (_, i) => Math.abs((places[i + side] as number) - (places[i] as number)));
    gaps.sort((a, b) => a - b);
    expect(gaps[Math.floor(gaps.length * 0.5)]).toBeLessThan(8);
    expect(gaps[Math.floor(gaps.length * 0.75)]).toBeLessThan(side);
  });

  it('takes no things, one, and all on one place', () => {
    expect([...spatialOrder(new Float64Array(0), new Float64Array(0))]).toEqual([]);
    expect([...spatialOrder(new Float64Array([3]), new Float64Array([4]))]).toEqual([0]);
    expect([...spatialOrder(new Float64Array([3, 3]), new Float64Array([4, 4]))]).toEqual([0, 1]);
  });
});
