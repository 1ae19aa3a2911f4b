import { Problem } from '../problem.ts';

/** Milliseconds without a byte after which a body is given up. */
const STALL = 10_000;

/** Bytes of unfinished bodies that may be held at a time; further ones are sent away. */
const HELD = 256 * 1024 * 1024;

let held = 0;

/** A body in transit, which releases its memory at its end. */
class Held {
  readonly chunks: Uint8Array[] = [];
  size = 0;

  add(chunk: Uint8Array): void {
    if (held + chunk.length > HELD) throw new Problem(503, 'Too many large files are being sent; try again in a moment', { retryAfter: 5 });
    held += chunk.length;
    this.size += chunk.length;
    this.chunks.push(chunk);
  }

  whole(): Uint8Array<ArrayBuffer> {
    const bytes = new Uint8Array(this.size);
    let at = 0;
    for (const chunk of this.chunks) {
      bytes.set(chunk, at);
      at += chunk.length;
    }
    return bytes;
  }

  release(): void {
    held -= this.size;
  }
}

/** Awaits one read; 408 if nothing arrives for too long. */
async function inTime<T>(read: Promise<T>): Promise<T> {
  let timer: NodeJS.Timeout | undefined;
  const late = new Promise<never>((_, fail) => {
    timer = setTimeout(() => fail(new Problem(408, `Nothing of the body came for ${STALL / 1000} s`)), STALL);
  });
  read.catch(() => undefined);
  try {
    return await Promise.race([read, late]);
  } finally {
    clearTimeout(timer);
  }
}

/**
 * Reads the bytes of a body: 413 if there are more than `most`, even without an announced length, and 408 if they stop arriving. `what` names the
 * body in the problem.
 */
export async function bytesOf(request: Request, most: number, what: string): Promise<Uint8Array<ArrayBuffer>> {
  const tooLarge = (size: number) => new Problem(413, `${what} has at most ${most} bytes`, { found: size, most });
  const announced = Number(request.headers.get('content-length') ?? 0);
  if (announced > most) throw tooLarge(announced);
  const reader = request.body?.getReader();
  const body = new Held();
  try {
    for (;;) {
      const value = (await (reader && inTime(reader.read())))?.value;
      if (!value) return body.whole();
      if (body.size + value.length > most) throw tooLarge(body.size + value.length);
      body.add(value);
    }
  } catch (error) {
    // The rest of the body isn't wanted; the connection ends with the answer.
    reader?.cancel().catch(() => undefined);
    if (error instanceof Problem) throw error;
    throw new Problem(400, 'The body ended before its end');
  } finally {
    body.release();
  }
}
