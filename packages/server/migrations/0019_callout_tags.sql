ALTER TABLE "markups" ADD COLUMN "tag" integer;--> statement-breakpoint
ALTER TABLE "projects" ADD COLUMN "callout_numbering" text DEFAULT 'sheet' NOT NULL;--> statement-breakpoint
ALTER TABLE "projects" ADD COLUMN "callout_tag" text DEFAULT 'flag' NOT NULL;