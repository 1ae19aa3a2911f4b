import { useStore } from '@nanostores/react';
import { bodySize, shortNumber } from '@zygopod/core';
import { CoursePanel } from './CoursePanel.tsx';
import { useGround } from './groundWork.ts';
import { Measures } from './Measures.tsx';
import { SelectedWall } from './WallForm.tsx';

/** Findings about the ground for a body (reachable goal, narrow gaps), and the numbers of the ground itself. */
export function GroundPanel() {
  return (
    <aside aria-label="Body and ground" className="flex min-h-0 flex-col gap-4 overflow-y-auto border-l border-rule bg-paper px-3.5 py-2.5">
      <Body />
      <Findings />
      <CoursePanel />
      <SelectedWall />
      <Measures />
    </aside>
  );
}

/** The body that the ground is measured for: that of the tuning in the header. */
function Body() {
  const { parameters } = useGround();
  const { body } = parameters;
  const { width, height } = bodySize(body);
  return (
    <section aria-label="Body" className="flex items-baseline justify-between">
      <h2 className="rubric">Body</h2>
      <p className="digits text-xs">
        {body.shape === 'circle' ? `circle, ${shortNumber(width)} wide` : `box, ${shortNumber(width)} × ${shortNumber(height)}`}
      </p>
    </section>
  );
}

/** Gaps reported as tight or too narrow. */
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
  if (!found) return <p className="text-ink-soft">Checking the ground …</p>;
  const { survey, isWhole, milliseconds } = found;
  const narrow = (survey.gaps ?? []).filter(({ ratio }) => ratio < 1);
  const tight = (survey.gaps ?? []).filter(({ ratio }) => ratio >= 1 && ratio < TIGHT);
  return (
    <section aria-label="Findings" data-testid="findings" data-fresh={found.ground === ground && isWhole}>
      <h2 className="rubric">Findings</h2>
      <p className="mt-1">
        {!isWhole ? (
          <span className="text-ink-soft">{survey.gaps ? 'Checking where the body can get …' : 'Looking for narrow gaps …'}</span>
        ) : survey.reachesGoal === null ? (
          <span className="text-ink-soft">No goal yet. Place one with 0.</span>
        ) : survey.reachesGoal ? (
          <span className="font-semibold text-route">✓ The goal can be reached</span>
        ) : (
          <span className="font-semibold text-now">▲ The goal can’t be reached</span>
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
      {survey.gaps && narrow.length + tight.length === 0 && (
        <p className="mt-1 text-ink-soft">No gap is too narrow or tight for this body.</p>
      )}
      {isWhole && <p className="digits mt-1 text-[11px] text-ink-soft">checked in {milliseconds.toFixed(0)} ms</p>}
    </section>
  );
}

function Show({ x, y }: { x: number; y: number }) {
  const { drawing } = useGround();
  return (
    <button type="button" className="action ml-1.5 text-xs" onClick={() => drawing.$lookAt.set({ x, y })}>
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
