import { useEffect, useState } from 'react';
import { Overlay } from '../controls/Overlay.tsx';
import { askServer, whyOf } from '../work/server.ts';
import { useShelf } from './shelfWork.ts';

interface Listed {
  id: string;
  name: string;
  isDemo: boolean;
}

/** Lists the projects; opens, creates, renames, archives or restores one. */
export function Projects({ close }: { close(): void }) {
  const shelf = useShelf();
  const { project } = shelf;
  const [all, setAll] = useState<readonly Listed[] | null>(null);
  const [gone, setGone] = useState<readonly Listed[]>([]);
  const [name, setName] = useState('');
  const [own, setOwn] = useState(project.name);
  const [why, setProblem] = useState<string | null>(null);
  const load = async () => {
    const ask = (query: string) => askServer<{ items: Listed[] }>('GET', `/api/v1/projects${query}`);
    const [used, away] = await Promise.all([ask(''), ask('?away=true')]);
    setProblem(whyOf(used) ?? whyOf(away));
    if ('body' in used) setAll(used.body.items);
    if ('body' in away) setGone(away.body.items);
  };
  // biome-ignore lint/correctness/useExhaustiveDependencies: fetched once
  useEffect(() => {
    void load();
  }, []);
  const go = (id: string) => window.location.assign(`/shelf/${id}`);
  const at = `/api/v1/projects/${project.id}`;
  /** Asks for something and goes on, or says why it was not done. */
  const ask = async (method: string, path: string, next: () => void, body?: unknown) => {
    const fault = whyOf(await askServer(method, path, { body }));
    if (fault) setProblem(fault);
    else next();
    return fault === null;
  };
  const reload = () => window.location.reload();
  const create = async () => {
    const created = await askServer<{ id: string }>('POST', '/api/v1/projects', { body: { name } });
    if ('why' in created) setProblem(created.why);
    else go(created.body.id);
  };
  const archive = async () => {
    shelf.isLeft = true;
    shelf.isLeft = await ask('DELETE', at, () => window.location.assign('/shelf'));
  };
  return (
    <Overlay title="Projects" close={close}>
      {why && (
        <p role="alert" className="mb-2 text-now">
          ▲ {why}
        </p>
      )}
      {all === null && !why && <p className="text-ink-soft">Loading …</p>}
      <ul aria-label="Projects in use">
        {all?.map((one) => (
          <li key={one.id} className="border-b border-rule/60 py-0.5">
            {one.id === project.id ? (
              <b className="inline-flex min-h-6 items-center font-semibold">{one.name}, here</b>
            ) : (
              <button type="button" className="action min-h-6" onClick={() => go(one.id)}>
                {one.name}
              </button>
            )}
          </li>
        ))}
      </ul>
      <form
        className="mt-3 flex items-end gap-3"
        onSubmit={(event) => {
          event.preventDefault();
          if (name.trim()) void create();
        }}
      >
        <input
          aria-label="Name of a new project"
          placeholder="A new project"
          data-work=""
          maxLength={120}
          className="min-w-0 flex-1 border-b border-ink bg-transparent py-1"
          value={name}
          onChange={(event) => setName(event.target.value)}
        />
        <button type="submit" disabled={!name.trim()} className="action min-h-6 disabled:opacity-50">
          Make it
        </button>
      </form>
      <form
        className="mt-3 flex items-end gap-3 border-t border-rule pt-3"
        onSubmit={(event) => {
          event.preventDefault();
          if (own.trim()) void ask('PUT', at, reload, { name: own });
        }}
      >
        <input
          aria-label="Name of this project"
          data-work={project.name}
          maxLength={120}
          className="min-w-0 flex-1 border-b border-ink bg-transparent py-1"
          value={own}
          onChange={(event) => setOwn(event.target.value)}
        />
        <button type="submit" disabled={!own.trim() || own.trim() === project.name} className="action min-h-6 disabled:opacity-50">
          Rename project
        </button>
        <button type="button" className="action min-h-6" onClick={() => void archive()}>
          Archive project
        </button>
      </form>
      {project.isDemo && (
        <p className="mt-2">
          <button
            type="button"
            className="action min-h-6"
            title="Restores archived demo documents; changed ones get a new revision with the shipped values. Nothing is lost"
            onClick={() => void ask('POST', `${at}/demo`, reload)}
          >
            Restore the demo
          </button>
        </p>
      )}
      {gone.length > 0 && (
        <section aria-label="Archived projects" className="mt-3 border-t border-rule pt-2">
          <h3 className="rubric">Archived</h3>
          <ul>
            {gone.map((one) => (
              <li key={one.id} className="flex items-center justify-between gap-3">
                <span className="truncate">{one.name}</span>
                <button
                  type="button"
                  className="action min-h-6"
                  onClick={() => void ask('POST', `/api/v1/projects/${one.id}/back`, () => go(one.id))}
                >
                  Restore
                </button>
              </li>
            ))}
          </ul>
        </section>
      )}
    </Overlay>
  );
}
