import type { Language } from '../language.ts';
import { check } from './check.ts';
import { writer } from './constants.ts';
import { C } from './printer.ts';

export const c: Language = { ...writer, printer: () => new C(), check };
