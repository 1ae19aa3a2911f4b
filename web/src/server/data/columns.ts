import { customType, timestamp } from 'drizzle-orm/pg-core';
import pg from 'pg';
import { inNewestVersion } from './newest.ts';
import { RawJson } from './rawJson.ts';

// Files stay text: see RawJson.
pg.types.setTypeParser(pg.types.builtins.JSONB, (json: string) => json);

/** A file as jsonb, which goes in and comes out as text. */
export const file = customType<{ data: RawJson; driverData: string }>({
  dataType: () => 'jsonb',
  toDriver: (raw) => raw.text,
  fromDriver: (raw) => new RawJson(raw),
});

/** A document's file: returned in the newest version of its format, whichever it was stored in. */
export const documentFile = customType<{ data: RawJson; driverData: string }>({
  dataType: () => 'jsonb',
  toDriver: (raw) => raw.text,
  fromDriver: (raw) => new RawJson(inNewestVersion(raw)),
});

/** Bytes. */
export const bytes = customType<{ data: Buffer }>({ dataType: () => 'bytea' });

/** Milliseconds, as JavaScript's dates: a row's cursor finds that row. */
export const created = timestamp('created_at', { withTimezone: true, precision: 3 }).notNull().defaultNow();
