import { spawnSync } from 'node:child_process';
import { createHash } from 'node:crypto';
import { existsSync, mkdirSync, readdirSync, readFileSync, statSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { Misuse } from '../misuse.ts';
import { root, stateFolder } from '../root.ts';

const sources = [
  'core/src',
  'core/package.json',
  'web/src',
  'web/public',
  'web/astro.config.ts',
  'web/package.json',
  'demo',
  'package-lock.json',
];
const stamp = join(stateFolder, 'built');

/** A hash over the paths and contents of everything that the build reads. */
function fingerprint(): string {
  const hash = createHash('sha256');
  const add = (path: string): void => {
    const full = join(root, path);
    if (!existsSync(full)) return;
    if (statSync(full).isDirectory()) for (const name of readdirSync(full).sort()) add(join(path, name));
    else if (!/\.(test|integration)\.tsx?$/.test(path)) hash.update(path).update(readFileSync(full));
  };
  sources.forEach(add);
  return hash.digest('hex');
}

/** Runs a program of node_modules/.bin; its output is shown only when it fails. */
function run(program: string, args: string[], cwd: string): void {
  const done = spawnSync(process.execPath, [join(root, 'node_modules', '.bin', program), ...args], {
    cwd,
    encoding: 'utf8',
    env: { ...process.env, ASTRO_TELEMETRY_DISABLED: '1' },
  });
  if (done.status !== 0) throw new Misuse(`${program} failed:\n${done.stdout}${done.stderr}`);
}

/** Builds the web application unless the last build was made from the same sources. */
export function buildIfChanged(say: (line: string) => void): void {
  const now = fingerprint();
  const built = existsSync(stamp) && existsSync(join(root, 'web/dist/server/entry.mjs')) ? readFileSync(stamp, 'utf8') : '';
  if (built === now) return;
  say('Building …');
  run('astro', ['build'], join(root, 'web'));
  mkdirSync(stateFolder, { recursive: true });
  writeFileSync(stamp, now);
}
