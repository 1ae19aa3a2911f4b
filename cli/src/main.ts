import { readdirSync } from 'node:fs';
import { join } from 'node:path';
import { Command } from 'commander';
import { Failure, FINDING, folderFault, MISUSE, Misuse } from './misuse.ts';

/** The languages in which motion is written: each is a folder. (Their list itself takes the whole core to load.) */
const languages = readdirSync(join(import.meta.dirname, '../../code/src/languages'), { withFileTypes: true })
  .filter((entry) => entry.isDirectory())
  .map(({ name }) => name)
  .join(', ');

const program = new Command('zygopod')
  .description('A bench for tuning how a character moves over the ground.')
  .exitOverride()
  .configureHelp({ showGlobalOptions: true });

/** Runs a command's work and leaves its exit code behind. Each command is loaded only when it is asked for. */
const leave =
  // biome-ignore lint/suspicious/noExplicitAny: Commander gives each command the options that were declared for it
    <A extends any[]>(work: (...args: A) => Promise<number>) =>
    async (...args: A): Promise<void> => {
      process.exitCode = await work(...args);
    };

program
  .command('up')
  .description('Sets up what is missing and serves the application.')
  .option('--port <number>', 'port to listen on', '4380')
  .option('--host <address>', 'address to listen on; any but loopback needs ZYGOPOD_TOKEN', '127.0.0.1')
  .option('--files <folder>', 'keeps a project’s files in a folder, both ways')
  .option('--project <name>', 'the project of --files; the one that the folder names when absent')
  .option('--reset-demo', 'puts the demo data back to how it was shipped')
  .addHelpText('after', '\nExample:\n  ./zygopod up --port 8080')
  .action(leave(async (options) => (await import('./up/up.ts')).up(options)));

for (const [name, words, example] of [
  ['push', 'Takes what changed in a folder of files into the running application, once.', './zygopod push game/motion'],
  ['pull', 'Writes what changed in the running application into a folder of files, once.', './zygopod pull game/motion'],
] as const)
  program
    .command(name)
    .description(words)
    .argument('<folder>', 'where tunings, grounds, tapes and targets lie, a folder each')
    .option('--project <name>', 'the project; the one that the folder names when absent')
    .option('--address <address>', 'the running application; the one that this copy has started when absent')
    .option('--json', 'answer for machines')
    .addHelpText('after', `\nExample:\n  ${example}`)
    .action(leave(async (folder: string, options) => (await import('./commands/pushPull.ts'))[name](folder, options)));

program
  .command('test')
  .description('Sets up what tests need, then lint, types, unit, integration and browser tests.')
  .option(
    '--languages <which>',
    'all: compilers and linters that are missing for the code that is handed over are installed, those of Rust and C#, too',
    'found',
  )
  .option('--long', 'runs random campaigns whole, not a share of them')
  .addHelpText('after', '\nExample:\n  ./zygopod test --languages all')
  .action(leave(async (options: { long?: boolean }) => (await import('./commands/test.ts')).test(options)));

program
  .command('sim')
  .description('Replays a tape on a ground and writes the trace as CSV; the state hash goes to stderr.')
  .requiredOption('--tuning <file>', 'tuning file, - for stdin')
  .requiredOption('--ground <file>', 'ground file, - for stdin')
  .requiredOption('--tape <file>', 'tape file, - for stdin')
  .option('--hz <number>', 'tick rate instead of the tuning’s')
  .option('--from <file>', 'tape file whose beginning is begun with: the body’s state and the hands as they are held')
  .option('--frames <pattern>', 'with per-frame stepping: 30, 60, 144 or uneven frames')
  .option('--trace <file>', 'where to write the trace (stdout when absent)')
  .addHelpText(
    'after',
    '\nExample:\n  ./zygopod sim --tuning demo/carrier-day-boots.tuning.json --ground demo/boardwalk.ground.json --tape demo/out-and-back.tape.json',
  )
  .action(leave(async (options) => (await import('./commands/sim.ts')).sim(options)));

program
  .command('route')
  .description('Plans a way between two places for the body of a tuning.')
  .requiredOption('--tuning <file>', 'tuning file, - for stdin')
  .requiredOption('--ground <file>', 'ground file, - for stdin')
  .requiredOption('--from <x,y>', 'where the body is')
  .requiredOption('--to <x,y>', 'where it has to get')
  .option('--json', 'answer for machines')
  .addHelpText(
    'after',
    '\nExample:\n  ./zygopod route --tuning demo/ferry-hand.tuning.json --ground demo/tidal-flats.ground.json --from 448,3776 --to 5952,576 --json',
  )
  .action(leave(async (options) => (await import('./commands/route.ts')).route(options)));

