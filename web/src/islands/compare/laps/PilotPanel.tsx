import { useStore } from '@nanostores/react';
import { type PilotDevice, pilotLines, sprintPolicies } from '@zygopod/core';
import { type KeyboardEvent, type ReactNode, useId, useState } from 'react';
import { FARTHEST, MANY_LAPS, type PilotChoice, SLOWEST } from '../../work/comparison.ts';
import { useComparing } from '../context.ts';

const deviceWords: Readonly<Record<PilotDevice, string>> = {
  keys8: '8 keys',
  keys4: '4 keys',
  stick: 'stick',
  pointer: 'pointer',
  cells: 'cells',
};

/** How the pilot drives: a change drives all laps again. */
export function PilotPanel() {
  const comparing = useComparing();
  const pilot = useStore(comparing.laps.$pilot);
  const change = (part: Partial<PilotChoice>) => comparing.choosePilot({ ...pilot, ...part });
  const { device: _, ...fitting } = pilot;
  return (
    <section aria-label="Pilot" className="mb-3">
      <h2 className="rubric mb-0.5">Pilot</h2>
      <Choice
        label="Device"
        value={pilot.device ?? 'fitting'}
        options={{ fitting: 'suitable', ...deviceWords }}
        choose={(device) => (device === 'fitting' ? comparing.choosePilot(fitting) : change({ device: device as PilotDevice }))}
      />
      <Amount
        label="Reaction"
        title="Age of what the pilot sees"
        value={pilot.reaction}
        most={SLOWEST}
        unit="s"
        set={(reaction) => change({ reaction })}
      />
      <Amount
        label="Looks ahead"
        title="Travel that the pilot looks ahead"
        value={pilot.lookAhead}
        most={FARTHEST}
        unit="s"
        set={(lookAhead) => change({ lookAhead })}
      />
      <Choice
        label="Sprint"
        value={pilot.sprint}
        options={labelled(sprintPolicies, { straights: 'on straights' })}
        choose={(sprint) => change({ sprint })}
      />
      <Choice
        label="Line"
        value={pilot.line}
        options={labelled(pilotLines, {})}
        title="In the middle of passages and off walls, or the planned path itself"
        choose={(line) => change({ line })}
      />
      <Amount
        label="Jitter"
        title={`Spread of reaction, aim and key times: with it, the spread of ${MANY_LAPS} laps is shown`}
        value={Math.round(100 * pilot.jitter)}
        most={100}
        unit="%"
        set={(percent) => change({ jitter: percent / 100 })}
      />
    </section>
  );
}

const labelled = <T extends string>(values: readonly T[], words: Partial<Record<T, string>>): Record<T, string> =>
  Object.fromEntries(values.map((value) => [value, words[value] ?? value])) as Record<T, string>;

const Row = ({ id, label, title, children }: { id: string; label: string; title?: string | undefined; children: ReactNode }) => (
  <div className="flex min-h-[22px] items-baseline border-b border-rule">
    <label htmlFor={id} title={title} className="min-w-0 flex-1">
      {label}
    </label>
    {children}
  </div>
);

function Choice<T extends string>(props: {
  label: string;
  title?: string;
  value: T;
  options: Readonly<Record<T, string>>;
  choose(value: T): void;
}) {
  const id = useId();
  const { label, title, value, options, choose } = props;
  return (
    <Row id={id} label={label} title={title}>
      <select
        id={id}
        className="digits bg-transparent text-right text-xs"
        value={value}
        onChange={(event) => choose(event.target.value as T)}
      >
        {(Object.entries(options) as [T, string][]).map(([one, words]) => (
          <option key={one} value={one}>
            {words}
          </option>
        ))}
      </select>
    </Row>
  );
}

interface AmountProps {
  label: string;
  title: string;
  value: number;
  most: number;
  unit: '%' | 's';
  set(value: number): void;
}

/** A typed number, with a comma or a point; infinity for none. */
const toNumber = (text: string): number => (text.trim() === '' ? Infinity : Number(text.replace(',', '.')));

/** A number of the pilot. Enter or leaving the field takes it; a wrong one says why and changes nothing. */
function Amount({ label, title, value, most, unit, set }: AmountProps) {
  const id = useId();
  const [typed, type] = useState<string | null>(null);
  const number = toNumber(typed ?? '');
  const isWrong = typed !== null && !(number >= 0 && number <= most);
  const take = () => {
    if (typed !== null && !isWrong && number !== value) set(number);
    type(null);
  };
  const key = (event: KeyboardEvent<HTMLInputElement>) => {
    event.stopPropagation();
    if (event.key === 'Enter' && !isWrong) take();
    else if (event.key === 'Escape') type(null);
  };
  return (
    <Row id={id} label={label} title={title}>
      <span className="digits flex items-baseline gap-1 text-xs">
        {isWrong && (
          <span role="alert" className="text-now">
            0 to {most}
          </span>
        )}
        <input
          id={id}
          inputMode="decimal"
          aria-invalid={isWrong}
          className="w-10 bg-transparent text-right"
          value={typed ?? value.toFixed(unit === 's' ? 2 : 0)}
          onChange={(event) => type(event.target.value)}
          onKeyDown={key}
          onBlur={take}
        />
        <span className="w-[1ch]">{unit}</span>
      </span>
    </Row>
  );
}
