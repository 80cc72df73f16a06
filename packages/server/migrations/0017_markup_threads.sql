CREATE TABLE "markup_comments" (
	"id" uuid PRIMARY KEY DEFAULT gen_random_uuid() NOT NULL,
	"markup_id" uuid NOT NULL,
	"thread_id" uuid NOT NULL,
	"author_id" uuid NOT NULL,
	"written_by" text,
	"external_id" text,
	"text" text NOT NULL,
	"at" timestamp (3) with time zone NOT NULL,
	CONSTRAINT "markup_comments_external" UNIQUE("thread_id","external_id")
);
--> statement-breakpoint
CREATE TABLE "markup_editions" (
	"markup_id" uuid NOT NULL,
	"edition" integer NOT NULL,
	"shape" jsonb NOT NULL,
	"style" jsonb DEFAULT '{}'::jsonb NOT NULL,
	"text" text NOT NULL,
	"status" text NOT NULL,
	"assignee_id" uuid,
	"due_on" date,
	"by_id" uuid NOT NULL,
	"written_by" text,
	"at" timestamp (3) with time zone NOT NULL,
	CONSTRAINT "markup_editions_markup_id_edition_pk" PRIMARY KEY("markup_id","edition")
);
--> statement-breakpoint
CREATE TABLE "markup_imports" (
	"job_id" uuid PRIMARY KEY NOT NULL,
	"version_id" uuid NOT NULL,
	"owner_id" uuid NOT NULL,
	"marks" jsonb NOT NULL,
	"places" jsonb NOT NULL,
	"left" integer NOT NULL
);
--> statement-breakpoint
CREATE TABLE "stamps" (
	"id" uuid PRIMARY KEY DEFAULT gen_random_uuid() NOT NULL,
	"project_id" uuid NOT NULL,
	"name" text NOT NULL,
	"text" text NOT NULL,
	"colour" text NOT NULL,
	"picture_sha256" text,
	"width" double precision NOT NULL,
	"height" double precision NOT NULL,
	"role_ids" uuid[] DEFAULT '{}' NOT NULL,
	"edition" integer DEFAULT 1 NOT NULL,
	"created_at" timestamp (3) with time zone NOT NULL,
	CONSTRAINT "stamps_name" UNIQUE("project_id","name")
);
--> statement-breakpoint
ALTER TABLE "markups" ADD COLUMN "thread_id" uuid;--> statement-breakpoint
UPDATE "markups" SET "thread_id" = "id";--> statement-breakpoint
ALTER TABLE "markups" ALTER COLUMN "thread_id" SET NOT NULL;--> statement-breakpoint
ALTER TABLE "markups" ADD COLUMN "carried_from" uuid;--> statement-breakpoint
ALTER TABLE "markups" ADD COLUMN "assignee_id" uuid;--> statement-breakpoint
ALTER TABLE "markups" ADD COLUMN "due_on" date;--> statement-breakpoint
ALTER TABLE "markups" ADD COLUMN "picture_sha256" text;--> statement-breakpoint
ALTER TABLE "markups" ADD COLUMN "written_by" text;--> statement-breakpoint
ALTER TABLE "markups" ADD COLUMN "external_id" text;--> statement-breakpoint
ALTER TABLE "markups" ADD COLUMN "left_at" integer;--> statement-breakpoint
ALTER TABLE "markups" ADD COLUMN "updated_at" timestamp (3) with time zone;--> statement-breakpoint
UPDATE "markups" SET "updated_at" = "created_at";--> statement-breakpoint
ALTER TABLE "markups" ALTER COLUMN "updated_at" SET NOT NULL;--> statement-breakpoint
INSERT INTO "markup_editions" ("markup_id", "edition", "shape", "style", "text", "status", "by_id", "at")
  SELECT "id", "edition", "shape", "style", "text", "status", "author_id", "created_at" FROM "markups" WHERE NOT "draft";--> statement-breakpoint
ALTER TABLE "uploads" ADD COLUMN "purpose" text DEFAULT 'delivery' NOT NULL;--> statement-breakpoint
ALTER TABLE "markup_comments" ADD CONSTRAINT "markup_comments_markup_id_markups_id_fk" FOREIGN KEY ("markup_id") REFERENCES "public"."markups"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "markup_comments" ADD CONSTRAINT "markup_comments_author_id_users_id_fk" FOREIGN KEY ("author_id") REFERENCES "public"."users"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "markup_editions" ADD CONSTRAINT "markup_editions_markup_id_markups_id_fk" FOREIGN KEY ("markup_id") REFERENCES "public"."markups"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "markup_editions" ADD CONSTRAINT "markup_editions_assignee_id_users_id_fk" FOREIGN KEY ("assignee_id") REFERENCES "public"."users"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "markup_editions" ADD CONSTRAINT "markup_editions_by_id_users_id_fk" FOREIGN KEY ("by_id") REFERENCES "public"."users"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "markup_imports" ADD CONSTRAINT "markup_imports_job_id_long_jobs_id_fk" FOREIGN KEY ("job_id") REFERENCES "public"."long_jobs"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "markup_imports" ADD CONSTRAINT "markup_imports_version_id_versions_id_fk" FOREIGN KEY ("version_id") REFERENCES "public"."versions"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "markup_imports" ADD CONSTRAINT "markup_imports_owner_id_users_id_fk" FOREIGN KEY ("owner_id") REFERENCES "public"."users"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "stamps" ADD CONSTRAINT "stamps_project_id_projects_id_fk" FOREIGN KEY ("project_id") REFERENCES "public"."projects"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "markup_comments_thread" ON "markup_comments" USING btree ("thread_id","at");--> statement-breakpoint
ALTER TABLE "markups" ADD CONSTRAINT "markups_carried_from_markups_id_fk" FOREIGN KEY ("carried_from") REFERENCES "public"."markups"("id") ON DELETE set null ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "markups" ADD CONSTRAINT "markups_assignee_id_users_id_fk" FOREIGN KEY ("assignee_id") REFERENCES "public"."users"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "markups_assignee" ON "markups" USING btree ("assignee_id","status");--> statement-breakpoint
ALTER TABLE "markups" ADD CONSTRAINT "markups_thread" UNIQUE("thread_id","version_id");