import { writer as c } from '../languages/c/constants.ts';
import { writer as csharp } from '../languages/csharp/constants.ts';
import { writer as lua } from '../languages/lua/constants.ts';
import { writer as python } from '../languages/python/constants.ts';
import { writer as rust } from '../languages/rust/constants.ts';
import { writer as typescript } from '../languages/ts/constants.ts';
import { csv, json } from './tables.ts';
import type { Writer } from './writer.ts';

/** The languages of games in which constants and motion are handed over, in the order in which they are offered. */
export const languages = [typescript, c, csharp, python, lua, rust] as const;

export type LanguageId = (typeof languages)[number]['id'];
export const languageIds = languages.map(({ id }) => id) as [LanguageId, ...LanguageId[]];

/** The languages and formats in which constants are handed over. */
export const writers: readonly Writer[] = [...languages, json, csv];
