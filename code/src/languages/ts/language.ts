import type { Language } from '../language.ts';
import { check } from './check.ts';
import { writer } from './constants.ts';
import { TypeScript } from './printer.ts';

export const typescript: Language = { ...writer, printer: () => new TypeScript(), check };
