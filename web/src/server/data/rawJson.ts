/** JSON stored and passed on as text: the server neither parses nor serialises a large file. */
export class RawJson {
  readonly text: string;

  constructor(text: string) {
    this.text = text;
  }

  /** The parsed text. */
  read(): unknown {
    return JSON.parse(this.text);
  }
}

/** JSON of a value that may hold raw JSON; dates as RFC 3339, undefined members left out. */
export function jsonText(value: unknown): string {
  if (value instanceof RawJson) return value.text;
  if (Array.isArray(value)) return `[${value.map(jsonText).join(',')}]`;
  if (typeof value !== 'object' || value === null || value instanceof Date) return JSON.stringify(value) ?? 'null';
  const members = Object.entries(value).filter(([, member]) => member !== undefined);
  return `{${members.map(([key, member]) => `${JSON.stringify(key)}:${jsonText(member)}`).join(',')}}`;
}
