import { desc, eq } from 'drizzle-orm';
import type { Database } from './connection.ts';
import { reports } from './schema.ts';

/** A report as it is kept. */
export type ReportRow = typeof reports.$inferSelect;

/** Keeps a report. */
export async function keepReport(db: Database, report: typeof reports.$inferInsert): Promise<ReportRow> {
  const [row] = await db.insert(reports).values(report).returning();
  if (!row) throw new Error('the report was not kept');
  return row;
}

/** The newest reports of a tuning, newest first. */
export function listReports(db: Database, tuning: string, limit: number): Promise<ReportRow[]> {
  return db.select().from(reports).where(eq(reports.tuning, tuning)).orderBy(desc(reports.createdAt), desc(reports.id)).limit(limit);
}
