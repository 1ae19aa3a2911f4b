import { useStore } from '@nanostores/react';
import type { Figure } from '@zygopod/core';
import { type ComponentType, useMemo, useState } from 'react';
import { useTuning } from '../tuning/context.ts';
import { BodyFigure } from './BodyFigure.tsx';
import { CameraFigure } from './CameraFigure.tsx';
import { ClicksFigure } from './ClicksFigure.tsx';
import { ClockFigure } from './ClockFigure.tsx';
import { EdgesFigure } from './EdgesFigure.tsx';
import { FacingFigure } from './FacingFigure.tsx';
import { orderedFigures, unusedFigures } from './figureList.ts';
import { HandsFigure } from './HandsFigure.tsx';
import { FiguresContext } from './openFigure.ts';
import { PaceFigure } from './PaceFigure.tsx';
import { StaminaFigure } from './StaminaFigure.tsx';
import { StepsFigure } from './StepsFigure.tsx';
import { showFigure } from './showFigure.ts';
import { WallsFigure } from './WallsFigure.tsx';

const drawings: Record<Figure, ComponentType<{ number: number }>> = {
  pace: PaceFigure,
  stamina: StaminaFigure,
  walls: WallsFigure,
  edges: EdgesFigure,
  facing: FacingFigure,
  clicks: ClicksFigure,
  steps: StepsFigure,
  hands: HandsFigure,
  body: BodyFigure,
  camera: CameraFigure,
  clock: ClockFigure,
};

/** The figures in the order of work, and a column of names to jump between them. */
export function Figures() {
  const { editing } = useTuning();
  const { scheme, route } = useStore(editing.$tuning).parameters;
  const [open, setOpen] = useState<string | null>(null);
  const ordered = useMemo(() => orderedFigures({ scheme, route }), [scheme, route]);
  const state = useMemo(() => ({ open, setOpen, unused: unusedFigures({ scheme, route }) as ReadonlySet<string> }), [open, scheme, route]);
  return (
    <FiguresContext value={state}>
      <div className="flex min-h-0 border-t border-ink">
        <div className="@container flex min-w-0 flex-1 overflow-x-auto" role="group" aria-label="Figures">
          {ordered.map(({ id, number }) => {
            const Drawn = drawings[id];
            return <Drawn key={id} number={number} />;
          })}
        </div>
        <nav aria-label="Figures" className="w-[104px] shrink-0 overflow-y-auto border-l border-rule pt-px pl-3">
          {ordered.map(({ id, number, title }) => (
            <button
              key={id}
              type="button"
              className={`block min-h-6 text-left text-[12.5px] hover:text-now ${state.unused.has(id) ? 'text-ink-soft' : ''}`}
              onClick={() => showFigure(id)}
            >
              <span className="digits mr-1.5 inline-block w-4 text-right text-xs text-ink-soft">{number}</span>
              {title}
            </button>
          ))}
        </nav>
      </div>
    </FiguresContext>
  );
}
