import { describe, expect, it } from 'vitest';
import { drive, openGround } from '../testing/drive.ts';
import { sequence } from '../testing/sequence.ts';
import type { FileValue } from '../tuning/schema.ts';

const SIDE = 400;
const bare = { 'input.deadZone': 0, 'input.outerZone': 1 };
const wall = (...points: [number, number][]) => ({ points, closed: false, solid: true });

/** A corner of two walls at (500, 500), turned by `turned`; angles in radians. */
function corner(opening: number, turned: number, start: { x: number; y: number }) {
  const end = (angle: number): [number, number] => [500 + Math.cos(angle) * SIDE, 500 + Math.sin(angle) * SIDE];
  return openGround({ start, size: { width: 1000, height: 1000 }, walls: [wall(end(turned), [500, 500], end(turned + opening))] });
}

const tunings: [string, Record<string, FileValue>][] = [
  ['linear', {}],
  ['instant', { 'ramp.model': 'instant' }],
  ['smooth', { 'ramp.model': 'smooth' }],
  ['exact', { 'clock.integration': 'exact' }],
  ['heading', { 'ramp.turning': 'heading' }],
  ['keeping the speed', { 'contact.keepSpeed': true, 'ramp.model': 'instant' }],
  ['one contact a tick', { 'contact.contactsPerTick': 1 }],
];

describe('a corner of any opening', () => {
  it.each(tunings)('into which a circle is pushed stops it, to the bit, and its facing (%s)', (_, values) => {
    for (let seed = 1; seed <= 150; seed++) {
      const next = sequence(seed * 7919);
      const opening = (20 + next() * 155) * (Math.PI / 180);
      const turned = next() * 2 * Math.PI;
      const middle = turned + opening / 2;
      const away = 80 + 30 / Math.sin(opening / 2);
      const ground = corner(opening, turned, { x: 500 + Math.cos(middle) * away, y: 500 + Math.sin(middle) * away });
      // Into the corner: within the cone that both normals span, so that no wall leads out of it.
      const heading = middle + Math.PI + (next() * 2 - 1) * ((Math.PI - opening) / 2) * 0.9;
      const { trace } = drive({ ...bare, ...values }, 600, [{ at: 0, stick: [Math.cos(heading), Math.sin(heading)] }], ground);
      for (const column of ['x', 'y', 'facing'] as const) expect(new Set(trace.values(column, 560)).size, `seed ${seed}`).toBe(1);
      expect(trace.at('contacts', 600)).toBeGreaterThan(0);
      expect(trace.at('speed', 600)).toBe(0);
    }
  });

  it('past which a body is pushed lets it go on along the other wall, at its share of the speed', () => {
    for (let seed = 1; seed <= 100; seed++) {
      const next = sequence(seed * 104_729);
      const opening = (100 + next() * 70) * (Math.PI / 180);
      const turned = next() * 2 * Math.PI;
      const middle = turned + opening / 2;
      const ground = corner(opening, turned, { x: 500 + Math.cos(middle) * 60, y: 500 + Math.sin(middle) * 60 });
      // Into both walls, and out of the corner along the second one: between the first one's side and the second one's normal.
      const least = Math.PI - opening;
      const into = least + (Math.PI / 2 - least) * (0.15 + 0.7 * next());
      const heading = turned + opening + into;
      const { trace } = drive(
        { ...bare, 'ramp.model': 'instant' },
        150,
        [{ at: 0, stick: [Math.cos(heading), Math.sin(heading)] }],
        ground,
      );
      expect(trace.at('speed', 149) / 140, `seed ${seed}`).toBeCloseTo(Math.cos(into), 6);
    }
  });

  it('ends a latched direction', () => {
    const ground = openGround({ start: { x: 450, y: 560 }, walls: [wall([400, 900], [400, 500], [600, 400])] });
    const tap = (['left', 'up'] as const).flatMap((control) => [
      { at: 0, press: control },
      { at: 4, release: control },
    ]);
    const { body } = drive(
      { scheme: 'latch' },
      200,
      [...tap].sort((a, b) => a.at - b.at),
      ground,
    );
    expect(body).toMatchObject({ intentAmount: 0, vx: 0, vy: 0 });
  });
});

describe('the share of the speed that a wall or an edge leaves', () => {
  /** Speed after two seconds at an angle to a level wall or edge, as a share of the walk; with scheme turn the heading is at that angle. */
  function share(values: Record<string, FileValue>, degrees: number, hz: number, edge: boolean): number {
    const ground = openGround({
      size: { width: 1e5, height: 2000 },
      start: { x: 1000, y: edge ? 1987 : 1000, facing: degrees },
      walls: edge ? [] : [wall([0, 1012.01], [1e5, 1012.01])],
    });
    const radians = (degrees * Math.PI) / 180;
    const hands =
      values['scheme'] === 'turn'
        ? { at: 0, press: 'up' as const }
        : { at: 0, stick: [Math.cos(radians), Math.sin(radians)] as [number, number] };
    const { body } = drive({ ...bare, 'bounds.policy': 'clamp', 'clock.hz': hz, ...values }, 2 * hz, [hands], ground);
    return Math.hypot(body.vx, body.vy) / 140;
  }
  const turnings: [string, Record<string, FileValue>][] = [
    ['vector', {}],
    ['heading', { 'ramp.turning': 'heading' }],
    ['turn and drive', { scheme: 'turn' }],
  ];

  it.each(turnings)('is cos θ with every ramp at every rate (%s)', (_, values) => {
    for (const model of ['linear', 'smooth', 'instant'])
      for (const hz of [30, 60, 144])
        for (const degrees of [5, 30, 45, 72, 85])
          for (const edge of [false, true])
            expect(share({ ...values, 'ramp.model': model }, degrees, hz, edge), `${model} ${hz} ${degrees} ${edge}`).toBeCloseTo(
              Math.cos((degrees * Math.PI) / 180),
              6,
            );
  });

  it.each(turnings)('with friction is max(0, cos θ − μ sin θ) with the instant ramp, and all with keepSpeed (%s)', (_, values) => {
    for (const degrees of [10, 37, 60, 80])
      for (const friction of [0.2, 0.7]) {
        const radians = (degrees * Math.PI) / 180;
        const left = Math.max(0, Math.cos(radians) - friction * Math.sin(radians));
        expect(share({ ...values, 'ramp.model': 'instant', 'contact.wallFriction': friction }, degrees, 60, false)).toBeCloseTo(left, 6);
        expect(share({ ...values, 'contact.keepSpeed': true }, degrees, 60, false)).toBeCloseTo(1, 6);
      }
  });

  it.each(turnings)('head-on is none, with one contact until the hands let go (%s)', (_, values) => {
    const ground = openGround({ start: { x: 1000, y: 900, facing: 90 }, walls: [wall([0, 1012.01], [1e5, 1012.01])] });
    const control = values['scheme'] === 'turn' ? 'up' : 'down';
    for (const more of [{}, { 'contact.keepSpeed': true }, { 'clock.integration': 'exact' }]) {
      const { trace } = drive(
        { ...values, ...more },
        240,
        [
          { at: 0, press: control },
          { at: 150, release: control },
        ],
        ground,
      );
      const contacts = Array.from(trace.values('contacts'), (count) => (count > 0 ? 1 : 0));
      expect(contacts.filter((touches, i) => touches !== contacts[i - 1]).length).toBeLessThanOrEqual(3);
      expect(Math.max(...trace.values('speed', 120))).toBe(0);
      expect(trace.at('x', 240)).toBe(1000);
    }
  });
});
