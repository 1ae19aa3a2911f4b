import { useStore } from '@nanostores/react';
import { type DocumentKind, firstTuning, kindIn, newGround } from '@zygopod/core';
import { useEffect, useMemo, useRef, useState } from 'react';
import type { ShelfOpening } from '../../server/data/openings.ts';
import { Failed } from '../controls/Failed.tsx';
import { FileChooser } from '../controls/FileChooser.tsx';
import { Trouble } from '../controls/Trouble.tsx';
import { Frame } from '../frame/Frame.tsx';
import { NewFromRecording } from '../recording/NewFromRecording.tsx';
import { PasteNew } from '../source/PasteNew.tsx';
import { Start } from '../start/Start.tsx';
import { listenToServer } from '../work/changes.ts';
import type { Command } from '../work/commands.ts';
import { DocumentFinder } from '../work/DocumentFinder.tsx';
import { createDocument } from '../work/documentActions.ts';
import { ImportFiles } from '../work/importing/ImportFiles.tsx';
import { Interrupted } from '../work/importing/Interrupted.tsx';
import { Naming } from '../work/Naming.tsx';
import { away, back, duplicate, exportItem, rename } from './actions.ts';
import { Between } from './Between.tsx';
import { Export } from './Export.tsx';
import { Projects } from './Projects.tsx';
import { Pictures } from './pictures.ts';
import { type RowAction, ShelfRow } from './ShelfRow.tsx';
import { type Board, boards, type Counts, ShelfContext, type ShelfItem, ShelfWork, sorts, useShelf } from './shelfWork.ts';

/** The dialog that is open over the shelf. */
type Asking = 'projects' | 'out' | 'paste' | { what: 'rename' | 'compare'; item: ShelfItem } | null;

/** The Shelf: everything that belongs to a game, with its history and results. */
export function Shelf({ opening }: { opening: ShelfOpening }) {
  const shelf = useMemo(() => new ShelfWork(opening), [opening]);
  const pictures = useMemo(() => new Pictures(opening.project.id, () => shelf.isLeft), [opening, shelf]);
  const painters = useMemo(() => new Set<never>(), []);
  const [asking, ask] = useState<Asking>(null);
  const [chosen, setChosen] = useState<readonly File[] | null>(null);
  const [recording, setRecording] = useState<File | null>(null);
  const [why, setProblem] = useState<string | null>(null);
  useEffect(() => {
    void shelf.load();
    const stop = listenToServer(() => {
      if (shelf.isLeft) return;
      pictures.look();
      shelf.look();
    });
    return () => {
      stop();
      pictures.stop();
    };
  }, [shelf, pictures]);
  const create = async () => {
    const { unit } = opening.project;
    const isGround = shelf.$query.get().board === 'grounds';
    const created = isGround
      ? await createDocument('grounds', newGround('New ground', unit))
      : await createDocument('tunings', firstTuning('New tuning', unit));
    if ('why' in created) setProblem(created.why);
    else window.location.assign(`/${isGround ? 'grounds' : 'bench'}/${created.id}`);
  };
  const find = () => document.getElementById('shelf-find')?.focus();
  // biome-ignore lint/correctness/useExhaustiveDependencies: what they call does not change
  const commands = useMemo<Command[]>(
    () => [
      { id: 'find', label: 'Find on the shelf', key: 'F', run: find },
      { id: 'new', label: 'New tuning, or new ground', key: 'N', run: () => void create() },
      { id: 'projects', label: 'Projects', key: 'P', run: () => ask('projects') },
      { id: 'paste', label: 'Paste numbers from code', key: 'C', run: () => ask('paste') },
      { id: 'out', label: 'Export', key: 'O', run: () => ask('out') },
    ],
    [],
  );
  const close = () => ask(null);
  return (
    <ShelfContext value={shelf}>
      <Frame
        title="Shelf"
        place={{}}
        painters={painters}
        commands={commands}
        open={<OpenProject projects={() => ask('projects')} />}
        onImport={() => void shelf.load()}
      >
        <Tools create={() => void create()} out={() => ask('out')} paste={() => ask('paste')} choose={setChosen} record={setRecording} />
        <Interrupted project={shelf.project.id} changed={() => void shelf.load()} />
        <Rows pictures={pictures} ask={ask} setProblem={setProblem} />
      </Frame>
      {chosen && <ImportFiles files={chosen} close={() => setChosen(null)} done={() => void shelf.load()} />}
      {recording && <NewFromRecording file={recording} unit={opening.project.unit} close={() => setRecording(null)} />}
      {asking === 'paste' && <PasteNew project={opening.project.id} close={close} />}
      {asking === 'projects' && <Projects close={close} />}
      {asking === 'out' && <Export setProblem={setProblem} close={close} />}
      {asking !== null && typeof asking === 'object' && asking.what === 'rename' && (
        <Naming
          title={`Rename ${asking.item.name}`}
          verb="Rename"
          name={asking.item.name}
          take={(name) => rename(shelf, asking.item, name)}
          close={close}
        />
      )}
      {asking !== null && typeof asking === 'object' && asking.what === 'compare' && (
        <DocumentFinder
          title={`Compare ${asking.item.name} with`}
          collection="tunings"
          actions={[]}
          go={(id) => window.location.assign(`/compare/${asking.item.id}?side=${asking.item.id}&side=${id}`)}
          close={close}
        />
      )}
      <Trouble why={why} close={() => setProblem(null)} />
    </ShelfContext>
  );
}

