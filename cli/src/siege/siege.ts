import { FINDING, GOOD, Misuse } from '../misuse.ts';
import { clients } from './clients.ts';
import { atLeast, type Figure, none, tableOf } from './figures.ts';
import { files } from './files.ts';
import { folders } from './folders.ts';
import { frozen, frozenServer } from './frozen.ts';
import { fullDisk } from './fullDisk.ts';
import { games } from './games.ts';
import { kills } from './kills.ts';
import { links } from './links.ts';
import { requests } from './requests.ts';
import { sockets } from './sockets.ts';
import { clearFolder, ownFolder, Stand, TOKEN } from './stand.ts';
import { sweeps } from './sweeps.ts';
import { typed } from './typed.ts';

interface SiegeOptions {
  minutes: string;
  seed?: string;
}

/** A part could not go on, and stands among the figures. */
class PartEnded extends Error {}

/** The figure of a part that could not go on. */
const broken = (name: string, error: unknown): Figure => ({
  ...none(name, 'parts that could not go on', 1),
  figure: `1: ${error instanceof Error ? error.message : error}`,
});

/** Kills a minute, in all parts together. */
const KILLS = 25;

/** Kills a minute of the whole during sweeps. */
const SWEEP_KILLS = 2;

const say = (line: string) => process.stderr.write(`${line}\n`);

/** Lays siege to an application of its own, on loopback, for so many minutes; prints one table of figures. Exit 1 where a reach is not met. */
export async function siege(options: SiegeOptions): Promise<number> {
  const minutes = Number(options.minutes);
  if (!(minutes >= 0.2 && minutes <= 600)) throw new Misuse(`--minutes: found ${options.minutes}, expected a number from 0.2 to 600`);
  const seed = options.seed === undefined ? Math.floor(Math.random() * 2 ** 31) : Number(options.seed);
  if (!Number.isInteger(seed)) throw new Misuse(`--seed: found ${options.seed}, expected a whole number`);
  say(`Siege of ${minutes} minutes, seed ${seed}`);
  const figures: Figure[] = [];
  const part = async (name: string, work: Promise<Figure[]>) => {
    say(`${name} …`);
    try {
      figures.push(...(await work));
    } catch (error) {
      figures.push(broken(name, error));
      throw new PartEnded(`${name}: ${error instanceof Error ? error.message : error}`);
    }
  };
  /** Runs parts on an application of their own; where one cannot go on, the others do on the next. */
  const group = async (
    name: string,
    options: Parameters<typeof Stand.serving>[1],
    work: (stand: Stand, failed: AbortSignal) => Promise<void>,
  ) => {
    try {
      await at(options, work);
    } catch (error) {
      say(`${error instanceof Error ? error.message : error}`);
      if (!(error instanceof PartEnded)) figures.push(broken(name, error));
    }
  };
  let killed = 0;
  await group('the first application', {}, async (stand, failed) => {
    // Files are read by a process of their own, while the kills mostly wait.
    const reading = files(minutes * 0.35, seed, failed);
    await part('kills', kills(stand, minutes * 0.46, seed));
    killed += stand.kills;
    await part('files', reading);
    await part('requests', requests(stand, minutes * 0.08, seed));
    await part('a frozen database', frozen(stand, Math.min(20, minutes * 6)));
    await part('raw sockets without a token', sockets(stand, minutes * 0.03, seed));
    await part('a frozen server', frozenServer(stand));
    await part('fifty clients', clients(stand, minutes * 0.13, seed));
    await part('fifty clients of two servers', links(stand, minutes * 0.05, seed));
    await part('ten games', games(stand, minutes * 0.1, seed));
    await part('sweeps', sweeps(stand, Math.ceil(minutes * SWEEP_KILLS), seed));
  });
  await group('the second application', {}, async (stand) => {
    await part('folders under version control', folders(stand, minutes * 0.08, seed));
    await part('numbers typed on pages', typed(stand, minutes * 0.13, seed));
    killed += stand.kills;
  });
  await part('a full disk', fullDisk(Math.min(60, minutes * 3), seed)).catch(() => undefined);
  await group('the application with a token', { env: { ZYGOPOD_TOKEN: TOKEN } }, (stand) =>
    part('raw sockets with a token', sockets(stand, minutes * 0.06, seed)),
  );
  figures.push(atLeast('all parts', 'kills', killed, KILLS * minutes));
  process.stdout.write(`${tableOf(figures)}\n\nseed ${seed}\n`);
  return figures.every(({ isGood }) => isGood) ? GOOD : FINDING;
}

/** Runs parts on an application of their own; `failed` is aborted if one of them can't go on. */
async function at(options: Parameters<typeof Stand.serving>[1], work: (stand: Stand, failed: AbortSignal) => Promise<void>): Promise<void> {
  const stand = await Stand.serving(ownFolder(), options);
  const failed = new AbortController();
  try {
    await work(stand, failed.signal);
  } catch (error) {
    failed.abort();
    throw error;
  } finally {
    await stand.stop();
    clearFolder(stand.state);
  }
}
