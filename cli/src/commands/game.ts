import { setTimeout as pause } from 'node:timers/promises';
import { type Fault, faults } from '@zygopod/game/faults';
import { headless, Wanderer } from '@zygopod/game/headless';
import { serveGame } from '@zygopod/game/serve';
import { addressOf } from '../files/runningAddress.ts';
import { GOOD, Misuse } from '../misuse.ts';

interface GameOptions {
  port: string;
  faults?: string;
  address?: string;
  headless?: boolean;
  seconds: string;
}

/** The application's default address, where the game waits for it. */
const DEFAULT = 'http://127.0.0.1:4380';

function faultsOf(text: string | undefined): Fault[] {
  const named = (text ?? '')
    .split(',')
    .map((one) => one.trim())
    .filter((one) => one !== '');
  const unknown = named.find((one) => !(faults as readonly string[]).includes(one));
  if (unknown !== undefined) throw new Misuse(`--faults: found ${unknown}, expected some of ${faults.join(', ')}`);
  return named as Fault[];
}

/** The address of the link; the game waits there if the application doesn't run. */
function linkOf(given: string | undefined): string {
  let address = DEFAULT;
  try {
    address = addressOf(given);
  } catch (error) {
    if (given !== undefined) throw error;
  }
  return `${address.replace(/^http/, 'ws')}/api/v1/link`;
}

/** Serves *Letter run*, or has it play by itself, until it is stopped. */
export async function game(options: GameOptions): Promise<number> {
  const port = Number(options.port);
  if (!Number.isInteger(port) || port < 0 || port > 65535)
    throw new Misuse(`--port: found ${options.port}, expected a whole number from 0 to 65535`);
  const seconds = Number(options.seconds);
  if (!(seconds > 0)) throw new Misuse(`--seconds: found ${options.seconds}, expected a number above 0`);
  const on = faultsOf(options.faults);
  const address = linkOf(options.address);
  const token = process.env['ZYGOPOD_TOKEN'];
  const stop = new AbortController();
  for (const signal of ['SIGINT', 'SIGTERM', 'SIGHUP'] as const) process.on(signal, () => stop.abort());
  if (options.headless) {
    await play(seconds, { address, token, faults: on }, stop.signal);
    return GOOD;
  }
  const server = await serveGame(port, { address, token, faults: on }).catch((error: NodeJS.ErrnoException) => {
    if (error.code === 'EADDRINUSE') throw new Misuse(`Port ${port} is taken: choose another with --port.`);
    throw error;
  });
  process.stderr.write(`Letter run is at ${server.address}, and links to ${address.replace(/^ws/, 'http').replace('/api/v1/link', '')}\n`);
  if (!stop.signal.aborted) await new Promise((stopped) => stop.signal.addEventListener('abort', stopped));
  await server.close();
  return GOOD;
}

/** The game without a page, played at random in real time. */
async function play(
  seconds: number,
  { token, ...options }: { address: string; token: string | undefined; faults: Fault[] },
  stop: AbortSignal,
): Promise<void> {
  const run = headless({ ...options, ...(token === undefined ? {} : { token }) });
  run.link.open();
  const player = new Wanderer(run);
  const begun = performance.now();
  while (!stop.aborted && run.tick < seconds * run.hz) {
    for (; run.tick < ((performance.now() - begun) / 1000) * run.hz; ) {
      player.play();
      // A paused game has no ticks; the request to run comes with the next messages.
      if (!run.advance()) break;
    }
    await pause(4);
  }
  run.link.close();
}
