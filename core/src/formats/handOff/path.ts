import { collections } from '../../project/kinds.ts';

/** Letters of a path at most. */
const LONGEST = 200;

/**
 * Why a path in a project's folder cannot be one that a hand-off is written to; null if it can: below the folder, none of the project's own
 * files, hidden to nobody.
 */
export function handOffPathFault(path: string): string | null {
  if (path === '' || path.length > LONGEST) return `expected 1 to ${LONGEST} letters`;
  // biome-ignore lint/suspicious/noControlCharactersInRegex: the pattern searches for them
  if (/[\u0000-\u001f\\:*?"<>|]/.test(path)) return 'found a character that paths can’t contain; separate folders with /';
  const parts = path.split('/');
  if (parts.some((part) => part === '' || part.startsWith('.') || part.endsWith('.') || part !== part.trim()))
    return 'expected a place below the folder, such as src/motion.h';
  const [first] = parts as [string];
  if (collections.some((folder) => folder === first.toLowerCase()) || path.toLowerCase() === 'project.json')
    return `${first} is the project’s own: expected another place, such as src/motion.h`;
  return null;
}
