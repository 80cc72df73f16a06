ALTER TABLE "versions" DROP CONSTRAINT "versions_share_set_id_share_sets_id_fk";
--> statement-breakpoint
ALTER TABLE "events" ADD COLUMN "team_id" uuid;--> statement-breakpoint
ALTER TABLE "versions" ADD CONSTRAINT "versions_share_set_id_share_sets_id_fk" FOREIGN KEY ("share_set_id") REFERENCES "public"."share_sets"("id") ON DELETE no action ON UPDATE no action;