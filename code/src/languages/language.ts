import type { CheckFile } from '../golden/columns.ts';
import type { Writer } from '../writing/writer.ts';
import type { Printer } from './printer.ts';

/**
 * A language of games. All of it is in a folder called by its id: how constants are written (`constants.ts`), how motion is (`printer.ts`), the
 * test that replays goldens (`check.ts`), how tests run it (`proof.ts`), and the Debian packages that those need (`debian`).
 */
export interface Language extends Writer {
  /** A new printer of motion; one printer prints one file. */
  printer(): Printer;
  check: CheckFile;
}
