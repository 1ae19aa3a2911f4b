import { useStore } from '@nanostores/react';
import { type Ground, groundFormat } from '@zygopod/core';
import { useEffect, useMemo, useState } from 'react';
import type { GroundOpening } from '../../server/data/openings.ts';
import { Painters } from '../chart/frames.ts';
import { switchTheme } from '../chart/theme.ts';
import { Deed } from '../controls/Deed.tsx';
import { Notice } from '../controls/Notice.tsx';
import { drives } from '../drive/bindings.ts';
import { CommandList, KeyList, SaveRevision } from '../work/CommandOverlays.tsx';
import { type Command, listenToCommands } from '../work/commands.ts';
import { createDocument } from '../work/deeds.ts';
import { Picker } from '../work/Picker.tsx';
import { ScreenHeader } from '../work/ScreenHeader.tsx';
import { ExportGround, ImportGround } from './Exchange.tsx';
import { GroundPanel } from './GroundPanel.tsx';
import { GroundSheet } from './GroundSheet.tsx';
import { History } from './History.tsx';
import { GroundContext, type GroundSession, openGroundSession, useGround } from './session.ts';
import { ToolPanel } from './ToolPanel.tsx';
import { $tool, tools } from './tools.ts';

type Sheet = 'save' | 'list' | 'keys' | 'import' | 'export' | 'history';

/** Makes a ground of its own; the page goes there, or why not. */
async function makeNew(ground: Ground, tuning: string): Promise<string | null> {
  const made = await createDocument('grounds', ground);
  if ('why' in made) return made.why;
  window.location.assign(`/grounds/${made.id}?tuning=${tuning}`);
  return null;
}

/** An empty ground to begin with. */
function emptyGround(): Ground {
  return groundFormat.schema.parse({
    format: groundFormat.format,
    version: 1,
    name: 'New ground',
    size: { width: 640, height: 384 },
    start: { x: 80, y: 80 },
  }) as Ground;
}

function groundCommands({ steps, drive }: GroundSession, show: (sheet: Sheet) => void): Command[] {
  return [
    ...tools.map(({ id, key, title }) => ({ id: `tool-${id}`, label: `Tool: ${title}`, key, run: () => $tool.set(id) })),
    { id: 'restart', label: 'Body back to the start', key: 'R', run: () => drive.restart() },
    { id: 'save', label: 'Save revision', key: 'Ctrl+S', run: () => show('save') },
    { id: 'undo', label: 'Undo', key: 'Ctrl+Z', run: () => steps.undo() },
    { id: 'redo', label: 'Redo', key: 'Ctrl+Shift+Z', run: () => steps.redo() },
    { id: 'import', label: 'Import', key: 'I', run: () => show('import') },
    { id: 'export', label: 'Export', key: 'O', run: () => show('export') },
    { id: 'history', label: 'History', key: 'H', run: () => show('history') },
    { id: 'theme', label: 'Day or night chart', key: 'T', run: switchTheme },
    { id: 'keys', label: 'List of keys', key: '?', run: () => show('keys') },
    { id: 'list', label: 'List of commands', key: 'Ctrl+K', run: () => show('list') },
  ];
}

const looking = [
  ['Space and drag', 'Move the ground; the wheel zooms, a double click fits'],
  ['Enter', 'Ends a line, closes a shape'],
  ['Escape', 'Forgets what is half drawn, lets go of what is selected'],
  ['Delete', 'Takes the selected wall away'],
] as const;

