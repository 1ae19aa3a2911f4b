import type { Language } from '../language.ts';
import { check } from './check.ts';
import { writer } from './constants.ts';
import { CSharp } from './printer.ts';

export const csharp: Language = { ...writer, printer: () => new CSharp(), check };
