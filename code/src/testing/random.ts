import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { controls, type FileValue, type Ground, newGround, newTuning, readTape, readTuning, type Tape, withValue } from '@zygopod/core';
import { sequence } from '../../../core/src/testing/sequence.ts';

/** A tuning with some values; the others are as new. */
export function tuned(values: Record<string, FileValue> = {}) {
  const read = readTuning(Object.entries(values).reduce((file, [path, value]) => withValue(file, path, value), newTuning('Made')));
  if (!read.ok) throw new Error(JSON.stringify(read.faults));
  return read.value;
}
/** A tuning of the demo. */
export const demo = (name: string) => {
  const read = readTuning(JSON.parse(readFileSync(join(import.meta.dirname, '../../../demo', `${name}.tuning.json`), 'utf8')));
  if (!read.ok) throw new Error(name);
  return read.value;
};

/** Hands that press, push, point and swipe at random. */
export function randomTape(seed: number, ticks: number): Tape {
  const next = sequence(seed);
  const events: object[] = [];
  for (let at = 0; at < ticks; at += Math.ceil(next() * 12)) {
    const chance = next();
    const control = controls[Math.floor(next() * 10)];
    if (chance < 0.4) events.push({ at, press: control });
    else if (chance < 0.75) events.push({ at, release: control });
    else if (chance < 0.9) events.push({ at, stick: [Number((next() * 1.4 - 0.7).toFixed(3)), Number((next() * 1.4 - 0.7).toFixed(3))] });
    else if (chance < 0.95) events.push({ at, point: [next() * 400, next() * 400] });
    else events.push({ at, swipe: ['up', 'right', 'down', 'left'][Math.floor(next() * 4)] });
  }
  const read = readTape({ format: 'zygopod/tape', version: 2, name: 'Random', hz: 60, ticks, events });
  if (!read.ok) throw new Error(JSON.stringify(read.faults[0]));
  return read.value;
}

/** A random tuning over the choices that fold differently. */
export function randomTuning(seed: number) {
  const next = sequence(seed);
  const pick = <T>(...all: T[]): T => all[Math.floor(next() * all.length)] as T;
  return tuned({
    scheme: pick('steer', 'steer', 'latch', 'turn'),
    'ramp.model': pick('instant', 'linear', 'smooth', 'curve'),
    'ramp.turning': pick('vector', 'heading'),
    'clock.integration': pick('semiImplicit', 'trapezoid', 'exact'),
    'clock.hz': pick(30, 60, 144),
    'stamina.enabled': pick(true, false),
    'stamina.interval': pick(0, 0.25),
    'stamina.drain': 10 + next() * 60,
    'stamina.regainWhile': pick('standing', 'always', 'notSprinting'),
    'pace.sprintKey': pick('hold', 'toggle', 'both'),
    'pace.autoRun': pick('off', 'walk', 'sprint'),
    'pace.walkSpeed': 40 + next() * 300,
    'pace.backwardFactor': pick(1, 0.6),
    'facing.directions': pick('2', '4', '8', '16', 'free'),
    'facing.from': pick('movement', 'input', 'pointer'),
    'facing.turn': pick('instant', 'rate', 'smooth', 'perTick'),
    'facing.whenStill': pick('keep', 'start'),
    'facing.flip': pick('none', 'x', 'both'),
    'input.directions': pick('free', '8', '4'),
    'input.curve': pick(1, 2.2),
    'input.devices': pick('larger', 'newest', 'sum'),
    'input.conflict': pick('newest', 'oldest', 'cancel'),
    'input.relativeTo': pick('screen', 'camera', 'facing'),
  });
}

/** Some walls in a frame, blocks and bars that stand at any angle. */
export function randomGround(seed: number): Ground {
  const next = sequence(seed);
  const [width, height] = [480, 320];
  const walls = Array.from({ length: 14 }, () => {
    const [x, y, angle, long] = [40 + next() * (width - 80), 40 + next() * (height - 80), next() * 6.28, 10 + next() * 90];
    const level = next() < 0.4;
    const [dx, dy] = level ? (next() < 0.5 ? [long, 0] : [0, long]) : [Math.cos(angle) * long, Math.sin(angle) * long];
    const end: [number, number] = [x + dx, y + dy];
    return { points: [[x, y] as [number, number], end] };
  });
  return { ...newGround('Walls'), size: { width, height }, start: { x: 240, y: 160 }, walls };
}

/** A random tuning of a body that meets walls, with any response to them. */
export function amongWalls(seed: number, more: Record<string, FileValue> = {}) {
  const next = sequence(seed);
  const pick = <T>(...all: T[]): T => all[Math.floor(next() * all.length)] as T;
  return tuned({
    'body.shape': pick('circle', 'box'),
    'body.width': 8 + Math.round(next() * 20),
    'body.height': 8 + Math.round(next() * 20),
    'body.originX': pick(0.5, next()),
    'contact.response': pick('slide', 'slide', 'stop'),
    'contact.swept': next() < 0.8,
    'contact.wallFriction': pick(0, next()),
    'contact.keepSpeed': next() < 0.3,
    'contact.cornerAssist': pick(0, 6),
    'contact.contactsPerTick': pick(1, 2, 4),
    'contact.skin': pick(0.01, 0.5),
    'bounds.policy': pick('clamp', 'none'),
    'ramp.model': pick('instant', 'linear', 'smooth', 'curve'),
    'ramp.turning': pick('vector', 'heading'),
    'pace.walkSpeed': 60 + next() * 400,
    'clock.hz': pick(30, 60, 144),
    ...more,
  });
}

/** Hands that press the pointer here and there, hold it for a while, plant the feet, and now and then steer. */
export function clickTape(seed: number, ticks: number): Tape {
  const next = sequence(seed);
  const events: object[] = [];
  for (let at = 1; at < ticks; at += 10 + Math.ceil(next() * 60)) {
    const chance = next();
    if (chance < 0.8) {
      const long = next() < 0.2 ? 30 : 1 + Math.floor(next() * 4);
      events.push({ at, point: [next() * 480, next() * 320] }, { at, press: 'pointer' }, { at: at + long, release: 'pointer' });
    } else {
      const control = chance < 0.9 ? 'plant' : controls[Math.floor(next() * 5)];
      events.push({ at, press: control }, { at: at + 3, release: control });
    }
  }
  const inOrder = (events as { at: number }[]).filter(({ at }) => at < ticks).sort((a, b) => a.at - b.at);
  const read = readTape({ format: 'zygopod/tape', version: 2, name: 'Clicks', hz: 60, ticks, events: inOrder });
  if (!read.ok) throw new Error(JSON.stringify(read.faults[0]));
  return read.value;
}
