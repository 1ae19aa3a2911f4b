import type { Command } from 'commander';
import { leave } from './leave.ts';

/** Declares the commands that measure or search many tunings. */
export function addSearches(program: Command): void {
  program
    .command('sweep')
    .description('Measures a tuning over a range of one or two parameters; JSON by default.')
    .requiredOption('--tuning <file>', 'tuning file, - for stdin')
    .requiredOption('--over <axes...>', 'PATH=FROM:TO:COUNT, with :log by factors, or PATH=a,b,c; one or two')
    .option('--metric <keys>', 'metrics of drills, such as stopDistance,slideKept(45)')
    .option('--targets <file>', 'target set; each cell is compared with it')
    .option('--ground <file>', 'ground for tapes and laps')
    .option('--tape <files...>', 'tapes on the ground, for metrics such as peakSpeed@1')
    .option('--json', 'print JSON')
    .option('--csv', 'print CSV')
    .option('--queue', 'have it measured by the workers of the running application')
    .option('--address <url>', 'the application (default: the one that runs here)')
    .option('-o, --output <file>', 'file to write to (default: stdout)')
    .addHelpText(
      'after',
      '\nExample:\n  ./zygopod sweep --tuning demo/carrier-day-boots.tuning.json --over pace.walkSpeed=60:320:14 ramp.decelerate=300:4800:12:log --metric stopDistance',
    )
    .action(leave(async (options) => (await import('./commands/sweep.ts')).sweep(options)));

  program
    .command('fit')
    .description(
      'Finds the numbers that meet targets with the smallest change, or those of a recorded motion; exit code 1 if some target can’t be met.',
    )
    .option('--tuning <file>', 'tuning that is to meet targets, - for stdin')
    .option('--targets <file>', 'target set')
    .option('--ground <file>', 'ground with a course, for targets of laps')
    .option('--move <paths...>', 'numbers that may change, PATH or PATH=MIN:MAX (default: those that matter)')
    .option('--trace <files...>', 'recordings of one character: CSV or JSON lines with time, x and y')
    .option('--unit <unit>', 'of the recording: px, m:N or tiles:N (N px each)', 'px')
    .option('--yup', 'y grows upwards in the recording')
    .option('--start <file>', 'tuning whose other values the found one takes')
    .option('--json', 'print JSON')
    .option('-o, --output <file>', 'file for the tuning that was found')
    .addHelpText(
      'after',
      '\nExamples:\n  ./zygopod fit --tuning demo/carrier-day-boots.tuning.json --targets demo/brisk-carrier.targets.json --move ramp.decelerate,ramp.brake=600:4000 -o brisk.tuning.json\n  ./zygopod fit --trace drive.csv --unit tiles:32 -o found.tuning.json',
    )
    .action(
      leave(async (options) =>
        options.trace === undefined
          ? (await import('./commands/fit.ts')).fit(options)
          : (await import('./commands/fitTrace.ts')).fitTrace(options),
      ),
    );

  program
    .command('worker')
    .description('Measures chunks of sweeps for an application, on this machine, until it is stopped.')
    .option('--database <url>', 'the application’s PostgreSQL (default: DATABASE_URL)')
    .option('--concurrency <n>', 'worker processes', '1')
    .addHelpText('after', '\nExample:\n  ./zygopod worker --database postgres://zygopod@10.0.0.5/zygopod --concurrency 8')
    .action(leave(async (options) => (await import('./commands/worker.ts')).worker(options)));
}
