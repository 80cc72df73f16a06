CREATE TABLE "bcf_comments" (
	"comment_id" uuid PRIMARY KEY NOT NULL,
	"issue_id" uuid NOT NULL,
	"guid" text NOT NULL,
	CONSTRAINT "bcf_comments_guid" UNIQUE("issue_id","guid")
);
--> statement-breakpoint
CREATE TABLE "bcf_readings" (
	"job_id" uuid PRIMARY KEY NOT NULL,
	"project_id" uuid NOT NULL,
	"owner_id" uuid NOT NULL,
	"file_name" text NOT NULL,
	"version" text NOT NULL,
	"topics_sha256" text NOT NULL,
	"file_hashes" text[] NOT NULL,
	"notes" jsonb NOT NULL
);
--> statement-breakpoint
CREATE TABLE "bcf_topics" (
	"issue_id" uuid PRIMARY KEY NOT NULL,
	"project_id" uuid NOT NULL,
	"guid" uuid NOT NULL,
	"said" jsonb NOT NULL,
	"kept" jsonb NOT NULL,
	"files" text[] NOT NULL,
	CONSTRAINT "bcf_topics_guid" UNIQUE("project_id","guid")
);
--> statement-breakpoint
CREATE TABLE "bcf_transfers" (
	"id" uuid PRIMARY KEY DEFAULT gen_random_uuid() NOT NULL,
	"project_id" uuid NOT NULL,
	"way" text NOT NULL,
	"by_id" uuid NOT NULL,
	"at" timestamp (3) with time zone NOT NULL,
	"file_name" text NOT NULL,
	"version" text NOT NULL,
	"filter" jsonb NOT NULL,
	"counts" jsonb NOT NULL,
	"notes" jsonb NOT NULL
);
--> statement-breakpoint
ALTER TABLE "issue_comments" ADD COLUMN "written_by" text;--> statement-breakpoint
ALTER TABLE "issues" ADD COLUMN "written_by" text;--> statement-breakpoint
ALTER TABLE "bcf_comments" ADD CONSTRAINT "bcf_comments_comment_id_issue_comments_id_fk" FOREIGN KEY ("comment_id") REFERENCES "public"."issue_comments"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "bcf_comments" ADD CONSTRAINT "bcf_comments_issue_id_issues_id_fk" FOREIGN KEY ("issue_id") REFERENCES "public"."issues"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "bcf_readings" ADD CONSTRAINT "bcf_readings_job_id_long_jobs_id_fk" FOREIGN KEY ("job_id") REFERENCES "public"."long_jobs"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "bcf_readings" ADD CONSTRAINT "bcf_readings_project_id_projects_id_fk" FOREIGN KEY ("project_id") REFERENCES "public"."projects"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "bcf_readings" ADD CONSTRAINT "bcf_readings_owner_id_users_id_fk" FOREIGN KEY ("owner_id") REFERENCES "public"."users"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "bcf_topics" ADD CONSTRAINT "bcf_topics_issue_id_issues_id_fk" FOREIGN KEY ("issue_id") REFERENCES "public"."issues"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "bcf_topics" ADD CONSTRAINT "bcf_topics_project_id_projects_id_fk" FOREIGN KEY ("project_id") REFERENCES "public"."projects"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "bcf_transfers" ADD CONSTRAINT "bcf_transfers_project_id_projects_id_fk" FOREIGN KEY ("project_id") REFERENCES "public"."projects"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "bcf_transfers" ADD CONSTRAINT "bcf_transfers_by_id_users_id_fk" FOREIGN KEY ("by_id") REFERENCES "public"."users"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "bcf_transfers_project" ON "bcf_transfers" USING btree ("project_id","at","id");