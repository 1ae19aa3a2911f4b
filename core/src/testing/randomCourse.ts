import { isClear, isFree, placedBody } from '../collision/placedBody.ts';
import { planCourse } from '../course/coursePath.ts';
import { type Gate, type Ground, groundWith, type Wall } from '../ground/ground.ts';
import { bucketWalls, WallIndex } from '../ground/wallIndex.ts';
import type { Parameters } from '../tuning/catalogue/catalogue.ts';

/** A random ground for a body of a given width, with walls and a course that the body can get round; `room` (body widths) is kept about gates. */
export function randomCourse(parameters: Parameters, next: () => number, width: number, room = 1): { ground: Ground; walls: WallIndex } {
  const within = (low: number, high: number) => low + next() * (high - low);
  for (;;) {
    const isStep = parameters.scheme === 'step';
    const cell = isStep ? parameters.step.cell : width;
    const size = {
      width: Math.round(within(14, 30)) * cell * (isStep ? 1 : 1.6),
      height: Math.round(within(10, 20)) * cell * (isStep ? 1 : 1.6),
    };
    const boxes = Math.floor(within(2, 10));
    const walls: Wall[] = Array.from({ length: boxes }, () => {
      const [w, h] = [within(1, 5) * cell, within(1, 5) * cell];
      const [x, y] = [within(0, size.width - w), within(0, size.height - h)];
      const snap = (value: number) => (isStep ? Math.round(value / cell) * cell : value);
      const [x0, y0, x1, y1] = [snap(x), snap(y), snap(x + w), snap(y + h)];
      const corners: [number, number][] = [
        [x0, y0],
        [Math.max(x1, x0 + cell), y0],
        [Math.max(x1, x0 + cell), Math.max(y1, y0 + cell)],
        [x0, Math.max(y1, y0 + cell)],
      ];
      return { points: corners, closed: true };
    });
    const empty = groundWith({ name: 'Random', size, start: { x: 0, y: 0 }, walls });
    const index = new WallIndex(bucketWalls(empty, parameters.contact.seams));
    const body = placedBody({ ...parameters, bounds: { ...parameters.bounds, policy: 'clamp' } }, empty, index, room * width);
    const place = (): [number, number] | null => {
      for (let i = 0; i < 60; i++) {
        const [x, y] = [within(0, size.width), within(0, size.height)];
        if (isFree(body, x, y)) return [x, y];
      }
      return null;
    };
    const snapped = (at: [number, number] | null): [number, number] | null =>
      at && isStep ? [(Math.floor(at[0] / cell) + 0.5) * cell, (Math.floor(at[1] / cell) + 0.5) * cell] : at;
    const start = snapped(place());
    if (!start || !isFree(body, ...start)) continue;
    const gates: Gate[] = [];
    let last = start;
    const count = Math.floor(within(1, 7));
    for (let i = 0; i < 40 && gates.length < count; i++) {
      const at = place();
      if (!at || Math.hypot(at[0] - last[0], at[1] - last[1]) < 4 * width) continue;
      const angle = Math.atan2(at[1] - last[1], at[0] - last[0]) + Math.PI / 2 + within(-0.6, 0.6);
      const half = within(1.2, 3) * width;
      const [dx, dy] = [Math.cos(angle) * half, Math.sin(angle) * half];
      if (!isClear(body, at[0] - dx, at[1] - dy, at[0] + dx, at[1] + dy)) continue;
      gates.push({ from: [at[0] - dx, at[1] - dy], to: [at[0] + dx, at[1] + dy] });
      last = at;
    }
    if (gates.length === 0) continue;
    const ground: Ground = {
      ...empty,
      start: { x: start[0], y: start[1], facing: Math.round(within(-180, 180)) },
      course: { gates, laps: next() < 0.8 ? 1 : 2 },
    };
    const own = new WallIndex(bucketWalls(ground, parameters.contact.seams));
    if (!planCourse(parameters, ground, own).blocked) return { ground, walls: own };
  }
}
