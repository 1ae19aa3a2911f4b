import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { Misuse } from '../misuse.ts';
import { stateFolder } from '../root.ts';

/** The address of the application: as given, else of the one that this copy has started. */
export function addressOf(given: string | undefined): string {
  if (given !== undefined) {
    if (!/^https?:\/\/[^/]+\/?$/.test(given)) throw new Misuse(`--address: found ${given}, expected an address like http://127.0.0.1:4380`);
    return given.replace(/\/$/, '');
  }
  try {
    const { address } = JSON.parse(readFileSync(join(stateFolder, 'up.pid'), 'utf8')) as { address?: string };
    if (address) return address;
  } catch {
    // Reported below.
  }
  throw new Misuse('Zygopod is not running: start it with ./zygopod up, or name its --address');
}
