import { readFileSync } from 'node:fs';
import { type Figure, none, under } from './figures.ts';
import { type Stand, until } from './stand.ts';

const pause = (milliseconds: number) => new Promise<void>((over) => setTimeout(over, milliseconds));

/** A process and all that it has started. */
function familyOf(pid: number): number[] {
  const children = readFileSync(`/proc/${pid}/task/${pid}/children`, 'utf8').trim();
  return [pid, ...(children ? children.split(' ').map(Number).flatMap(familyOf) : [])];
}

/** Signals a process, if it is still there: a backend whose client has left ends by itself. */
function signal(pid: number, name: 'SIGSTOP' | 'SIGCONT'): void {
  try {
    process.kill(pid, name);
  } catch (error) {
    if ((error as NodeJS.ErrnoException).code !== 'ESRCH') throw error;
  }
}

/** A database that takes connections and says nothing: every request is answered in time, and all is well when it speaks again. */
export async function frozen(stand: Stand, seconds: number): Promise<Figure[]> {
  const family = familyOf(stand.postmasterPid as number);
  for (const pid of family) signal(pid, 'SIGSTOP');
  let [wrong, unanswered, count] = [0, 0, 0];
  let slowest = 0;
  let slowestHealth = 0;
  const ask = async (path: string): Promise<number> => {
    const begun = performance.now();
    count++;
    try {
      const answer = await fetch(`${stand.address}/api/v1${path}`, { signal: AbortSignal.timeout(30_000) });
      await answer.text();
      if (answer.status >= 500 && answer.status !== 503) wrong++;
    } catch {
      unanswered++;
    }
    return performance.now() - begun;
  };
  const end = performance.now() + seconds * 1000;
  const asking = Array.from({ length: 20 }, async () => {
    while (performance.now() < end) {
      slowest = Math.max(slowest, await ask('/tunings?limit=3'));
      await pause(50);
    }
  });
  const health = (async () => {
    while (performance.now() < end) {
      slowestHealth = Math.max(slowestHealth, await ask('/health'));
      await pause(200);
    }
  })();
  await pause(seconds * 1000);
  for (const pid of family) signal(pid, 'SIGCONT');
  const recovery = await until(() => stand.isHealthy(), 'health', 30_000);
  await Promise.all([...asking, health]);
  return [
    none('frozen', `answers 5xx but 503 of ${count}`, wrong),
    none('frozen', 'without an answer', unanswered),
    under('frozen', 'slowest answer', slowest / 1000, 16, 's'),
    under('frozen', 'slowest answer of health', slowestHealth / 1000, 4, 's'),
    under('frozen', 'recovery', recovery / 1000, 6, 's'),
  ];
}

/** Freezes the server (SIGSTOP), and waits for its replacement. */
export async function frozenServer(stand: Stand): Promise<Figure[]> {
  const pid = stand.serverPid as number;
  process.kill(pid, 'SIGSTOP');
  const took = await until(async () => stand.serverPid !== pid && (await stand.isHealthy()), 'another server', 60_000).catch(() => 60_000);
  return [under('frozen', 'a server that stands still is replaced after', took / 1000, 30, 's')];
}
