DROP INDEX "containers_code";--> statement-breakpoint
ALTER TABLE "containers" ADD COLUMN "removed_at" timestamp (3) with time zone;--> statement-breakpoint
ALTER TABLE "containers" ADD COLUMN "removed_by" uuid;--> statement-breakpoint
ALTER TABLE "containers" ADD COLUMN "removed_reason" text DEFAULT '' NOT NULL;--> statement-breakpoint
ALTER TABLE "containers" ADD CONSTRAINT "containers_removed_by_users_id_fk" FOREIGN KEY ("removed_by") REFERENCES "public"."users"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "containers_removed" ON "containers" USING btree ("project_id","removed_at") WHERE "containers"."removed_at" is not null;--> statement-breakpoint
CREATE UNIQUE INDEX "containers_code" ON "containers" USING btree ("project_id","code") WHERE "containers"."removed_at" is null;