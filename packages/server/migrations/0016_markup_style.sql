ALTER TABLE "markups" ADD COLUMN "style" jsonb DEFAULT '{}'::jsonb NOT NULL;--> statement-breakpoint
ALTER TABLE "markups" ADD COLUMN "metres_per_point" double precision;