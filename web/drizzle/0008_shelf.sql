ALTER TABLE "documents" ADD COLUMN "line" text DEFAULT '' NOT NULL;--> statement-breakpoint
ALTER TABLE "documents" ADD COLUMN "numbers" jsonb;--> statement-breakpoint
ALTER TABLE "projects" ADD COLUMN "unit" text DEFAULT 'px' NOT NULL;--> statement-breakpoint
ALTER TABLE "projects" ADD COLUMN "names" jsonb DEFAULT '{}'::jsonb NOT NULL;--> statement-breakpoint
ALTER TABLE "projects" ADD COLUMN "is_demo" boolean DEFAULT false NOT NULL;--> statement-breakpoint
ALTER TABLE "projects" ADD COLUMN "put_away_at" timestamp (3) with time zone;--> statement-breakpoint
ALTER TABLE "revisions" ADD COLUMN "name" text DEFAULT '' NOT NULL;--> statement-breakpoint
CREATE INDEX "documents_by_project" ON "documents" USING btree ("project_id","kind","updated_at","id");