import { useStore } from '@nanostores/react';
import type { PartLane } from '@zygopod/core';
import { type KeyboardEvent, useEffect, useRef, useState } from 'react';
import { usePainter } from '../../chart/frames.ts';
import { LEFT, RIGHT, windowSpan } from '../../strip/window.ts';
import { useTuning } from '../../tuning/context.ts';
import { useGuard } from '../../work/unfinished.ts';
import { allLanes, laneWords, type TapeEditing } from './editing.ts';
import { LaneRow } from './LaneRow.tsx';
import { Entry, PartFields } from './PartFields.tsx';

/** Seconds that a tape written by hand can have at most. */
const LONGEST = 600;

/** The hands of the looped tape as lanes under the strip, on its time axis: every change is driven at once. */
export function TapeEditor({
  editing,
  keep,
  saveOver,
  leave,
}: {
  editing: TapeEditing;
  keep(): void;
  saveOver: (() => void) | null;
  leave(): void;
}) {
  const { drive, window, $kept } = useTuning();
  const now = useStore(editing.steps.$now);
  const history = useStore(editing.steps.$history);
  const picked = useStore(editing.$picked);
  useStore(editing.$extra);
  const [span, setSpan] = useState<[number, number]>([0, 1]);
  const body = useRef<HTMLDivElement>(null);
  const cursor = useRef<HTMLDivElement>(null);
  const { base, parts } = now;
  const kept = useStore($kept);
  const stored = useRef(now);
  useEffect(() => {
    if (kept) stored.current = editing.steps.$now.get();
  }, [kept, editing]);
  useGuard(() => editing.steps.$now.get() !== stored.current);
  const { ticks, hz } = base;

  // The loop follows whatever is edited.
  useEffect(() => editing.steps.$now.listen(() => drive.retape(editing.tape)), [editing, drive]);
  usePainter(() => {
    const loop = drive.$loop.get();
    const [from, to] = windowSpan(drive, window);
    const begins = loop?.begins ?? 0;
    if (Math.abs(from - begins - span[0]) > 1e-6 || Math.abs(to - begins - span[1]) > 1e-6) setSpan([from - begins, to - begins]);
    const share = loop ? (loop.now - from) / (to - from) : -1;
    if (cursor.current) {
      cursor.current.style.left = `${share * 100}%`;
      cursor.current.hidden = share < 0 || share > 1;
    }
  });
  const share = (tick: number) => (tick / hz - span[0]) / (span[1] - span[0]);
  const tickAt = (clientX: number) => {
    const box = body.current?.getBoundingClientRect();
    if (!box) return 0;
    return (span[0] + ((clientX - box.left) / box.width) * (span[1] - span[0])) * hz;
  };
  const where = (tick: number): readonly [number, number] => {
    const { trace } = drive.world;
    const row = Math.min(trace.end - 1, Math.max(0, trace.rowAt(trace.at('time', 0) + tick / hz)));
    return [Number((trace.at('x', row) + 60).toFixed(1)), Number(trace.at('y', row).toFixed(1))];
  };
  const lanes = editing.lanesOf(now);
  const missing = allLanes.filter((lane) => !lanes.includes(lane));
  const key = (event: KeyboardEvent) => {
    if (!(event.ctrlKey || event.metaKey) || event.key.toLowerCase() !== 'z') return;
    // Undo is the tape's own as long as the hands are on it.
    event.preventDefault();
    event.stopPropagation();
    if (event.shiftKey) editing.steps.redo();
    else editing.steps.undo();
  };
  const action = 'action min-h-6 disabled:opacity-45';
  return (
    <section aria-label="Tape editor" className="flex min-h-0 flex-col border-t border-ink bg-sheet select-none" onKeyDown={key}>
      <header className="flex h-9 shrink-0 items-center gap-4 overflow-hidden border-b border-rule px-3.5 whitespace-nowrap">
        <h2 className="font-semibold">Hands, written by hand</h2>
        <Entry
          label="Length"
          unit="s"
          value={ticks / hz}
          put={(value) => editing.setTicks(Math.max(1, Math.round(Math.min(LONGEST, value) * hz)))}
        />
        {picked !== null ? (
          <PartFields editing={editing} parts={parts} index={picked} ticks={ticks} hz={hz} />
        ) : (
          <span className="text-ink-soft">Double click a lane to add, drag a bar or its ends.</span>
        )}
        <span className="ml-auto flex items-center gap-4">
          <button type="button" className={action} disabled={!history.undo} title={history.undo ?? ''} onClick={() => editing.steps.undo()}>
            Undo
          </button>
          <button type="button" className={action} disabled={!history.redo} title={history.redo ?? ''} onClick={() => editing.steps.redo()}>
            Redo
          </button>
          {saveOver && (
            <button type="button" className={action} title="Saves it as the next revision of this tape" onClick={saveOver}>
              Save revision of the tape
            </button>
          )}
          <button type="button" className={action} onClick={keep}>
            Keep as new
          </button>
          <button type="button" className={action} onClick={leave}>
            Back to the figures
          </button>
        </span>
      </header>
      <div className="min-h-0 flex-1 overflow-y-auto" role="grid" aria-label="Lanes of the hands">
        <div className="relative grid" style={{ gridTemplateColumns: `${LEFT}px minmax(0,1fr) ${RIGHT}px` }}>
          <ul aria-hidden="true">
            {lanes.map((lane) => (
              <li key={lane} className="flex h-5.5 items-center truncate pl-3.5 text-[11.5px] font-semibold text-ink-soft">
                {laneWords(lane)}
              </li>
            ))}
          </ul>
          <div ref={body} className="relative overflow-hidden">
            {lanes.map((lane) => (
              <LaneRow
                key={lane}
                editing={editing}
                lane={lane}
                parts={parts}
                ticks={ticks}
                hz={hz}
                picked={picked}
                share={share}
                tickAt={tickAt}
                where={where}
              />
            ))}
            <div ref={cursor} className="pointer-events-none absolute top-0 bottom-0 w-px bg-now" />
          </div>
        </div>
        {missing.length > 0 && (
          <label className="mt-1.5 flex items-baseline gap-2 pl-3.5 text-ink-soft">
            A lane for
            <select
              className="text-ink"
              value=""
              onChange={(event) => editing.$extra.set([...editing.$extra.get(), event.target.value as PartLane])}
            >
              <option value="">choose …</option>
              {missing.map((lane) => (
                <option key={lane} value={lane}>
                  {laneWords(lane)}
                </option>
              ))}
            </select>
          </label>
        )}
      </div>
    </section>
  );
}
