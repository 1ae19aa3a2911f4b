import { significant } from '@zygopod/core';
import { type KeyboardEvent, useRef, useState } from 'react';

/** Screen pixels of a drag for a hundredth of the number. */
const PIXELS = 3;

/** A number that was found, to be tried otherwise: drag its label, type, or use the arrows. */
export function TriedNumber({
  label,
  title,
  value,
  unit,
  put,
}: {
  label: string;
  title: string;
  value: number;
  unit: string;
  put(value: number): void;
}) {
  const [typed, setTyped] = useState<string | null>(null);
  const drag = useRef<{ x: number; value: number } | null>(null);
  const tidy = (next: number) => Number(next.toPrecision(4));
  const enter = () => {
    const next = Number((typed ?? '').replace(',', '.'));
    if (typed !== null && typed.trim() !== '' && next > 0 && Number.isFinite(next)) put(next);
    setTyped(null);
  };
  const key = (event: KeyboardEvent<HTMLInputElement>) => {
    if (event.key === 'Enter') enter();
    else if (event.key === 'Escape' && typed !== null) {
      event.preventDefault();
      setTyped(null);
    } else if (event.key === 'ArrowUp' || event.key === 'ArrowDown') {
      event.preventDefault();
      put(tidy(value * (event.key === 'ArrowUp' ? 1 : -1) * (event.shiftKey ? 0.1 : 0.01) + value));
    }
  };
  return (
    <>
      <td className="py-0.5 align-top">
        <span
          title={title}
          className="cursor-ew-resize touch-none select-none border-b border-dotted border-now"
          onPointerDown={(event) => {
            event.currentTarget.setPointerCapture(event.pointerId);
            drag.current = { x: event.clientX, value };
          }}
          onPointerMove={(event) => {
            const held = drag.current;
            if (held) put(tidy(held.value * Math.exp((event.clientX - held.x) / PIXELS / 100)));
          }}
          onPointerUp={() => {
            drag.current = null;
          }}
        >
          {label}
        </span>
      </td>
      <td className="pl-3 text-right align-top text-xs whitespace-nowrap">
        <input
          aria-label={label}
          inputMode="decimal"
          className="digits w-16 border-b border-ink bg-transparent text-right"
          value={typed ?? significant(value, 4)}
          onChange={(event) => setTyped(event.target.value)}
          onBlur={enter}
          onKeyDown={key}
        />{' '}
        <span className="digits inline-block w-[5ch] text-left">{unit}</span>
      </td>
    </>
  );
}
