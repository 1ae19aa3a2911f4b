import { controls, swipes } from '../tape/controls.ts';
import type { HandsEvent } from '../tape/hands.ts';

/** One tick's input of hands that do anything; the pointer stays within (width, height) and a little around. */
export function anyEvents(next: () => number, width = 1200, height = 600): HandsEvent[] {
  const events: HandsEvent[] = [];
  const control = () => controls[Math.floor(next() * controls.length)] as (typeof controls)[number];
  if (next() < 0.2) events.push({ press: control() });
  if (next() < 0.15) events.push({ release: control() });
  if (next() < 0.07) events.push({ stick: [next() * 2 - 1, next() * 2 - 1] });
  if (next() < 0.08) events.push({ point: [next() * (width + 200) - 100, next() * (height + 200) - 100] });
  if (next() < 0.03) events.push({ swipe: swipes[Math.floor(next() * swipes.length)] as (typeof swipes)[number] });
  return events;
}
