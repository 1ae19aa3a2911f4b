CREATE TABLE "hand_offs" (
	"id" uuid PRIMARY KEY DEFAULT gen_random_uuid() NOT NULL,
	"tuning_id" uuid NOT NULL,
	"hand_off" jsonb NOT NULL,
	"created_at" timestamp (3) with time zone DEFAULT now() NOT NULL
);
--> statement-breakpoint
CREATE INDEX "hand_offs_by_tuning" ON "hand_offs" USING btree ("tuning_id","created_at");