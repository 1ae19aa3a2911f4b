import { fileStem, type Ground, isLapMetric, type TuningFile } from '@zygopod/core';
import { strToU8, zipSync } from 'fflate';
import { useEffect, useState } from 'react';
import { downloadBytes } from '../controls/download.ts';
import { fetchChosen } from '../judging/targets.ts';
import { fetchDocument } from '../work/documentActions.ts';
import { PlainText } from './FileText.tsx';
import { type ListedTape, listTapes } from './tapes.ts';
import { useGenerated } from './useGenerated.ts';

/** Tapes that are replayed at most, and those that are chosen at first. */
const MOST = 12;
const FIRST = 3;

/** A folder for the game's build server: goldens of tapes, and tests in six languages that say where the game parts from them. */
export function Checks({ file, id, project, ground }: { file: TuningFile; id: string; project: string; ground: Ground }) {
  const [tapes, setTapes] = useState<readonly ListedTape[] | null>(null);
  const [chosen, choose] = useState<readonly string[]>([]);
  const [shown, show] = useState('README.md');
  useEffect(() => {
    void listTapes(project).then((found) => {
      setTapes(found);
      choose(found.slice(0, FIRST).map((tape) => tape.id));
    });
  }, [project]);
  const generated = useGenerated('checks', `${tapes === null} ${chosen.join()} ${JSON.stringify(file)}`, async () => {
    if (tapes === null) return null;
    const hands = await Promise.all(chosen.map((tape) => fetchDocument('tapes', tape)));
    const targets = await fetchChosen(id);
    const hasLap = ground.course && targets?.targets.some(({ metric }) => isLapMetric(metric));
    return {
      tuning: file,
      targets,
      ground: hasLap ? ground : null,
      tapes: hands.flatMap((one) => ('file' in one ? [one.file] : [])),
    };
  });
  const files = generated && 'files' in generated ? generated.files : [];
  const text = files.find(({ path }) => path === shown)?.text ?? '';
  const save = () => {
    const folder = `${fileStem(file.name)}-checks`;
    const bytes = zipSync(Object.fromEntries(files.map((one) => [`${folder}/${one.path}`, strToU8(one.text)])));
    downloadBytes(`${folder}.zip`, bytes, 'application/zip');
  };
  return (
    <div className="grid min-h-0 flex-1 grid-cols-[204px_220px_minmax(0,1fr)]">
      <aside
        aria-label="Tapes that are replayed"
        className="flex min-h-0 flex-col gap-2 overflow-y-auto border-r border-rule bg-paper px-3.5 py-2.5"
      >
        <fieldset>
          <legend className="rubric">Replays</legend>
          {tapes?.length === 0 && <p className="text-ink-soft">This project has no tapes: keep one on the bench.</p>}
          {tapes?.map((tape) => {
            const isChosen = chosen.includes(tape.id);
            return (
              <label key={tape.id} className="flex min-h-6 items-center gap-2">
                <input
                  type="checkbox"
                  checked={isChosen}
                  disabled={!isChosen && chosen.length >= MOST}
                  onChange={() => choose(isChosen ? chosen.filter((one) => one !== tape.id) : [...chosen, tape.id])}
                />
                <span className="truncate">{tape.name}</span>
              </label>
            );
          })}
        </fieldset>
        <p className="text-xs leading-4 text-ink-soft">
          Goes into the game’s repository. Each test replays the tapes against the game’s own movement, and fails where it first parts from
          the model, saying by how much.
        </p>
      </aside>
      <nav aria-label="Files of the folder" className="min-h-0 overflow-y-auto border-r border-rule py-2.5">
        <ul>
          {files.map(({ path }) => (
            <li key={path}>
              <button
                type="button"
                aria-pressed={shown === path}
                title={path}
                className="digits block min-h-6 w-full truncate px-3.5 text-left text-[13px] hover:underline aria-pressed:bg-ink aria-pressed:text-sheet"
                onClick={() => show(path)}
              >
                {path}
              </button>
            </li>
          ))}
        </ul>
      </nav>
      <section aria-label="The file" className="flex min-h-0 min-w-0 flex-col px-3.5 py-2.5">
        <header className="flex items-baseline gap-4">
          <h2 className="font-semibold" data-testid="file-name">
            {shown}
          </h2>
          <button type="button" className="action ml-auto min-h-6 font-semibold" disabled={files.length === 0} onClick={save}>
            Save all as ZIP
          </button>
        </header>
        {generated && 'why' in generated ? (
          <p role="alert" className="mt-2 border border-now p-3 font-semibold text-now">
            ▲ {generated.why}
          </p>
        ) : (
          <PlainText text={generated ? text : 'Being made …'} wraps={shown.endsWith('.md')} />
        )}
      </section>
    </div>
  );
}
