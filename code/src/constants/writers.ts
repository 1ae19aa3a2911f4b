import { languages } from '../languages/list.ts';
import type { Writer } from '../writing/writer.ts';
import { csv, json } from './tables.ts';

/** The languages and formats in which constants are handed over. */
export const writers: readonly Writer[] = [...languages, json, csv];
