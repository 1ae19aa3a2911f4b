/** Milliseconds after which an empty line is sent: a reader who receives none for long knows that the connection is dead. */
const BEAT = 15_000;

/**
 * A stream of server-sent events. `begin` gets the function that sends one, and returns the one that is called once nobody reads any more; what it
 * throws is the answer instead.
 */
export function eventStream(request: Request, begin: (send: (event: string | null, data: unknown) => void) => () => void): Response {
  const encoder = new TextEncoder();
  let end = () => {};
  const stream = new ReadableStream<Uint8Array>({
    start(controller) {
      const write = (text: string) => {
        try {
          controller.enqueue(encoder.encode(text));
        } catch {
          // It is closed, and nobody has said so.
          end();
        }
      };
      const stop = begin((event, data) => write(`${event === null ? '' : `event: ${event}\n`}data: ${JSON.stringify(data)}\n\n`));
      const beat = setInterval(() => write(': still here\n\n'), BEAT);
      end = () => {
        clearInterval(beat);
        stop();
      };
      write(': listening\n\n');
    },
    cancel: () => end(),
  });
  request.signal.addEventListener('abort', () => end());
  return new Response(stream, { headers: { 'content-type': 'text/event-stream', 'cache-control': 'no-store' } });
}
