import { figureList, showFigure } from '../commands.ts';
import { ClockFigure } from './ClockFigure.tsx';
import { PaceFigure } from './PaceFigure.tsx';

/** The figures in the order of work, and a column of names to jump between them. */
export function Figures() {
  return (
    <div className="flex min-h-0 border-t border-ink">
      <div className="flex min-w-0 flex-1 overflow-x-auto" role="group" aria-label="Figures">
        <PaceFigure number={1} />
        <ClockFigure number={2} />
      </div>
      <nav aria-label="Figures" className="w-[104px] shrink-0 border-l border-rule py-2 pl-3">
        {figureList.map(({ id, title }, i) => (
          <button key={id} type="button" className="block py-[1.5px] text-left text-[12.5px] hover:text-now" onClick={() => showFigure(id)}>
            <span className="digits mr-1.5 text-xs text-ink-soft">{i + 1}</span>
            {title}
          </button>
        ))}
      </nav>
    </div>
  );
}
