ALTER TABLE "viewpoints" ADD COLUMN "folder" text DEFAULT '' NOT NULL;--> statement-breakpoint
ALTER TABLE "viewpoints" ADD COLUMN "position" integer DEFAULT 0 NOT NULL;--> statement-breakpoint
CREATE INDEX "viewpoints_folder" ON "viewpoints" USING btree ("project_id","folder","position");