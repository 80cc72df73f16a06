CREATE TABLE "plan_links" (
	"id" uuid PRIMARY KEY DEFAULT gen_random_uuid() NOT NULL,
	"project_id" uuid NOT NULL,
	"container_id" uuid NOT NULL,
	"page" integer NOT NULL,
	"model_id" uuid NOT NULL,
	"storey" text NOT NULL,
	"elevation" double precision NOT NULL,
	"top" double precision,
	"map" jsonb NOT NULL,
	"error" double precision NOT NULL,
	"pairs" jsonb NOT NULL,
	"made_by" uuid NOT NULL,
	"made_at" timestamp (3) with time zone NOT NULL,
	CONSTRAINT "plan_links_page" UNIQUE("container_id","page")
);
--> statement-breakpoint
ALTER TABLE "plan_links" ADD CONSTRAINT "plan_links_project_id_projects_id_fk" FOREIGN KEY ("project_id") REFERENCES "public"."projects"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "plan_links" ADD CONSTRAINT "plan_links_container_id_containers_id_fk" FOREIGN KEY ("container_id") REFERENCES "public"."containers"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "plan_links" ADD CONSTRAINT "plan_links_model_id_containers_id_fk" FOREIGN KEY ("model_id") REFERENCES "public"."containers"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "plan_links" ADD CONSTRAINT "plan_links_made_by_users_id_fk" FOREIGN KEY ("made_by") REFERENCES "public"."users"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "plan_links_model" ON "plan_links" USING btree ("model_id");--> statement-breakpoint
CREATE INDEX "plan_links_project" ON "plan_links" USING btree ("project_id");