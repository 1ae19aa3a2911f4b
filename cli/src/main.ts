import { readdirSync } from 'node:fs';
import { join } from 'node:path';
import { Command } from 'commander';
import { leave } from './leave.ts';
import { runProgram } from './runProgram.ts';
import { addSearches } from './searches.ts';

/** The languages in which motion is written: each is a folder. (Their list itself takes the whole core to load.) */
const languages = readdirSync(join(import.meta.dirname, '../../code/src/languages'), { withFileTypes: true })
  .filter((entry) => entry.isDirectory())
  .map(({ name }) => name)
  .join(', ');

const program = new Command('zygopod')
  .description('A bench for tuning how a character moves over the ground.')
  .exitOverride()
  .configureHelp({ showGlobalOptions: true });

program
  .command('up')
  .description('Installs what is missing and serves the application.')
  .option('--port <number>', 'port to listen on', '4380')
  .option('--host <address>', 'address to listen on; any but loopback needs ZYGOPOD_TOKEN', '127.0.0.1')
  .option('--files <folder>', 'sync a project’s files with a folder')
  .option('--project <name>', 'project for --files (default: the one named in the folder)')
  .option('--reset-demo', 'restore the demo data as shipped')
  .addHelpText('after', '\nExample:\n  ./zygopod up --port 8080')
  .action(leave(async (options) => (await import('./up/up.ts')).up(options)));

for (const [name, words, example] of [
  ['push', 'Imports what changed in a folder into the running application, once.', './zygopod push game/motion'],
  ['pull', 'Writes what changed in the running application to a folder, once.', './zygopod pull game/motion'],
] as const)
  program
    .command(name)
    .description(words)
    .argument('<folder>', 'folder with tunings, grounds, tapes and targets, one subfolder each')
    .option('--project <name>', 'project (default: the one named in the folder)')
    .option('--address <address>', 'address of the running application (default: the one started from this copy)')
    .option('--json', 'print JSON')
    .addHelpText('after', `\nExample:\n  ${example}`)
    .action(leave(async (folder: string, options) => (await import('./commands/pushPull.ts'))[name](folder, options)));

program
  .command('test')
  .description('Installs what the tests need, then runs lint, types, unit, integration and browser tests.')
  .option('--languages <which>', 'all: also install missing compilers and linters for exported code, including Rust and C#', 'found')
  .option('--long', 'run random campaigns in full instead of a share of each')
  .addHelpText('after', '\nExample:\n  ./zygopod test --languages all')
  .action(leave(async (options: { long?: boolean }) => (await import('./commands/test.ts')).test(options)));

program
  .command('sim')
  .description('Replays a tape on a ground and writes the trace as CSV; the state hash goes to stderr.')
  .requiredOption('--tuning <file>', 'tuning file, - for stdin')
  .requiredOption('--ground <file>', 'ground file, - for stdin')
  .requiredOption('--tape <file>', 'tape file, - for stdin')
  .option('--hz <number>', 'tick rate instead of the tuning’s')
  .option('--from <file>', 'start from this tape’s snapshot: the body’s state and the held controls')
  .option('--frames <pattern>', 'frames for per-frame stepping: 30, 60, 144 or uneven')
  .option('--trace <file>', 'file to write the trace to (default: stdout)')
  .addHelpText(
    'after',
    '\nExample:\n  ./zygopod sim --tuning demo/carrier-day-boots.tuning.json --ground demo/boardwalk.ground.json --tape demo/out-and-back.tape.json',
  )
  .action(leave(async (options) => (await import('./commands/sim.ts')).sim(options)));

program
  .command('route')
  .description('Plans a path between two places for the body of a tuning.')
  .requiredOption('--tuning <file>', 'tuning file, - for stdin')
  .requiredOption('--ground <file>', 'ground file, - for stdin')
  .requiredOption('--from <x,y>', 'start of the path')
  .requiredOption('--to <x,y>', 'end of the path')
  .option('--json', 'print JSON')
  .addHelpText(
    'after',
    '\nExample:\n  ./zygopod route --tuning demo/ferry-hand.tuning.json --ground demo/tidal-flats.ground.json --from 448,3776 --to 5952,576 --json',
  )
  .action(leave(async (options) => (await import('./commands/route.ts')).route(options)));

program
  .command('lap')
  .description('Has the pilot drive the course of a ground; exit 1 if a lap is not finished.')
  .requiredOption('--tuning <file>', 'tuning file, - for stdin')
  .requiredOption('--ground <file>', 'ground file with a course, - for stdin')
  .option('--device <device>', 'keys8, keys4, stick, pointer or cells (default: the one that suits the tuning)')
  .option('--reaction <seconds>', 'age of what the pilot sees (default: 0.2)')
  .option('--look-ahead <seconds>', 'travel that it looks ahead (default: 0.3)')
  .option('--line <line>', 'middle or shortest: off walls, or the planned path itself (default: middle)')
  .option('--sprint <policy>', 'never, straights or always (default: straights)')
  .option('--jitter <fraction>', 'spread of reaction, aim and key times (default: 0)')
  .option('--laps <count>', 'number of laps; with jitter each differs')
  .option('--seed <number>', 'seed of the first lap’s jitter (default: 1)')
  .option('--json', 'print JSON')
  .option('-o, --output <file>', 'write the first lap as a tape')
  .addHelpText(
    'after',
    '\nExample:\n  ./zygopod lap --tuning demo/carrier-day-boots.tuning.json --ground demo/boardwalk.ground.json -o lap.tape.json',
  )
  .action(leave(async (options) => (await import('./commands/lap.ts')).lap(options)));

