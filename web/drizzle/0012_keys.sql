-- Rows of documents that were deleted are reachable by nobody.
DELETE FROM "reports" WHERE NOT EXISTS (SELECT FROM "documents" WHERE "id" = "tuning_id");--> statement-breakpoint
DELETE FROM "hand_offs" WHERE NOT EXISTS (SELECT FROM "documents" WHERE "id" = "tuning_id");--> statement-breakpoint
DELETE FROM "trials" WHERE NOT EXISTS (SELECT FROM "documents" WHERE "id" = "tuning_a") OR NOT EXISTS (SELECT FROM "documents" WHERE "id" = "tuning_b");--> statement-breakpoint
ALTER TABLE "trials" ALTER COLUMN "ground_id" DROP NOT NULL;--> statement-breakpoint
UPDATE "trials" SET "ground_id" = NULL WHERE NOT EXISTS (SELECT FROM "documents" WHERE "id" = "ground_id");--> statement-breakpoint
ALTER TABLE "hand_offs" ADD CONSTRAINT "hand_offs_tuning_id_documents_id_fk" FOREIGN KEY ("tuning_id") REFERENCES "public"."documents"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "reports" ADD CONSTRAINT "reports_tuning_id_documents_id_fk" FOREIGN KEY ("tuning_id") REFERENCES "public"."documents"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "trials" ADD CONSTRAINT "trials_tuning_a_documents_id_fk" FOREIGN KEY ("tuning_a") REFERENCES "public"."documents"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "trials" ADD CONSTRAINT "trials_tuning_b_documents_id_fk" FOREIGN KEY ("tuning_b") REFERENCES "public"."documents"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "trials" ADD CONSTRAINT "trials_ground_id_documents_id_fk" FOREIGN KEY ("ground_id") REFERENCES "public"."documents"("id") ON DELETE set null ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "trials_by_second" ON "trials" USING btree ("tuning_b");--> statement-breakpoint
CREATE INDEX "trials_by_ground" ON "trials" USING btree ("ground_id");