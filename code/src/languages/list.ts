import { writer as c } from './c/constants.ts';
import { writer as csharp } from './csharp/constants.ts';
import { writer as lua } from './lua/constants.ts';
import { writer as python } from './python/constants.ts';
import { writer as rust } from './rust/constants.ts';
import { writer as typescript } from './ts/constants.ts';

/** The languages of games in which constants and motion are handed over, in the order in which they are offered. */
export const languages = [typescript, c, csharp, python, lua, rust] as const;

export type LanguageId = (typeof languages)[number]['id'];
export const languageIds = languages.map(({ id }) => id) as [LanguageId, ...LanguageId[]];
