import { useEffect, useState } from 'react';
import { Overlay } from '../controls/Overlay.tsx';
import { send } from './deeds.ts';
import { useShelf } from './session.ts';

interface Listed {
  id: string;
  name: string;
  isDemo: boolean;
}

/** The projects there are: one is gone to, made, renamed, put away or brought back. */
export function Projects({ close }: { close(): void }) {
  const shelf = useShelf();
  const { project } = shelf;
  const [all, setAll] = useState<readonly Listed[] | null>(null);
  const [gone, setGone] = useState<readonly Listed[]>([]);
  const [name, setName] = useState('');
  const [own, setOwn] = useState(project.name);
  const [why, tell] = useState<string | null>(null);
  const load = async () => {
    const [used, away] = await Promise.all(
      ['', '?away=true'].map(async (query) => ((await (await fetch(`/api/v1/projects${query}`)).json()) as { items: Listed[] }).items),
    );
    setAll(used ?? []);
    setGone(away ?? []);
  };
  // biome-ignore lint/correctness/useExhaustiveDependencies: fetched once
  useEffect(() => {
    load().catch(() => tell('The server cannot be reached.'));
  }, []);
  const go = (id: string) => window.location.assign(`/shelf/${id}`);
  const make = async () => {
    const answer = await fetch('/api/v1/projects', {
      method: 'POST',
      headers: { 'content-type': 'application/json' },
      body: JSON.stringify({ name }),
    }).catch(() => null);
    const body = (await answer?.json().catch(() => null)) as { id?: string; title?: string } | null;
    if (answer?.ok && body?.id) go(body.id);
    else tell(`${body?.title ?? 'The server cannot be reached'}.`);
  };
  const rename = async () => {
    const fault = await send('PUT', `/api/v1/projects/${project.id}`, { name: own });
    if (fault) tell(fault);
    else window.location.reload();
  };
  const putAway = async () => {
    shelf.isLeft = true;
    const fault = await send('DELETE', `/api/v1/projects/${project.id}`);
    shelf.isLeft = fault === null;
    if (fault) tell(fault);
    else window.location.assign('/shelf');
  };
  const back = async (id: string) => {
    const fault = await send('POST', `/api/v1/projects/${id}/back`);
    if (fault) tell(fault);
    else go(id);
  };
  const restore = async () => {
    const fault = await send('POST', `/api/v1/projects/${project.id}/demo`);
    if (fault) tell(fault);
    else window.location.reload();
  };
  return (
    <Overlay title="Projects" close={close}>
      {why && (
        <p role="alert" className="mb-2 text-now">
          ▲ {why}
        </p>
      )}
      {all === null && !why && <p className="text-ink-soft">Fetching …</p>}
      <ul aria-label="Projects in use">
        {all?.map((one) => (
          <li key={one.id} className="border-b border-rule/60 py-0.5">
            {one.id === project.id ? (
              <b className="inline-flex min-h-6 items-center font-semibold">{one.name}, here</b>
            ) : (
              <button type="button" className="deed min-h-6" onClick={() => go(one.id)}>
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
          if (name.trim()) void make();
        }}
      >
        <input
          aria-label="Name of a new project"
          placeholder="A new project"
          maxLength={120}
          className="min-w-0 flex-1 border-b border-ink bg-transparent py-1"
          value={name}
          onChange={(event) => setName(event.target.value)}
        />
        <button type="submit" disabled={!name.trim()} className="deed min-h-6 disabled:opacity-50">
          Make it
        </button>
      </form>
      <form
        className="mt-3 flex items-end gap-3 border-t border-rule pt-3"
        onSubmit={(event) => {
          event.preventDefault();
          if (own.trim()) void rename();
        }}
      >
        <input
          aria-label="Name of this project"
          maxLength={120}
          className="min-w-0 flex-1 border-b border-ink bg-transparent py-1"
          value={own}
          onChange={(event) => setOwn(event.target.value)}
        />
        <button type="submit" disabled={!own.trim() || own.trim() === project.name} className="deed min-h-6 disabled:opacity-50">
          Rename it
        </button>
        <button type="button" className="deed min-h-6" onClick={() => void putAway()}>
          Put it away
        </button>
      </form>
      {project.isDemo && (
        <p className="mt-2">
          <button
            type="button"
            className="deed min-h-6"
            title="What was put away of it is there again, what was changed gets a revision as it was shipped; nothing is lost"
            onClick={() => void restore()}
          >
            Bring the demo back whole
          </button>
        </p>
      )}
      {gone.length > 0 && (
        <section aria-label="Projects put away" className="mt-3 border-t border-rule pt-2">
          <h3 className="rubric">Put away</h3>
          <ul>
            {gone.map((one) => (
              <li key={one.id} className="flex items-center justify-between gap-3">
                <span className="truncate">{one.name}</span>
                <button type="button" className="deed min-h-6" onClick={() => void back(one.id)}>
                  Bring back
                </button>
              </li>
            ))}
          </ul>
        </section>
      )}
    </Overlay>
  );
}
