import { addPart, isInstant, movePart, type PartLane, stretchPart, type TapePart } from '@zygopod/core';
import { type KeyboardEvent, type PointerEvent, useRef } from 'react';
import { laneWords, partWords, type TapeEditing } from './editing.ts';

/** Pixels at the ends of a part that stretch it, and how long a new part is (s). */
const EDGE = 7;
const NEW_LENGTH = 0.4;

/** A lane of the tape: each part is a bar that is dragged, stretched at its ends, or deleted. */
export function LaneRow({
  editing,
  lane,
  parts,
  ticks,
  hz,
  picked,
  share,
  tickAt,
  where,
}: {
  editing: TapeEditing;
  lane: PartLane;
  parts: readonly TapePart[];
  ticks: number;
  hz: number;
  picked: number | null;
  /** Where a tick is, as a share of the lane's width. */
  share(tick: number): number;
  tickAt(clientX: number): number;
  /** Where the body is at a tick: a new point is put there. */
  where(tick: number): readonly [number, number];
}) {
  const drag = useRef<{ index: number; end: 'from' | 'to' | null; grip: number; moved: boolean } | null>(null);
  const put = (next: TapePart[], what: string) => editing.put(next, what);

  const add = (clientX: number) => {
    const tick = tickAt(clientX);
    const what =
      lane === 'stick'
        ? { at: [1, 0] as const }
        : lane === 'point'
          ? { at: where(tick) }
          : lane === 'swipe'
            ? { direction: 'right' as const }
            : {};
    const next = addPart(parts, { lane, ...what }, tick, NEW_LENGTH * hz, ticks);
    if (!next) return;
    put(next, `add to ${laneWords(lane).toLowerCase()}`);
    editing.$picked.set(next.length - 1);
  };
  const grab = (event: PointerEvent<HTMLButtonElement>, index: number) => {
    if (event.button !== 0) return;
    event.stopPropagation();
    // Else the browser takes the bar, or words that a double click marked, to be dragged elsewhere.
    event.preventDefault();
    event.currentTarget.focus();
    event.currentTarget.setPointerCapture(event.pointerId);
    const part = parts[index] as TapePart;
    const box = event.currentTarget.getBoundingClientRect();
    const edge = Math.min(EDGE, box.width / 3);
    const end = isInstant(lane) ? null : event.clientX > box.right - edge ? 'to' : event.clientX < box.left + edge ? 'from' : null;
    drag.current = { index, end, grip: tickAt(event.clientX) - part.from, moved: false };
    editing.$picked.set(index);
    editing.steps.beginGesture(`${end ? 'stretch' : 'move'} ${partWords(part)}`);
  };
  const move = (event: PointerEvent) => {
    const held = drag.current;
    const part = held && parts[held.index];
    if (!held || !part) return;
    const tick = tickAt(event.clientX);
    put(held.end ? stretchPart(parts, part, held.end, tick, ticks) : movePart(parts, part, tick - held.grip, ticks), 'drag');
  };
  const drop = () => {
    drag.current = null;
    editing.steps.endGesture();
  };
  const key = (event: KeyboardEvent, index: number) => {
    const part = parts[index] as TapePart;
    const delta = { ArrowLeft: -1, ArrowRight: 1 }[event.key];
    if (event.key === 'Delete' || event.key === 'Backspace') editing.remove(index);
    else if (delta !== undefined) {
      const by = delta * (event.shiftKey ? 10 : 1);
      const next = event.altKey ? stretchPart(parts, part, 'to', part.to + by, ticks) : movePart(parts, part, part.from + by, ticks);
      put(next, `move ${partWords(part)}`);
    } else return;
    event.preventDefault();
    event.stopPropagation();
  };

  return (
    <div
      role="row"
      aria-label={laneWords(lane)}
      className="relative h-5.5 border-b border-rule/60"
      onDoubleClick={(event) => add(event.clientX)}
      data-lane={lane}
    >
      {parts.map((part, index) => {
        if (part.lane !== lane) return null;
        const [left, right] = [share(part.from), share(part.to)];
        if (right < -0.02 || left > 1.02) return null;
        const seconds = (tick: number) => `${(tick / hz).toFixed(2)} s`;
        const words = isInstant(lane)
          ? `${partWords(part)}, ${seconds(part.from)}`
          : `${partWords(part)}, ${seconds(part.from)} to ${seconds(part.to)}`;
        const look = picked === index ? 'bg-now border-now' : lane === 'stick' ? 'bg-other/70 border-other' : 'bg-ink-soft border-ink';
        return (
          <button
            key={index}
            type="button"
            role="gridcell"
            aria-label={words}
            aria-selected={picked === index}
            title={`${words}. Drag it, or its ends; arrows move it by a tick (Alt: its end), Delete takes it away`}
            className={`absolute top-0.75 h-4 min-w-2 cursor-grab touch-none border ${look} ${part.held ? 'border-l-0' : ''} ${isInstant(lane) ? 'w-2.5 -translate-x-1/2 rotate-45' : ''}`}
            style={{ left: `${left * 100}%`, ...(isInstant(lane) ? { height: 10, top: 6 } : { width: `${(right - left) * 100}%` }) }}
            onPointerDown={(event) => grab(event, index)}
            onPointerMove={move}
            onPointerUp={drop}
            onPointerCancel={drop}
            onDoubleClick={(event) => event.stopPropagation()}
            onFocus={() => editing.$picked.set(index)}
            onKeyDown={(event) => key(event, index)}
          />
        );
      })}
    </div>
  );
}