program
  .command('compare')
  .description('What differs between two tunings, and what that does to the same hands on the same ground.')
  .argument('<a>', 'tuning file, - for stdin')
  .argument('<b>', 'tuning file')
  .requiredOption('--ground <file>', 'ground file')
  .option('--tape <file>', 'the hands; out and back with a sprint when absent')
  .option('--json', 'answer for machines')
  .addHelpText(
    'after',
    '\nExample:\n  ./zygopod compare demo/carrier-day-boots.tuning.json demo/carrier-storm-boots.tuning.json --ground demo/boardwalk.ground.json --tape demo/boardwalk-lap.tape.json',
  )
  .action(leave(async (a: string, b: string, options) => (await import('./commands/compare.ts')).compare(a, b, options)));

const tape = program.command('tape').description('Shows tapes, and cuts spans out of them.');

tape
  .command('show')
  .description('Prints how a tape begins, and its events with their times.')
  .argument('<tape>', 'tape file, - for stdin')
  .option('--json', 'answer for machines')
  .action(leave(async (file: string, options: { json?: boolean }) => (await import('./commands/tape.ts')).show(file, options)));

tape
  .command('cut')
  .description('Cuts a span out of a tape, with the body as it is there, so that the span moves as it does within the whole.')
  .argument('<tape>', 'tape file, - for stdin')
  .requiredOption('--tuning <file>', 'the tuning that it was driven with')
  .requiredOption('--ground <file>', 'the ground that it was driven on')
  .requiredOption('--from <seconds>', 'where the span begins')
  .requiredOption('--to <seconds>', 'where it ends')
  .option('--name <name>', 'what to call it')
  .option('-o, --output <file>', 'where to write it (stdout when absent)')
  .addHelpText(
    'after',
    '\nExample:\n  ./zygopod tape cut demo/out-and-back.tape.json --tuning demo/carrier-day-boots.tuning.json --ground demo/boardwalk.ground.json --from 2 --to 4',
  )
  .action(leave(async (file: string, options) => (await import('./commands/tape.ts')).cut(file, options)));

program
  .command('check')
  .description('Validates tunings, grounds, tapes and target sets, and lists the snags of tunings and grounds; exit 1 on errors.')
  .argument('<files...>', 'files to check, - for stdin')
  .option('--ground <file>', 'ground that tunings are judged on, too')
  .option('--tape <file>', 'hands that they are driven by on it')
  .option('--json', 'answer for machines')
  .addHelpText(
    'after',
    '\nExample:\n  ./zygopod check demo/first-draft.tuning.json --ground demo/boardwalk.ground.json --tape demo/boardwalk-lap.tape.json',
  )
  .action(leave(async (files: string[], options) => (await import('./commands/check.ts')).check(files, options)));

program
  .command('drill')
  .description('Runs the drills of a tuning, holds them against targets and looks for snags; exit 1 when a target is missed.')
  .requiredOption('--tuning <file>', 'tuning file, - for stdin')
  .option('--ground <file>', 'ground that is looked over for snags, too')
  .option('--targets <file>', 'target set that judges the metrics')
  .option('--json', 'answer for machines')
  .option('--junit <file>', 'where to write the judged targets as JUnit XML')
  .addHelpText(
    'after',
    '\nExample:\n  ./zygopod drill --tuning demo/carrier-day-boots.tuning.json --ground demo/boardwalk.ground.json --targets demo/brisk-carrier.targets.json',
  )
  .action(leave(async (options) => (await import('./commands/drill.ts')).drill(options)));

program
  .command('export')
  .description('Hands a tuning over: its numbers as constants in a language, in the game’s own units and names.')
  .argument('<tuning>', 'tuning file, - for stdin')
  .option('--to <language>', `${languages}, json or csv`)
  .option('--into <file>', 'a source or data file of the game: the numbers in it that changed are written in place, and nothing else')
  .option('--units <words>', 'the game’s units: px, m:PIXELS or tiles:PIXELS, second or frame:HZ, degree or radian')
  .option('--names <file>', 'JSON object with the game’s names by path; a project file does, too')
  .option('--case <style>', 'SCREAMING_SNAKE, snake_case, camelCase or PascalCase; the language’s own when absent')
  .option('--code', `the motion itself in place of its numbers: ${languages}`)
  .option('--walls', 'the second file of the motion: what holds its body among walls, which a game with walls of its own does without')
  .option('--all', 'all parameters, also those that this tuning does not use')
  .option('-o, --output <file>', 'where to write it (stdout when absent)')
  .option('--force', 'write over a file that was changed by hand')
  .option('--guesses', 'with --into: writes numbers whose names are only guessed at, too')
  .option('--digits <more>', 'with --into: digits behind the point beyond those that the file has', '0')
  .option('--dry-run', 'with --into: says what would change, and writes nothing')
  .addHelpText('after', '\nExample:\n  ./zygopod export demo/carrier-day-boots.tuning.json --to c --units tiles:32,frame:60')
  .action(
    leave(async (tuning: string, options) =>
      options.into !== undefined
        ? (await import('./commands/source.ts')).exportInto(tuning, options)
        : (await import('./commands/handOff.ts')).exportTuning(tuning, options),
    ),
  );

