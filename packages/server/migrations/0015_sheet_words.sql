ALTER TABLE "sheets" ADD COLUMN "text" text DEFAULT '' NOT NULL;--> statement-breakpoint
ALTER TABLE "sheets" ADD COLUMN "words" "tsvector" GENERATED ALWAYS AS (to_tsvector('simple', text)) STORED;--> statement-breakpoint
CREATE INDEX "sheets_words" ON "sheets" USING gin ("words");