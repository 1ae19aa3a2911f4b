import { useStore } from '@nanostores/react';
import { type Gate, removeGate, reorderGate, setLaps, significant } from '@zygopod/core';
import { useGround } from './groundWork.ts';

const lengthOf = ({ from, to }: Gate): number => Math.hypot(to[0] - from[0], to[1] - from[1]);

/** The course of the ground: its gates in order, its laps, and the planned path for the body. */
export function CoursePanel() {
  const { steps, drawing, surveyor } = useGround();
  const ground = useStore(steps.$now);
  const selected = useStore(drawing.$gate);
  const found = useStore(surveyor.$survey);
  const { course, unit } = ground;
  if (!course)
    return (
      <section aria-label="Course">
        <h2 className="rubric">Course</h2>
        <p className="mt-1 text-ink-soft">No gates yet. Draw the first one with T.</p>
      </section>
    );
  const path = found?.isWhole && found.ground === ground ? found.survey.course : null;
  const select = (index: number, { from, to }: Gate) => {
    drawing.$selected.set(null);
    drawing.$gate.set(index);
    drawing.$lookAt.set({ x: (from[0] + to[0]) / 2, y: (from[1] + to[1]) / 2 });
  };
  const move = (index: number, to: number) => {
    steps.replace(reorderGate(ground, index, to), 'order of gates');
    drawing.$gate.set(to);
  };
  const remove = (index: number) => {
    steps.replace(removeGate(ground, index), 'delete a gate');
    drawing.$gate.set(null);
  };
  return (
    <section aria-label="Course" data-testid="course">
      <h2 className="rubric">Course</h2>
      <p className="mt-1 flex items-baseline justify-between text-xs" data-testid="course-path">
        {path === null ? (
          <span className="text-ink-soft">Planning the path …</span>
        ) : path.blocked ? (
          <span className="font-semibold text-now">▲ No path through all gates</span>
        ) : (
          <>
            Shortest path
            <span className="digits">
              {significant(path.length)} {unit}
            </span>
          </>
        )}
      </p>
      <ol>
        {course.gates.map((gate, i) => (
          <li
            key={i}
            className={`flex items-center gap-1 border-b border-rule/60 text-xs ${selected === i ? 'bg-ink text-sheet' : ''}`}
            data-testid="gate"
          >
            <button
              type="button"
              className="digits min-h-6 flex-1 px-1 text-left"
              aria-pressed={selected === i}
              title="Select and show this gate"
              onClick={() => select(i, gate)}
            >
              {i + 1}
              {i === course.gates.length - 1 ? ' finish' : ''}
              <span className="ml-2 opacity-70">
                {significant(lengthOf(gate))} {unit}
              </span>
            </button>
            <button
              type="button"
              className="min-h-6 min-w-6"
              aria-label={`Move gate ${i + 1} up`}
              disabled={i === 0}
              onClick={() => move(i, i - 1)}
            >
              ↑
            </button>
            <button
              type="button"
              className="min-h-6 min-w-6"
              aria-label={`Move gate ${i + 1} down`}
              disabled={i === course.gates.length - 1}
              onClick={() => move(i, i + 1)}
            >
              ↓
            </button>
            <button
              type="button"
              className="min-h-6 min-w-6"
              aria-label={`Delete gate ${i + 1}`}
              title="Delete this gate"
              onClick={() => remove(i)}
            >
              ×
            </button>
          </li>
        ))}
      </ol>
      <label className="flex items-baseline justify-between py-[3px]">
        Laps
        <input
          type="number"
          className="digits w-16 border-b border-ink bg-transparent text-right"
          min={1}
          max={100}
          value={course.laps}
          onChange={(event) => {
            const laps = Number(event.target.value);
            if (Number.isInteger(laps) && laps >= 1 && laps <= 100) steps.replace(setLaps(ground, laps), 'laps');
          }}
        />
      </label>
    </section>
  );
}
