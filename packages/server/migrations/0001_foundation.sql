CREATE TABLE "sheets" (
	"id" uuid PRIMARY KEY DEFAULT gen_random_uuid() NOT NULL,
	"version_id" uuid NOT NULL,
	"page" integer NOT NULL,
	"label" text NOT NULL,
	"width" real NOT NULL,
	"height" real NOT NULL,
	CONSTRAINT "sheets_page" UNIQUE("version_id","page")
);
--> statement-breakpoint
CREATE TABLE "notices" (
	"id" bigserial PRIMARY KEY NOT NULL,
	"user_id" uuid NOT NULL,
	"project_id" uuid NOT NULL,
	"text" text NOT NULL,
	"link" text NOT NULL,
	"at" timestamp (3) with time zone NOT NULL,
	"read_at" timestamp (3) with time zone
);
--> statement-breakpoint
CREATE TABLE "sessions" (
	"id" text PRIMARY KEY NOT NULL,
	"user_id" uuid NOT NULL,
	"csrf_token" text NOT NULL,
	"expires_at" timestamp (3) with time zone NOT NULL
);
--> statement-breakpoint
CREATE TABLE "tokens" (
	"id" uuid PRIMARY KEY DEFAULT gen_random_uuid() NOT NULL,
	"user_id" uuid NOT NULL,
	"name" text NOT NULL,
	"hash" text NOT NULL,
	"created_at" timestamp (3) with time zone NOT NULL,
	"last_used_at" timestamp (3) with time zone,
	CONSTRAINT "tokens_hash_unique" UNIQUE("hash")
);
--> statement-breakpoint
CREATE TABLE "users" (
	"id" uuid PRIMARY KEY DEFAULT gen_random_uuid() NOT NULL,
	"name" text NOT NULL,
	"email" text NOT NULL,
	"initials" text NOT NULL,
	"colour" text NOT NULL,
	"password_hash" text,
	"invitation_hash" text,
	"installation_administrator" boolean DEFAULT false NOT NULL,
	"created_at" timestamp (3) with time zone NOT NULL,
	CONSTRAINT "users_email_unique" UNIQUE("email")
);
--> statement-breakpoint
CREATE TABLE "issue_comments" (
	"id" uuid PRIMARY KEY DEFAULT gen_random_uuid() NOT NULL,
	"issue_id" uuid NOT NULL,
	"author_id" uuid NOT NULL,
	"text" text NOT NULL,
	"at" timestamp (3) with time zone NOT NULL
);
--> statement-breakpoint
CREATE TABLE "issues" (
	"id" uuid PRIMARY KEY DEFAULT gen_random_uuid() NOT NULL,
	"project_id" uuid NOT NULL,
	"number" integer NOT NULL,
	"title" text NOT NULL,
	"description" text DEFAULT '' NOT NULL,
	"type" text NOT NULL,
	"priority" text NOT NULL,
	"status" text NOT NULL,
	"assignee_id" uuid,
	"author_id" uuid NOT NULL,
	"due_on" date,
	"viewpoint_id" uuid,
	"place_version_id" uuid,
	"place_page" integer,
	"place_x" double precision,
	"place_y" double precision,
	"comments" integer DEFAULT 0 NOT NULL,
	"edition" integer DEFAULT 1 NOT NULL,
	"created_at" timestamp (3) with time zone NOT NULL,
	"updated_at" timestamp (3) with time zone NOT NULL,
	CONSTRAINT "issues_number" UNIQUE("project_id","number")
);
--> statement-breakpoint
CREATE TABLE "markups" (
	"id" uuid PRIMARY KEY DEFAULT gen_random_uuid() NOT NULL,
	"project_id" uuid NOT NULL,
	"container_id" uuid NOT NULL,
	"version_id" uuid NOT NULL,
	"page" integer NOT NULL,
	"number" integer NOT NULL,
	"shape" jsonb NOT NULL,
	"text" text NOT NULL,
	"status" text NOT NULL,
	"draft" boolean DEFAULT true NOT NULL,
	"author_id" uuid NOT NULL,
	"edition" integer DEFAULT 1 NOT NULL,
	"created_at" timestamp (3) with time zone NOT NULL
);
--> statement-breakpoint
CREATE TABLE "conventions" (
	"id" uuid PRIMARY KEY DEFAULT gen_random_uuid() NOT NULL,
	"project_id" uuid NOT NULL,
	"definition" jsonb NOT NULL,
	"statuses" jsonb NOT NULL,
	"classifications" jsonb NOT NULL,
	"edition" integer DEFAULT 1 NOT NULL,
	CONSTRAINT "conventions_project" UNIQUE("project_id")
);
--> statement-breakpoint
CREATE TABLE "member_roles" (
	"member_id" uuid NOT NULL,
	"role_id" uuid NOT NULL,
	CONSTRAINT "member_roles_member_id_role_id_pk" PRIMARY KEY("member_id","role_id")
);
--> statement-breakpoint
CREATE TABLE "members" (
	"id" uuid PRIMARY KEY DEFAULT gen_random_uuid() NOT NULL,
	"project_id" uuid NOT NULL,
	"user_id" uuid NOT NULL,
	"party_id" uuid,
	"team_id" uuid,
	"administrator" boolean DEFAULT false NOT NULL,
	"added_at" timestamp (3) with time zone NOT NULL,
	"last_visit_at" timestamp (3) with time zone,
	CONSTRAINT "members_user" UNIQUE("project_id","user_id")
);
--> statement-breakpoint
CREATE TABLE "parties" (
	"id" uuid PRIMARY KEY DEFAULT gen_random_uuid() NOT NULL,
	"project_id" uuid NOT NULL,
	"name" text NOT NULL,
	"code" text NOT NULL,
	CONSTRAINT "parties_code" UNIQUE("project_id","code")
);
--> statement-breakpoint
CREATE TABLE "roles" (
	"id" uuid PRIMARY KEY DEFAULT gen_random_uuid() NOT NULL,
	"project_id" uuid NOT NULL,
	"name" text NOT NULL,
	"grid" jsonb NOT NULL,
	CONSTRAINT "roles_name" UNIQUE("project_id","name")
);
--> statement-breakpoint
CREATE TABLE "teams" (
	"id" uuid PRIMARY KEY DEFAULT gen_random_uuid() NOT NULL,
	"project_id" uuid NOT NULL,
	"name" text NOT NULL,
	"discipline" text NOT NULL,
	"colour" text NOT NULL,
	CONSTRAINT "teams_name" UNIQUE("project_id","name")
);
--> statement-breakpoint
CREATE TABLE "blobs" (
	"sha256" text PRIMARY KEY NOT NULL,
	"size" bigint NOT NULL,
	"created_at" timestamp (3) with time zone NOT NULL
);
--> statement-breakpoint
CREATE TABLE "events" (
	"id" bigserial PRIMARY KEY NOT NULL,
	"project_id" uuid,
	"actor_id" uuid,
	"at" timestamp (3) with time zone NOT NULL,
	"verb" text NOT NULL,
	"subject_type" text NOT NULL,
	"subject_id" text NOT NULL,
	"before" jsonb,
	"after" jsonb
);
--> statement-breakpoint
CREATE TABLE "mails" (
	"id" bigserial PRIMARY KEY NOT NULL,
	"to" text NOT NULL,
	"subject" text NOT NULL,
	"text" text NOT NULL,
	"link" text,
	"sent_at" timestamp (3) with time zone NOT NULL
);
--> statement-breakpoint
CREATE TABLE "projects" (
	"id" uuid PRIMARY KEY DEFAULT gen_random_uuid() NOT NULL,
	"number" text DEFAULT '' NOT NULL,
	"name" text NOT NULL,
	"kind" text NOT NULL,
	"address" text DEFAULT '' NOT NULL,
	"time_zone" text DEFAULT 'UTC' NOT NULL,
	"starts_on" date,
	"finishes_on" date,
	"edition" integer DEFAULT 1 NOT NULL,
	"created_at" timestamp (3) with time zone NOT NULL
);
--> statement-breakpoint
CREATE TABLE "containers" (
	"id" uuid PRIMARY KEY DEFAULT gen_random_uuid() NOT NULL,
	"project_id" uuid NOT NULL,
	"folder_id" uuid NOT NULL,
	"team_id" uuid,
	"code" text NOT NULL,
	"title" text DEFAULT '' NOT NULL,
	"kind" text NOT NULL,
	"state" text NOT NULL,
	"at_intake" boolean DEFAULT false NOT NULL,
	"version_id" uuid NOT NULL,
	"version_number" integer NOT NULL,
	"file_name" text NOT NULL,
	"status" text DEFAULT '' NOT NULL,
	"revision" text DEFAULT '' NOT NULL,
	"classification" text DEFAULT '' NOT NULL,
	"description" text DEFAULT '' NOT NULL,
	"preparation" text NOT NULL,
	"preparation_note" text DEFAULT '' NOT NULL,
	"sheets" integer DEFAULT 0 NOT NULL,
	"size" bigint NOT NULL,
	"delivered_at" timestamp (3) with time zone NOT NULL,
	"delivered_by" uuid NOT NULL,
	"words" "tsvector" GENERATED ALWAYS AS (to_tsvector('simple', regexp_replace(code, '[-_.]', ' ', 'g') || ' ' || title || ' ' || description)) STORED
);
--> statement-breakpoint
CREATE TABLE "folders" (
	"id" uuid PRIMARY KEY DEFAULT gen_random_uuid() NOT NULL,
	"project_id" uuid NOT NULL,
	"parent_id" uuid,
	"name" text NOT NULL,
	"path" text NOT NULL,
	"team_id" uuid,
	CONSTRAINT "folders_path" UNIQUE("project_id","path")
);
--> statement-breakpoint
CREATE TABLE "products" (
	"version_id" uuid NOT NULL,
	"product" text NOT NULL,
	"sha256" text NOT NULL,
	CONSTRAINT "products_version_id_product_pk" PRIMARY KEY("version_id","product")
);
--> statement-breakpoint
CREATE TABLE "uploads" (
	"id" text PRIMARY KEY NOT NULL,
	"project_id" uuid NOT NULL,
	"user_id" uuid NOT NULL,
	"file_name" text NOT NULL,
	"size" bigint NOT NULL,
	"sha256" text,
	"created_at" timestamp (3) with time zone NOT NULL
);
--> statement-breakpoint
CREATE TABLE "versions" (
	"id" uuid PRIMARY KEY DEFAULT gen_random_uuid() NOT NULL,
	"project_id" uuid NOT NULL,
	"container_id" uuid NOT NULL,
	"number" integer NOT NULL,
	"file_name" text NOT NULL,
	"media_type" text NOT NULL,
	"kind" text NOT NULL,
	"size" bigint NOT NULL,
	"sha256" text NOT NULL,
	"title" text DEFAULT '' NOT NULL,
	"status" text DEFAULT '' NOT NULL,
	"revision" text DEFAULT '' NOT NULL,
	"classification" text DEFAULT '' NOT NULL,
	"description" text DEFAULT '' NOT NULL,
	"preparation" text NOT NULL,
	"preparation_note" text DEFAULT '' NOT NULL,
	"delivered_at" timestamp (3) with time zone NOT NULL,
	"delivered_by" uuid NOT NULL,
	CONSTRAINT "versions_number" UNIQUE("container_id","number")
);
--> statement-breakpoint
CREATE TABLE "return_codes" (
	"id" uuid PRIMARY KEY DEFAULT gen_random_uuid() NOT NULL,
	"project_id" uuid NOT NULL,
	"code" text NOT NULL,
	"meaning" text NOT NULL,
	"rules" jsonb NOT NULL,
	CONSTRAINT "return_codes_code" UNIQUE("project_id","code")
);
--> statement-breakpoint
CREATE TABLE "review_comments" (
	"id" uuid PRIMARY KEY DEFAULT gen_random_uuid() NOT NULL,
	"review_id" uuid NOT NULL,
	"version_id" uuid NOT NULL,
	"author_id" uuid NOT NULL,
	"text" text NOT NULL,
	"at" timestamp (3) with time zone NOT NULL
);
--> statement-breakpoint
CREATE TABLE "review_documents" (
	"review_id" uuid NOT NULL,
	"version_id" uuid NOT NULL,
	CONSTRAINT "review_documents_review_id_version_id_pk" PRIMARY KEY("review_id","version_id")
);
--> statement-breakpoint
CREATE TABLE "review_routes" (
	"id" uuid PRIMARY KEY DEFAULT gen_random_uuid() NOT NULL,
	"project_id" uuid NOT NULL,
	"name" text NOT NULL,
	"steps" jsonb NOT NULL
);
--> statement-breakpoint
CREATE TABLE "reviewers" (
	"id" uuid PRIMARY KEY DEFAULT gen_random_uuid() NOT NULL,
	"review_id" uuid NOT NULL,
	"user_id" uuid NOT NULL,
	"step" integer NOT NULL,
	"due_on" date,
	"code" text,
	"finished_at" timestamp (3) with time zone,
	CONSTRAINT "reviewers_person" UNIQUE("review_id","step","user_id")
);
--> statement-breakpoint
CREATE TABLE "reviews" (
	"id" uuid PRIMARY KEY DEFAULT gen_random_uuid() NOT NULL,
	"project_id" uuid NOT NULL,
	"number" integer NOT NULL,
	"title" text NOT NULL,
	"status" text NOT NULL,
	"route_name" text NOT NULL,
	"steps" jsonb NOT NULL,
	"originator_id" uuid NOT NULL,
	"started_at" timestamp (3) with time zone NOT NULL,
	"finished_at" timestamp (3) with time zone,
	"code" text,
	CONSTRAINT "reviews_number" UNIQUE("project_id","number")
);
--> statement-breakpoint
CREATE TABLE "viewpoints" (
	"id" uuid PRIMARY KEY DEFAULT gen_random_uuid() NOT NULL,
	"project_id" uuid NOT NULL,
	"name" text NOT NULL,
	"state" jsonb NOT NULL,
	"version_ids" uuid[] NOT NULL,
	"picture_sha256" text NOT NULL,
	"author_id" uuid NOT NULL,
	"created_at" timestamp (3) with time zone NOT NULL
);
--> statement-breakpoint
CREATE TABLE "receipts" (
	"transmittal_id" uuid NOT NULL,
	"user_id" uuid NOT NULL,
	"party" text,
	"received_at" timestamp (3) with time zone NOT NULL,
	"opened_at" timestamp (3) with time zone,
	"downloaded_at" timestamp (3) with time zone,
	"acknowledged_at" timestamp (3) with time zone,
	CONSTRAINT "receipts_transmittal_id_user_id_pk" PRIMARY KEY("transmittal_id","user_id")
);
--> statement-breakpoint
CREATE TABLE "transmittal_files" (
	"transmittal_id" uuid NOT NULL,
	"version_id" uuid NOT NULL,
	"container_id" uuid NOT NULL,
	"code" text NOT NULL,
	"title" text NOT NULL,
	"revision" text NOT NULL,
	"status" text NOT NULL,
	"version_number" integer NOT NULL,
	"file_name" text NOT NULL,
	"size" bigint NOT NULL,
	"sha256" text NOT NULL,
	CONSTRAINT "transmittal_files_transmittal_id_version_id_pk" PRIMARY KEY("transmittal_id","version_id")
);
--> statement-breakpoint
CREATE TABLE "transmittals" (
	"id" uuid PRIMARY KEY DEFAULT gen_random_uuid() NOT NULL,
	"project_id" uuid NOT NULL,
	"number" integer NOT NULL,
	"title" text NOT NULL,
	"reason" text NOT NULL,
	"message" text DEFAULT '' NOT NULL,
	"sender_id" uuid NOT NULL,
	"sent_at" timestamp (3) with time zone NOT NULL,
	"recipients_see_each_other" boolean NOT NULL,
	CONSTRAINT "transmittals_number" UNIQUE("project_id","number")
);
--> statement-breakpoint
ALTER TABLE "sheets" ADD CONSTRAINT "sheets_version_id_versions_id_fk" FOREIGN KEY ("version_id") REFERENCES "public"."versions"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "notices" ADD CONSTRAINT "notices_user_id_users_id_fk" FOREIGN KEY ("user_id") REFERENCES "public"."users"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "sessions" ADD CONSTRAINT "sessions_user_id_users_id_fk" FOREIGN KEY ("user_id") REFERENCES "public"."users"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "tokens" ADD CONSTRAINT "tokens_user_id_users_id_fk" FOREIGN KEY ("user_id") REFERENCES "public"."users"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "issue_comments" ADD CONSTRAINT "issue_comments_issue_id_issues_id_fk" FOREIGN KEY ("issue_id") REFERENCES "public"."issues"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "issue_comments" ADD CONSTRAINT "issue_comments_author_id_users_id_fk" FOREIGN KEY ("author_id") REFERENCES "public"."users"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "issues" ADD CONSTRAINT "issues_project_id_projects_id_fk" FOREIGN KEY ("project_id") REFERENCES "public"."projects"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "issues" ADD CONSTRAINT "issues_assignee_id_users_id_fk" FOREIGN KEY ("assignee_id") REFERENCES "public"."users"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "issues" ADD CONSTRAINT "issues_author_id_users_id_fk" FOREIGN KEY ("author_id") REFERENCES "public"."users"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "issues" ADD CONSTRAINT "issues_viewpoint_id_viewpoints_id_fk" FOREIGN KEY ("viewpoint_id") REFERENCES "public"."viewpoints"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "issues" ADD CONSTRAINT "issues_place_version_id_versions_id_fk" FOREIGN KEY ("place_version_id") REFERENCES "public"."versions"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "markups" ADD CONSTRAINT "markups_project_id_projects_id_fk" FOREIGN KEY ("project_id") REFERENCES "public"."projects"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "markups" ADD CONSTRAINT "markups_container_id_containers_id_fk" FOREIGN KEY ("container_id") REFERENCES "public"."containers"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "markups" ADD CONSTRAINT "markups_version_id_versions_id_fk" FOREIGN KEY ("version_id") REFERENCES "public"."versions"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "markups" ADD CONSTRAINT "markups_author_id_users_id_fk" FOREIGN KEY ("author_id") REFERENCES "public"."users"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "conventions" ADD CONSTRAINT "conventions_project_id_projects_id_fk" FOREIGN KEY ("project_id") REFERENCES "public"."projects"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "member_roles" ADD CONSTRAINT "member_roles_member_id_members_id_fk" FOREIGN KEY ("member_id") REFERENCES "public"."members"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "member_roles" ADD CONSTRAINT "member_roles_role_id_roles_id_fk" FOREIGN KEY ("role_id") REFERENCES "public"."roles"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "members" ADD CONSTRAINT "members_project_id_projects_id_fk" FOREIGN KEY ("project_id") REFERENCES "public"."projects"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "members" ADD CONSTRAINT "members_user_id_users_id_fk" FOREIGN KEY ("user_id") REFERENCES "public"."users"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "members" ADD CONSTRAINT "members_party_id_parties_id_fk" FOREIGN KEY ("party_id") REFERENCES "public"."parties"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "members" ADD CONSTRAINT "members_team_id_teams_id_fk" FOREIGN KEY ("team_id") REFERENCES "public"."teams"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "parties" ADD CONSTRAINT "parties_project_id_projects_id_fk" FOREIGN KEY ("project_id") REFERENCES "public"."projects"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "roles" ADD CONSTRAINT "roles_project_id_projects_id_fk" FOREIGN KEY ("project_id") REFERENCES "public"."projects"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "teams" ADD CONSTRAINT "teams_project_id_projects_id_fk" FOREIGN KEY ("project_id") REFERENCES "public"."projects"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "containers" ADD CONSTRAINT "containers_project_id_projects_id_fk" FOREIGN KEY ("project_id") REFERENCES "public"."projects"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "containers" ADD CONSTRAINT "containers_folder_id_folders_id_fk" FOREIGN KEY ("folder_id") REFERENCES "public"."folders"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "containers" ADD CONSTRAINT "containers_team_id_teams_id_fk" FOREIGN KEY ("team_id") REFERENCES "public"."teams"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "containers" ADD CONSTRAINT "containers_delivered_by_users_id_fk" FOREIGN KEY ("delivered_by") REFERENCES "public"."users"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "folders" ADD CONSTRAINT "folders_project_id_projects_id_fk" FOREIGN KEY ("project_id") REFERENCES "public"."projects"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "folders" ADD CONSTRAINT "folders_team_id_teams_id_fk" FOREIGN KEY ("team_id") REFERENCES "public"."teams"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "products" ADD CONSTRAINT "products_version_id_versions_id_fk" FOREIGN KEY ("version_id") REFERENCES "public"."versions"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "uploads" ADD CONSTRAINT "uploads_project_id_projects_id_fk" FOREIGN KEY ("project_id") REFERENCES "public"."projects"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "uploads" ADD CONSTRAINT "uploads_user_id_users_id_fk" FOREIGN KEY ("user_id") REFERENCES "public"."users"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "versions" ADD CONSTRAINT "versions_project_id_projects_id_fk" FOREIGN KEY ("project_id") REFERENCES "public"."projects"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "versions" ADD CONSTRAINT "versions_container_id_containers_id_fk" FOREIGN KEY ("container_id") REFERENCES "public"."containers"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "versions" ADD CONSTRAINT "versions_delivered_by_users_id_fk" FOREIGN KEY ("delivered_by") REFERENCES "public"."users"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "return_codes" ADD CONSTRAINT "return_codes_project_id_projects_id_fk" FOREIGN KEY ("project_id") REFERENCES "public"."projects"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "review_comments" ADD CONSTRAINT "review_comments_review_id_reviews_id_fk" FOREIGN KEY ("review_id") REFERENCES "public"."reviews"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "review_comments" ADD CONSTRAINT "review_comments_version_id_versions_id_fk" FOREIGN KEY ("version_id") REFERENCES "public"."versions"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "review_comments" ADD CONSTRAINT "review_comments_author_id_users_id_fk" FOREIGN KEY ("author_id") REFERENCES "public"."users"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "review_documents" ADD CONSTRAINT "review_documents_review_id_reviews_id_fk" FOREIGN KEY ("review_id") REFERENCES "public"."reviews"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "review_documents" ADD CONSTRAINT "review_documents_version_id_versions_id_fk" FOREIGN KEY ("version_id") REFERENCES "public"."versions"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "review_routes" ADD CONSTRAINT "review_routes_project_id_projects_id_fk" FOREIGN KEY ("project_id") REFERENCES "public"."projects"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "reviewers" ADD CONSTRAINT "reviewers_review_id_reviews_id_fk" FOREIGN KEY ("review_id") REFERENCES "public"."reviews"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "reviewers" ADD CONSTRAINT "reviewers_user_id_users_id_fk" FOREIGN KEY ("user_id") REFERENCES "public"."users"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "reviews" ADD CONSTRAINT "reviews_project_id_projects_id_fk" FOREIGN KEY ("project_id") REFERENCES "public"."projects"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "reviews" ADD CONSTRAINT "reviews_originator_id_users_id_fk" FOREIGN KEY ("originator_id") REFERENCES "public"."users"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "viewpoints" ADD CONSTRAINT "viewpoints_project_id_projects_id_fk" FOREIGN KEY ("project_id") REFERENCES "public"."projects"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "viewpoints" ADD CONSTRAINT "viewpoints_author_id_users_id_fk" FOREIGN KEY ("author_id") REFERENCES "public"."users"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "receipts" ADD CONSTRAINT "receipts_transmittal_id_transmittals_id_fk" FOREIGN KEY ("transmittal_id") REFERENCES "public"."transmittals"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "receipts" ADD CONSTRAINT "receipts_user_id_users_id_fk" FOREIGN KEY ("user_id") REFERENCES "public"."users"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "transmittal_files" ADD CONSTRAINT "transmittal_files_transmittal_id_transmittals_id_fk" FOREIGN KEY ("transmittal_id") REFERENCES "public"."transmittals"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "transmittal_files" ADD CONSTRAINT "transmittal_files_version_id_versions_id_fk" FOREIGN KEY ("version_id") REFERENCES "public"."versions"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "transmittals" ADD CONSTRAINT "transmittals_project_id_projects_id_fk" FOREIGN KEY ("project_id") REFERENCES "public"."projects"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "transmittals" ADD CONSTRAINT "transmittals_sender_id_users_id_fk" FOREIGN KEY ("sender_id") REFERENCES "public"."users"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "notices_user" ON "notices" USING btree ("user_id","id");--> statement-breakpoint
CREATE INDEX "sessions_user" ON "sessions" USING btree ("user_id");--> statement-breakpoint
CREATE INDEX "tokens_user" ON "tokens" USING btree ("user_id");--> statement-breakpoint
CREATE INDEX "issue_comments_issue" ON "issue_comments" USING btree ("issue_id","at");--> statement-breakpoint
CREATE INDEX "issues_assignee" ON "issues" USING btree ("assignee_id","status");--> statement-breakpoint
CREATE INDEX "issues_trigrams" ON "issues" USING gin ("title" gin_trgm_ops);--> statement-breakpoint
CREATE INDEX "markups_version" ON "markups" USING btree ("version_id");--> statement-breakpoint
CREATE INDEX "markups_container" ON "markups" USING btree ("container_id");--> statement-breakpoint
CREATE INDEX "members_by_user" ON "members" USING btree ("user_id");--> statement-breakpoint
CREATE INDEX "events_subject" ON "events" USING btree ("project_id","subject_type","subject_id","id");--> statement-breakpoint
CREATE INDEX "events_project" ON "events" USING btree ("project_id","id");--> statement-breakpoint
CREATE INDEX "mails_to" ON "mails" USING btree ("to","id");--> statement-breakpoint
CREATE UNIQUE INDEX "containers_code" ON "containers" USING btree ("project_id","code");--> statement-breakpoint
CREATE INDEX "containers_by_code" ON "containers" USING btree ("project_id","code","id");--> statement-breakpoint
CREATE INDEX "containers_by_date" ON "containers" USING btree ("project_id","delivered_at","id");--> statement-breakpoint
CREATE INDEX "containers_by_title" ON "containers" USING btree ("project_id","title","id");--> statement-breakpoint
CREATE INDEX "containers_by_folder" ON "containers" USING btree ("folder_id","code","id");--> statement-breakpoint
CREATE INDEX "containers_by_status" ON "containers" USING btree ("project_id","status","id");--> statement-breakpoint
CREATE INDEX "containers_by_revision" ON "containers" USING btree ("project_id","revision","id");--> statement-breakpoint
CREATE INDEX "containers_words" ON "containers" USING gin ("words");--> statement-breakpoint
CREATE INDEX "containers_trigrams" ON "containers" USING gin ((code || ' ' || title) gin_trgm_ops);--> statement-breakpoint
CREATE INDEX "uploads_user" ON "uploads" USING btree ("user_id");--> statement-breakpoint
CREATE INDEX "review_comments_review" ON "review_comments" USING btree ("review_id","at");--> statement-breakpoint
CREATE INDEX "review_documents_version" ON "review_documents" USING btree ("version_id");--> statement-breakpoint
CREATE INDEX "reviewers_user" ON "reviewers" USING btree ("user_id");--> statement-breakpoint
CREATE INDEX "viewpoints_project" ON "viewpoints" USING btree ("project_id","created_at");--> statement-breakpoint
CREATE INDEX "viewpoints_versions" ON "viewpoints" USING gin ("version_ids");--> statement-breakpoint
CREATE INDEX "receipts_user" ON "receipts" USING btree ("user_id");--> statement-breakpoint
CREATE INDEX "transmittal_files_container" ON "transmittal_files" USING btree ("container_id");