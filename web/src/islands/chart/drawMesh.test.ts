import type { Mesh } from '@zygopod/core';
import { describe, expect, it } from 'vitest';
import { scan } from './drawMesh.ts';

/** A mesh of polygons side by side, by their corners; what is beyond their sides does not matter here. */
function meshOf(x: number[], y: number[], polygons: number[][]): Mesh {
  const corners = Int32Array.from(polygons.flat());
  const starts = Int32Array.from([0, ...polygons.map((_, i) => polygons.slice(0, i + 1).flat().length)]);
  const none = new Int32Array(corners.length).fill(-1);
  return {
    x: Float64Array.from(x),
    y: Float64Array.from(y),
    bends: new Uint8Array(x.length),
    starts,
    corners,
    neighbours: none,
    twins: none,
    regions: new Int32Array(polygons.length),
  };
}

const rows = (width: number, height: number, mesh: Mesh, view = { x: 0, y: 0, scale: 1 }) => {
  const data = new Uint8ClampedArray(width * height * 4);
  for (let polygon = 0; polygon + 1 < mesh.starts.length; polygon++) scan(mesh, polygon, view, { data, width, height });
  return Array.from({ length: height }, (_, row) =>
    Array.from({ length: width }, (__, column) => (data[(row * width + column) * 4 + 3] === 255 ? '#' : '.')).join(''),
  );
};

describe('polygons as pixels', () => {
  it('are the pixels whose middles lie in them, held within the picture', () => {
    expect(rows(5, 4, meshOf([1, 4, 4, 1], [1, 1, 3, 3], [[0, 1, 2, 3]]))).toEqual(['.....', '.###.', '.###.', '.....']);
    expect(rows(4, 4, meshOf([0, 4, 0], [0, 0, 4], [[0, 1, 2]]))).toEqual(['####', '###.', '##..', '#...']);
    expect(rows(3, 2, meshOf([-9, 9, 9, -9], [-9, -9, 9, 9], [[0, 1, 2, 3]]))).toEqual(['###', '###']);
    expect(rows(3, 2, meshOf([5, 9, 9, 5], [0, 0, 2, 2], [[0, 1, 2, 3]]))).toEqual(['...', '...']);
  });

  it('leave no pixel between two that share a side, however small they are', () => {
    const columns = 40;
    const x = Array.from({ length: (columns + 1) * 2 }, (_, i) => ((i >> 1) * 4) / columns);
    const y = x.map((_, i) => (i & 1 ? 3 : 0));
    const strips = Array.from({ length: columns }, (_, i) => [2 * i, 2 * i + 2, 2 * i + 3, 2 * i + 1]);
    expect(rows(4, 3, meshOf(x, y, strips))).toEqual(['####', '####', '####']);
  });

  it('are seen where the view has them', () => {
    const square = meshOf([10, 12, 12, 10], [20, 20, 22, 22], [[0, 1, 2, 3]]);
    expect(rows(6, 4, square, { x: 9, y: 20, scale: 2 })).toEqual(['..####', '..####', '..####', '..####']);
  });
});
