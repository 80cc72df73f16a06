ALTER TABLE "issues" ADD COLUMN "markup_id" uuid;--> statement-breakpoint
ALTER TABLE "issues" ADD CONSTRAINT "issues_markup_id_markups_id_fk" FOREIGN KEY ("markup_id") REFERENCES "public"."markups"("id") ON DELETE set null ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "issues_markup" ON "issues" USING btree ("markup_id");