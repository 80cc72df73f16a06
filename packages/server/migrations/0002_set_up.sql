CREATE TABLE "convention_editions" (
	"convention_id" uuid NOT NULL,
	"edition" integer NOT NULL,
	"definition" jsonb NOT NULL,
	"reason" text DEFAULT '' NOT NULL,
	"author_id" uuid,
	"at" timestamp (3) with time zone NOT NULL,
	CONSTRAINT "convention_editions_convention_id_edition_pk" PRIMARY KEY("convention_id","edition")
);
--> statement-breakpoint
CREATE TABLE "naming_schemes" (
	"project_id" uuid PRIMARY KEY NOT NULL,
	"statuses" jsonb NOT NULL,
	"revisions" jsonb NOT NULL,
	"classifications" jsonb NOT NULL,
	"edition" integer DEFAULT 1 NOT NULL
);
--> statement-breakpoint
CREATE TABLE "templates" (
	"id" uuid PRIMARY KEY DEFAULT gen_random_uuid() NOT NULL,
	"name" text NOT NULL,
	"description" text DEFAULT '' NOT NULL,
	"content" jsonb NOT NULL,
	"owner_id" uuid NOT NULL,
	"for_all" boolean DEFAULT false NOT NULL,
	"created_at" timestamp (3) with time zone NOT NULL
);
--> statement-breakpoint
CREATE TABLE "folder_permissions" (
	"folder_id" uuid NOT NULL,
	"subject" text NOT NULL,
	"subject_id" uuid NOT NULL,
	"level" text NOT NULL,
	CONSTRAINT "folder_permissions_folder_id_subject_subject_id_pk" PRIMARY KEY("folder_id","subject","subject_id")
);
--> statement-breakpoint
ALTER TABLE "conventions" DROP CONSTRAINT "conventions_project";--> statement-breakpoint
ALTER TABLE "folders" DROP CONSTRAINT "folders_path";--> statement-breakpoint
ALTER TABLE "conventions" ADD COLUMN "is_default" boolean DEFAULT false NOT NULL;--> statement-breakpoint
ALTER TABLE "members" ADD COLUMN "work_areas" jsonb;--> statement-breakpoint
ALTER TABLE "members" ADD COLUMN "left_at" timestamp (3) with time zone;--> statement-breakpoint
ALTER TABLE "roles" ADD COLUMN "edition" integer DEFAULT 1 NOT NULL;--> statement-breakpoint
ALTER TABLE "teams" ADD COLUMN "lead_id" uuid;--> statement-breakpoint
ALTER TABLE "teams" ADD COLUMN "home_folder_id" uuid;--> statement-breakpoint
ALTER TABLE "projects" ADD COLUMN "latitude" double precision;--> statement-breakpoint
ALTER TABLE "projects" ADD COLUMN "longitude" double precision;--> statement-breakpoint
ALTER TABLE "projects" ADD COLUMN "value" double precision;--> statement-breakpoint
ALTER TABLE "projects" ADD COLUMN "currency" text DEFAULT 'EUR' NOT NULL;--> statement-breakpoint
ALTER TABLE "projects" ADD COLUMN "units" text DEFAULT 'metric' NOT NULL;--> statement-breakpoint
ALTER TABLE "projects" ADD COLUMN "inch_fraction" integer DEFAULT 16 NOT NULL;--> statement-breakpoint
ALTER TABLE "projects" ADD COLUMN "easting" double precision;--> statement-breakpoint
ALTER TABLE "projects" ADD COLUMN "northing" double precision;--> statement-breakpoint
ALTER TABLE "projects" ADD COLUMN "height" double precision;--> statement-breakpoint
ALTER TABLE "projects" ADD COLUMN "true_north" double precision;--> statement-breakpoint
ALTER TABLE "folders" ADD COLUMN "convention_id" uuid;--> statement-breakpoint
ALTER TABLE "folders" ADD COLUMN "first" integer DEFAULT 0 NOT NULL;--> statement-breakpoint
ALTER TABLE "folders" ADD COLUMN "last" integer DEFAULT 0 NOT NULL;--> statement-breakpoint
ALTER TABLE "folders" ADD COLUMN "edition" integer DEFAULT 1 NOT NULL;--> statement-breakpoint
ALTER TABLE "convention_editions" ADD CONSTRAINT "convention_editions_convention_id_conventions_id_fk" FOREIGN KEY ("convention_id") REFERENCES "public"."conventions"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "convention_editions" ADD CONSTRAINT "convention_editions_author_id_users_id_fk" FOREIGN KEY ("author_id") REFERENCES "public"."users"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "naming_schemes" ADD CONSTRAINT "naming_schemes_project_id_projects_id_fk" FOREIGN KEY ("project_id") REFERENCES "public"."projects"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "templates" ADD CONSTRAINT "templates_owner_id_users_id_fk" FOREIGN KEY ("owner_id") REFERENCES "public"."users"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "folder_permissions" ADD CONSTRAINT "folder_permissions_folder_id_folders_id_fk" FOREIGN KEY ("folder_id") REFERENCES "public"."folders"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "folder_permissions_subject" ON "folder_permissions" USING btree ("subject_id");--> statement-breakpoint
ALTER TABLE "teams" ADD CONSTRAINT "teams_lead_id_users_id_fk" FOREIGN KEY ("lead_id") REFERENCES "public"."users"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "folders" ADD CONSTRAINT "folders_convention_id_conventions_id_fk" FOREIGN KEY ("convention_id") REFERENCES "public"."conventions"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
-- Existing projects keep what they have: their convention becomes the first, their codes a scheme, their tree is numbered.
UPDATE "conventions" SET "is_default" = true;--> statement-breakpoint
INSERT INTO "convention_editions" ("convention_id", "edition", "definition", "reason", "at")
  SELECT "id", "edition", "definition", 'As it was', now() FROM "conventions";--> statement-breakpoint
