CREATE TABLE "sweep_chunks" (
	"run_id" uuid NOT NULL,
	"number" integer NOT NULL,
	"place" integer NOT NULL,
	"values" "bytea" NOT NULL,
	"met" "bytea" NOT NULL,
	"holes" jsonb NOT NULL,
	CONSTRAINT "sweep_chunks_run_id_number_pk" PRIMARY KEY("run_id","number")
);
--> statement-breakpoint
CREATE TABLE "sweep_runs" (
	"id" uuid PRIMARY KEY DEFAULT gen_random_uuid() NOT NULL,
	"definition" jsonb NOT NULL,
	"hash" text NOT NULL,
	"core" text NOT NULL,
	"cells" integer NOT NULL,
	"chunk_cells" integer NOT NULL,
	"state" text NOT NULL,
	"chunks_done" integer DEFAULT 0 NOT NULL,
	"cells_done" integer DEFAULT 0 NOT NULL,
	"created_at" timestamp (3) with time zone DEFAULT now() NOT NULL,
	"progressed_at" timestamp (3) with time zone DEFAULT now() NOT NULL
);
--> statement-breakpoint
CREATE TABLE "sweep_workers" (
	"id" uuid PRIMARY KEY NOT NULL,
	"host" text NOT NULL,
	"core" text NOT NULL,
	"run_id" uuid,
	"seen_at" timestamp (3) with time zone NOT NULL
);
--> statement-breakpoint
ALTER TABLE "sweep_chunks" ADD CONSTRAINT "sweep_chunks_run_id_sweep_runs_id_fk" FOREIGN KEY ("run_id") REFERENCES "public"."sweep_runs"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
CREATE UNIQUE INDEX "sweep_chunks_by_place" ON "sweep_chunks" USING btree ("run_id","place");--> statement-breakpoint
CREATE INDEX "sweep_runs_by_state" ON "sweep_runs" USING btree ("state","created_at");--> statement-breakpoint
CREATE UNIQUE INDEX "sweep_runs_by_hash" ON "sweep_runs" USING btree ("hash","core");