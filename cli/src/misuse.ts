/** A call or a file that cannot be used: its message goes to stderr, the exit code is 2. */
export class Misuse extends Error {}

/** Something ended that had to go on: its message goes to stderr, the exit code is 1. */
export class Failure extends Error {}

const FOLDER_FAULTS = new Set(['EACCES', 'EPERM', 'EROFS', 'ENOSPC', 'ENOTDIR', 'EISDIR', 'EMFILE', 'EDQUOT']);

/** One line for an error of the file system that has to do with where Zygopod lies; null for any other error. */
export function folderFault(error: unknown): string | null {
  if (!(error instanceof Error) || !('code' in error) || !FOLDER_FAULTS.has(String(error.code))) return null;
  const path = 'path' in error ? String(error.path) : 'a folder';
  return `${path} cannot be written (${error.code}): Zygopod needs to write into its own folder.`;
}

/** Exit codes of every command. */
export const GOOD = 0;
export const FINDING = 1;
export const MISUSE = 2;
