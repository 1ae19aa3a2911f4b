import { useRef, useState } from 'react';
import { FileChooser } from '../controls/FileChooser.tsx';
import { PasteNew } from '../source/PasteNew.tsx';
import { ImportFiles } from '../work/importing/ImportFiles.tsx';
import { SchemePicture } from './SchemePicture.tsx';
import { beginWith, type SchemeId, schemes } from './ways.ts';

interface Project {
  id: string;
  unit: 'px' | 'm';
}

/**
 * Start of an empty project: a new tuning by its scheme, numbers pasted from code, or files. Where the screen has tools for
 * the other two already, `imported` is absent.
 */
export function Start({ project, imported, isNarrow = false }: { project: Project; imported?: () => void; isNarrow?: boolean }) {
  const [busy, setBusy] = useState(false);
  const [why, setWhy] = useState<string | null>(null);
  const [isPasting, paste] = useState(false);
  const [chosen, choose] = useState<readonly File[] | null>(null);
  const chooser = useRef<HTMLInputElement>(null);
  const begin = async (id: SchemeId) => {
    setBusy(true);
    const begun = await beginWith(id, project.unit);
    if ('address' in begun) return window.location.assign(begun.address);
    setBusy(false);
    setWhy(begun.why);
  };
  return (
    <div className={isNarrow ? '' : 'mx-auto w-full max-w-4xl px-6 py-8'}>
      <h2 className={isNarrow ? 'rubric' : 'text-lg font-semibold'}>How is your character moved?</h2>
      {!isNarrow && <p className="mt-1 text-ink-soft">Choose one, and drive it at once. Everything can be changed later.</p>}
      <ul
        className={isNarrow ? 'mt-1 grid grid-cols-2 gap-x-3 gap-y-2' : 'mt-4 grid grid-cols-[repeat(auto-fill,minmax(150px,1fr))] gap-4'}
      >
        {schemes.map(({ id, title, words }) => (
          <li key={id}>
            <button type="button" disabled={busy} className="group block w-full text-left" onClick={() => void begin(id)}>
              <SchemePicture id={id} />
              <span className={`${isNarrow ? 'mt-0.5 text-xs' : 'mt-2'} block font-semibold group-hover:text-now`}>{title}</span>
              {!isNarrow && <span className="block text-ink-soft">{words}</span>}
            </button>
          </li>
        ))}
      </ul>
      {why && (
        <p role="alert" className="mt-4 text-now">
          ▲ {why}
        </p>
      )}
      {imported && (
        <p className={`flex flex-wrap items-baseline ${isNarrow ? 'mt-2 gap-x-4' : 'mt-8 gap-x-6 gap-y-2 border-t border-rule pt-4'}`}>
          {!isNarrow && <span className="text-ink-soft">You have the numbers already?</span>}
          <button type="button" className="action min-h-6" onClick={() => paste(true)}>
            Paste numbers from code
          </button>
          <button type="button" className="action min-h-6" onClick={() => chooser.current?.click()}>
            Import files
          </button>
        </p>
      )}
      <FileChooser chooser={chooser} label="First files to import" many choose={choose} />
      {isPasting && <PasteNew project={project.id} close={() => paste(false)} />}
      {chosen && imported && <ImportFiles files={chosen} close={() => choose(null)} done={imported} />}
    </div>
  );
}
