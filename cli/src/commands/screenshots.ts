import { GOOD } from '../misuse.ts';
export function screenshots(): number { return GOOD; }
