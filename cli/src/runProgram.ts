import type { Command } from 'commander';
import { Failure, FINDING, folderFault, MISUSE, Misuse } from './misuse.ts';

/** Runs the command that the arguments name; what it throws becomes a line on stderr and an exit code. */
export async function runProgram(program: Command): Promise<void> {
  // A reader that closed the pipe has seen enough.
  process.stdout.on('error', (error: NodeJS.ErrnoException) => {
    if (error.code === 'EPIPE') process.exit(0);
    process.stderr.write(`stdout: cannot be written (${error.code})\n`);
    process.exit(MISUSE);
  });

  try {
    await program.parseAsync();
  } catch (error) {
    const fault = folderFault(error);
    if (fault !== null || error instanceof Misuse) {
      process.stderr.write(`${fault ?? (error as Misuse).message}\n`);
      process.exitCode = MISUSE;
    } else if (error instanceof Failure) {
      process.stderr.write(`${error.message}\n`);
      process.exitCode = FINDING;
    } else if (error instanceof Error && 'code' in error && String(error.code).startsWith('commander.')) {
      // Commander has printed the error; requested help is no misuse.
      process.exitCode = /help|version/i.test(String(error.code)) ? 0 : MISUSE;
    } else {
      const { printable } = await import('@zygopod/core');
      // Nobody is helped by a stack but us.
      process.stderr.write(
        `Zygopod failed: ${printable(String(error instanceof Error ? (process.env['ZYGOPOD_STACK'] ? error.stack : error.message) : error))}\n`,
      );
      process.exitCode = FINDING;
    }
  }
}
