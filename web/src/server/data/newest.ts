import { newestVersions, readAny } from '@zygopod/core';

/** The mark and version of a document in PostgreSQL's text form of jsonb, whose keys stand in an order of their own. */
const FORMAT = /"format": "(zygopod\/[a-z]+)"/;
const VERSION = /"version": (\d+)/;

/**
 * The JSON text of a stored document in the newest version of its format. Documents in that version are returned as they are, without parsing;
 * so is what can't be read.
 */
export function inNewestVersion(text: string): string {
  const format = FORMAT.exec(text)?.[1];
  const version = VERSION.exec(text)?.[1];
  if (format === undefined || version === undefined || Number(version) >= (newestVersions[format] ?? 0)) return text;
  const read = readAny(JSON.parse(text));
  const reading = read.ok ? read.value.members[0]?.reading : undefined;
  return reading?.ok ? JSON.stringify(reading.value) : text;
}
