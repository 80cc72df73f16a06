CREATE TABLE "failed_sign_ins" (
	"key" text PRIMARY KEY NOT NULL,
	"failures" integer NOT NULL,
	"last_at" timestamp (3) with time zone NOT NULL
);
--> statement-breakpoint
CREATE TABLE "mail_keys" (
	"hash" text PRIMARY KEY NOT NULL,
	"user_id" uuid NOT NULL,
	"purpose" text NOT NULL,
	"project_id" uuid,
	"expires_at" timestamp (3) with time zone NOT NULL
);
--> statement-breakpoint
ALTER TABLE "sessions" ADD COLUMN "created_at" timestamp (3) with time zone DEFAULT now() NOT NULL;--> statement-breakpoint
ALTER TABLE "sessions" ADD COLUMN "last_used_at" timestamp (3) with time zone DEFAULT now() NOT NULL;--> statement-breakpoint
ALTER TABLE "sessions" ADD COLUMN "device" text DEFAULT '' NOT NULL;--> statement-breakpoint
ALTER TABLE "users" ADD COLUMN "second_factor_secret" text;--> statement-breakpoint
ALTER TABLE "users" ADD COLUMN "second_factor_on" boolean DEFAULT false NOT NULL;--> statement-breakpoint
ALTER TABLE "users" ADD COLUMN "second_factor_step" integer DEFAULT 0 NOT NULL;--> statement-breakpoint
ALTER TABLE "users" ADD COLUMN "recovery_hashes" text[] DEFAULT '{}' NOT NULL;--> statement-breakpoint
ALTER TABLE "mail_keys" ADD CONSTRAINT "mail_keys_user_id_users_id_fk" FOREIGN KEY ("user_id") REFERENCES "public"."users"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "mail_keys_user" ON "mail_keys" USING btree ("user_id");--> statement-breakpoint
CREATE INDEX "versions_on_their_way" ON "versions" USING btree ("id") WHERE "versions"."preparation" in ('received', 'checking', 'preparing');--> statement-breakpoint
INSERT INTO "mail_keys" ("hash", "user_id", "purpose", "expires_at") SELECT "invitation_hash", "id", 'invitation', now() + interval '14 days' FROM "users" WHERE "invitation_hash" IS NOT NULL;--> statement-breakpoint
ALTER TABLE "users" DROP COLUMN "invitation_hash";