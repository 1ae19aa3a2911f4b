import { spawn } from 'node:child_process';
import { mkdirSync, readFileSync, rmSync } from 'node:fs';
import { join, relative } from 'node:path';
import { FINDING, GOOD } from '../misuse.ts';
import { root, stateFolder } from '../root.ts';
import { buildIfChanged } from '../up/build.ts';
import { type Cluster, startCluster } from '../up/cluster.ts';
import { createDatabase } from '../up/database.ts';
import { run } from '../up/run.ts';

interface Tally {
  passed: number;
  /** Names of failed tests. */
  failed: string[];
}

const heading = (words: string) => process.stdout.write(`\n── ${words}\n`);

/** Runs a program of node_modules/.bin with its output caught. */
function caught(program: string, args: string[], env: Record<string, string> = {}): Promise<{ status: number; output: string }> {
  return new Promise((ended) => {
    const done = spawn(process.execPath, [join(root, 'node_modules', '.bin', program), ...args], {
      cwd: root,
      env: { ...process.env, ...env },
      stdio: ['ignore', 'pipe', 'pipe'],
    });
    const said: Buffer[] = [];
    for (const stream of [done.stdout, done.stderr]) stream?.on('data', (chunk: Buffer) => said.push(chunk));
    done.once('error', (error) => ended({ status: 1, output: `${error.message}\n` }));
    done.once('close', (status) => ended({ status: status ?? 1, output: Buffer.concat(said).toString() }));
  });
}

/** A step that passes or fails as a whole counts as one test. */
async function step(words: string, run: () => Promise<{ status: number; output: string }>): Promise<Tally> {
  const { status, output } = await run();
  const passed = status === 0;
  heading(words);
  process.stdout.write(`${output}${passed ? 'good' : 'FAILED'}\n`);
  return { passed: passed ? 1 : 0, failed: passed ? [] : [words] };
}

/** The part of the test runner's JSON report that is read here. */
interface Report {
  numPassedTests: number;
  testResults: { name: string; status: string; assertionResults: { fullName: string; status: string }[] }[];
}

/** The failed tests of a report, each with its file; a file that failed outside its tests stands for itself. */
function failuresIn(report: Report): string[] {
  return report.testResults.flatMap((file) => {
    const path = relative(root, file.name);
    const failed = file.assertionResults.filter((test) => test.status === 'failed').map((test) => `${path}: ${test.fullName}`);
    return failed.length === 0 && file.status === 'failed' ? [path] : failed;
  });
}

/** A project of the test runner, counted by its own report; a run without a report is a failure. What it says is shown when it is done. */
async function suite(project: string, env: Record<string, string> = {}): Promise<Tally> {
  const report = join(stateFolder, `${project}-report.json`);
  rmSync(report, { force: true });
  const args = ['run', '--project', project, '--reporter=default', '--reporter=json', `--outputFile.json=${report}`];
  const { status, output } = await caught('vitest', args, env);
  heading(`${project} tests`);
  process.stdout.write(output);
  try {
    const results = JSON.parse(readFileSync(report, 'utf8')) as Report;
    const failed = failuresIn(results);
    return { passed: results.numPassedTests, failed: status !== 0 && failed.length === 0 ? [`${project} tests: exit ${status}`] : failed };
  } catch {
    return { passed: 0, failed: [`${project} tests: no report`] };
  }
}

const types = [
  'core/tsconfig.json',
  'core/tsconfig.test.json',
  'code/tsconfig.json',
  'game/tsconfig.json',
  'cli/tsconfig.json',
  'web/tsconfig.json',
  'e2e/tsconfig.json',
];

/** Checks the types of all parts at the same time; each counts as a test. */
async function checkTypes(): Promise<Tally[]> {
  heading('types');
  const program = join(root, 'node_modules', 'typescript-7', 'bin', 'tsc');
  const checked = await Promise.all(
    types.map(async (project) => ({ project, ...(await run(process.execPath, [program, '-p', project], { cwd: root })) })),
  );
  return checked.map(({ project, status, output }) => {
    process.stdout.write(`${project}: ${status === 0 ? 'good' : `FAILED\n${output}`}\n`);
    return { passed: status === 0 ? 1 : 0, failed: status === 0 ? [] : [`types of ${project}`] };
  });
}

/** Runs lint, unused exports, types, unit, integration (real PostgreSQL) and browser tests; the last line is the tally. */
export async function test({ long = false }: { long?: boolean }): Promise<number> {
  if (long) process.env['ZYGOPOD_LONG'] = '1';
  const seed = process.env['ZYGOPOD_SEED'] ?? String(Date.now() % 1_000_000);
  process.env['ZYGOPOD_SEED'] = seed;
  process.stdout.write(
    `ZYGOPOD_SEED=${seed} ${long ? '(random campaigns run whole)' : 'draws the same shares of the random campaigns again'}\n`,
  );
  mkdirSync(stateFolder, { recursive: true });
  const tallies: Tally[] = [];
  let cluster: Cluster | undefined;
  try {
    const inTurn = async () => [
      await step('lint', () => caught('biome', ['check', '--error-on-warnings'])),
      await step('nothing unused', () => caught('knip', ['--no-progress'])),
    ];
    const build = step('build', async () => {
      const lines: string[] = [];
      await buildIfChanged((line) => lines.push(`${line}\n`));
      return { status: 0, output: lines.join('') };
    });
    tallies.push(...(await Promise.all([inTurn(), build])).flat());
    tallies.push(...(await checkTypes()));
    tallies.push(await suite('unit'));
    cluster = await startCluster(stateFolder, 'test-postgres');
    // `alone` has the integration tests that expect something within a time.
    for (const name of ['integration', 'alone', 'browser']) {
      await createDatabase(cluster.url('postgres'), `zygopod_${name}`, true);
      tallies.push(await suite(name, { DATABASE_URL: cluster.url(`zygopod_${name}`) }));
    }
  } catch (error) {
    const why = error instanceof Error ? error.message : String(error);
    process.stdout.write(`FAILED: ${why}\n`);
    tallies.push({ passed: 0, failed: [why] });
  } finally {
    await cluster?.stop();
  }
  const passed = tallies.reduce((total, tally) => total + tally.passed, 0);
  const failed = tallies.flatMap((tally) => tally.failed);
  // Named again at the end: what failed first may be thousands of lines above.
  if (failed.length > 0) process.stdout.write(`\n── failed\n${failed.join('\n')}\n`);
  process.stdout.write(`\n${passed} passed, ${failed.length} failed\n`);
  return failed.length > 0 ? FINDING : GOOD;
}
