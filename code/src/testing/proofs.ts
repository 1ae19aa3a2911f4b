import { spawnSync } from 'node:child_process';
import { type LanguageId, languageIds } from '../languages/list.ts';
import type { Proof } from './languageProof.ts';

/** The proofs of all languages, each from its folder. */
export const proofs = Object.fromEntries(
  await Promise.all(
    languageIds.map(async (id) => [id, ((await import(`../languages/${id}/proof.ts`)) as { proof: Proof }).proof] as const),
  ),
) as Readonly<Record<LanguageId, Proof>>;

/** The languages that this machine can run. */
export const provable = languageIds.filter((id) => {
  const { command, version = '--version' } = proofs[id];
  return !spawnSync(command, [version], { stdio: 'ignore' }).error;
});
