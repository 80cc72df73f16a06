ALTER TABLE "entries" ADD COLUMN "shared_sheets" integer;--> statement-breakpoint
UPDATE "entries" e SET "shared_sheets" = (
  SELECT count(*) FROM "sheets" s WHERE s."version_id" = v."id" AND s."number" = ANY (chosen."sheet_numbers"))
FROM "versions" v JOIN "share_sets" chosen ON chosen."id" = v."share_set_id"
WHERE v."id" = e."version_id" AND v."kind" = 'drawing';
