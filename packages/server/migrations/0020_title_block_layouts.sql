CREATE TABLE "title_block_layouts" (
	"id" uuid PRIMARY KEY DEFAULT gen_random_uuid() NOT NULL,
	"project_id" uuid NOT NULL,
	"layout" jsonb NOT NULL,
	"sheet" text NOT NULL,
	"taught_by" uuid NOT NULL,
	"taught_at" timestamp (3) with time zone NOT NULL
);
--> statement-breakpoint
ALTER TABLE "title_block_layouts" ADD CONSTRAINT "title_block_layouts_project_id_projects_id_fk" FOREIGN KEY ("project_id") REFERENCES "public"."projects"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "title_block_layouts" ADD CONSTRAINT "title_block_layouts_taught_by_users_id_fk" FOREIGN KEY ("taught_by") REFERENCES "public"."users"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "title_block_layouts_project" ON "title_block_layouts" USING btree ("project_id","taught_at");