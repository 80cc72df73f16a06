CREATE TABLE "placings" (
	"container_id" uuid PRIMARY KEY NOT NULL,
	"project_id" uuid NOT NULL,
	"placing" jsonb NOT NULL,
	"version_id" uuid,
	"by_id" uuid NOT NULL,
	"at" timestamp (3) with time zone NOT NULL
);
--> statement-breakpoint
ALTER TABLE "clash_pairs" ADD COLUMN "taken" jsonb DEFAULT '[]'::jsonb NOT NULL;--> statement-breakpoint
ALTER TABLE "placings" ADD CONSTRAINT "placings_container_id_containers_id_fk" FOREIGN KEY ("container_id") REFERENCES "public"."containers"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "placings" ADD CONSTRAINT "placings_project_id_projects_id_fk" FOREIGN KEY ("project_id") REFERENCES "public"."projects"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "placings" ADD CONSTRAINT "placings_version_id_versions_id_fk" FOREIGN KEY ("version_id") REFERENCES "public"."versions"("id") ON DELETE set null ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "placings" ADD CONSTRAINT "placings_by_id_users_id_fk" FOREIGN KEY ("by_id") REFERENCES "public"."users"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "placings_project" ON "placings" USING btree ("project_id");--> statement-breakpoint
UPDATE "line_ups" SET "levels" = (SELECT coalesce(jsonb_agg(jsonb_build_object('name', level, 'elevation', null)), '[]'::jsonb) FROM jsonb_array_elements_text("levels") level);