addSearches(program);

program
  .command('compare')
  .description('Lists what differs between two tunings, and its effects with the same hands on the same ground.')
  .argument('<a>', 'tuning file, - for stdin')
  .argument('<b>', 'tuning file')
  .requiredOption('--ground <file>', 'ground file')
  .option('--tape <file>', 'tape file (default: out and back with a sprint)')
  .option('--json', 'print JSON')
  .addHelpText(
    'after',
    '\nExample:\n  ./zygopod compare demo/carrier-day-boots.tuning.json demo/carrier-storm-boots.tuning.json --ground demo/boardwalk.ground.json --tape demo/boardwalk-lap.tape.json',
  )
  .action(leave(async (a: string, b: string, options) => (await import('./commands/compare.ts')).compare(a, b, options)));

const tape = program.command('tape').description('Shows tapes and cuts spans from them.');

tape
  .command('show')
  .description('Prints the start of a tape and its events with their times.')
  .argument('<tape>', 'tape file, - for stdin')
  .option('--json', 'print JSON')
  .action(leave(async (file: string, options: { json?: boolean }) => (await import('./commands/tape.ts')).show(file, options)));

tape
  .command('cut')
  .description('Cuts a span from a tape with a snapshot of the body, so the span moves exactly as in the whole tape.')
  .argument('<tape>', 'tape file, - for stdin')
  .requiredOption('--tuning <file>', 'tuning it was driven with')
  .requiredOption('--ground <file>', 'ground it was driven on')
  .requiredOption('--from <seconds>', 'start of the span')
  .requiredOption('--to <seconds>', 'end of the span')
  .option('--name <name>', 'name of the new tape')
  .option('-o, --output <file>', 'file to write to (default: stdout)')
  .addHelpText(
    'after',
    '\nExample:\n  ./zygopod tape cut demo/out-and-back.tape.json --tuning demo/carrier-day-boots.tuning.json --ground demo/boardwalk.ground.json --from 2 --to 4',
  )
  .action(leave(async (file: string, options) => (await import('./commands/tape.ts')).cut(file, options)));

program
  .command('check')
  .description('Validates tunings, grounds, tapes and target sets, and lists the snags of tunings and grounds; exit 1 on errors.')
  .argument('<files...>', 'files to check, - for stdin')
  .option('--ground <file>', 'also check tunings on this ground')
  .option('--tape <file>', 'tape that drives them on it')
  .option('--json', 'print JSON')
  .addHelpText(
    'after',
    '\nExample:\n  ./zygopod check demo/first-draft.tuning.json --ground demo/boardwalk.ground.json --tape demo/boardwalk-lap.tape.json',
  )
  .action(leave(async (files: string[], options) => (await import('./commands/check.ts')).check(files, options)));

program
  .command('drill')
  .description('Runs the drills of a tuning, checks them against targets and finds snags; exit 1 if a target is missed.')
  .requiredOption('--tuning <file>', 'tuning file, - for stdin')
  .option('--ground <file>', 'also find snags on this ground')
  .option('--targets <file>', 'target set for the metrics')
  .option('--json', 'print JSON')
  .option('--junit <file>', 'file to write the target results to, as JUnit XML')
  .addHelpText(
    'after',
    '\nExample:\n  ./zygopod drill --tuning demo/carrier-day-boots.tuning.json --ground demo/boardwalk.ground.json --targets demo/brisk-carrier.targets.json',
  )
  .action(leave(async (options) => (await import('./commands/drill.ts')).drill(options)));

