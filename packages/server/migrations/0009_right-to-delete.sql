-- Whoever managed the register could remove folders and files at the intake: that is a right of its own now.
UPDATE "roles" SET "grid" = jsonb_set("grid", '{register}', ("grid" -> 'register') || '["delete"]')
WHERE "grid" -> 'register' ? 'manage' AND NOT "grid" -> 'register' ? 'delete';--> statement-breakpoint
-- Whoever could manage issues could change them.
UPDATE "roles" SET "grid" = jsonb_set("grid", '{issues}', ("grid" -> 'issues') || '["change"]')
WHERE "grid" -> 'issues' ? 'manage' AND NOT "grid" -> 'issues' ? 'change';
