import type { Database } from './connection.ts';

const kept = new WeakMap<Database, Map<string, unknown>>();

/** A statement that is built once for a database, under a name by which its connections keep it prepared. */
export function prepared<T>(db: Database, name: string, build: (name: string) => T): T {
  const statements = kept.get(db) ?? new Map<string, unknown>();
  kept.set(db, statements);
  if (!statements.has(name)) statements.set(name, build(name));
  return statements.get(name) as T;
}
