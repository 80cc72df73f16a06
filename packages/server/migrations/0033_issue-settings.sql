CREATE TABLE "issue_answers" (
	"issue_id" uuid NOT NULL,
	"version_id" uuid NOT NULL,
	"author_id" uuid NOT NULL,
	"note" text DEFAULT '' NOT NULL,
	"at" timestamp (3) with time zone NOT NULL,
	CONSTRAINT "issue_answers_issue_id_version_id_pk" PRIMARY KEY("issue_id","version_id")
);
--> statement-breakpoint
CREATE TABLE "issue_comment_documents" (
	"comment_id" uuid NOT NULL,
	"version_id" uuid NOT NULL,
	CONSTRAINT "issue_comment_documents_comment_id_version_id_pk" PRIMARY KEY("comment_id","version_id")
);
--> statement-breakpoint
CREATE TABLE "issue_comment_editions" (
	"id" uuid PRIMARY KEY DEFAULT gen_random_uuid() NOT NULL,
	"comment_id" uuid NOT NULL,
	"text" text NOT NULL,
	"at" timestamp (3) with time zone NOT NULL
);
--> statement-breakpoint
CREATE TABLE "issue_comment_pictures" (
	"comment_id" uuid NOT NULL,
	"position" integer NOT NULL,
	"caption" text NOT NULL,
	"sha256" text NOT NULL,
	CONSTRAINT "issue_comment_pictures_comment_id_position_pk" PRIMARY KEY("comment_id","position")
);
--> statement-breakpoint
CREATE TABLE "issue_elements" (
	"issue_id" uuid NOT NULL,
	"version_id" uuid NOT NULL,
	"global_id" text NOT NULL,
	"name" text NOT NULL,
	CONSTRAINT "issue_elements_issue_id_version_id_global_id_pk" PRIMARY KEY("issue_id","version_id","global_id")
);
--> statement-breakpoint
CREATE TABLE "issue_relations" (
	"id" uuid PRIMARY KEY DEFAULT gen_random_uuid() NOT NULL,
	"issue_id" uuid NOT NULL,
	"kind" text NOT NULL,
	"other_id" uuid NOT NULL,
	CONSTRAINT "issue_relations_once" UNIQUE("issue_id","kind","other_id")
);
--> statement-breakpoint
CREATE TABLE "issue_settings" (
	"project_id" uuid PRIMARY KEY NOT NULL,
	"settings" jsonb NOT NULL,
	"edition" integer DEFAULT 1 NOT NULL
);
--> statement-breakpoint
CREATE TABLE "issue_things" (
	"issue_id" uuid NOT NULL,
	"type" text NOT NULL,
	"thing_id" uuid NOT NULL,
	CONSTRAINT "issue_things_issue_id_type_thing_id_pk" PRIMARY KEY("issue_id","type","thing_id")
);
--> statement-breakpoint
CREATE TABLE "issue_watchers" (
	"issue_id" uuid NOT NULL,
	"user_id" uuid NOT NULL,
	CONSTRAINT "issue_watchers_issue_id_user_id_pk" PRIMARY KEY("issue_id","user_id")
);
--> statement-breakpoint
CREATE TABLE "view_bells" (
	"view_id" uuid NOT NULL,
	"user_id" uuid NOT NULL,
	CONSTRAINT "view_bells_view_id_user_id_pk" PRIMARY KEY("view_id","user_id")
);
--> statement-breakpoint
ALTER TABLE "register_views" RENAME TO "saved_views";--> statement-breakpoint
ALTER TABLE "saved_views" RENAME CONSTRAINT "register_views_project_id_projects_id_fk" TO "saved_views_project_id_projects_id_fk";
--> statement-breakpoint
ALTER TABLE "saved_views" RENAME CONSTRAINT "register_views_owner_id_users_id_fk" TO "saved_views_owner_id_users_id_fk";
--> statement-breakpoint
DROP INDEX "register_views_name";--> statement-breakpoint
DROP INDEX "issue_comments_issue";--> statement-breakpoint
ALTER TABLE "issue_comments" ADD COLUMN "by_mail" boolean DEFAULT false NOT NULL;--> statement-breakpoint
ALTER TABLE "issue_comments" ADD COLUMN "edited_at" timestamp (3) with time zone;--> statement-breakpoint
ALTER TABLE "issue_comments" ADD COLUMN "withdrawn_at" timestamp (3) with time zone;--> statement-breakpoint
ALTER TABLE "issues" ADD COLUMN "assignee_team_id" uuid;--> statement-breakpoint
ALTER TABLE "issues" ADD COLUMN "assignee_role_id" uuid;--> statement-breakpoint
ALTER TABLE "issues" ADD COLUMN "verifier_id" uuid;--> statement-breakpoint
ALTER TABLE "issues" ADD COLUMN "labels" text[] DEFAULT '{}' NOT NULL;--> statement-breakpoint
ALTER TABLE "issues" ADD COLUMN "place_zoom" double precision;--> statement-breakpoint
ALTER TABLE "issues" ADD COLUMN "pictures" integer DEFAULT 0 NOT NULL;--> statement-breakpoint
ALTER TABLE "issues" ADD COLUMN "answered_at" timestamp (3) with time zone;--> statement-breakpoint
ALTER TABLE "issues" ADD COLUMN "answered_by" uuid;--> statement-breakpoint
ALTER TABLE "issues" ADD COLUMN "closed_at" timestamp (3) with time zone;--> statement-breakpoint
ALTER TABLE "mails" ADD COLUMN "reply_to" text;--> statement-breakpoint
ALTER TABLE "mails" ADD COLUMN "project_id" uuid;--> statement-breakpoint
ALTER TABLE "projects" ADD COLUMN "holidays" jsonb DEFAULT '[]'::jsonb NOT NULL;--> statement-breakpoint
ALTER TABLE "saved_views" ADD COLUMN "list" text DEFAULT 'register' NOT NULL;--> statement-breakpoint
ALTER TABLE "issue_answers" ADD CONSTRAINT "issue_answers_issue_id_issues_id_fk" FOREIGN KEY ("issue_id") REFERENCES "public"."issues"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "issue_answers" ADD CONSTRAINT "issue_answers_version_id_versions_id_fk" FOREIGN KEY ("version_id") REFERENCES "public"."versions"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "issue_answers" ADD CONSTRAINT "issue_answers_author_id_users_id_fk" FOREIGN KEY ("author_id") REFERENCES "public"."users"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "issue_comment_documents" ADD CONSTRAINT "issue_comment_documents_comment_id_issue_comments_id_fk" FOREIGN KEY ("comment_id") REFERENCES "public"."issue_comments"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "issue_comment_documents" ADD CONSTRAINT "issue_comment_documents_version_id_versions_id_fk" FOREIGN KEY ("version_id") REFERENCES "public"."versions"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "issue_comment_editions" ADD CONSTRAINT "issue_comment_editions_comment_id_issue_comments_id_fk" FOREIGN KEY ("comment_id") REFERENCES "public"."issue_comments"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "issue_comment_pictures" ADD CONSTRAINT "issue_comment_pictures_comment_id_issue_comments_id_fk" FOREIGN KEY ("comment_id") REFERENCES "public"."issue_comments"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "issue_elements" ADD CONSTRAINT "issue_elements_issue_id_issues_id_fk" FOREIGN KEY ("issue_id") REFERENCES "public"."issues"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "issue_elements" ADD CONSTRAINT "issue_elements_version_id_versions_id_fk" FOREIGN KEY ("version_id") REFERENCES "public"."versions"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "issue_relations" ADD CONSTRAINT "issue_relations_issue_id_issues_id_fk" FOREIGN KEY ("issue_id") REFERENCES "public"."issues"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "issue_relations" ADD CONSTRAINT "issue_relations_other_id_issues_id_fk" FOREIGN KEY ("other_id") REFERENCES "public"."issues"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "issue_settings" ADD CONSTRAINT "issue_settings_project_id_projects_id_fk" FOREIGN KEY ("project_id") REFERENCES "public"."projects"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "issue_things" ADD CONSTRAINT "issue_things_issue_id_issues_id_fk" FOREIGN KEY ("issue_id") REFERENCES "public"."issues"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "issue_watchers" ADD CONSTRAINT "issue_watchers_issue_id_issues_id_fk" FOREIGN KEY ("issue_id") REFERENCES "public"."issues"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "issue_watchers" ADD CONSTRAINT "issue_watchers_user_id_users_id_fk" FOREIGN KEY ("user_id") REFERENCES "public"."users"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "view_bells" ADD CONSTRAINT "view_bells_view_id_saved_views_id_fk" FOREIGN KEY ("view_id") REFERENCES "public"."saved_views"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "view_bells" ADD CONSTRAINT "view_bells_user_id_users_id_fk" FOREIGN KEY ("user_id") REFERENCES "public"."users"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "issue_answers_version" ON "issue_answers" USING btree ("version_id");--> statement-breakpoint
CREATE INDEX "issue_comment_editions_comment" ON "issue_comment_editions" USING btree ("comment_id","at");--> statement-breakpoint
CREATE INDEX "issue_relations_other" ON "issue_relations" USING btree ("other_id");--> statement-breakpoint
CREATE INDEX "issue_things_thing" ON "issue_things" USING btree ("thing_id");--> statement-breakpoint
CREATE INDEX "issue_watchers_user" ON "issue_watchers" USING btree ("user_id");--> statement-breakpoint
ALTER TABLE "issues" ADD CONSTRAINT "issues_assignee_team_id_teams_id_fk" FOREIGN KEY ("assignee_team_id") REFERENCES "public"."teams"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "issues" ADD CONSTRAINT "issues_assignee_role_id_roles_id_fk" FOREIGN KEY ("assignee_role_id") REFERENCES "public"."roles"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "issues" ADD CONSTRAINT "issues_verifier_id_users_id_fk" FOREIGN KEY ("verifier_id") REFERENCES "public"."users"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "issues" ADD CONSTRAINT "issues_answered_by_users_id_fk" FOREIGN KEY ("answered_by") REFERENCES "public"."users"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "issues_team" ON "issues" USING btree ("assignee_team_id","status");--> statement-breakpoint
CREATE INDEX "issues_updated" ON "issues" USING btree ("project_id","updated_at");--> statement-breakpoint
CREATE UNIQUE INDEX "saved_views_name" ON "saved_views" USING btree ("project_id","owner_id","list",lower("name"));--> statement-breakpoint
CREATE INDEX "issue_comments_issue" ON "issue_comments" USING btree ("issue_id","at","id");--> statement-breakpoint
ALTER TABLE "issues" ADD CONSTRAINT "issues_responsible" CHECK (num_nonnulls("issues"."assignee_id", "issues"."assignee_team_id", "issues"."assignee_role_id") <= 1);--> statement-breakpoint
UPDATE "issues" SET "type" = CASE "type" WHEN 'problem' THEN 'defect' ELSE "type" END,
  "pictures" = (SELECT count(*) FROM "issue_pictures" p WHERE p."issue_id" = "issues"."id"),
  "answered_at" = (SELECT min(e."at") FROM "events" e WHERE e."subject_type" = 'issue' AND e."subject_id" = "issues"."id"::text AND e."verb" = 'answer'),
  "answered_by" = (SELECT e."actor_id" FROM "events" e WHERE e."subject_type" = 'issue' AND e."subject_id" = "issues"."id"::text AND e."verb" = 'answer' ORDER BY e."at" LIMIT 1),
  "closed_at" = CASE "status" WHEN 'closed' THEN (SELECT max(e."at") FROM "events" e WHERE e."subject_type" = 'issue' AND e."subject_id" = "issues"."id"::text AND e."verb" = 'close') END;
