import { useStore } from '@nanostores/react';
import { useRef } from 'react';
import { usePainter } from '../../chart/frames.ts';
import { write } from '../../controls/inPlace.ts';
import { useTuning } from '../../tuning/context.ts';

/** The bar with its level, and the mark at which an emptied one may sprint again. */
export function StaminaBar() {
  const { drive, editing } = useTuning();
  const { stamina } = useStore(editing.$tuning).parameters;
  const fill = useRef<HTMLDivElement>(null);
  const level = useRef<HTMLElement>(null);
  usePainter(() => {
    const value = drive.world.trace.at('stamina', drive.row);
    const text = value.toFixed(stamina.max < 10 ? 2 : stamina.max < 50 ? 1 : 0);
    if (fill.current) fill.current.style.width = `${(value / stamina.max) * 100}%`;
    write(level.current, text);
  });
  if (!stamina.enabled) return <p className="mt-2 text-ink-soft">No stamina: sprint is free.</p>;
  return (
    <div className="mt-2">
      <p className="flex items-baseline justify-between">
        <span className="text-ink-soft">Stamina</span>
        <span className="digits whitespace-nowrap">
          <span ref={level} data-testid="stamina" /> / {stamina.max}
        </span>
      </p>
      <div className="relative mt-1 h-2.5 border border-ink bg-sheet">
        <div ref={fill} className="h-full bg-stamina" />
        <div
          className="absolute -inset-y-1 w-0 border-l-2 border-dashed border-now"
          style={{ left: `${Math.min(1, stamina.recoverTo / stamina.max) * 100}%` }}
          title={`After empty, sprints again at ${stamina.recoverTo}`}
        />
      </div>
    </div>
  );
}
