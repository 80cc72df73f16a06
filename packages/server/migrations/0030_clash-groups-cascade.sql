ALTER TABLE "clashes" DROP CONSTRAINT "clashes_group_id_clash_groups_id_fk";
--> statement-breakpoint
ALTER TABLE "clashes" ADD CONSTRAINT "clashes_group_id_clash_groups_id_fk" FOREIGN KEY ("group_id") REFERENCES "public"."clash_groups"("id") ON DELETE cascade ON UPDATE no action;