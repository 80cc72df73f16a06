CREATE TABLE "mail_choices" (
	"user_id" uuid PRIMARY KEY NOT NULL,
	"choices" jsonb NOT NULL
);
--> statement-breakpoint
CREATE TABLE "waiting_letters" (
	"id" bigserial PRIMARY KEY NOT NULL,
	"user_id" uuid NOT NULL,
	"text" text NOT NULL,
	"link" text NOT NULL,
	"at" timestamp (3) with time zone NOT NULL
);
--> statement-breakpoint
CREATE TABLE "deliveries" (
	"id" uuid PRIMARY KEY DEFAULT gen_random_uuid() NOT NULL,
	"project_id" uuid NOT NULL,
	"folder_id" uuid NOT NULL,
	"team_id" uuid,
	"delivered_by" uuid NOT NULL,
	"source" text NOT NULL,
	"at" timestamp (3) with time zone NOT NULL
);
--> statement-breakpoint
CREATE TABLE "entries" (
	"container_id" uuid NOT NULL,
	"audience" text NOT NULL,
	"project_id" uuid NOT NULL,
	"folder_id" uuid NOT NULL,
	"team_id" uuid,
	"code" text NOT NULL,
	"fields" jsonb NOT NULL,
	"at_intake" boolean NOT NULL,
	"reserved_by" uuid,
	"reserved_at" timestamp (3) with time zone,
	"contested" integer NOT NULL,
	"version_id" uuid NOT NULL,
	"version_number" integer NOT NULL,
	"state" text NOT NULL,
	"kind" text NOT NULL,
	"file_name" text NOT NULL,
	"title" text DEFAULT '' NOT NULL,
	"status" text DEFAULT '' NOT NULL,
	"revision" text DEFAULT '' NOT NULL,
	"classification" text DEFAULT '' NOT NULL,
	"description" text DEFAULT '' NOT NULL,
	"preparation" text NOT NULL,
	"preparation_note" text NOT NULL,
	"sheets" integer NOT NULL,
	"size" bigint NOT NULL,
	"delivered_at" timestamp (3) with time zone NOT NULL,
	"delivered_by" uuid NOT NULL,
	"words" "tsvector" GENERATED ALWAYS AS (to_tsvector('simple', regexp_replace(code, '[-_.]', ' ', 'g') || ' ' || title || ' ' || description)) STORED,
	CONSTRAINT "entries_container_id_audience_pk" PRIMARY KEY("container_id","audience")
);
--> statement-breakpoint
CREATE TABLE "project_gates" (
	"project_id" uuid PRIMARY KEY NOT NULL,
	"gates" jsonb NOT NULL,
	"edition" integer DEFAULT 1 NOT NULL
);
--> statement-breakpoint
CREATE TABLE "register_views" (
	"id" uuid PRIMARY KEY DEFAULT gen_random_uuid() NOT NULL,
	"project_id" uuid NOT NULL,
	"owner_id" uuid NOT NULL,
	"name" text NOT NULL,
	"for_all" boolean DEFAULT false NOT NULL,
	"definition" jsonb NOT NULL,
	"edition" integer DEFAULT 1 NOT NULL
);
--> statement-breakpoint
CREATE TABLE "share_sets" (
	"id" uuid PRIMARY KEY DEFAULT gen_random_uuid() NOT NULL,
	"project_id" uuid NOT NULL,
	"team_id" uuid NOT NULL,
	"name" text NOT NULL,
	"sheet_numbers" text[] NOT NULL,
	"viewpoint_ids" uuid[] NOT NULL,
	"edition" integer DEFAULT 1 NOT NULL
);
--> statement-breakpoint
CREATE TABLE "uses" (
	"team_id" uuid NOT NULL,
	"container_id" uuid NOT NULL,
	"version_number" integer NOT NULL,
	"how" text NOT NULL,
	"by" uuid NOT NULL,
	"at" timestamp (3) with time zone NOT NULL,
	CONSTRAINT "uses_team_id_container_id_pk" PRIMARY KEY("team_id","container_id")
);
--> statement-breakpoint
ALTER TABLE "containers" DROP CONSTRAINT "containers_delivered_by_users_id_fk";
--> statement-breakpoint
DROP INDEX "containers_by_code";--> statement-breakpoint
DROP INDEX "containers_by_date";--> statement-breakpoint
DROP INDEX "containers_by_title";--> statement-breakpoint
DROP INDEX "containers_by_folder";--> statement-breakpoint
DROP INDEX "containers_by_status";--> statement-breakpoint
DROP INDEX "containers_by_revision";--> statement-breakpoint
DROP INDEX "containers_words";--> statement-breakpoint
DROP INDEX "containers_trigrams";--> statement-breakpoint
ALTER TABLE "sheets" ADD COLUMN "number" text DEFAULT '' NOT NULL;--> statement-breakpoint
ALTER TABLE "sheets" ADD COLUMN "title" text DEFAULT '' NOT NULL;--> statement-breakpoint
ALTER TABLE "sheets" ADD COLUMN "revision" text DEFAULT '' NOT NULL;--> statement-breakpoint
ALTER TABLE "sheets" ADD COLUMN "status" text DEFAULT '' NOT NULL;--> statement-breakpoint
ALTER TABLE "sheets" ADD COLUMN "scale" text DEFAULT '' NOT NULL;--> statement-breakpoint
ALTER TABLE "sheets" ADD COLUMN "date" text DEFAULT '' NOT NULL;--> statement-breakpoint
ALTER TABLE "sheets" ADD COLUMN "confirmed" boolean DEFAULT false NOT NULL;--> statement-breakpoint
ALTER TABLE "containers" ADD COLUMN "fields" jsonb DEFAULT '{}'::jsonb NOT NULL;--> statement-breakpoint
ALTER TABLE "containers" ADD COLUMN "last_number" integer DEFAULT 0 NOT NULL;--> statement-breakpoint
ALTER TABLE "containers" ADD COLUMN "reserved_by" uuid;--> statement-breakpoint
ALTER TABLE "containers" ADD COLUMN "reserved_at" timestamp (3) with time zone;--> statement-breakpoint
ALTER TABLE "versions" ADD COLUMN "state" text DEFAULT 'shared' NOT NULL;--> statement-breakpoint
ALTER TABLE "versions" ADD COLUMN "place" text DEFAULT 'in line' NOT NULL;--> statement-breakpoint
ALTER TABLE "versions" ADD COLUMN "restores" integer;--> statement-breakpoint
ALTER TABLE "versions" ADD COLUMN "delivery_id" uuid;--> statement-breakpoint
ALTER TABLE "versions" ADD COLUMN "conformed" boolean DEFAULT true NOT NULL;--> statement-breakpoint
ALTER TABLE "versions" ADD COLUMN "share_set_id" uuid;--> statement-breakpoint
ALTER TABLE "versions" ADD COLUMN "sheets" integer DEFAULT 0 NOT NULL;--> statement-breakpoint
ALTER TABLE "mail_choices" ADD CONSTRAINT "mail_choices_user_id_users_id_fk" FOREIGN KEY ("user_id") REFERENCES "public"."users"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "waiting_letters" ADD CONSTRAINT "waiting_letters_user_id_users_id_fk" FOREIGN KEY ("user_id") REFERENCES "public"."users"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "deliveries" ADD CONSTRAINT "deliveries_project_id_projects_id_fk" FOREIGN KEY ("project_id") REFERENCES "public"."projects"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "deliveries" ADD CONSTRAINT "deliveries_folder_id_folders_id_fk" FOREIGN KEY ("folder_id") REFERENCES "public"."folders"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "deliveries" ADD CONSTRAINT "deliveries_team_id_teams_id_fk" FOREIGN KEY ("team_id") REFERENCES "public"."teams"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "deliveries" ADD CONSTRAINT "deliveries_delivered_by_users_id_fk" FOREIGN KEY ("delivered_by") REFERENCES "public"."users"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "entries" ADD CONSTRAINT "entries_container_id_containers_id_fk" FOREIGN KEY ("container_id") REFERENCES "public"."containers"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "entries" ADD CONSTRAINT "entries_project_id_projects_id_fk" FOREIGN KEY ("project_id") REFERENCES "public"."projects"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "project_gates" ADD CONSTRAINT "project_gates_project_id_projects_id_fk" FOREIGN KEY ("project_id") REFERENCES "public"."projects"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "register_views" ADD CONSTRAINT "register_views_project_id_projects_id_fk" FOREIGN KEY ("project_id") REFERENCES "public"."projects"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "register_views" ADD CONSTRAINT "register_views_owner_id_users_id_fk" FOREIGN KEY ("owner_id") REFERENCES "public"."users"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "share_sets" ADD CONSTRAINT "share_sets_project_id_projects_id_fk" FOREIGN KEY ("project_id") REFERENCES "public"."projects"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "share_sets" ADD CONSTRAINT "share_sets_team_id_teams_id_fk" FOREIGN KEY ("team_id") REFERENCES "public"."teams"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "uses" ADD CONSTRAINT "uses_team_id_teams_id_fk" FOREIGN KEY ("team_id") REFERENCES "public"."teams"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "uses" ADD CONSTRAINT "uses_container_id_containers_id_fk" FOREIGN KEY ("container_id") REFERENCES "public"."containers"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "uses" ADD CONSTRAINT "uses_by_users_id_fk" FOREIGN KEY ("by") REFERENCES "public"."users"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "waiting_letters_user" ON "waiting_letters" USING btree ("user_id","id");--> statement-breakpoint
CREATE INDEX "deliveries_project" ON "deliveries" USING btree ("project_id","at");--> statement-breakpoint
CREATE INDEX "entries_version" ON "entries" USING btree ("version_id");--> statement-breakpoint
CREATE INDEX "entries_by_code" ON "entries" USING btree ("project_id","code");--> statement-breakpoint
CREATE INDEX "entries_by_title" ON "entries" USING btree ("project_id","title","code");--> statement-breakpoint
CREATE INDEX "entries_by_date" ON "entries" USING btree ("project_id","delivered_at","code");--> statement-breakpoint
CREATE INDEX "entries_by_status" ON "entries" USING btree ("project_id","status","code");--> statement-breakpoint
CREATE INDEX "entries_by_revision" ON "entries" USING btree ("project_id","revision","code");--> statement-breakpoint
CREATE INDEX "entries_by_state" ON "entries" USING btree ("project_id","state","code");--> statement-breakpoint
CREATE INDEX "entries_by_kind" ON "entries" USING btree ("project_id","kind","code");--> statement-breakpoint
CREATE INDEX "entries_by_classification" ON "entries" USING btree ("project_id","classification","code");--> statement-breakpoint
CREATE INDEX "entries_by_team" ON "entries" USING btree ("project_id","team_id","code");--> statement-breakpoint
CREATE INDEX "entries_by_folder" ON "entries" USING btree ("folder_id","code");--> statement-breakpoint
CREATE INDEX "entries_fields" ON "entries" USING gin ("fields" jsonb_path_ops);--> statement-breakpoint
CREATE INDEX "entries_waiting" ON "entries" USING btree ("project_id") WHERE "entries"."at_intake" or "entries"."contested" > 0;--> statement-breakpoint
CREATE INDEX "entries_words" ON "entries" USING gin ("words");--> statement-breakpoint
CREATE INDEX "entries_trigrams" ON "entries" USING gin ((code || ' ' || title) gin_trgm_ops);--> statement-breakpoint
CREATE UNIQUE INDEX "register_views_name" ON "register_views" USING btree ("project_id","owner_id",lower("name"));--> statement-breakpoint
CREATE UNIQUE INDEX "share_sets_name" ON "share_sets" USING btree ("project_id","team_id",lower("name"));--> statement-breakpoint
CREATE INDEX "uses_container" ON "uses" USING btree ("container_id");--> statement-breakpoint
ALTER TABLE "containers" ADD CONSTRAINT "containers_reserved_by_users_id_fk" FOREIGN KEY ("reserved_by") REFERENCES "public"."users"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "versions" ADD CONSTRAINT "versions_delivery_id_deliveries_id_fk" FOREIGN KEY ("delivery_id") REFERENCES "public"."deliveries"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "versions" ADD CONSTRAINT "versions_share_set_id_share_sets_id_fk" FOREIGN KEY ("share_set_id") REFERENCES "public"."share_sets"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "sheets_number" ON "sheets" USING btree ("number");--> statement-breakpoint
CREATE INDEX "containers_folder" ON "containers" USING btree ("folder_id");--> statement-breakpoint
CREATE INDEX "products_sha256" ON "products" USING btree ("sha256");--> statement-breakpoint
CREATE INDEX "versions_sha256" ON "versions" USING btree ("sha256");--> statement-breakpoint
CREATE INDEX "versions_delivery" ON "versions" USING btree ("delivery_id");--> statement-breakpoint
CREATE INDEX "versions_project" ON "versions" USING btree ("project_id","delivered_at");--> statement-breakpoint
-- States belong to versions from now on: every version keeps the one that its container had, and the register's entries are made from them.
UPDATE "versions" v SET "state" = c."state", "sheets" = CASE WHEN v."id" = c."version_id" THEN c."sheets" ELSE 0 END
  FROM "containers" c WHERE c."id" = v."container_id";--> statement-breakpoint
