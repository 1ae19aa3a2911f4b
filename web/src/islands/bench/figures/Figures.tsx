import type { ComponentType } from 'react';
import { figureList, showFigure } from '../commands.ts';
import { BodyFigure } from './BodyFigure.tsx';
import { CameraFigure } from './CameraFigure.tsx';
import { ClicksFigure } from './ClicksFigure.tsx';
import { ClockFigure } from './ClockFigure.tsx';
import { EdgesFigure } from './EdgesFigure.tsx';
import { FacingFigure } from './FacingFigure.tsx';
import { HandsFigure } from './HandsFigure.tsx';
import { PaceFigure } from './PaceFigure.tsx';
import { StaminaFigure } from './StaminaFigure.tsx';
import { StepsFigure } from './StepsFigure.tsx';
import { WallsFigure } from './WallsFigure.tsx';

const drawings: Record<(typeof figureList)[number]['id'], ComponentType<{ number: number }>> = {
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
  return (
    <div className="flex min-h-0 border-t border-ink">
      <div className="flex min-w-0 flex-1 overflow-x-auto" role="group" aria-label="Figures">
        {figureList.map(({ id, number }) => {
          const Figure = drawings[id];
          return <Figure key={id} number={number} />;
        })}
      </div>
      <nav aria-label="Figures" className="w-[96px] shrink-0 border-l border-rule py-2 pl-3">
        {figureList.map(({ id, number, title }) => (
          <button key={id} type="button" className="block py-[1.5px] text-left text-[12.5px] hover:text-now" onClick={() => showFigure(id)}>
            <span className="digits mr-1.5 inline-block w-4 text-right text-xs text-ink-soft">{number}</span>
            {title}
          </button>
        ))}
      </nav>
    </div>
  );
}
