CREATE TABLE "change_judgements" (
	"comparison_id" uuid NOT NULL,
	"position" integer NOT NULL,
	"number" integer NOT NULL,
	"asked" boolean,
	"request_ids" uuid[] DEFAULT '{}' NOT NULL,
	"issue_id" uuid,
	"by_id" uuid NOT NULL,
	"at" timestamp (3) with time zone NOT NULL,
	CONSTRAINT "change_judgements_comparison_id_position_number_pk" PRIMARY KEY("comparison_id","position","number")
);
--> statement-breakpoint
CREATE TABLE "change_requests" (
	"id" uuid PRIMARY KEY DEFAULT gen_random_uuid() NOT NULL,
	"project_id" uuid NOT NULL,
	"version_id" uuid NOT NULL,
	"text" text NOT NULL,
	"page" integer,
	"place" jsonb,
	"markup_id" uuid,
	"issue_id" uuid,
	"by_id" uuid NOT NULL,
	"at" timestamp (3) with time zone NOT NULL,
	"edition" integer DEFAULT 1 NOT NULL,
	CONSTRAINT "change_requests_markup" UNIQUE("version_id","markup_id"),
	CONSTRAINT "change_requests_issue" UNIQUE("version_id","issue_id")
);
--> statement-breakpoint
CREATE TABLE "compared_sheets" (
	"comparison_id" uuid NOT NULL,
	"position" integer NOT NULL,
	"before_page" integer,
	"after_page" integer,
	"outcome" text NOT NULL,
	"note" text DEFAULT '' NOT NULL,
	"split" boolean DEFAULT false NOT NULL,
	"similarity" jsonb DEFAULT '[1,0,0,0]'::jsonb NOT NULL,
	"changes" jsonb DEFAULT '[]'::jsonb NOT NULL,
	"counts" jsonb DEFAULT '{"added":0,"removed":0,"moved":0,"text":0,"look":0}'::jsonb NOT NULL,
	"file_sha256" text,
	CONSTRAINT "compared_sheets_comparison_id_position_pk" PRIMARY KEY("comparison_id","position")
);
--> statement-breakpoint
CREATE TABLE "comparisons" (
	"id" uuid PRIMARY KEY DEFAULT gen_random_uuid() NOT NULL,
	"project_id" uuid NOT NULL,
	"before_id" uuid NOT NULL,
	"after_id" uuid NOT NULL,
	"status" text NOT NULL,
	"asked_at" timestamp (3) with time zone NOT NULL,
	CONSTRAINT "comparisons_pair" UNIQUE("before_id","after_id")
);
--> statement-breakpoint
CREATE TABLE "issue_pictures" (
	"issue_id" uuid NOT NULL,
	"position" integer NOT NULL,
	"caption" text NOT NULL,
	"sha256" text NOT NULL,
	CONSTRAINT "issue_pictures_issue_id_position_pk" PRIMARY KEY("issue_id","position")
);
--> statement-breakpoint
ALTER TABLE "markups" ADD COLUMN "fate" text;--> statement-breakpoint
ALTER TABLE "change_judgements" ADD CONSTRAINT "change_judgements_comparison_id_comparisons_id_fk" FOREIGN KEY ("comparison_id") REFERENCES "public"."comparisons"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "change_judgements" ADD CONSTRAINT "change_judgements_issue_id_issues_id_fk" FOREIGN KEY ("issue_id") REFERENCES "public"."issues"("id") ON DELETE set null ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "change_judgements" ADD CONSTRAINT "change_judgements_by_id_users_id_fk" FOREIGN KEY ("by_id") REFERENCES "public"."users"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "change_requests" ADD CONSTRAINT "change_requests_project_id_projects_id_fk" FOREIGN KEY ("project_id") REFERENCES "public"."projects"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "change_requests" ADD CONSTRAINT "change_requests_version_id_versions_id_fk" FOREIGN KEY ("version_id") REFERENCES "public"."versions"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "change_requests" ADD CONSTRAINT "change_requests_markup_id_markups_id_fk" FOREIGN KEY ("markup_id") REFERENCES "public"."markups"("id") ON DELETE set null ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "change_requests" ADD CONSTRAINT "change_requests_issue_id_issues_id_fk" FOREIGN KEY ("issue_id") REFERENCES "public"."issues"("id") ON DELETE set null ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "change_requests" ADD CONSTRAINT "change_requests_by_id_users_id_fk" FOREIGN KEY ("by_id") REFERENCES "public"."users"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "compared_sheets" ADD CONSTRAINT "compared_sheets_comparison_id_comparisons_id_fk" FOREIGN KEY ("comparison_id") REFERENCES "public"."comparisons"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "comparisons" ADD CONSTRAINT "comparisons_project_id_projects_id_fk" FOREIGN KEY ("project_id") REFERENCES "public"."projects"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "comparisons" ADD CONSTRAINT "comparisons_before_id_versions_id_fk" FOREIGN KEY ("before_id") REFERENCES "public"."versions"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "comparisons" ADD CONSTRAINT "comparisons_after_id_versions_id_fk" FOREIGN KEY ("after_id") REFERENCES "public"."versions"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "issue_pictures" ADD CONSTRAINT "issue_pictures_issue_id_issues_id_fk" FOREIGN KEY ("issue_id") REFERENCES "public"."issues"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "change_requests_version" ON "change_requests" USING btree ("version_id","at");--> statement-breakpoint
CREATE INDEX "comparisons_after" ON "comparisons" USING btree ("after_id");--> statement-breakpoint
CREATE INDEX "comparisons_project" ON "comparisons" USING btree ("project_id","asked_at");