ALTER TABLE "versions" ALTER COLUMN "state" DROP DEFAULT;--> statement-breakpoint
UPDATE "containers" c SET "last_number" = c."version_number", "fields" = coalesce((
  SELECT jsonb_object_agg(f.value ->> 'name', part.value)
    FROM "conventions" n, jsonb_array_elements(n."definition" -> 'fields') WITH ORDINALITY f(value, i)
    JOIN unnest(string_to_array(c."code", n."definition" ->> 'separator')) WITH ORDINALITY part(value, i) USING (i)
   WHERE n."project_id" = c."project_id" AND n."is_default"
     AND cardinality(string_to_array(c."code", n."definition" ->> 'separator')) = jsonb_array_length(n."definition" -> 'fields')), '{}');--> statement-breakpoint
INSERT INTO "entries" ("container_id", "audience", "project_id", "folder_id", "team_id", "code", "fields", "at_intake", "contested", "version_id", "version_number",
  "state", "kind", "file_name", "title", "status", "revision", "classification", "description", "preparation", "preparation_note", "sheets", "size", "delivered_at", "delivered_by")
  SELECT c."id", CASE WHEN c."state" = 'work in progress' AND c."team_id" IS NOT NULL THEN 'team' ELSE 'all' END, c."project_id", c."folder_id", c."team_id", c."code", c."fields",
    c."at_intake", 0, c."version_id", c."version_number", c."state", c."kind", c."file_name", c."title", c."status", c."revision", c."classification", c."description",
    c."preparation", c."preparation_note", c."sheets", c."size", c."delivered_at", c."delivered_by" FROM "containers" c;--> statement-breakpoint