/** The project, whose documents are on the shelf. */
function OpenProject({ projects }: { projects(): void }) {
  const { project } = useShelf();
  return (
    <button
      type="button"
      aria-label={`Project: ${project.name}`}
      aria-haspopup="dialog"
      title={`${project.name}: open another project, create one, rename this one`}
      className="inline-flex items-baseline border-b border-rule pt-[3px] pb-[3px] font-semibold text-ink"
      onClick={projects}
    >
      <span className="max-w-[60ch] truncate">{project.name}</span>
      <span aria-hidden="true" className="ml-1 text-ink-soft">
        ▾
      </span>
    </button>
  );
}

const countOf = (counts: Counts | null, board: Board): string => (counts ? ` ${counts[board === 'away' ? board : kindIn(board)]}` : '');

/** The shelf's toolbar: search, kind, order, import and export. */
function Tools({
  create,
  out,
  paste,
  choose,
  record,
}: {
  create(): void;
  out(): void;
  paste(): void;
  choose(files: readonly File[]): void;
  record(file: File): void;
}) {
  const shelf = useShelf();
  const chooser = useRef<HTMLInputElement>(null);
  const recordings = useRef<HTMLInputElement>(null);
  const query = useStore(shelf.$query);
  const counts = useStore(shelf.$counts);
  return (
    <div className="flex h-12 shrink-0 items-center gap-5 border-b border-ink px-4 whitespace-nowrap max-[1140px]:gap-3">
      <input
        id="shelf-find"
        type="search"
        aria-label="Find a tuning, ground, tape or number"
        placeholder="Find by name, note or walk > 150"
        maxLength={200}
        className="w-60 border max-[1140px]:w-36 border-ink bg-sheet px-2.5 py-1"
        value={query.q}
        onChange={(event) => shelf.ask({ q: event.target.value }, true)}
      />
      <div className="flex h-full items-stretch gap-4" role="group" aria-label="What is shown">
        {boards.map(([board, words]) => (
          <button
            key={board}
            type="button"
            aria-pressed={query.board === board}
            className="border-b-3 border-transparent pt-1 text-ink-soft hover:text-ink aria-pressed:border-now aria-pressed:font-semibold aria-pressed:text-ink"
            onClick={() => shelf.ask({ board })}
          >
            {words}
            <span className="digits max-[1140px]:hidden">{countOf(counts, board)}</span>
          </button>
        ))}
      </div>
      <select
        aria-label="Order"
        className="min-h-6 bg-transparent text-ink-soft"
        value={query.sort}
        onChange={(event) => shelf.ask({ sort: event.target.value as (typeof sorts)[number][0] })}
      >
        {sorts.map(([sort, words]) => (
          <option key={sort} value={sort}>
            {words}
          </option>
        ))}
      </select>
      <div className="ml-auto flex items-center gap-5 max-[1140px]:gap-3">
        <FileChooser chooser={chooser} label="Files to import" many choose={choose} />
        <button type="button" className="action min-h-6" onClick={paste}>
          Paste<span className="max-[1400px]:sr-only"> numbers from</span> code
        </button>
        <FileChooser
          chooser={recordings}
          label="Recording"
          accept=".csv,.tsv,.txt,.json,.jsonl,.ndjson"
          choose={([file]) => file && record(file)}
        />
        <button
          type="button"
          className="action min-h-6"
          aria-label="New from a recording"
          title="A new tuning from places over time: CSV or JSON lines"
          onClick={() => recordings.current?.click()}
        >
          <span className="max-[1400px]:hidden">From a recording</span>
          <span className="min-[1400px]:hidden">Recording</span>
        </button>
        <button type="button" className="action min-h-6" onClick={() => chooser.current?.click()}>
          Import
        </button>
        <button type="button" className="action min-h-6" onClick={out}>
          Export
        </button>
        <button type="button" className="action min-h-6 font-semibold" onClick={create}>
          {query.board === 'grounds' ? 'New ground' : 'New tuning'}
        </button>
      </div>
    </div>
  );
}

