ALTER TABLE "documents" ADD COLUMN "drafted" integer DEFAULT 0 NOT NULL;--> statement-breakpoint
UPDATE "documents" SET "drafted" = "drafts"."version" FROM "drafts" WHERE "drafts"."document_id" = "documents"."id";
