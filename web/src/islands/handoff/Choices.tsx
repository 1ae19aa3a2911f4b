import { type HandedOver, writers } from '@zygopod/code/constants';
import { type Case, cases, type GameUnits } from '@zygopod/core';
import { type ReactNode, useState } from 'react';
import { Amount } from '../controls/Amount.tsx';
import type { Choice } from './handOffs.ts';
import { Names } from './Names.tsx';
import { OneOf } from './OneOf.tsx';

/** As what a tuning is handed over, in which units and under which names. */
export function Choices({
  choice,
  choose,
  names,
  rename,
  handed,
  children,
}: {
  choice: Choice;
  choose(change: Partial<Choice>): void;
  names: Readonly<Record<string, string>>;
  rename(names: Record<string, string>): void;
  handed: HandedOver;
  children?: ReactNode;
}) {
  const [naming, name] = useState(false);
  const { units } = choice;
  const set = (change: Partial<GameUnits>) => choose({ units: { ...units, ...change } });
  const own = Object.keys(names).length;
  return (
    <aside
      aria-label="Hand-off options"
      className="flex min-h-0 flex-col gap-3 overflow-y-auto border-r border-rule bg-paper px-3.5 py-2.5"
    >
      <OneOf
        title="Format"
        name="to"
        all={writers.map(({ id, title, extension }) => ({ id, title, beside: extension }))}
        chosen={choice.to}
        choose={(to) => choose({ to })}
      />
      <fieldset className="border-t border-rule pt-2">
        <legend className="sr-only">Units</legend>
        <p className="rubric">Units</p>
        <Row>
          <Select
            label="Unit of length"
            value={units.length}
            options={[
              ['px', 'px'],
              ['tiles', 'tiles of'],
              ['m', 'metres of'],
            ]}
            set={(length) => set({ length: length as GameUnits['length'] })}
          />
          {units.length === 'tiles' && <Amount label="Pixels per tile" value={units.tile} unit="px" set={(tile) => set({ tile })} />}
          {units.length === 'm' && <Amount label="Pixels per metre" value={units.metre} unit="px" set={(metre) => set({ metre })} />}
        </Row>
        <Row>
          <Select
            label="Unit of time"
            value={units.time}
            options={[
              ['second', 'seconds'],
              ['frame', 'frames at'],
            ]}
            set={(time) => set({ time: time as GameUnits['time'] })}
          />
          {units.time === 'frame' && <Amount label="Frames per second" value={units.hz} unit="Hz" set={(hz) => set({ hz })} />}
        </Row>
        <Row>
          <Select
            label="Unit of angles"
            value={units.angle}
            options={[
              ['degree', 'degrees'],
              ['radian', 'radians'],
            ]}
            set={(angle) => set({ angle: angle as GameUnits['angle'] })}
          />
        </Row>
      </fieldset>
      <section className="border-t border-rule pt-2">
        <h2 className="rubric">Names</h2>
        <Row>
          <Select
            label="Case of names"
            value={choice.style ?? ''}
            options={[
              ['', `${handed.writer.style}`],
              ...cases.filter((one) => one !== handed.writer.style).map((one) => [one, one] as const),
            ]}
            set={(style) => choose({ style: (style || null) as Case | null })}
          />
        </Row>
        <p className="flex items-baseline justify-between">
          <span>{own === 0 ? 'our own' : `${own} of your own`}</span>
          <button type="button" className="action min-h-6" onClick={() => name(true)}>
            change
          </button>
        </p>
        <label className="flex min-h-6 items-center gap-2">
          <input type="checkbox" checked={choice.all} onChange={(event) => choose({ all: event.target.checked })} />
          all parameters
        </label>
        {!choice.all && <p className="text-xs text-ink-soft">Only parameters that this tuning uses.</p>}
      </section>
      {children}
      {naming && <Names names={names} rename={rename} close={() => name(false)} />}
    </aside>
  );
}

const Row = ({ children }: { children: ReactNode }) => <p className="flex min-h-7 items-baseline gap-2">{children}</p>;

function Select({
  label,
  value,
  options,
  set,
}: {
  label: string;
  value: string;
  options: readonly (readonly [string, string])[];
  set(value: string): void;
}) {
  return (
    <select
      aria-label={label}
      className="min-h-6 bg-transparent [text-align-last:left]"
      value={value}
      onChange={(event) => set(event.target.value)}
    >
      {options.map(([one, words]) => (
        <option key={one} value={one}>
          {words}
        </option>
      ))}
    </select>
  );
}
