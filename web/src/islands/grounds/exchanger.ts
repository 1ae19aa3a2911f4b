import type { Exported, Ground, GroundFormat, Imported, ImportOptions, Reading } from '@zygopod/core';
import type { ExchangeAnswer, ExchangeOrder } from '../../workers/exchange.ts';

/** Seconds after which a file that is still being read is given up. */
const PATIENCE = 10;

/** Asks a worker, which ends with its answer or when patience does. */
function ask<A extends ExchangeAnswer>(order: ExchangeOrder): Promise<A> {
  return new Promise((resolve, reject) => {
    const worker = new Worker(new URL('../../workers/exchange.ts', import.meta.url), { type: 'module' });
    const end = () => {
      clearTimeout(timer);
      worker.terminate();
    };
    const timer = setTimeout(() => {
      end();
      reject(new Error(`It took more than ${PATIENCE} seconds.`));
    }, PATIENCE * 1000);
    worker.addEventListener('message', ({ data }: MessageEvent<A>) => {
      end();
      resolve(data);
    });
    worker.addEventListener('error', (event) => {
      end();
      reject(new Error(event.message || 'The reader failed.'));
    });
    worker.postMessage(order);
  });
}

/** Reads a file as a ground. */
export async function readFile(file: File, options: ImportOptions): Promise<Reading<Imported>> {
  // Too large a file is refused by its size: it is not even loaded.
  const bytes = file.size > 20 * 1024 * 1024 ? null : new Uint8Array(await file.arrayBuffer());
  if (!bytes) return { ok: false, faults: [{ path: '', found: `${(file.size / 1048576).toFixed(1)} MB`, expected: 'at most 20 MB' }] };
  const answer = await ask<ExchangeAnswer & { kind: 'read' }>({ kind: 'read', number: 0, fileName: file.name, bytes, options });
  return answer.reading;
}

/** Writes a ground in a format. */
export async function writeGround(ground: Ground, format: GroundFormat): Promise<Exported> {
  const answer = await ask<ExchangeAnswer & { kind: 'write' }>({ kind: 'write', number: 0, ground, format });
  return answer.exported;
}
