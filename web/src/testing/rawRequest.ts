import { request } from 'node:http';

interface Got {
  status: number;
  headers: Record<string, string | string[] | undefined>;
  body: Buffer;
}

/** A request whose answer is given as it was sent, without anything being unpacked. */
export function rawRequest(
  address: string,
  path: string,
  { headers = {}, method = 'GET', body }: { headers?: Record<string, string>; method?: string; body?: string } = {},
): Promise<Got> {
  return new Promise((got, failed) => {
    request(`${address}${path}`, { method, headers }, (answer) => {
      const parts: Buffer[] = [];
      answer.on('data', (part: Buffer) => parts.push(part));
      answer.on('end', () => got({ status: answer.statusCode ?? 0, headers: answer.headers, body: Buffer.concat(parts) }));
    })
      .on('error', failed)
      .end(body);
  });
}
