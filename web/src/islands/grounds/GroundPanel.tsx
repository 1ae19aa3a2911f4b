import { useStore } from '@nanostores/react';
import { bodySize, changeWall, type Ground, removeWall, resizeGround, shortNumber, type Wall } from '@zygopod/core';
import { useEffect, useId, useState } from 'react';
import type { GroundOpening } from '../../server/openings.ts';
import { Picker } from '../shared/Picker.tsx';
import { useGround } from './session.ts';
import { $lookAt, $selected } from './tools.ts';

/** What the ground is like for a body: can the goal be reached, where is it narrow; and the numbers of the ground itself. */
export function GroundPanel({ opening }: { opening: GroundOpening }) {
  return (
    <aside aria-label="Body and ground" className="flex min-h-0 flex-col gap-4 overflow-y-auto border-l border-rule bg-paper px-3.5 py-2.5">
      <BodyChoice opening={opening} />
      <Findings />
      <SelectedWall />
      <Measures />
    </aside>
  );
}

function BodyChoice({ opening }: { opening: GroundOpening }) {
  const { parameters } = useGround();
  const { body } = parameters;
  const { width, height } = bodySize(body);
  return (
    <section aria-label="Body">
      <h2 className="rubric">For the body of</h2>
      <p className="mt-1">
        <Picker
          label="Body of"
          here={opening.tuning.id}
          options={opening.tunings}
          go={(id) => window.location.assign(`/grounds/${opening.ground.id}?tuning=${id}`)}
        />
      </p>
      <p className="digits mt-1 text-xs text-ink-soft">
        {body.shape === 'circle' ? `circle, ${shortNumber(width)} wide` : `box, ${shortNumber(width)} × ${shortNumber(height)}`}
      </p>
    </section>
  );
}

/** Gaps told as tight or too narrow. */
const TIGHT = 1.15;

function Findings() {
  const { steps, surveyor } = useGround();
  const found = useStore(surveyor.$survey);
  const trouble = useStore(surveyor.$trouble);
  const ground = useStore(steps.$now);
  if (trouble)
    return (
      <p role="alert" className="text-now">
        ▲ {trouble}
      </p>
    );
  if (!found) return <p className="text-ink-soft">Looking the ground over …</p>;
  const { survey, milliseconds } = found;
  const narrow = survey.gaps.filter(({ ratio }) => ratio < 1);
  const tight = survey.gaps.filter(({ ratio }) => ratio >= 1 && ratio < TIGHT);
  return (
    <section aria-label="Findings" data-testid="findings" data-fresh={found.ground === ground}>
      <h2 className="rubric">Findings</h2>
      <p className="mt-1">
        {survey.reachesGoal === null ? (
          <span className="text-ink-soft">No goal yet: put one with 0.</span>
        ) : survey.reachesGoal ? (
          <span className="font-semibold text-route">✓ The goal can be reached</span>
        ) : (
          <span className="font-semibold text-now">▲ The goal cannot be reached</span>
        )}
      </p>
      {survey.notes.map((note, i) => (
        <p key={i} className="mt-1 text-stamina-ink">
          ◆ {note.words}
          {note.x !== undefined && <Show x={note.x} y={note.y as number} />}
        </p>
      ))}
      <GapList title="Too narrow" gaps={narrow} mark="▲" tone="text-now" />
      <GapList title="Tight" gaps={tight} mark="◆" tone="text-stamina-ink" />
      {narrow.length + tight.length === 0 && <p className="mt-1 text-ink-soft">No gap is narrow for this body.</p>}
      <p className="digits mt-1 text-[11px] text-ink-soft">looked over in {milliseconds.toFixed(0)} ms</p>
    </section>
  );
}

function Show({ x, y }: { x: number; y: number }) {
  return (
    <button type="button" className="deed ml-1.5 text-xs" onClick={() => $lookAt.set({ x, y })}>
      Show
    </button>
  );
}

const SHOWN = 8;

function GapList({
  title,
  gaps,
  mark,
  tone,
}: {
  title: string;
  gaps: readonly { a: [number, number]; b: [number, number]; width: number }[];
  mark: string;
  tone: string;
}) {
  if (gaps.length === 0) return null;
  return (
    <div className="mt-2">
      <h3 className={`text-xs font-semibold ${tone}`}>
        {mark} {title}: {gaps.length}
      </h3>
      <ul>
        {gaps.slice(0, SHOWN).map(({ a, b, width }) => {
          const [x, y] = [(a[0] + b[0]) / 2, (a[1] + b[1]) / 2];
          return (
            <li key={`${x} ${y}`} className="digits flex justify-between border-b border-rule/60 py-0.5 text-xs">
              <span>{width.toFixed(1)}</span>
              <span className="text-ink-soft">
                at {Math.round(x)}, {Math.round(y)}
                <Show x={x} y={y} />
              </span>
            </li>
          );
        })}
      </ul>
      {gaps.length > SHOWN && <p className="text-xs text-ink-soft">and {gaps.length - SHOWN} more</p>}
    </div>
  );
}

