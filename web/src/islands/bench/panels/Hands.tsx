import { useStore } from '@nanostores/react';
import { type Control, controls, type Hands as HandsState } from '@zygopod/core';
import { useRef } from 'react';
import { usePainter } from '../../chart/frames.ts';
import { place, write } from '../../controls/inPlace.ts';
import { $bindings, controlWords, keysOf, keyWord } from '../../drive/bindings.ts';
import { devices } from '../../drive/hub.ts';
import { useTuning } from '../../tuning/context.ts';

const keys: { control: Control; place: string }[] = [
  { control: 'up', place: 'col-start-2' },
  { control: 'left', place: 'col-start-1 row-start-2' },
  { control: 'down', place: 'col-start-2 row-start-2' },
  { control: 'right', place: 'col-start-3 row-start-2' },
];
const more: Control[] = ['sprint', 'sprintToggle', 'autoRun', 'plant', 'action', 'launch'];

/** Direction of the held keys or stick. */
function directionOf({ held, stickX, stickY }: HandsState): [number, number] {
  const isHeld = (control: Control) => (held[controls.indexOf(control)] ? 1 : 0);
  const [x, y] = [isHeld('right') - isHeld('left'), isHeld('down') - isHeld('up')];
  return x !== 0 || y !== 0 ? [x, y] : [stickX, stickY];
}

/** The hands as they are: controls that light up when pressed, their direction, and the state of each device. */
export function Hands() {
  const { drive, hub } = useTuning();
  const bindings = useStore($bindings);
  const caps = useRef(new Map<Control, HTMLElement>());
  const knob = useRef<SVGCircleElement>(null);
  const arm = useRef<SVGLineElement>(null);
  const says = useRef<HTMLParagraphElement>(null);

  usePainter(() => {
    const { hands } = drive;
    const { body } = drive.world;
    const isTape = drive.$loop.get() !== null || drive.$lookBack.get() !== null;
    for (const [control, cap] of caps.current) {
      const latched =
        !isTape && ((control === 'sprintToggle' && body.intentToggled === 1) || (control === 'autoRun' && body.intentAutoRun === 1));
      const held = hands.held[controls.indexOf(control)] !== 0;
      const look = held ? 'held' : latched ? 'latched' : 'up';
      if (cap.dataset['look'] !== look) cap.dataset['look'] = look;
    }
    // In scheme turn the request is turn across and drive along.
    const turns = drive.world.parameters.scheme === 'turn';
    const [across, down] = isTape ? directionOf(hands) : turns ? [body.intentTurn, -body.intentDrive] : [body.intentX, body.intentY];
    const [x, y] = [34 + across * 22, 34 + down * 22];
    place(knob.current, { cx: x, cy: y });
    place(arm.current, { x2: x, y2: y });
    const text = devices
      .map((name) => ({ name, ...hub.state(name) }))
      .filter(({ held, x: sx, y: sy }) => held.size > 0 || sx !== 0 || sy !== 0)
      .map(({ name, held, x: sx, y: sy }) => `${name} ${[...held].join(' ')}${sx || sy ? ` ${sx.toFixed(2)}, ${sy.toFixed(2)}` : ''}`)
      .join(' · ');
    write(says.current, text);
  });

  const cap = (control: Control) => (element: HTMLElement | null) => {
    if (element) caps.current.set(control, element);
  };
  const tone =
    'border border-ink-soft bg-sheet data-[look=held]:border-now data-[look=held]:bg-now data-[look=held]:text-sheet data-[look=latched]:border-now data-[look=latched]:text-now';
  return (
    <div className="mt-1.5">
      <div className="flex items-baseline gap-2">
        <h2 className="rubric">Hands</h2>
        <p ref={says} data-testid="devices" className="digits min-w-0 flex-1 truncate text-right text-[11px] text-ink-soft" />
      </div>
      <div className="-mt-1 flex items-end justify-between">
        <div className="grid grid-cols-[repeat(3,25px)] gap-0.5">
          {keys.map(({ control, place }) => (
            <span
              key={control}
              ref={cap(control)}
              data-control={control}
              className={`digits grid h-5.5 place-items-center text-[11px] ${tone} ${place}`}
            >
              {keyWord(keysOf(bindings, control)[0] ?? '–')}
            </span>
          ))}
        </div>
        <svg width="60" height="60" viewBox="0 0 68 68" role="img" aria-label="Direction of the hands">
          <circle cx="34" cy="34" r="32" className="fill-sheet stroke-ink-soft" />
          <circle cx="34" cy="34" r="22" className="fill-none stroke-rule" strokeDasharray="2 3" />
          <line ref={arm} x1="34" y1="34" x2="34" y2="34" className="stroke-ink" strokeWidth="1.5" />
          <circle ref={knob} cx="34" cy="34" r="8" className="fill-ink" />
        </svg>
      </div>
      <div className="mt-1 flex flex-wrap gap-0.5">
        {more.map((control) => (
          <span
            key={control}
            ref={cap(control)}
            data-control={control}
            title={keyWord(keysOf(bindings, control)[0] ?? 'no key')}
            className={`px-1 py-px text-[10.5px] ${tone}`}
          >
            {controlWords[control]}
          </span>
        ))}
      </div>
    </div>
  );
}
