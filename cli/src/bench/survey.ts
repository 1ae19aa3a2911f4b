import { bucketWalls, type Ground, readGround, surveyInParts } from '@zygopod/core';
import { benchParameters, sequence } from './scenes.ts';
import type { Figure } from './ticks.ts';

const SIZE = 512;

/** A ground of this many cells a side of which nearly a third are solid, at random: about as many walls as there can be. */
function denseGround(): Ground {
  const next = sequence(5);
  const read = readGround({
    format: 'zygopod/ground',
    version: 1,
    name: 'Dense',
    size: { width: SIZE * 32, height: SIZE * 32 },
    cell: 32,
    cells: Array.from({ length: SIZE }, () => Array.from({ length: SIZE }, () => (next() < 0.3 ? '#' : '.')).join('')),
    start: { x: 16, y: 16 },
  });
  if (!read.ok) throw new Error('the bench has no ground');
  return read.value;
}

/** The survey of a dense ground: sorting its walls, and all of it. */
export function measureSurvey(): Figure[] {
  const ground = denseGround();
  const parameters = benchParameters();
  const times = Array.from({ length: 2 }, () => {
    const begun = performance.now();
    const walls = bucketWalls(ground);
    const sorted = performance.now();
    const parts = surveyInParts(ground, parameters, walls);
    parts.next();
    const first = performance.now();
    while (!parts.next().done);
    return { walls: sorted - begun, first: first - begun, all: performance.now() - begun };
  });
  const least = (key: 'walls' | 'first' | 'all') => Math.min(...times.map((time) => time[key]));
  return [
    { name: `walls of ${SIZE} × ${SIZE} dense cells`, figure: `${least('walls').toFixed(0)} ms`, reach: 'reach < 150 ms' },
    { name: 'room and notes of that ground', figure: `${least('first').toFixed(0)} ms`, reach: 'reach < 1000 ms' },
    { name: 'survey of that ground', figure: `${(least('all') / 1000).toFixed(1)} s`, reach: 'reach < 4 s' },
  ];
}
