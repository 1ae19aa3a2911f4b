import { type PointerEvent, type RefObject, useRef } from 'react';
import type { Drive } from '../drive/drive.ts';
import type { DeviceHub } from '../drive/hub.ts';
import { swipeBetween, type Touch } from '../drive/swipe.ts';
import { type Lens, worldAt } from './lens.ts';
import { useSpace } from './useZoom.ts';
import { pan, type View } from './view.ts';

/** Pointer input on a yard: the left button clicks and swipes for the hands, the middle one (or the left one with space held) moves the view. */
export function usePointerHands({
  drive,
  hub,
  lens,
  view,
  move,
}: {
  drive: Drive;
  hub: DeviceHub;
  /** How the ground was seen in the last frame. */
  lens: RefObject<Lens | null>;
  view: RefObject<View | null>;
  move(view: View): void;
}) {
  /** True if clicks lead the feet. */
  const clicks = () => drive.world.parameters.route.enabled && drive.world.parameters.scheme !== 'step';
  const pointAt = (event: PointerEvent<HTMLCanvasElement>) => {
    if (!lens.current) return;
    const box = event.currentTarget.getBoundingClientRect();
    const at = worldAt(lens.current, event.clientX - box.left, event.clientY - box.top);
    hub.point(Number(at.x.toFixed(2)), Number(at.y.toFixed(2)));
  };
  const space = useSpace();
  const swiping = useRef<Touch | null>(null);
  const drop = (event: PointerEvent) => {
    dragging.current = null;
    hub.release('pointer', 'pointer');
    const { swipeDistance, swipeTime } = drive.world.parameters.input;
    const to = { x: event.clientX, y: event.clientY, time: event.timeStamp };
    const swipe = swiping.current && swipeBetween(swiping.current, to, swipeDistance, swipeTime);
    swiping.current = null;
    if (swipe && swipe.length > 3) hub.swipe(swipe);
  };
  const dragging = useRef<{ x: number; y: number } | null>(null);
  const grab = (event: PointerEvent<HTMLCanvasElement>) => {
    if (event.button === 0 && !space.current) {
      swiping.current = { x: event.clientX, y: event.clientY, time: event.timeStamp };
      event.currentTarget.setPointerCapture(event.pointerId);
      if (clicks()) {
        pointAt(event);
        hub.press('pointer', 'pointer');
      }
      return;
    }
    if (event.button !== 1 && event.button !== 0) return;
    event.preventDefault();
    event.currentTarget.setPointerCapture(event.pointerId);
    dragging.current = { x: event.clientX, y: event.clientY };
  };
  const drag = (event: PointerEvent<HTMLCanvasElement>) => {
    if (!view.current || !lens.current) return;
    if (clicks() || drive.world.parameters.facing.from === 'pointer') pointAt(event);
    if (!dragging.current) return;
    move(pan(view.current, event.clientX - dragging.current.x, event.clientY - dragging.current.y));
    dragging.current = { x: event.clientX, y: event.clientY };
  };

  return { onPointerDown: grab, onPointerMove: drag, onPointerUp: drop, onPointerCancel: drop };
}
