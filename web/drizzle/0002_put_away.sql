ALTER TABLE "documents" ADD COLUMN "put_away_at" timestamp (3) with time zone;--> statement-breakpoint
DO $$ BEGIN
  CREATE EXTENSION IF NOT EXISTS pg_trgm;
  CREATE INDEX "documents_by_name" ON "documents" USING gin ("name" gin_trgm_ops);
EXCEPTION WHEN OTHERS THEN
  -- Without the extension a search by name reads all names: slower, and right.
  NULL;
END $$;
