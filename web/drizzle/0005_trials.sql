CREATE TABLE "trials" (
	"id" uuid PRIMARY KEY DEFAULT gen_random_uuid() NOT NULL,
	"who" text NOT NULL,
	"choice" text NOT NULL,
	"why" text NOT NULL,
	"first" text NOT NULL,
	"tuning_a" uuid NOT NULL,
	"revision_a" integer NOT NULL,
	"name_a" text NOT NULL,
	"tuning_b" uuid NOT NULL,
	"revision_b" integer NOT NULL,
	"name_b" text NOT NULL,
	"ground_id" uuid NOT NULL,
	"created_at" timestamp (3) with time zone DEFAULT now() NOT NULL
);
--> statement-breakpoint
CREATE INDEX "trials_by_tunings" ON "trials" USING btree ("tuning_a","tuning_b","created_at");