import { useStore } from '@nanostores/react';
import { OPEN, paintCells, SOLID, type Surface } from '@zygopod/core';
import { useState } from 'react';
import { useGround } from './groundWork.ts';
import { snaps, tools } from './tools.ts';

/** The tools, the mark that cells get, and what the pointer snaps to. */
export function ToolPanel() {
  const { drawing } = useGround();
  const tool = useStore(drawing.$tool);
  const snap = useStore(drawing.$snap);
  return (
    <section aria-label="Tools" className="flex min-h-0 flex-col gap-3 overflow-y-auto border-r border-rule bg-paper px-3.5 py-2">
      <div>
        <h2 className="rubric">Tools</h2>
        <ul className="mt-1">
          {tools.map(({ id, key, title, help }) => (
            <li key={id}>
              <button
                type="button"
                title={help}
                aria-pressed={tool === id}
                className="flex min-h-6 w-full items-center justify-between px-1.5 text-left hover:text-now aria-pressed:bg-ink aria-pressed:text-sheet"
                onClick={() => drawing.$tool.set(id)}
              >
                {title}
                <span className="digits text-[11px] opacity-70">{key}</span>
              </button>
            </li>
          ))}
        </ul>
        <p className="mt-1.5 min-h-13 text-xs text-ink-soft">{tools.find(({ id }) => id === tool)?.help}</p>
      </div>
      <Marks />
      <fieldset>
        <legend className="rubric">Snap to</legend>
        <div className="mt-1 flex border border-ink">
          {snaps.map(({ id, title }) => (
            <label
              key={id}
              className={`flex-1 py-0.5 text-center text-xs has-focus-visible:outline-2 ${snap === id ? 'bg-ink text-sheet' : 'text-ink-soft'}`}
            >
              <input type="radio" name="snap" className="sr-only" checked={snap === id} onChange={() => drawing.$snap.set(id)} />
              {title}
            </label>
          ))}
        </div>
      </fieldset>
    </section>
  );
}

/** Kinds of cells: solid, open, or a surface with its speed. */
function Marks() {
  const { steps, drawing } = useGround();
  const { surfaces } = useStore(steps.$now);
  const mark = useStore(drawing.$mark);
  const put = (own: string, surface: Surface) =>
    steps.replace({ ...steps.$now.get(), surfaces: { ...steps.$now.get().surfaces, [own]: surface } }, 'surface');
  const add = () => {
    const free =
      [...'~mwisrgb'].find((candidate) => !(candidate in surfaces)) ?? String.fromCodePoint(0xe000 + Object.keys(surfaces).length);
    put(free, { name: `surface ${Object.keys(surfaces).length + 1}`, speed: 0.6 });
    drawing.$mark.set(free);
  };
  const drop = (own: string) => {
    const ground = steps.$now.get();
    const places = ground.cells.flatMap((row, y) => [...row].flatMap((cell, x) => (cell === own ? [[x, y] as [number, number]] : [])));
    const { [own]: _gone, ...others } = ground.surfaces;
    steps.replace({ ...paintCells(ground, places, OPEN), surfaces: others }, 'take a surface away');
    if (mark === own) drawing.$mark.set(SOLID);
  };
  return (
    <fieldset>
      <legend className="rubric">Cells become</legend>
      <ul className="mt-1">
        {[
          [SOLID, 'solid', 'bg-solid'],
          [OPEN, 'open', 'bg-sheet'],
        ].map(([own, name, tone]) => (
          <li key={own}>
            <label className="flex min-h-6 items-center gap-2">
              <input
                type="radio"
                name="mark"
                className="m-[5px] size-3.5 shrink-0"
                checked={mark === own}
                onChange={() => drawing.$mark.set(own as string)}
              />
              <span className={`size-3.5 border border-ink-soft ${tone}`} aria-hidden="true" />
              {name}
            </label>
          </li>
        ))}
        {Object.entries(surfaces).map(([own, surface]) => (
          <SurfaceRow
            key={own}
            surface={surface}
            chosen={mark === own}
            choose={() => drawing.$mark.set(own)}
            put={(next) => put(own, next)}
            drop={() => drop(own)}
          />
        ))}
      </ul>
      <button type="button" className="action min-h-6 text-xs" onClick={add}>
        Add a surface
      </button>
    </fieldset>
  );
}

function SurfaceRow({
  surface,
  chosen,
  choose,
  put,
  drop,
}: {
  surface: Surface;
  chosen: boolean;
  choose(): void;
  put(next: Surface): void;
  drop(): void;
}) {
  const [speed, setSpeed] = useState(String(surface.speed));
  const value = Number(speed);
  const wrong = speed.trim() === '' || !(value >= 0 && value <= 10);
  return (
    <li className="flex min-h-6 items-center gap-1.5">
      <input type="radio" name="mark" className="m-[5px] size-3.5 shrink-0" aria-label={surface.name} checked={chosen} onChange={choose} />
      <span className="size-3.5 shrink-0 border border-ink-soft bg-water" aria-hidden="true" />
      <input
        aria-label="Name of the surface"
        className="min-h-6 w-12 min-w-0 flex-1 border-b border-rule bg-transparent"
        value={surface.name}
        maxLength={60}
        onChange={(event) => event.target.value.trim() && put({ ...surface, name: event.target.value })}
      />
      <span className="text-ink-soft">×</span>
      <input
        aria-label={`Speed on ${surface.name}`}
        aria-invalid={wrong}
        title={wrong ? 'A factor from 0 to 10' : 'Factor on the speed'}
        className={`digits min-h-6 w-9 border-b bg-transparent text-right ${wrong ? 'border-now text-now' : 'border-ink'}`}
        value={speed}
        onChange={(event) => {
          setSpeed(event.target.value);
          const next = Number(event.target.value);
          if (event.target.value.trim() !== '' && next >= 0 && next <= 10) put({ ...surface, speed: next });
        }}
      />
      <button type="button" aria-label={`Delete ${surface.name}`} className="px-0.5 text-ink-soft hover:text-now" onClick={drop}>
        ✕
      </button>
    </li>
  );
}
