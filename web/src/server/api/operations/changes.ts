import { z } from 'zod';
import { LISTENERS, listenToChanges } from '../../data/changes.ts';
import { Problem } from '../../problem.ts';
import type { Operation, OperationRequest } from '../operation.ts';

/** Milliseconds after which an empty line is sent: a reader who receives none for long knows that the connection is dead. */
const BEAT = 15_000;

/** Changes of documents, as they happen. */
const listen: Operation = {
  method: 'GET',
  path: '/changes',
  name: 'listenToChanges',
  words:
    'Server-sent events: a `change` with { kind, id, head, is } whenever a document is created, saved, archived or restored, on any ' +
    'server; `look` when some may have been missed',
  answers: { 200: { words: 'An event stream', schema: z.string(), type: 'text/event-stream' } },
  run: async ({ request }: OperationRequest) => {
    const encoder = new TextEncoder();
    let end = () => {};
    const stream = new ReadableStream<Uint8Array>({
      start(controller) {
        const send = (text: string) => controller.enqueue(encoder.encode(text));
        const stop = listenToChanges((change) =>
          send(change ? `event: change\ndata: ${JSON.stringify(change)}\n\n` : 'event: look\ndata: {}\n\n'),
        );
        if (!stop) throw new Problem(503, `${LISTENERS} listen already`, { retryAfter: 30 });
        const beat = setInterval(() => {
          try {
            send(': still here\n\n');
          } catch {
            // It is closed, and nobody has said so.
            end();
          }
        }, BEAT);
        end = () => {
          clearInterval(beat);
          stop();
        };
        send(': listening\n\n');
      },
      cancel: () => end(),
    });
    request.signal.addEventListener('abort', () => end());
    return new Response(stream, { headers: { 'content-type': 'text/event-stream', 'cache-control': 'no-store' } });
  },
};

export const changeOperations = [listen];
