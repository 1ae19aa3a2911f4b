import { useStore } from '@nanostores/react';
import { useEffect, useRef, useState } from 'react';
import { $lanes, lanes, showLane } from './laneList.ts';

/** Chooses the lanes of the strip. */
export function LaneMenu() {
  const [open, setOpen] = useState(false);
  const shown = useStore($lanes);
  const menu = useRef<HTMLDivElement>(null);
  useEffect(() => {
    if (!open) return;
    const leave = (event: Event) => {
      if (event instanceof KeyboardEvent ? event.key === 'Escape' : !menu.current?.contains(event.target as Node)) setOpen(false);
    };
    window.addEventListener('pointerdown', leave);
    window.addEventListener('keydown', leave);
    return () => {
      window.removeEventListener('pointerdown', leave);
      window.removeEventListener('keydown', leave);
    };
  }, [open]);
  return (
    <div ref={menu} className="absolute bottom-0.5 left-3.5">
      <button
        type="button"
        aria-expanded={open}
        className="text-[11px] text-ink-soft underline decoration-dotted underline-offset-2 hover:text-ink"
        onClick={() => setOpen(!open)}
      >
        Lanes
      </button>
      {open && (
        <fieldset className="absolute bottom-full left-0 z-30 mb-1 grid gap-0.5 border border-ink bg-sheet px-3 py-2 whitespace-nowrap">
          <legend className="sr-only">Lanes of the strip</legend>
          {lanes.map(({ name }) => (
            <label key={name} className="flex items-center gap-2">
              <input
                type="checkbox"
                className="size-3 accent-(--ink)"
                checked={shown.includes(name)}
                onChange={(event) => showLane(name, event.target.checked)}
              />
              {name}
            </label>
          ))}
        </fieldset>
      )}
    </div>
  );
}
