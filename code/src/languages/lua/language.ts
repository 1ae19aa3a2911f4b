import type { Language } from '../language.ts';
import { check } from './check.ts';
import { writer } from './constants.ts';
import { Lua } from './printer.ts';

export const lua: Language = { ...writer, printer: () => new Lua(), check };
