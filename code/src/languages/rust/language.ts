import type { Language } from '../language.ts';
import { check } from './check.ts';
import { writer } from './constants.ts';
import { Rust } from './printer.ts';

export const rust: Language = { ...writer, printer: () => new Rust(), check };
