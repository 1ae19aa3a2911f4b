import { z } from 'zod';
import { LISTENERS, listenToChanges } from '../../data/changes.ts';
import { Problem } from '../../problem.ts';
import { eventStream } from '../events.ts';
import type { Operation, OperationRequest } from '../operation.ts';

/** Changes of documents, as they happen. */
const listen: Operation = {
  method: 'GET',
  path: '/changes',
  name: 'listenToChanges',
  words:
    'Server-sent events: a `change` with { kind, id, head, is } whenever a document is created, saved, archived or restored, on any ' +
    'server; `look` when some may have been missed',
  answers: { 200: { words: 'An event stream', schema: z.string(), type: 'text/event-stream' } },
  run: async ({ request }: OperationRequest) =>
    eventStream(request, (send) => {
      const stop = listenToChanges((change) => (change ? send('change', change) : send('look', {})));
      if (!stop) throw new Problem(503, `${LISTENERS} listen already`, { retryAfter: 30 });
      return stop;
    }),
};

export const changeOperations = [listen];