/** The points of the selected wall as text: to be read, typed and pasted. */
function SelectedWall() {
  const { steps } = useGround();
  const selected = useStore($selected);
  const ground = useStore(steps.$now);
  const wall = selected === null ? undefined : ground.walls[selected];
  const add = () => {
    const [x, y] = [Math.round(ground.size.width / 2), Math.round(ground.size.height / 2)];
    steps.replace(
      {
        ...ground,
        walls: [
          ...ground.walls,
          {
            points: [
              [x - ground.cell, y],
              [x + ground.cell, y],
            ],
            closed: false,
            solid: true,
          },
        ],
      },
      'line',
    );
    $selected.set(ground.walls.length);
  };
  if (!wall || selected === null)
    return (
      <section aria-label="Wall">
        <h2 className="rubric">Walls</h2>
        <p className="mt-1 text-ink-soft">
          <span className="digits">{ground.walls.length}</span> free. Select one to see its points.
        </p>
        <button type="button" className="deed text-xs" onClick={add}>
          Add a wall by numbers
        </button>
      </section>
    );
  return <WallForm key={selected} wall={wall} index={selected} />;
}

const pointText = (wall: Wall) => wall.points.map(([x, y]) => `${shortNumber(x, 2)}, ${shortNumber(y, 2)}`).join('\n');

function WallForm({ wall, index }: { wall: Wall; index: number }) {
  const { steps } = useGround();
  const [text, setText] = useState(pointText(wall));
  const [why, setWhy] = useState<string | null>(null);
  const known = pointText(wall);
  const id = useId();
  useEffect(() => {
    setText(known);
    setWhy(null);
  }, [known]);
  const enter = () => {
    const points: [number, number][] = [];
    for (const [i, line] of text.trim().split('\n').entries()) {
      const pair = line
        .trim()
        .split(/[\s,;]+/)
        .map(Number);
      if (pair.length !== 2 || !pair.every((value) => Number.isFinite(value) && Math.abs(value) <= 1e7)) {
        setWhy(`line ${i + 1}: two numbers within ±10 million are needed`);
        return;
      }
      points.push(pair as [number, number]);
    }
    if (!points.some(([x, y]) => x !== points[0]?.[0] || y !== points[0]?.[1])) {
      setWhy('a wall needs two different points');
      return;
    }
    steps.replace(
      changeWall(steps.$now.get(), index, (now) => ({ ...now, points })),
      'points of a wall',
    );
  };
  const set = (change: Partial<Wall>) =>
    steps.replace(
      changeWall(steps.$now.get(), index, (now) => ({ ...now, ...change })),
      'wall',
    );
  return (
    <section aria-label="Wall">
      <h2 className="rubric">Wall {index + 1}</h2>
      <div className="mt-1 flex gap-4">
        <label className="flex items-center gap-1.5">
          <input
            type="checkbox"
            className="accent-(--ink)"
            checked={wall.closed === true}
            onChange={(event) => set({ closed: event.target.checked })}
          />
          solid inside
        </label>
        <label className="flex items-center gap-1.5">
          <input
            type="checkbox"
            className="accent-(--ink)"
            checked={wall.solid !== false}
            onChange={(event) => set({ solid: event.target.checked })}
          />
          felt
        </label>
      </div>
      <label htmlFor={id} className="mt-1 block text-xs text-ink-soft">
        Points, x and y a line
      </label>
      <textarea
        id={id}
        rows={Math.min(7, wall.points.length + 1)}
        aria-invalid={why !== null}
        className="digits w-full resize-y border border-rule bg-sheet px-1.5 py-0.5 text-xs"
        value={text}
        onChange={(event) => setText(event.target.value)}
        onBlur={enter}
        spellCheck={false}
      />
      {why && (
        <p role="alert" className="text-xs text-now">
          ▲ {why}
        </p>
      )}
      <button
        type="button"
        className="deed text-xs"
        onClick={() => {
          steps.replace(removeWall(steps.$now.get(), index), 'take a wall away');
          $selected.set(null);
        }}
      >
        Take it away
      </button>
    </section>
  );
}

/** Name, size, cell, start facing and goal of the ground. */
function Measures() {
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
