import { FINDING, GOOD, Misuse } from '../misuse.ts';
import { clients } from './clients.ts';
import { type Figure, tableOf } from './figures.ts';
import { files } from './files.ts';
import { frozen } from './frozen.ts';
import { kills } from './kills.ts';
import { requests } from './requests.ts';
import { sockets } from './sockets.ts';
import { clearFolder, ownFolder, Stand, TOKEN } from './stand.ts';

interface SiegeOptions {
  minutes: string;
  seed?: string;
}

const say = (line: string) => process.stderr.write(`${line}\n`);

/** Lays siege to an application of its own, on loopback, for so many minutes; prints one table of figures. Exit 1 where a reach is not met. */
export async function siege(options: SiegeOptions): Promise<number> {
  const minutes = Number(options.minutes);
  if (!(minutes >= 0.2 && minutes <= 600)) throw new Misuse(`--minutes: found ${options.minutes}, expected a number from 0.2 to 600`);
  const seed = options.seed === undefined ? Math.floor(Math.random() * 2 ** 31) : Number(options.seed);
  if (!Number.isInteger(seed)) throw new Misuse(`--seed: found ${options.seed}, expected a whole number`);
  say(`Siege of ${minutes} minutes, seed ${seed}`);
  const state = ownFolder();
  const stand = await Stand.serving(state);
  const figures: Figure[] = [];
  const part = async (name: string, work: Promise<Figure[]>) => {
    say(`${name} …`);
    figures.push(...(await work));
  };
  try {
    // Files are read by a process of their own, while the kills mostly wait.
    const reading = files(minutes * 0.55, seed);
    await part('kills', kills(stand, minutes * 0.63, seed));
    await part('files', reading);
    await part('requests', requests(stand, minutes * 0.13, seed));
    await part('a frozen database', frozen(stand, Math.min(20, minutes * 6)));
    await part('fifty clients', clients(stand, minutes * 0.22, seed));
  } finally {
    await stand.stop();
    clearFolder(state);
  }
  const closed = await Stand.serving(ownFolder(), { ZYGOPOD_TOKEN: TOKEN });
  try {
    await part('raw sockets', sockets(closed, minutes * 0.1, seed));
  } finally {
    await closed.stop();
    clearFolder(closed.state);
  }
  process.stdout.write(`${tableOf(figures)}\n\nseed ${seed}\n`);
  return figures.every(({ isGood }) => isGood) ? GOOD : FINDING;
}
