import type { Control } from '@zygopod/core';
import { type PointerEvent, useRef } from 'react';
import { place } from '../controls/inPlace.ts';
import type { DeviceHub } from './hub.ts';

const RADIUS = 46;

const buttons: { control: Control; label: string }[] = [
  { control: 'sprintToggle', label: 'Sprint on/off' },
  { control: 'autoRun', label: 'Auto-run' },
  { control: 'plant', label: 'Stop' },
  { control: 'action', label: 'Action' },
  { control: 'launch', label: 'Throw' },
  { control: 'sprint', label: 'Sprint' },
];

/** A stick and buttons on the yard, for fingers and for trying a stick without a pad. */
export function ScreenControls({ hub }: { hub: DeviceHub }) {
  const knob = useRef<SVGCircleElement>(null);
  const finger = useRef<number | null>(null);

  const move = (event: PointerEvent<SVGSVGElement>) => {
    if (finger.current !== event.pointerId) return;
    const box = event.currentTarget.getBoundingClientRect();
    const dx = (event.clientX - box.left - box.width / 2) / RADIUS;
    const dy = (event.clientY - box.top - box.height / 2) / RADIUS;
    const size = Math.max(1, Math.hypot(dx, dy));
    show(dx / size, dy / size);
  };
  const show = (x: number, y: number) => {
    hub.stick('screen', x, y);
    place(knob.current, { cx: 60 + x * RADIUS, cy: 60 + y * RADIUS });
  };
  const lift = (event: PointerEvent) => {
    if (finger.current !== event.pointerId) return;
    finger.current = null;
    show(0, 0);
  };

  return (
    <div className="pointer-events-none absolute inset-x-3 bottom-7 flex items-end justify-between">
      <svg
        width="120"
        height="120"
        role="img"
        aria-label="On-screen stick"
        data-testid="screen-stick"
        className="pointer-events-auto touch-none"
        onPointerDown={(event) => {
          event.currentTarget.setPointerCapture(event.pointerId);
          finger.current = event.pointerId;
          move(event);
        }}
        onPointerMove={move}
        onPointerUp={lift}
        onPointerCancel={lift}
      >
        <circle cx="60" cy="60" r="58" className="fill-sheet/80 stroke-ink-soft" />
        <circle cx="60" cy="60" r={RADIUS} className="fill-none stroke-rule" strokeDasharray="2 4" />
        <circle ref={knob} cx="60" cy="60" r="18" className="fill-ink" />
      </svg>
      <div className="pointer-events-auto grid grid-cols-2 gap-1">
        {buttons.map(({ control, label }) => (
          <button
            key={control}
            type="button"
            tabIndex={-1}
            className="touch-none border border-ink-soft bg-sheet/85 px-3 py-2.5 text-xs select-none active:bg-now active:text-sheet"
            onPointerDown={(event) => {
              event.preventDefault();
              event.currentTarget.setPointerCapture(event.pointerId);
              hub.press('screen', control);
            }}
            onPointerUp={() => hub.release('screen', control)}
            onPointerCancel={() => hub.release('screen', control)}
          >
            {label}
          </button>
        ))}
      </div>
    </div>
  );
}
