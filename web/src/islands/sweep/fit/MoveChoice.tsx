import { useStore } from '@nanostores/react';
import { axisLabel, type FitNumber, fitNumber, type MoveRequest, matters, shortNumber, type Tuning } from '@zygopod/core';
import { useEffect, useState } from 'react';
import { Overlay } from '../../controls/Overlay.tsx';
import { axisPaths } from '../choice.ts';
import { axisUnit } from '../words.ts';
import type { FitWork } from './fitWork.ts';

/** The numbers that change something in a tuning, with the ranges that they would have. */
const candidatesOf = (tuning: Tuning): FitNumber[] =>
  axisPaths(tuning)
    .filter((path) => matters(path.replace(/\.times$/, ''), tuning.parameters))
    .map((path) => fitNumber(tuning, { path }))
    .filter((number) => typeof number !== 'string');

/** A dialog that chooses the numbers which a fit may move, and their ranges. */
export function MoveChoice({ fit, close }: { fit: FitWork; close(): void }) {
  const tuning = useStore(fit.sweep.work.editing.$plainTuning);
  const [chosen, setChosen] = useState<ReadonlyMap<string, MoveRequest>>(new Map(fit.$moves.get().map((move) => [move.path, move])));
  const [own, setOwn] = useState<readonly MoveRequest[] | null>(null);
  useEffect(() => {
    let isCurrent = true;
    fit.defaults().then(
      (moves) => isCurrent && setOwn(moves),
      () => isCurrent && setOwn([]),
    );
    return () => {
      isCurrent = false;
    };
  }, [fit]);
  const put = (path: string, move: MoveRequest | null) => {
    const next = new Map(chosen);
    if (move) next.set(path, move);
    else next.delete(path);
    setChosen(next);
  };
  const faults = [...chosen.values()].map((move) => fitNumber(tuning, move)).filter((fault) => typeof fault === 'string');
  const use = (moves: readonly MoveRequest[]) => {
    fit.choose(moves);
    close();
    void fit.run();
  };
  return (
    <Overlay title="Numbers that may move" close={close} wide>
      <p className="text-ink-soft">
        {own === null
          ? 'Finding out which numbers matter …'
          : own.length === 0
            ? 'No number moves these targets.'
            : `These matter most for the missed targets: ${own.map(({ path }) => axisLabel(path)).join(', ')}.`}
      </p>
      <ul className="mt-2 max-h-[46vh] overflow-y-auto border-y border-rule" aria-label="Numbers">
        {candidatesOf(tuning).map((number) => (
          <Row key={number.path} number={number} unit={tuning.file.unit ?? 'px'} move={chosen.get(number.path) ?? null} put={put} />
        ))}
      </ul>
      {faults.map((fault) => (
        <p key={fault} className="text-now">
          ▲ {fault}
        </p>
      ))}
      <p className="mt-3 flex justify-end gap-4">
        <button type="button" className="action min-h-6" onClick={() => use([])}>
          Those that matter
        </button>
        <button
          type="button"
          className="border border-now px-3 py-1 font-semibold text-now disabled:opacity-50"
          disabled={chosen.size === 0 || faults.length > 0}
          onClick={() => use([...chosen.values()])}
        >
          {`Fit ${chosen.size} ${chosen.size === 1 ? 'number' : 'numbers'}`}
        </button>
      </p>
    </Overlay>
  );
}

function Row({
  number,
  unit,
  move,
  put,
}: {
  number: FitNumber;
  unit: string;
  move: MoveRequest | null;
  put(path: string, move: MoveRequest | null): void;
}) {
  const { path, now, min, max } = number;
  const label = axisLabel(path);
  return (
    <li className="flex min-h-7 items-center gap-2 border-t border-rule/70 first:border-t-0" data-path={path}>
      <label className="flex min-w-0 flex-1 items-center gap-2" title={path}>
        <input type="checkbox" checked={move !== null} onChange={(event) => put(path, event.target.checked ? { path } : null)} />
        <span className="truncate">{label}</span>
      </label>
      <span className="digits text-xs text-ink-soft">{shortNumber(Number(now.toPrecision(4)))}</span>
      {move ? (
        <>
          <End label={`Least ${label}`} value={move.min ?? min} set={(value) => put(path, { ...move, min: value })} />
          <span className="text-ink-soft">to</span>
          <End label={`Most ${label}`} value={move.max ?? max} set={(value) => put(path, { ...move, max: value })} />
        </>
      ) : (
        <span className="digits w-[152px] text-right text-xs text-ink-soft">{`${shortNumber(Number(min.toPrecision(3)))} to ${shortNumber(Number(max.toPrecision(3)))}`}</span>
      )}
      <span className="w-10 text-xs text-ink-soft">{axisUnit({ path, values: [], isLog: false }, unit)}</span>
    </li>
  );
}

/** An end of a range. */
function End({ label, value, set }: { label: string; value: number; set(value: number): void }) {
  const [text, setText] = useState(shortNumber(Number(value.toPrecision(4))));
  return (
    <input
      aria-label={label}
      className="digits min-h-6 w-16 border-b border-ink bg-transparent text-right"
      inputMode="decimal"
      value={text}
      onChange={(event) => {
        setText(event.target.value);
        set(event.target.value.trim() === '' ? Number.NaN : Number(event.target.value));
      }}
    />
  );
}