program
  .command('export')
  .description('Exports a tuning to a game: its numbers as constants in a language, in the game’s units and names.')
  .argument('<tuning>', 'tuning file, - for stdin')
  .option('--to <language>', `${languages}, json or csv`)
  .option('--into <file>', 'source or data file of the game; only its changed numbers are rewritten in place')
  .option('--units <words>', 'units of the game: px, m:PIXELS or tiles:PIXELS, second or frame:HZ, degree or radian')
  .option('--names <file>', 'JSON object with the game’s names by path, or a project file')
  .option('--case <style>', 'SCREAMING_SNAKE, snake_case, camelCase or PascalCase (default: the language’s usual case)')
  .option('--code', `the motion as code instead of constants: ${languages}`)
  .option('--live <paths>', 'with --code: parameters that stay variables, such as pace.walkSpeed,ramp.accelerate')
  .option('--link', 'with --code: also write the client that links the game to Zygopod, and the file that joins the two')
  .option('--walls', 'the second file of the motion: collision with walls, for games without their own')
  .option('--all', 'include parameters that the tuning doesn’t use')
  .option('-o, --output <file>', 'file to write to (default: stdout)')
  .option('--force', 'overwrite a file that was changed by hand')
  .option('--guesses', 'with --into: also write numbers whose names are only guessed')
  .option('--digits <more>', 'with --into: decimals to add to those in the file', '0')
  .option('--dry-run', 'with --into: list what would change without writing')
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
    'Writes a folder for the game’s repository: a tuning, its targets, golden traces, and a test in each language that replays them.',
  )
  .argument('<tuning>', 'tuning file, - for stdin')
  .requiredOption('-o, --output <folder>', 'folder to write to')
  .requiredOption('--tape <files...>', 'tapes to replay')
  .option('--targets <file>', 'target set (default: a band of ±5 % around each current value)')
  .option('--ground <file>', 'ground with a course, for targets of its lap')
  .addHelpText(
    'after',
    '\nExample:\n  ./zygopod checks demo/carrier-day-boots.tuning.json --tape demo/out-and-back.tape.json demo/gap-run.tape.json -o game/checks',
  )
  .action(leave(async (tuning: string, options) => (await import('./commands/checks.ts')).checks(tuning, options)));

program
  .command('import')
  .description('Creates a tuning from the numbers in a game’s code or data; lists and omits those it can only guess or doesn’t know.')
  .argument('<file>', 'code or data in any language, - for stdin')
  .option('--units <words>', 'units of the numbers, as for export (default: those the file mentions)')
  .option('--names <file>', 'JSON object with the game’s names by path, or a project file')
  .option('--name <name>', 'name of the tuning', 'Imported tuning')
  .option('--guess, --guesses', 'also use guesses')
  .option('-o, --output <file>', 'file to write to (default: stdout)')
  .addHelpText('after', '\nExample:\n  ./zygopod import game/motion.h --units tiles:32,frame:60 -o motion.tuning.json')
  .action(leave(async (file: string, options) => (await import('./commands/source.ts')).importTuning(file, options)));

program
  .command('verify')
  .description('Compares a game’s trace with the model on the same hands: where they first diverge, and how far; exit 1 if they do.')
  .requiredOption('--trace <file>', 'the game’s trace as CSV: tick and some of x, y, vx, vy, speed, facing, gait, stamina')
  .requiredOption('--tape <file>', 'tape file')
  .requiredOption('--tuning <file>', 'tuning file')
  .option('--ground <file>', 'ground file (default: open ground)')
  .option('--slack <number>', 'tolerance, relative for values above 1', '1e-6')
  .option('--json', 'print JSON')
  .addHelpText(
    'after',
    '\nExample:\n  ./zygopod verify --trace game.csv --tape demo/out-and-back.tape.json --tuning demo/carrier-day-boots.tuning.json --ground demo/boardwalk.ground.json',
  )
  .action(leave(async (options) => (await import('./commands/verify.ts')).verify(options)));

program
  .command('demo')
  .description('Runs the drills of all demo tunings and replays their tapes: a table of metrics and snags. Needs no server.')
  .option('--json', 'print JSON')
  .addHelpText('after', '\nExample:\n  ./zygopod demo')
  .action(leave(async (options) => (await import('./commands/demo.ts')).demoReport(options)));

program
  .command('docs')
  .description('Writes the documentation that is generated from the code.')
  .addHelpText('after', '\nExample:\n  ./zygopod docs')
  .action(leave(async () => (await import('./commands/docs.ts')).docs()));

program
  .command('game')
  .description('Serves Letter run, a small game of its own code that links to the application.')
  .option('--port <number>', 'port to listen on', '4390')
  .option('--faults <list>', 'faults of its motion: stale-restore, frame-lerp, late-facing, centre-clamp, double-drain')
  .option('--address <address>', 'address of the running application (default: the one started from this copy)')
  .option('--headless', 'without a page: the game plays itself')
  .option('--seconds <number>', 'length of a game without a page', '60')
  .addHelpText('after', '\nExample:\n  ./zygopod game --faults late-facing')
  .action(leave(async (options) => (await import('./commands/game.ts')).game(options)));

program
  .command('siege')
  .description('Kills and floods its own application on loopback, and prints what it survived.')
  .option('--minutes <number>', 'length of the siege', '5')
  .option('--seed <number>', 'random seed')
  .addHelpText('after', '\nExample:\n  ./zygopod siege --minutes 20')
  .action(leave(async (options) => (await import('./siege/siege.ts')).siege(options)));

program
  .command('bench')
  .description('Measures the core, as ratios against a bare loop in the same process.')
  .option('--json', 'print JSON')
  .argument('[parts...]', 'ticks, memory, tapes, bytecode, routes, survey (default: all)')
  .addHelpText('after', '\nExample:\n  ./zygopod bench ticks')
  .action(leave(async (parts, options) => (await import('./commands/bench.ts')).bench(parts, options)));

await runProgram(program);
