import { useStore } from '@nanostores/react';
import { axisLabel } from '@zygopod/core';
import { useEffect, useId, useState } from 'react';
import { useListing } from '../work/listing.ts';
import { Naming } from '../work/Naming.tsx';
import { $project } from '../work/project.ts';
import { askServer } from '../work/server.ts';
import { useKept, useSweep } from './context.ts';
import { shownWords } from './words.ts';

/** Counts the changes since each kept result was measured, by sweep; those without a result aren’t among them. */
function useChanged(count: number): ReadonlyMap<string, number> {
  const project = useStore($project)?.id;
  const [changed, setChanged] = useState<ReadonlyMap<string, number>>(new Map());
  // biome-ignore lint/correctness/useExhaustiveDependencies: fetched again after each save
  useEffect(() => {
    if (!project) return;
    let isCurrent = true;
    void askServer<{ items: { sweep: string; changed: string[] }[] }>('GET', `/api/v1/projects/${project}/sweep-results`).then((answer) => {
      if (isCurrent && 'body' in answer) setChanged(new Map(answer.body.items.map(({ sweep, changed }) => [sweep, changed.length])));
    });
    return () => {
      isCurrent = false;
    };
  }, [project, count]);
  return changed;
}

/** The project's kept sweeps, and the button that keeps this one. */
export function KeptList() {
  const sweep = useSweep();
  const kept = useKept();
  const saved = useStore(kept.$saved);
  const open = useStore(kept.$open);
  const faults = useStore(sweep.$faults);
  const [isNaming, name] = useState(false);
  const id = useId();
  const { axes } = sweep.axes();
  const shown = useStore(sweep.$choice).shown;
  const proposed = open?.name ?? `${shownWords(shown)}: ${axes.map(({ path }) => axisLabel(path)).join(' × ')}`;
  return (
    <div role="group" aria-labelledby={id} className="border-t border-rule pt-2">
      <h2 id={id} className="rubric mb-0.5">
        Kept
      </h2>
      <Items key={saved} count={saved} />
      <button
        type="button"
        className="action min-h-6"
        disabled={faults.length > 0}
        title="Saves the definition as a document of the project, with its results"
        onClick={() => name(true)}
      >
        Keep sweep
      </button>
      {isNaming && (
        <Naming
          title="Keep the sweep"
          verb="Keep"
          name={proposed.slice(0, 120)}
          take={(name) => kept.save(name)}
          close={() => name(false)}
        />
      )}
    </div>
  );
}

function Items({ count }: { count: number }) {
  const sweep = useSweep();
  const { items, why, more } = useListing('sweeps', '');
  const changed = useChanged(count);
  const kept = useKept();
  const open = useStore(kept.$open);
  if (why) return <p>▲ {why}</p>;
  return (
    <ul>
      {items.map(({ id, name }) => (
        <li key={id} className="flex min-h-6 items-center gap-1">
          <button
            type="button"
            aria-current={open?.id === id}
            className={`min-w-0 truncate text-left hover:underline ${open?.id === id ? 'font-semibold' : ''}`}
            title={name}
            onClick={() => void kept.open(id).then((fault) => fault && sweep.$trouble.set(fault))}
          >
            {name}
          </button>
          {(changed.get(id) ?? 0) > 0 && (
            <span className="shrink-0 text-stamina-ink" title="What it was measured from has changed since: run it again">
              ◆<span className="sr-only"> stale</span>
            </span>
          )}
        </li>
      ))}
      {more && (
        <li>
          <button type="button" className="action min-h-6" onClick={more}>
            More
          </button>
        </li>
      )}
    </ul>
  );
}
