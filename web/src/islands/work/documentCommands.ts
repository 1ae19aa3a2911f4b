import { collectionOf } from '@zygopod/core';
import type { Command } from './commands.ts';
import { archive, createDocument } from './documentActions.ts';
import { addressOf, placeOf, type ScreenName } from './place.ts';
import type { Steps } from './steps.ts';
import type { Work } from './work.ts';

/** Commands for a whole document; none has a key. */
export function documentCommands<F extends { name: string }, S extends Steps<F>>(
  { trade, opening, steps, saving }: Work<F, S>,
  here: ScreenName,
  ask: { rename(): void; trouble(why: string): void },
): Command[] {
  const collection = collectionOf(trade.subject);
  const create = async (file: F, note: string) => {
    await saving.flush();
    const created = await createDocument(collection, file, note);
    if ('why' in created) ask.trouble(created.why);
    else window.location.assign(addressOf(here, { ...placeOf(opening), [trade.subject]: created.id }));
  };
  const away = async () => {
    await saving.flush();
    const why = await archive(collection, saving.id, saving.$head.get());
    if (why) ask.trouble(why);
    else window.location.assign(`/${here.id}`);
  };
  const copy = () => {
    const file = steps.$now.get();
    void create({ ...file, name: `${file.name.slice(0, 112)}, a copy` }, `From ${file.name}`);
  };
  return [
    { id: 'new', label: `New ${trade.subject}`, key: '', run: () => void create(trade.fresh(steps.$now.get()), '') },
    { id: 'duplicate', label: 'Duplicate this one', key: '', run: copy },
    { id: 'rename', label: 'Rename this one', key: '', run: ask.rename },
    { id: 'away', label: 'Archive this one', key: '', run: () => void away() },
  ];
}

/** The commands that concern a document as a whole, for its picker. */
export const documentActions = (commands: readonly Command[]): Command[] =>
  commands.filter(({ id }) => ['new', 'duplicate', 'rename', 'away'].includes(id));
