import { useStore } from '@nanostores/react';
import { changeWall, removeWall, shortNumber, type Wall } from '@zygopod/core';
import { useEffect, useId, useState } from 'react';
import { useGround } from './groundWork.ts';

/** The points of the selected wall as text: to be read, typed and pasted. */
export function SelectedWall() {
  const { steps, drawing } = useGround();
  const selected = useStore(drawing.$selected);
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
    drawing.$selected.set(ground.walls.length);
  };
  if (!wall || selected === null)
    return (
      <section aria-label="Wall">
        <h2 className="rubric">Walls</h2>
        <p className="mt-1 text-ink-soft">
          <span className="digits">{ground.walls.length}</span> free. Select one to see its points.
        </p>
        <button type="button" className="action text-xs" onClick={add}>
          Add a wall by numbers
        </button>
      </section>
    );
  return <WallForm key={selected} wall={wall} index={selected} />;
}

const pointText = (wall: Wall) => wall.points.map(([x, y]) => `${shortNumber(x, 2)}, ${shortNumber(y, 2)}`).join('\n');

function WallForm({ wall, index }: { wall: Wall; index: number }) {
  const { steps, drawing } = useGround();
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
          <input type="checkbox" checked={wall.closed === true} onChange={(event) => set({ closed: event.target.checked })} />
          solid inside
        </label>
        <label className="flex items-center gap-1.5">
          <input type="checkbox" checked={wall.solid !== false} onChange={(event) => set({ solid: event.target.checked })} />
          felt
        </label>
      </div>
      <label htmlFor={id} className="mt-1 block text-xs text-ink-soft">
        Points, one x, y per line
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
        className="action text-xs"
        onClick={() => {
          steps.replace(removeWall(steps.$now.get(), index), 'take a wall away');
          drawing.$selected.set(null);
        }}
      >
        Delete wall
      </button>
    </section>
  );
}
