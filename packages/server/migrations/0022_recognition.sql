ALTER TABLE "sheets" ADD COLUMN "recognition" text DEFAULT 'none' NOT NULL;--> statement-breakpoint
ALTER TABLE "sheets" ADD COLUMN "proposed" jsonb;--> statement-breakpoint
ALTER TABLE "sheets" ADD COLUMN "recognised_texts" jsonb;