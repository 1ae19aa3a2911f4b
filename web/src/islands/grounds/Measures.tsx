import { useStore } from '@nanostores/react';
import { type Ground, resizeGround, shortNumber } from '@zygopod/core';
import { useEffect, useId, useState } from 'react';
import { useGround } from './groundWork.ts';

/** Name, size, cell, start facing and goal of the ground. */
export function Measures() {
  const { steps } = useGround();
  const ground = useStore(steps.$now);
  const { size, cell, start, goal } = ground;
  const put = (next: Ground, what: string) => steps.replace(next, what);
  return (
    <section aria-label="Measures">
      <h2 className="rubric">Ground</h2>
      <label className="mt-1 flex items-baseline justify-between gap-2 border-b border-rule/60 py-[3px]">
        Name
        <input
          className="min-w-0 flex-1 border-b border-ink bg-transparent text-right font-semibold"
          maxLength={120}
          value={ground.name}
          onChange={(event) => event.target.value.trim() && put({ ...ground, name: event.target.value }, 'name')}
        />
      </label>
      <Measure
        label="Width"
        unit={ground.unit}
        value={size.width}
        min={1}
        max={1e6}
        set={(width) => put(resizeGround(ground, width, size.height, cell), 'width')}
      />
      <Measure
        label="Height"
        unit={ground.unit}
        value={size.height}
        min={1}
        max={1e6}
        set={(height) => put(resizeGround(ground, size.width, height, cell), 'height')}
      />
      <Measure
        label="Cell"
        unit={ground.unit}
        value={cell}
        min={Math.max(0.01, size.width / 4096, size.height / 4096)}
        max={1e5}
        set={(side) => put(resizeGround(ground, size.width, size.height, side), 'cell')}
      />
      <Measure
        label="Start faces"
        unit="°"
        value={start.facing ?? 90}
        min={-360}
        max={360}
        set={(facing) => put({ ...ground, start: { ...start, facing } }, 'start facing')}
      />
      {goal && (
        <Measure
          label="Goal radius"
          unit={ground.unit}
          value={goal.radius}
          min={0.01}
          max={1e6}
          set={(radius) => put({ ...ground, goal: { ...goal, radius } }, 'goal')}
        />
      )}
    </section>
  );
}

function Measure({
  label,
  unit,
  value,
  min,
  max,
  set,
}: {
  label: string;
  unit: string;
  value: number;
  min: number;
  max: number;
  set(value: number): void;
}) {
  const [text, setText] = useState(shortNumber(value, 2));
  const [why, setWhy] = useState<string | null>(null);
  const id = useId();
  useEffect(() => {
    setText(shortNumber(value, 2));
    setWhy(null);
  }, [value]);
  const enter = () => {
    const next = Number(text);
    if (text.trim() === '' || !Number.isFinite(next)) setWhy('a number is needed');
    else if (next < min || next > max) setWhy(`from ${shortNumber(min, 2)} to ${shortNumber(max)}`);
    else {
      setWhy(null);
      if (next !== value) set(next);
    }
  };
  return (
    <div className="border-b border-rule/60 py-[3px]">
      <div className="flex items-baseline justify-between gap-2">
        <label htmlFor={id}>{label}</label>
        <span>
          <input
            id={id}
            aria-invalid={why !== null}
            className="digits w-20 border-b border-ink bg-transparent text-right font-medium"
            value={text}
            onChange={(event) => setText(event.target.value)}
            onBlur={enter}
            onKeyDown={(event) => {
              if (event.key === 'Enter') enter();
              if (event.key === 'Escape') setText(shortNumber(value, 2));
            }}
          />
          <span className="digits ml-1.5 inline-block w-5 text-xs text-ink-soft">{unit}</span>
        </span>
      </div>
      {why && (
        <p role="alert" className="text-right text-xs text-now">
          ▲ {why}
        </p>
      )}
    </div>
  );
}