program
  .command('checks')
  .description(
    'Writes a folder for the game’s repository: a tuning, its targets, goldens of tapes, and a test in each language that replays them.',
  )
  .argument('<tuning>', 'tuning file, - for stdin')
  .requiredOption('-o, --output <folder>', 'where to write it')
  .requiredOption('--tape <files...>', 'the hands that are replayed')
  .option('--targets <file>', 'target set; a band of 5 % round each metric of today when absent')
  .addHelpText(
    'after',
    '\nExample:\n  ./zygopod checks demo/carrier-day-boots.tuning.json --tape demo/out-and-back.tape.json demo/gap-run.tape.json -o game/checks',
  )
  .action(leave(async (tuning: string, options) => (await import('./commands/checks.ts')).checks(tuning, options)));

program
  .command('import')
  .description('Makes a tuning of the numbers in a game’s code or data: what is only guessed or not known is told, and left out.')
  .argument('<file>', 'code or data in any language, - for stdin')
  .option('--units <words>', 'the units that they stand in, as for export; where absent, those that the file speaks of')
  .option('--names <file>', 'JSON object with the game’s names by path; a project file does, too')
  .option('--name <name>', 'what to call the tuning', 'Imported tuning')
  .option('--guess, --guesses', 'takes guesses, too')
  .option('-o, --output <file>', 'where to write it (stdout when absent)')
  .addHelpText('after', '\nExample:\n  ./zygopod import game/motion.h --units tiles:32,frame:60 -o motion.tuning.json')
  .action(leave(async (file: string, options) => (await import('./commands/source.ts')).importTuning(file, options)));

program
  .command('verify')
  .description('Holds a game’s trace against the model on the same hands: where they part first, and most; exit 1 where they do.')
  .requiredOption('--trace <file>', 'the game’s trace as CSV: tick and some of x, y, vx, vy, speed, facing, gait, stamina')
  .requiredOption('--tape <file>', 'the hands')
  .requiredOption('--tuning <file>', 'tuning file')
  .option('--ground <file>', 'ground file; an open ground when absent')
  .option('--slack <number>', 'what counts as the same, relative above 1', '1e-6')
  .option('--json', 'answer for machines')
  .addHelpText(
    'after',
    '\nExample:\n  ./zygopod verify --trace game.csv --tape demo/out-and-back.tape.json --tuning demo/carrier-day-boots.tuning.json --ground demo/boardwalk.ground.json',
  )
  .action(leave(async (options) => (await import('./commands/verify.ts')).verify(options)));

program
  .command('demo')
  .description('Drills all tunings of the demo and replays its tapes: a table of metrics and snags. Needs no server.')
  .option('--json', 'answer for machines')
  .addHelpText('after', '\nExample:\n  ./zygopod demo')
  .action(leave(async (options) => (await import('./commands/demo.ts')).demoReport(options)));

program
  .command('docs')
  .description('Writes what of the documentation is made from the code.')
  .addHelpText('after', '\nExample:\n  ./zygopod docs')
  .action(leave(async () => (await import('./commands/docs.ts')).docs()));

program
  .command('siege')
  .description('Kills, floods and misleads an application of its own on loopback, and prints what became of it.')
  .option('--minutes <number>', 'how long', '5')
  .option('--seed <number>', 'chance that comes again')
  .addHelpText('after', '\nExample:\n  ./zygopod siege --minutes 20')
  .action(leave(async (options) => (await import('./siege/siege.ts')).siege(options)));

program
  .command('bench')
  .description('Measures the core, as ratios against a bare loop in the same process.')
  .option('--json', 'answer for machines')
  .argument('[parts...]', 'ticks, memory, tapes, bytecode, routes, survey; all of them where none is named')
  .addHelpText('after', '\nExample:\n  ./zygopod bench ticks')
  .action(leave(async (parts, options) => (await import('./commands/bench.ts')).bench(parts, options)));

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
    // Commander has said what is wrong; help asked for is no misuse.
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
