import { movePart, type Swipe, stretchPart, type TapePart } from '@zygopod/core';
import { useEffect, useState } from 'react';
import { partWords, type TapeEditing } from './editing.ts';

const directions: readonly Swipe[] = ['up', 'right', 'down', 'left'];

/** The numbers of the picked part, to be typed. */
export function PartFields({
  editing,
  parts,
  index,
  ticks,
  hz,
}: {
  editing: TapeEditing;
  parts: readonly TapePart[];
  index: number;
  ticks: number;
  hz: number;
}) {
  const part = parts[index];
  if (!part) return null;
  const change = (over: Partial<TapePart>) =>
    editing.put(
      parts.map((one, i) => (i === index ? { ...part, ...over } : one)),
      `change ${partWords(part)}`,
    );
  const { lane, at, direction } = part;
  const isStick = lane === 'stick';
  const amount = at ? Math.hypot(at[0], at[1]) : 0;
  const angle = at ? (Math.atan2(at[1], at[0]) * 180) / Math.PI : 0;
  const push = (length: number, degrees: number) => {
    const turn = (degrees * Math.PI) / 180;
    const held = Math.min(1, Math.max(0.01, length));
    change({ at: [Number((Math.cos(turn) * held).toFixed(4)), Number((Math.sin(turn) * held).toFixed(4))] });
  };
  return (
    <span className="flex items-center gap-3">
      <b className="font-semibold text-now">{partWords(part)}</b>
      {!part.held && (
        <Entry
          label="from"
          unit="s"
          value={part.from / hz}
          put={(value) => editing.put(movePart(parts, part, value * hz, ticks), `move ${partWords(part)}`)}
        />
      )}
      {part.to > part.from && (
        <Entry
          label="for"
          unit="s"
          value={(part.to - part.from) / hz}
          put={(value) => editing.put(stretchPart(parts, part, 'to', part.from + value * hz, ticks), `stretch ${partWords(part)}`)}
        />
      )}
      {isStick && at && !part.held && (
        <>
          <Entry label="push" unit="" value={amount} put={(value) => push(value, angle)} />
          <Entry label="direction" unit="°" value={angle} put={(value) => push(amount, value)} />
        </>
      )}
      {lane === 'point' && at && (
        <>
          <Entry label="x" unit="" value={at[0]} put={(value) => change({ at: [value, at[1]] })} />
          <Entry label="y" unit="" value={at[1]} put={(value) => change({ at: [at[0], value] })} />
        </>
      )}
      {direction && (
        <select
          aria-label="Direction of the swipe"
          value={direction}
          onChange={(event) => change({ direction: event.target.value as Swipe })}
        >
          {directions.map((one) => (
            <option key={one}>{one}</option>
          ))}
        </select>
      )}
      <button type="button" className="action min-h-6" onClick={() => editing.remove(index)}>
        Take away
      </button>
    </span>
  );
}

/** A number that is put as it is left. */
export function Entry({ label, unit, value, put }: { label: string; unit: string; value: number; put(value: number): void }) {
  const rounded = String(Number(value.toFixed(3)));
  const [text, setText] = useState(rounded);
  useEffect(() => setText(rounded), [rounded]);
  const typed = Number(text.trim().replace(',', '.').replace('−', '-'));
  const isNumber = text.trim() !== '' && Number.isFinite(typed);
  const leave = () => {
    if (isNumber && typed !== Number(rounded)) put(typed);
  };
  return (
    <label className="flex items-baseline gap-1 text-ink-soft">
      {label}
      <input
        className="digits w-16 border-b border-rule bg-transparent text-right text-ink"
        inputMode="decimal"
        value={text}
        aria-invalid={!isNumber}
        title={isNumber ? undefined : 'Not a number. Escape restores the old value.'}
        onChange={(event) => setText(event.target.value)}
        onBlur={leave}
        onKeyDown={(event) => {
          if (event.key === 'Enter') leave();
          if (event.key === 'Escape') setText(rounded);
        }}
      />
      {unit}
    </label>
  );
}
