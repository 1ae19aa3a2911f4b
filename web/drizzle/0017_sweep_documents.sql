ALTER TYPE "public"."kind" ADD VALUE 'sweep';--> statement-breakpoint
CREATE TABLE "sweep_results" (
	"sweep_id" uuid PRIMARY KEY NOT NULL,
	"revision" integer NOT NULL,
	"core" text NOT NULL,
	"measured_from" jsonb NOT NULL,
	"run_id" uuid,
	"values" "bytea",
	"met" "bytea",
	"holes" jsonb,
	"created_at" timestamp (3) with time zone DEFAULT now() NOT NULL
);
--> statement-breakpoint
ALTER TABLE "sweep_results" ADD CONSTRAINT "sweep_results_sweep_id_documents_id_fk" FOREIGN KEY ("sweep_id") REFERENCES "public"."documents"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "sweep_results" ADD CONSTRAINT "sweep_results_run_id_sweep_runs_id_fk" FOREIGN KEY ("run_id") REFERENCES "public"."sweep_runs"("id") ON DELETE set null ON UPDATE no action;