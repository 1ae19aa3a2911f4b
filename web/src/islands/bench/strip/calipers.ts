import { atom } from 'nanostores';
import type { Span } from './span.ts';

/** The span that is being measured, if any. */
export const $calipers = atom<Span | null>(null);
