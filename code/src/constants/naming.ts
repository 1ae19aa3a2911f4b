import { type Case, type Constant, type ConstantFault, inCase } from '@zygopod/core';
import type { Writer, WrittenConstant } from '../writing/writer.ts';

/** Why a text can be no name in a language; null if it can. Names have to be in the normal form in which a language compares them. */
function nameFault(name: string, { name: pattern, normalForm = 'NFC', reserved, taken, title }: Writer): string | null {
  if (pattern && (!pattern.test(name) || name.normalize(normalForm) !== name)) return `“${name}” isn’t a valid name in ${title}`;
  return reserved.includes(name) || taken?.test(name) ? `${name} is a reserved word of ${title}` : null;
}

/** Constants with their names in a language; invalid or duplicate names are reported before anything is written. */
export function nameConstants(
  constants: readonly Constant[],
  writer: Writer,
  style: Case = writer.style,
): { written: WrittenConstant[]; faults: ConstantFault[] } {
  const faults: ConstantFault[] = [];
  const taken = new Map<string, string>();
  const written = constants.map(({ path, words, own, value, decimal, unit, outcome, group }): WrittenConstant => {
    const name = own ?? inCase(words, style);
    const why = nameFault(name, writer);
    if (why) faults.push({ path, why });
    else if (taken.has(name)) faults.push({ path, why: `${name} is the name of ${taken.get(name)}, too` });
    taken.set(name, path);
    return { path, name, value, ...(decimal === undefined ? {} : { decimal }), group, comment: [unit, outcome].filter(Boolean).join(', ') };
  });
  return { written, faults };
}