/** Where documents are opened that have a screen. */
const screenOf: Partial<Record<DocumentKind, (id: string, project: string) => string>> = {
  tuning: (id) => `/bench/${id}`,
  ground: (id) => `/grounds/${id}`,
  tape: (id) => `/bench?tape=${id}`,
  sweep: (id, project) => `/sweep?${new URLSearchParams({ project, kept: id })}`,
};

/** Actions on a document, the main one first. */
function actionsOf(
  shelf: ShelfWork,
  item: ShelfItem,
  isAway: boolean,
  ask: (asking: Asking) => void,
  setProblem: (why: string | null) => void,
): RowAction[] {
  const go = (address: string) => window.location.assign(address);
  if (isAway) return [{ label: 'Restore', run: () => void back(shelf, item).then(setProblem) }];
  const open = screenOf[item.kind]?.(item.id, shelf.project.id);
  return [
    ...(open ? [{ label: 'Open', run: () => go(open) }] : []),
    { label: 'Duplicate', run: () => void duplicate(shelf, item).then(setProblem) },
    { label: 'Rename', run: () => ask({ what: 'rename', item }) },
    ...(item.kind === 'tuning' ? [{ label: 'Compare', run: () => ask({ what: 'compare', item }) }] : []),
    ...(item.kind === 'tuning' ? [{ label: 'Hand off', run: () => go(`/handoff/${item.id}`) }] : []),
    { label: 'Export', run: () => void exportItem(item).then(setProblem) },
    { label: 'Archive', run: () => void away(shelf, item).then(setProblem) },
  ];
}

function Rows({ pictures, ask, setProblem }: { pictures: Pictures; ask(asking: Asking): void; setProblem(why: string | null): void }) {
  const shelf = useShelf();
  const items = useStore(shelf.$items);
  const more = useStore(shelf.$more);
  const why = useStore(shelf.$why);
  const { board, q } = useStore(shelf.$query);
  const picked = useStore(shelf.$picked);
  const item = items?.find(({ id }) => id === picked);
  return (
    <>
      <section aria-label="On the shelf" className="min-h-0 flex-1 overflow-y-auto" data-testid="shelf">
        {why && <Failed why={why} retry={() => void shelf.load()} className="px-4 py-3" />}
        {!items && !why && <p className="px-4 py-3 text-ink-soft">Loading …</p>}
        {items?.length === 0 &&
          (board === 'tunings' && !q ? (
            <Start project={shelf.project} />
          ) : (
            <p className="px-4 py-6 text-ink-soft">
              {q
                ? 'Nothing on this board has that in its name, its notes or its numbers.'
                : board === 'away'
                  ? 'Nothing is archived.'
                  : 'Nothing is here yet. Make one, or drop files anywhere on this page.'}
            </p>
          ))}
        <ul>
          {items?.map((one) => (
            <ShelfRow key={one.id} item={one} pictures={pictures} actions={actionsOf(shelf, one, board === 'away', ask, setProblem)} />
          ))}
        </ul>
        {more && (
          <p className="px-4 py-3">
            <button type="button" className="action min-h-6" onClick={() => void shelf.more()}>
              Show more
            </button>
          </p>
        )}
      </section>
      {item && <Between key={item.id} item={item} setProblem={setProblem} />}
    </>
  );
}
