import { useStore } from '@nanostores/react';
import { type DrivenBy, drivers } from '../../work/comparison.ts';
import { useComparing } from '../context.ts';

const words: Readonly<Record<DrivenBy, string>> = { tape: 'a tape', pilot: 'a pilot', hand: 'by hand' };
const titles: Readonly<Record<DrivenBy, string>> = {
  tape: 'All sides have the same hands',
  pilot: 'The pilot drives each side round the course',
  hand: 'Each side’s best lap by hand',
};

/** Chooses who drives the sides: one tape, or laps of the course by the pilot or by hand. */
export function ChooseDriver() {
  const comparing = useComparing();
  const by = useStore(comparing.laps.$by);
  const { ground } = useStore(comparing.$ground);
  const isOff = (one: DrivenBy) => one !== 'tape' && !ground.course;
  return (
    <fieldset className="flex items-baseline gap-2.5">
      <legend className="float-left mr-2.5 text-ink-soft">Driven by</legend>
      <span className="flex border border-ink">
        {drivers.map((one) => (
          <label
            key={one}
            title={isOff(one) ? `${ground.name} has no course: draw gates on Grounds` : titles[one]}
            className={`flex min-h-6 items-center border-l border-ink px-2.5 first:border-l-0 has-focus-visible:outline-2 ${one === by ? 'bg-ink font-semibold text-paper' : ''} ${isOff(one) ? 'opacity-45' : ''}`}
          >
            <input
              type="radio"
              name="driver"
              className="sr-only"
              checked={one === by}
              disabled={isOff(one)}
              onChange={() => comparing.driveBy(one)}
            />
            {words[one]}
          </label>
        ))}
      </span>
    </fieldset>
  );
}