/** The Grounds screen: tools, the sheet to draw on, and what the ground is like for a body. */
export function Grounds({ opening }: { opening: GroundOpening }) {
  const session = useMemo(() => openGroundSession(opening), [opening]);
  const [sheet, setSheet] = useState<Sheet | null>(null);
  const [dropped, setDropped] = useState<File | null>(null);
  const commands = useMemo(() => groundCommands(session, setSheet), [session]);
  useEffect(() => session.start(), [session]);
  useEffect(() => listenToCommands(commands, drives), [commands]);
  useEffect(() => {
    // A file that is dropped anywhere is shown before anything becomes of it.
    const over = (event: DragEvent) => event.preventDefault();
    const drop = (event: DragEvent) => {
      event.preventDefault();
      const file = event.dataTransfer?.files[0];
      if (!file) return;
      setDropped(file);
      setSheet('import');
    };
    window.addEventListener('dragover', over);
    window.addEventListener('drop', drop);
    return () => {
      window.removeEventListener('dragover', over);
      window.removeEventListener('drop', drop);
    };
  }, []);
  const close = () => {
    setSheet(null);
    setDropped(null);
  };
  const asNew = (ground: Ground) => makeNew(ground, opening.tuning.id);

  return (
    <GroundContext value={session}>
      <Painters value={session.painters}>
        <div className="flex h-screen min-h-[620px] min-w-[960px] flex-col">
          <GroundHeader opening={opening} commands={commands} asNew={asNew} />
          <main className="relative grid min-h-0 flex-1 grid-cols-[204px_minmax(0,1fr)_248px]">
            <h1 className="sr-only">Grounds</h1>
            <Trouble />
            <ToolPanel />
            <GroundSheet />
            <GroundPanel opening={opening} />
          </main>
        </div>
        {sheet === 'save' && <SaveRevision save={session.save} close={close} />}
        {sheet === 'list' && <CommandList commands={commands} close={close} />}
        {sheet === 'keys' && <KeyList commands={commands} more={looking} close={close} />}
        {sheet === 'import' && <ImportGround first={dropped} makeNew={asNew} close={close} />}
        {sheet === 'export' && <ExportGround close={close} />}
        {sheet === 'history' && <History id={opening.ground.id} close={close} />}
      </Painters>
    </GroundContext>
  );
}

function GroundHeader({
  opening,
  commands,
  asNew,
}: {
  opening: GroundOpening;
  commands: Command[];
  asNew(ground: Ground): Promise<string | null>;
}) {
  const { steps, saving } = useGround();
  const head = useStore(saving.$head);
  const [why, setWhy] = useState<string | null>(null);
  const run = (id: string) => commands.find((command) => command.id === id)?.run();
  const now = useStore(steps.$now);
  const { ground, tuning } = opening;
  return (
    <ScreenHeader
      here="grounds"
      bench={`/bench/${tuning.id}?ground=${ground.id}`}
      grounds={`/grounds/${ground.id}?tuning=${tuning.id}`}
      steps={steps}
      saving={saving}
      commands={commands}
      where={
        <>
          <Picker
            label="Ground"
            name={now.name}
            collection="grounds"
            go={(id) => window.location.assign(`/grounds/${id}?tuning=${tuning.id}`)}
          />{' '}
          <span className="digits text-xs">rev {head}</span>
          {why && <span className="text-xs text-now"> ▲ {why}</span>}
        </>
      }
    >
      <Deed label="New" title="An empty ground" run={async () => setWhy(await asNew(emptyGround()))} />
      <Deed label="Import" title="Import (I)" run={() => run('import')} />
      <Deed label="Export" title="Export (O)" run={() => run('export')} />
      <Deed label="History" title="History (H)" spare run={() => run('history')} />
    </ScreenHeader>
  );
}

/** What stands in the way of saving, with the way out. */
function Trouble() {
  const { steps, saving } = useGround();
  const state = useStore(saving.$state);
  if (state.at === 'offline')
    return (
      <Notice tone="trouble" role="alert">
        ◆ {state.why} Your changes are kept in this browser and are sent as soon as it answers. You can go on.
      </Notice>
    );
  if (state.at !== 'conflict') return null;
  return (
    <Notice tone="trouble" role="alert">
      <span>◆ This ground was changed in another tab or by somebody else.</span>
      <button type="button" className="deed" onClick={() => saving.settle(steps.$now.get())}>
        Keep mine
      </button>
      <button
        type="button"
        className="deed"
        onClick={() => {
          saving.settle(state.theirs);
          steps.replace(state.theirs, 'take the other ground');
        }}
      >
        Take theirs
      </button>
    </Notice>
  );
}