INSERT INTO "naming_schemes" ("project_id", "statuses", "revisions", "classifications")
  SELECT "project_id", "statuses", '{"name":"Preliminary, then contractual","series":[{"prefix":"P","kind":"numbers","digits":2,"minor":true,"meaning":"Preliminary"},{"prefix":"C","kind":"numbers","digits":2,"minor":false,"meaning":"Contractual"}]}'::jsonb, "classifications" FROM "conventions";--> statement-breakpoint
WITH RECURSIVE "tree" AS (
  SELECT "id", "project_id", ARRAY[lower("name"), "id"::text] AS "names" FROM "folders" WHERE "parent_id" IS NULL
  UNION ALL
  SELECT f."id", f."project_id", t."names" || ARRAY[lower(f."name"), f."id"::text] FROM "folders" f JOIN "tree" t ON f."parent_id" = t."id"
), "numbered" AS (
  SELECT "id", "project_id", "names", row_number() OVER (PARTITION BY "project_id" ORDER BY "names") AS "first" FROM "tree"
)
UPDATE "folders" f SET "first" = n."first", "last" = (
  SELECT max(b."first") FROM "numbered" b WHERE b."project_id" = n."project_id" AND b."names"[1:cardinality(n."names")] = n."names"
) FROM "numbered" n WHERE n."id" = f."id";--> statement-breakpoint
CREATE UNIQUE INDEX "conventions_default" ON "conventions" USING btree ("project_id") WHERE "conventions"."is_default";--> statement-breakpoint
CREATE UNIQUE INDEX "conventions_name" ON "conventions" USING btree ("project_id",lower("definition"->>'name'));--> statement-breakpoint
CREATE UNIQUE INDEX "folders_name" ON "folders" USING btree ("project_id",coalesce("parent_id", '00000000-0000-0000-0000-000000000000'::uuid),lower("name"));--> statement-breakpoint
CREATE INDEX "folders_first" ON "folders" USING btree ("project_id","first");--> statement-breakpoint
ALTER TABLE "conventions" DROP COLUMN "statuses";--> statement-breakpoint
ALTER TABLE "conventions" DROP COLUMN "classifications";