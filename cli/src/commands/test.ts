import { GOOD } from '../misuse.ts';
export function test(): number { return GOOD; }
