import { useStore } from '@nanostores/react';
import type { Ground } from '@zygopod/core';
import { type ReactNode, useCallback, useMemo, useState } from 'react';
import type { Opening } from '../../server/data/openings.ts';
import { HeaderAction } from '../controls/HeaderAction.tsx';
import { Open, revisionWords } from '../frame/Header.tsx';
import { DocumentPicker } from '../frame/Picker.tsx';
import { Shell } from '../frame/Shell.tsx';
import type { Command } from '../work/commands.ts';
import { createDocument } from '../work/documentActions.ts';
import { documentActions } from '../work/documentCommands.ts';
import { kindOf } from '../work/importing/reading.ts';
import { addressOf, placeOf, useScreens } from '../work/place.ts';
import { currentOf } from '../work/work.ts';
import { ExportGround, ImportGround } from './Exchange.tsx';
import { GroundPanel } from './GroundPanel.tsx';
import { GroundSheet } from './GroundSheet.tsx';
import { GroundContext, openGroundWork, useGround } from './groundWork.ts';
import { History } from './History.tsx';
import { ToolPanel } from './ToolPanel.tsx';
import { tools } from './tools.ts';

const looking = [
  ['Space and drag', 'Move the ground; the wheel zooms, a double click fits'],
  ['Enter', 'Ends a line, closes a shape'],
  ['Escape', 'Cancels the current drawing and clears the selection'],
  ['Delete', 'Takes the selected wall away'],
] as const;

/** The Grounds screen: tools, the sheet to draw on, and what the ground is like for a body. */
export function Grounds({ opening }: { opening: Opening }) {
  const work = useMemo(() => openGroundWork(opening), [opening]);
  const { here } = useScreens();
  const [sheet, show] = useState<'import' | 'export' | 'history' | null>(null);
  const [dropped, drop] = useState<File | null>(null);
  const own = useMemo<Command[]>(
    () => [
      ...tools.map(({ id, key, title }) => ({ id: `tool-${id}`, label: `Tool: ${title}`, key, run: () => work.drawing.$tool.set(id) })),
      { id: 'import', label: 'Import', key: 'I', run: () => show('import') },
      { id: 'export', label: 'Export', key: 'O', run: () => show('export') },
      { id: 'history', label: 'History', key: 'H', run: () => show('history') },
    ],
    [work],
  );
  const take = useCallback((file: File) => {
    drop(file);
    show('import');
  }, []);
  const takesFile = async (file: File) => {
    const isGround = ['ground', null].includes(await kindOf(file));
    if (isGround) take(file);
    return isGround;
  };
  const close = () => {
    show(null);
    drop(null);
  };
  /** Makes a ground of its own; the page goes there, or why not. */
  const createNew = async (ground: Ground): Promise<string | null> => {
    const created = await createDocument('grounds', ground);
    if ('why' in created) return created.why;
    window.location.assign(addressOf(here, { ...placeOf(opening), ground: created.id }));
    return null;
  };

  return (
    <GroundContext value={work}>
      <Shell
        title="Grounds"
        work={work}
        takesFile={takesFile}
        own={own}
        looking={looking}
        open={(commands, state) => <OpenGround commands={commands} state={state} />}
        actions={(commands) => <Actions commands={commands} />}
      >
        <div className="grid min-h-0 flex-1 grid-cols-[204px_minmax(0,1fr)_248px]">
          <ToolPanel />
          <GroundSheet />
          <GroundPanel />
        </div>
      </Shell>
      {sheet === 'import' && <ImportGround first={dropped} createNew={createNew} close={close} />}
      {sheet === 'export' && <ExportGround close={close} />}
      {sheet === 'history' && <History id={opening.ground.id} close={close} />}
    </GroundContext>
  );
}

/** The ground under work. */
function OpenGround({ commands, state }: { commands: Command[]; state: ReactNode }) {
  const { steps, saving, opening } = useGround();
  const head = useStore(saving.$head);
  const now = useStore(steps.$now);
  return (
    <Open
      document={<DocumentPicker subject="ground" name={now.name} opening={opening} actions={documentActions(commands)} />}
      revision={revisionWords(head, 0)}
      other={
        <>
          <span className="mr-2 text-ink-soft">for</span>
          <DocumentPicker subject="tuning" label="Body of" name={currentOf(opening.tuning).name} opening={opening} />
        </>
      }
      state={state}
    />
  );
}

/** The actions on the ground as a file. */
function Actions({ commands }: { commands: Command[] }) {
  const run = (id: string) => commands.find((command) => command.id === id)?.run();
  return (
    <>
      <HeaderAction label="New" title="An empty ground" run={() => run('new')} />
      <HeaderAction label="Import" title="Import (I)" run={() => run('import')} />
      <HeaderAction label="Export" title="Export (O)" run={() => run('export')} />
      <HeaderAction label="History" title="History (H)" spare run={() => run('history')} />
    </>
  );
}