ALTER TABLE "containers" DROP COLUMN "words";--> statement-breakpoint
ALTER TABLE "containers" DROP COLUMN "title";--> statement-breakpoint
ALTER TABLE "containers" DROP COLUMN "kind";--> statement-breakpoint
ALTER TABLE "containers" DROP COLUMN "state";--> statement-breakpoint
ALTER TABLE "containers" DROP COLUMN "version_id";--> statement-breakpoint
ALTER TABLE "containers" DROP COLUMN "version_number";--> statement-breakpoint
ALTER TABLE "containers" DROP COLUMN "file_name";--> statement-breakpoint
ALTER TABLE "containers" DROP COLUMN "status";--> statement-breakpoint
ALTER TABLE "containers" DROP COLUMN "revision";--> statement-breakpoint
ALTER TABLE "containers" DROP COLUMN "classification";--> statement-breakpoint
ALTER TABLE "containers" DROP COLUMN "description";--> statement-breakpoint
ALTER TABLE "containers" DROP COLUMN "preparation";--> statement-breakpoint
ALTER TABLE "containers" DROP COLUMN "preparation_note";--> statement-breakpoint
ALTER TABLE "containers" DROP COLUMN "sheets";--> statement-breakpoint
ALTER TABLE "containers" DROP COLUMN "size";--> statement-breakpoint
ALTER TABLE "containers" DROP COLUMN "delivered_at";--> statement-breakpoint
ALTER TABLE "containers" DROP COLUMN "delivered_by";