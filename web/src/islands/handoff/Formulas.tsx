import { type Formula, fileStem, formulaMath, formulasMarkdown, formulasOf, type Tuning } from '@zygopod/core';
import { useMemo } from 'react';
import { Actions } from './Actions.tsx';

/** The formulas of a tuning with its own numbers in them, as mathematics that is drawn and read aloud. */
export function Formulas({ tuning, unit }: { tuning: Tuning; unit: string }) {
  const { parameters, file } = tuning;
  const formulas = useMemo(() => formulasOf(parameters, unit), [parameters, unit]);
  const markdown = () => formulasMarkdown(formulas, `Formulas of ${file.name}`);
  const groups = [...new Set(formulas.map(({ group }) => group))];
  return (
    <section aria-label="Formulas" className="flex min-h-0 flex-1 flex-col px-3.5 py-2.5">
      <header className="flex items-baseline gap-4">
        <h2 className="font-semibold">What {file.name} comes to</h2>
        <p className="text-ink-soft">Closed forms of its stages; the drills measure the same to within a tick.</p>
        <Actions name={`${fileStem(file.name)}-formulas.md`} text={markdown} type="text/markdown" copied="Copied as Markdown" />
      </header>
      <div tabIndex={0} data-testid="formulas" className="mt-2 min-h-0 flex-1 overflow-auto border border-rule bg-sheet px-4 pb-4">
        {groups.map((group) => (
          <section key={group} aria-label={group}>
            <h3 className="rubric mt-3 mb-1">{group}</h3>
            <ul>
              {formulas
                .filter((formula) => formula.group === group)
                .map((formula) => (
                  <Line key={formula.id} formula={formula} />
                ))}
            </ul>
          </section>
        ))}
      </div>
    </section>
  );
}

function Line({ formula }: { formula: Formula }) {
  return (
    <li className="flex items-baseline gap-4 border-b border-rule/60 py-1.5" data-formula={formula.id}>
      {/* biome-ignore lint/security/noDangerouslySetInnerHtml: made by the core, with every text escaped */}
      <span className="formula" dangerouslySetInnerHTML={{ __html: formulaMath(formula) }} />
      {formula.note && <span className="ml-auto shrink-0 text-xs text-ink-soft">{formula.note}</span>}
    </li>
  );
}
