CREATE TABLE "long_jobs" (
	"id" uuid PRIMARY KEY DEFAULT gen_random_uuid() NOT NULL,
	"project_id" uuid NOT NULL,
	"owner_id" uuid NOT NULL,
	"kind" text NOT NULL,
	"name" text NOT NULL,
	"path" text NOT NULL,
	"data" jsonb NOT NULL,
	"status" text NOT NULL,
	"progress" double precision DEFAULT 0 NOT NULL,
	"cancel_asked" boolean DEFAULT false NOT NULL,
	"note" text DEFAULT '' NOT NULL,
	"sha256" text,
	"file_name" text,
	"media_type" text,
	"created_at" timestamp (3) with time zone NOT NULL,
	"ended_at" timestamp (3) with time zone
);
--> statement-breakpoint
CREATE TABLE "nodes" (
	"id" uuid PRIMARY KEY NOT NULL,
	"url" text NOT NULL,
	"secret" text NOT NULL,
	"seen_at" timestamp (3) with time zone NOT NULL
);
--> statement-breakpoint
CREATE TABLE "presences" (
	"node_id" uuid NOT NULL,
	"socket_id" text NOT NULL,
	"project_id" uuid NOT NULL,
	"person_id" uuid NOT NULL,
	CONSTRAINT "presences_socket" UNIQUE("node_id","socket_id")
);
--> statement-breakpoint
CREATE TABLE "rate_limits" (
	"key" text PRIMARY KEY NOT NULL,
	"points" integer DEFAULT 0 NOT NULL,
	"expire" bigint
);
--> statement-breakpoint
ALTER TABLE "entries" RENAME COLUMN "contested" TO "conflicting";--> statement-breakpoint
ALTER TABLE "versions" RENAME COLUMN "place" TO "sequence";--> statement-breakpoint
ALTER TABLE "markups" DROP CONSTRAINT "markups_container_id_containers_id_fk";
--> statement-breakpoint
DROP INDEX "markups_container";--> statement-breakpoint
DROP INDEX "entries_waiting";--> statement-breakpoint
ALTER TABLE "users" ALTER COLUMN "email" DROP NOT NULL;--> statement-breakpoint
ALTER TABLE "users" ADD COLUMN "guest" boolean DEFAULT false NOT NULL;--> statement-breakpoint
ALTER TABLE "events" ADD COLUMN "system" text;--> statement-breakpoint
ALTER TABLE "presences" ADD CONSTRAINT "presences_node_id_nodes_id_fk" FOREIGN KEY ("node_id") REFERENCES "public"."nodes"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "long_jobs_owner" ON "long_jobs" USING btree ("owner_id","created_at");--> statement-breakpoint
CREATE INDEX "presences_project" ON "presences" USING btree ("project_id");--> statement-breakpoint
CREATE INDEX "entries_waiting" ON "entries" USING btree ("project_id") WHERE "entries"."at_intake" or "entries"."conflicting" > 0;--> statement-breakpoint
ALTER TABLE "markups" DROP COLUMN "container_id";--> statement-breakpoint
ALTER TABLE "versions" ALTER COLUMN "sequence" SET DEFAULT 'in sequence';--> statement-breakpoint
UPDATE "versions" SET "sequence" = CASE "sequence" WHEN 'in line' THEN 'in sequence' WHEN 'contested' THEN 'conflicting' ELSE "sequence" END
WHERE "sequence" IN ('in line', 'contested');--> statement-breakpoint
UPDATE "register_views" SET "definition" = replace("definition"::text, '"contested"', '"conflicting"')::jsonb
WHERE "definition"::text LIKE '%"contested"%';--> statement-breakpoint
UPDATE "events" SET "verb" = 'delivered' WHERE "verb" ~ '^version \d+ delivered$';--> statement-breakpoint
UPDATE "events" SET "verb" = 'delivered in conflict' WHERE "verb" ~ '^version \d+ delivered beside the line$';--> statement-breakpoint
UPDATE "events" SET "after" = "after" || jsonb_build_object('restores', substring("verb" from '\d+')::int), "verb" = 'made current again'
WHERE "verb" ~ '^version \d+ made current again$';--> statement-breakpoint
UPDATE "events" SET "after" = "after" || jsonb_build_object('decided', substring("verb" from '\d+')::int), "verb" = regexp_replace("verb", ' \d+', '')
WHERE "verb" ~ '^version \d+ (taken|set aside)$';--> statement-breakpoint
UPDATE "events" SET "verb" = 'files downloaded' WHERE "verb" ~ '^\d+ files downloaded$';--> statement-breakpoint
UPDATE "events" SET "verb" = 'edition made' WHERE "verb" ~ '^edition \d+ made$';--> statement-breakpoint
UPDATE "events" SET "system" = 'preparation' WHERE "actor_id" IS NULL AND "verb" LIKE 'preparation %';--> statement-breakpoint
UPDATE "events" e SET "subject_id" = v."id"::text FROM "versions" v
WHERE e."subject_type" = 'version' AND v."container_id"::text = e."subject_id" AND v."number" = ("e"."after" ->> 'version')::int;
