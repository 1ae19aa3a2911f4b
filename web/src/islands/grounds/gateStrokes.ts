import { addGate, changeGate, type Gate, type gateNear } from '@zygopod/core';
import { type Drag, type Place, type Stroke, snap } from './stroke.ts';
import type { Drawing } from './tools.ts';

/** Shortest gate that a drag draws, unit. */
const SHORTEST_GATE = 1;

/** Draws a gate from end to end. */
export function dragGate(drawing: Drawing, at: Place): Stroke {
  const { x, y } = snap(drawing, at);
  const from: [number, number] = [x, y];
  const stroke: Stroke = {
    preview: null,
    move(place) {
      const end = snap(drawing, place);
      stroke.preview = { kind: 'path', points: [from, [end.x, end.y]], closed: false };
    },
    end(place) {
      const end = snap(drawing, place);
      if (Math.hypot(end.x - x, end.y - y) < SHORTEST_GATE) return;
      const ground = addGate(drawing.steps.$now.get(), { from, to: [end.x, end.y] });
      drawing.steps.replace(ground, 'gate');
      drawing.$gate.set((ground.course?.gates.length ?? 1) - 1);
    },
  };
  return stroke;
}

/** Takes hold of a gate: of one of its ends, or of all of it. */
export function holdGate(drawing: Drawing, found: NonNullable<ReturnType<typeof gateNear>>, at: Place, drag: Drag): Stroke {
  const { gate, part } = found;
  const before = drawing.steps.$now.get().course?.gates[gate] as Gate;
  drawing.$gate.set(gate);
  if (part !== 'line')
    return drag('end of a gate', (now, to) => {
      const place = snap(drawing, to);
      return changeGate(now, gate, { ...(now.course?.gates[gate] as Gate), [part]: [place.x, place.y] });
    });
  return drag('move a gate', (now, to) => {
    const place = snap(drawing, { x: before.from[0] + to.x - at.x, y: before.from[1] + to.y - at.y });
    const [dx, dy] = [place.x - before.from[0], place.y - before.from[1]];
    return changeGate(now, gate, { from: [place.x, place.y], to: [before.to[0] + dx, before.to[1] + dy] });
  });
}
