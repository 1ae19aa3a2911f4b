CREATE SEQUENCE "public"."source_versions" INCREMENT BY 1 MINVALUE 1 MAXVALUE 9223372036854775807 START WITH 1 CACHE 1;--> statement-breakpoint
CREATE TABLE "source_names" (
	"project_id" uuid NOT NULL,
	"name" text NOT NULL,
	"parameter" text,
	CONSTRAINT "source_names_project_id_name_pk" PRIMARY KEY("project_id","name")
);
--> statement-breakpoint
CREATE TABLE "sources" (
	"document_id" uuid PRIMARY KEY NOT NULL,
	"version" integer NOT NULL,
	"revision" integer NOT NULL,
	"source" jsonb NOT NULL,
	"path" text,
	"updated_at" timestamp (3) with time zone DEFAULT now() NOT NULL
);
--> statement-breakpoint
ALTER TABLE "source_names" ADD CONSTRAINT "source_names_project_id_projects_id_fk" FOREIGN KEY ("project_id") REFERENCES "public"."projects"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "sources" ADD CONSTRAINT "sources_document_id_documents_id_fk" FOREIGN KEY ("document_id") REFERENCES "public"."documents"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "sources_by_path" ON "sources" USING btree ("path");