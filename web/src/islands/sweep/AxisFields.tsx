import { useStore } from '@nanostores/react';
import { axisLabel, figureTitles, pathOf, readAxis, rowsOf, type SweepAxis, specOf, specs, type Tuning } from '@zygopod/core';
import { useEffect, useId, useState } from 'react';
import { axisPaths, axisThrough, COUNTS } from './choice.ts';
import { useSweep } from './context.ts';
import { axisUnit } from './words.ts';

/** One axis: its parameter, and its values. The second one can be absent. */
export function AxisFields({ index }: { index: 0 | 1 }) {
  const sweep = useSweep();
  const { over } = useStore(sweep.$choice);
  const tuning = useStore(sweep.work.editing.$plainTuning);
  const id = useId();
  const text = over[index];
  const path = text === undefined ? '' : text.slice(0, text.indexOf('='));
  const put = (next: string | null) => {
    const all = [...over];
    if (next === null) all.splice(index, 1);
    else all[index] = next;
    sweep.choose({ over: all });
  };
  return (
    <div className="border-b border-rule pb-2">
      <label htmlFor={id} className="rubric block">
        {index === 0 ? 'Across' : 'Down'}
      </label>
      <select
        id={id}
        className="w-full border-b border-ink font-semibold [text-align-last:left]"
        value={path}
        onChange={(event) => {
          put(event.target.value === '' ? null : axisThrough(event.target.value, tuning, COUNTS[index]));
          if (event.target.value === '' || sweep.$faults.get().length === 0) sweep.run();
        }}
      >
        {index === 1 && <option value="">one number only</option>}
        {path !== '' && !axisPaths(tuning).includes(path) && <option value={path}>{path}</option>}
        <Options tuning={tuning} not={over[1 - index]} />
      </select>
      {text !== undefined && <Values key={path} text={text} put={put} />}
    </div>
  );
}

/** All parameters that can be an axis, by the figure that shows them. */
function Options({ tuning, not }: { tuning: Tuning; not: string | undefined }) {
  const taken = not?.slice(0, not.indexOf('='));
  const paths = axisPaths(tuning).filter((path) => path !== taken);
  return (Object.keys(figureTitles) as (keyof typeof figureTitles)[]).map((figure) => (
    <optgroup key={figure} label={figureTitles[figure]}>
      {rowsOf(figure).flatMap((row) =>
        paths
          .filter((path) => path === row || path === `${row}.times`)
          .map((path) => (
            <option key={path} value={path}>
              {axisLabel(path)}
            </option>
          )),
      )}
    </optgroup>
  ));
}

/** The values of an axis; what is wrong with it where its parameter isn't known. */
function Values({ text, put }: { text: string; put(text: string): void }) {
  const sweep = useSweep();
  const { file } = useStore(sweep.work.editing.$plainTuning);
  const path = text.slice(0, text.indexOf('='));
  if (specs.has(pathOf({ path, values: [], isLog: false }))) return <KnownValues text={text} put={put} />;
  return <p className="text-now">▲ {String(readAxis(text, file)).slice(path.length + 2)}</p>;
}

/** The values of an axis: ends, count and scale of a range, or a list. */
function KnownValues({ text, put }: { text: string; put(text: string): void }) {
  const sweep = useSweep();
  const { file } = useStore(sweep.work.editing.$plainTuning);
  const [path, rest] = [text.slice(0, text.indexOf('=')), text.slice(text.indexOf('=') + 1)];
  const axis: SweepAxis = { path, values: [], isLog: false };
  const spec = specOf(pathOf(axis));
  const read = readAxis(text, file);
  const fault = typeof read === 'string' ? read.slice(path.length + 2) : null;
  const unit = axisUnit(axis, file.unit ?? 'px');
  const isOption = spec.kind === 'flag' || spec.kind === 'choice';
  const isList = !isOption && !rest.includes(':');
  const [from = '', to = '', count = '', scale] = rest.split(':');
  const set = (parts: { from?: string; to?: string; count?: string; isLog?: boolean }) => {
    const isLog = parts.isLog ?? scale === 'log';
    put(`${path}=${parts.from ?? from}:${parts.to ?? to}:${parts.count ?? count}${isLog ? ':log' : ''}`);
  };
  if (isOption)
    return (
      <p className="digits mt-1 text-xs">
        {typeof read === 'string'
          ? fault
          : read.values.map((value) => (value === true ? 'on' : value === false ? 'off' : value)).join(', ')}
      </p>
    );
  return (
    <>
      {isList ? (
        <p className="mt-1 flex items-baseline gap-1">
          <Field label={`Values of ${axisLabel(path)}`} wide="w-full" value={rest} set={(value) => put(`${path}=${value}`)} />
          <span className="text-xs text-ink-soft">{unit}</span>
        </p>
      ) : (
        <>
          <p className="mt-1 flex items-baseline gap-1 text-ink-soft">
            <Field label={`First value of ${axisLabel(path)}`} wide="w-14" value={from} set={(value) => set({ from: value })} />
            to
            <Field label={`Last value of ${axisLabel(path)}`} wide="w-14" value={to} set={(value) => set({ to: value })} />
            <span className="text-xs">{unit}</span>
          </p>
          <p className="mt-1 flex items-center gap-1 text-ink-soft">
            <Field label={`Count of values of ${axisLabel(path)}`} wide="w-10" value={count} set={(value) => set({ count: value })} />
            values
            <label className="ml-auto flex min-h-6 items-center gap-1">
              <input type="checkbox" checked={scale === 'log'} onChange={(event) => set({ isLog: event.target.checked })} />
              log
            </label>
          </p>
        </>
      )}
      {fault && <p className="text-now">▲ {fault}</p>}
    </>
  );
}

/** A field whose text counts once it is left or Enter is pressed; Enter runs the sweep, too. */
function Field({ label, wide, value, set }: { label: string; wide: string; value: string; set(value: string): void }) {
  const sweep = useSweep();
  const [text, setText] = useState(value);
  useEffect(() => setText(value), [value]);
  const shown = Number.isFinite(Number(text)) && text.length > 7 ? String(Number(Number(text).toPrecision(5))) : text;
  const [isFocused, focus] = useState(false);
  return (
    <input
      aria-label={label}
      className={`digits min-h-6 ${wide} min-w-0 border-b border-rule bg-transparent text-ink`}
      inputMode="decimal"
      value={isFocused ? text : shown}
      onFocus={() => focus(true)}
      onChange={(event) => setText(event.target.value)}
      onBlur={() => {
        focus(false);
        if (text !== value) set(text.trim());
      }}
      onKeyDown={(event) => {
        event.stopPropagation();
        if (event.key === 'Enter') {
          if (text !== value) set(text.trim());
          sweep.run();
        } else if (event.key === 'Escape') {
          setText(value);
          event.currentTarget.blur();
        }
      }}
    />
  );
}
