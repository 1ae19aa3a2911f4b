import { createHash } from 'node:crypto';
import { existsSync, mkdirSync, readdirSync, readFileSync, statSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { Misuse } from '../misuse.ts';
import { root } from '../root.ts';
import { run } from './run.ts';

const sources = [
  'core/src',
  'core/package.json',
  'web/src',
  'web/public',
  'web/astro.config.ts',
  'web/packed.ts',
  'web/package.json',
  'demo',
  'package-lock.json',
];
/** Fingerprint of the last build, beside it. */
const stamp = join(root, '.zygopod', 'built');

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

/** Builds the web application unless the last build was made from the same sources. Stopped, it leaves no build behind that counts. */
export async function buildIfChanged(say: (line: string) => void, stop?: AbortSignal): Promise<void> {
  const now = fingerprint();
  const built = existsSync(stamp) && existsSync(join(root, 'web/dist/server/entry.mjs')) ? readFileSync(stamp, 'utf8') : '';
  if (built === now) return;
  say('Building …');
  const { status, output } = await run(process.execPath, [join(root, 'node_modules', '.bin', 'astro'), 'build'], {
    cwd: join(root, 'web'),
    env: { ...process.env, ASTRO_TELEMETRY_DISABLED: '1', NODE_ENV: 'production' },
    stop,
  });
  if (stop?.aborted) return;
  if (status !== 0) throw new Misuse(`The build failed:\n${output}`);
  mkdirSync(join(stamp, '..'), { recursive: true, mode: 0o700 });
  writeFileSync(stamp, now);
}
