import { c } from './c/language.ts';
import { csharp } from './csharp/language.ts';
import type { Language } from './language.ts';
import { type LanguageId, languageIds } from './list.ts';
import { lua } from './lua/language.ts';
import type { Printer } from './printer.ts';
import { python } from './python/language.ts';
import { rust } from './rust/language.ts';
import { typescript } from './ts/language.ts';

/** The languages by their ids: one that is offered and not here does not compile. */
const byId: Readonly<Record<LanguageId, Language>> = { ts: typescript, c, csharp, python, lua, rust };

/** The languages in which motion is written, in the order in which they are offered. */
export const registry: readonly Language[] = languageIds.map((id) => byId[id]);

/** A new printer of each. */
export const motionPrinters = (): Printer[] => registry.map(({ printer }) => printer());

/** A new printer of a language. Throws if there is none. */
export function printerOf(id: string): Printer {
  const language = registry.find((one) => one.id === id);
  if (!language) throw new Error(`nothing is written in ${id}`);
  return language.printer();
}
