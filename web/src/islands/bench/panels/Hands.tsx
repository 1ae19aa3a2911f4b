import { type Control, controls } from '@zygopod/core';
import { useRef } from 'react';
import { useBench, usePainter } from '../context.ts';

const keys: { control: Control; label: string; place: string }[] = [
  { control: 'up', label: 'W', place: 'col-start-2' },
  { control: 'left', label: 'A', place: 'col-start-1 row-start-2' },
  { control: 'down', label: 'S', place: 'col-start-2 row-start-2' },
  { control: 'right', label: 'D', place: 'col-start-3 row-start-2' },
  { control: 'sprint', label: 'Shift', place: 'col-span-3 row-start-3' },
];

/** The hands as they are: keys that light up as they go down, and the way that they ask for. */
export function Hands() {
  const { drive } = useBench();
  const caps = useRef(new Map<Control, HTMLElement>());
  const knob = useRef<SVGCircleElement>(null);
  const arm = useRef<SVGLineElement>(null);

  usePainter(() => {
    const { hands } = drive.recorder;
    for (const [control, cap] of caps.current) {
      const held = hands.held[controls.indexOf(control)] !== 0;
      if ((cap.dataset['held'] === 'true') !== held) cap.dataset['held'] = String(held);
    }
    const { x, y } = drive.world.state.intent;
    knob.current?.setAttribute('cx', String(34 + x * 22));
    knob.current?.setAttribute('cy', String(34 + y * 22));
    arm.current?.setAttribute('x2', String(34 + x * 22));
    arm.current?.setAttribute('y2', String(34 + y * 22));
  });

  return (
    <div className="mt-4">
      <h2 className="rubric">Hands</h2>
      <div className="mt-2 flex items-center justify-between">
        <div className="grid grid-cols-[repeat(3,26px)] gap-0.5">
          {keys.map(({ control, label, place }) => (
            <span
              key={control}
              ref={(element) => {
                if (element) caps.current.set(control, element);
              }}
              data-control={control}
              className={`digits grid h-6.5 place-items-center border border-ink-soft bg-sheet text-[11px] data-[held=true]:border-now data-[held=true]:bg-now data-[held=true]:text-sheet ${place}`}
            >
              {label}
            </span>
          ))}
        </div>
        <svg width="68" height="68" role="img" aria-label="The way that the hands ask for">
          <circle cx="34" cy="34" r="32" className="fill-sheet stroke-ink-soft" />
          <circle cx="34" cy="34" r="22" className="fill-none stroke-rule" strokeDasharray="2 3" />
          <line ref={arm} x1="34" y1="34" x2="34" y2="34" className="stroke-ink" strokeWidth="1.5" />
          <circle ref={knob} cx="34" cy="34" r="8" className="fill-ink" />
        </svg>
      </div>
    </div>
  );
}
