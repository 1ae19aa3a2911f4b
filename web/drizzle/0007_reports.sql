CREATE TABLE "reports" (
	"id" uuid PRIMARY KEY DEFAULT gen_random_uuid() NOT NULL,
	"tuning_id" uuid NOT NULL,
	"revision" integer NOT NULL,
	"report" jsonb NOT NULL,
	"created_at" timestamp (3) with time zone DEFAULT now() NOT NULL
);
--> statement-breakpoint
CREATE INDEX "reports_by_tuning" ON "reports" USING btree ("tuning_id","created_at");