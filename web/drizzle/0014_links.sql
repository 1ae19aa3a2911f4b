CREATE TABLE "link_rows" (
	"link_id" uuid NOT NULL,
	"first" bigint NOT NULL,
	"last" bigint NOT NULL,
	"rows" "bytea" NOT NULL,
	"hands" jsonb NOT NULL,
	CONSTRAINT "link_rows_link_id_first_pk" PRIMARY KEY("link_id","first")
);
--> statement-breakpoint
CREATE TABLE "links" (
	"id" uuid PRIMARY KEY NOT NULL,
	"hello" jsonb NOT NULL,
	"next" bigint NOT NULL,
	"seen_at" timestamp (3) with time zone NOT NULL,
	"created_at" timestamp (3) with time zone DEFAULT now() NOT NULL
);
--> statement-breakpoint
ALTER TABLE "link_rows" ADD CONSTRAINT "link_rows_link_id_links_id_fk" FOREIGN KEY ("link_id") REFERENCES "public"."links"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "links_by_age" ON "links" USING btree ("seen_at");