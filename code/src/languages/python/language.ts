import type { Language } from '../language.ts';
import { check } from './check.ts';
import { writer } from './constants.ts';
import { Python } from './printer.ts';

export const python: Language = { ...writer, printer: () => new Python(), check };
