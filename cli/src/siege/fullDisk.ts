import { execFileSync } from 'node:child_process';
import { chmodSync, mkdirSync, mkdtempSync, readdirSync, readFileSync, rmSync, statfsSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { Dice } from './dice.ts';
import { type Figure, none, unbounded, under } from './figures.ts';
import { Stand, until } from './stand.ts';
import { Writers } from './writers.ts';

/** Bytes of the disk that is filled. */
const DISK = 320 * 1024 * 1024;

const pause = (milliseconds: number) => new Promise<void>((over) => setTimeout(over, milliseconds));

/** Mounts a small disk in memory; null if this user may not mount one. */
function smallDisk(): string | null {
  const folder = mkdtempSync(join(tmpdir(), 'zygopod-disk-'));
  try {
    execFileSync('mount', ['-t', 'tmpfs', '-o', `size=${DISK},mode=755`, 'zygopod', folder], { stdio: 'ignore' });
    return folder;
  } catch {
    rmSync(folder, { recursive: true });
    return null;
  }
}

function removeDisk(folder: string): void {
  execFileSync('umount', ['-l', folder], { stdio: 'ignore' });
  rmSync(folder, { recursive: true });
}

/** Fills a disk but for `but` bytes. */
function fill(folder: string, but: number): void {
  const { bavail, bsize } = statfsSync(folder);
  const size = bavail * bsize - but;
  try {
    if (size > 0) writeFileSync(join(folder, 'filler'), Buffer.alloc(size));
  } catch {
    // Others took the last of it.
  }
}

/** Returns the files of a folder that are not complete JSON documents. */
const broken = (folder: string): string[] =>
  readdirSync(folder, { recursive: true, encoding: 'utf8' })
    .filter((path) => path.endsWith('.json'))
    .filter((path) => {
      try {
        JSON.parse(readFileSync(join(folder, path), 'utf8'));
        return false;
      } catch {
        return true;
      }
    });

/**
 * A disk that fills up under writers, with a folder of files on it: what was acknowledged stays, files stay whole, reading goes on, `up` goes on, and
 * all is well when there is room again. By turns other programs leave some room, or none at all.
 */
export async function fullDisk(seconds: number, seed: number): Promise<Figure[]> {
  const disk = smallDisk();
  if (!disk) return [unbounded('full disk', 'not measured', 'a small disk can be mounted by root only')];
  const state = join(disk, 'state');
  const kept = join(disk, 'kept');
  mkdirSync(kept);
  chmodSync(disk, 0o755);
  let stand: Stand | undefined;
  let writers: Writers | undefined;
  try {
    stand = await Stand.serving(state, { args: ['--files', kept] });
    const { address } = stand;
    writers = new Writers(
      address,
      Array.from({ length: 6 }, (_, i) => new Dice(seed + i)),
    );
    const said = new Map<string, number>();
    const spoilt = new Set<string>();
    let [unread, reads, slowest, times] = [0, 0, 0, 0];
    const look = async () => {
      const { database = 'no answer' } = await (stand as Stand).health();
      said.set(database, (said.get(database) ?? 0) + 1);
      reads++;
      const list = await fetch(`${address}/api/v1/tunings?limit=3`, { signal: AbortSignal.timeout(5000) }).catch(() => null);
      if (!list?.ok) unread++;
      for (const path of broken(kept)) spoilt.add(path);
    };
    const end = performance.now() + seconds * 1000;
    for (let room = 0; performance.now() < end; room = room ? 0 : 3 * 1024 * 1024) {
      await pause(1000);
      fill(disk, room);
      times++;
      for (let i = 0; i < 10; i++) {
        await pause(400);
        await look();
      }
      rmSync(join(disk, 'filler'), { force: true });
      slowest = Math.max(slowest, await until(() => (stand as Stand).isHealthy(), 'health', 60_000));
    }
    await writers.end();
    const refused = writers.count((status) => status === 503);
    return [
      unbounded(
        'full disk',
        'filled up',
        `${times} times; ${refused} writes refused; health: ${[...said].map(([how, n]) => `${how} ${n}`).join(', ')}`,
      ),
      none('full disk', `lost of ${writers.acknowledged} acknowledged writes`, await writers.lost()),
      none('full disk', 'answers 5xx but 503', writers.failures),
      none('full disk', `lists unread of ${reads}`, unread),
      none('full disk', 'files that were not whole', spoilt.size),
      none('full disk', 'up ended', stand.process.exitCode === null ? 0 : 1),
      under('full disk', 'recovery', slowest / 1000, 10, 's'),
    ];
  } finally {
    await writers?.end();
    await stand?.stop();
    removeDisk(disk);
  }
}
