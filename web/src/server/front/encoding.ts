/** Encodings in which built files lie beside themselves, the smallest first, with how their names end. */
export const encodings = { br: '.br', gzip: '.gz' } as const;
export type Encoding = keyof typeof encodings;

/** The preferred encoding of an `Accept-Encoding` header (RFC 9110, 12.5.3); null: none of ours. Of equal weights the smaller file is taken. */
export function encodingFor(header: string | undefined): Encoding | null {
  const weights = new Map<string, number>();
  for (const part of (header ?? '').split(',')) {
    const [name = '', ...parameters] = part.split(';').map((one) => one.trim().toLowerCase());
    const q = parameters.find((one) => /^q\s*=/.test(one));
    const weight = q === undefined ? 1 : Number(q.slice(q.indexOf('=') + 1));
    if (name !== '') weights.set(name, Number.isFinite(weight) ? weight : 0);
  }
  const weightOf = (name: string) => weights.get(name) ?? weights.get('*') ?? 0;
  const plain = weights.get('identity') ?? 0;
  const best = (Object.keys(encodings) as Encoding[]).toSorted((a, b) => weightOf(b) - weightOf(a))[0] as Encoding;
  return weightOf(best) > 0 && weightOf(best) >= plain ? best : null;
}
