CREATE TABLE "program_codes" (
	"hash" text PRIMARY KEY NOT NULL,
	"program_id" uuid NOT NULL,
	"user_id" uuid NOT NULL,
	"redirect_uri" text NOT NULL,
	"challenge" text,
	"expires_at" timestamp (3) with time zone NOT NULL
);
--> statement-breakpoint
CREATE TABLE "programs" (
	"id" uuid PRIMARY KEY DEFAULT gen_random_uuid() NOT NULL,
	"name" text NOT NULL,
	"secret_hash" text NOT NULL,
	"redirect_uris" text[] NOT NULL,
	"created_at" timestamp (3) with time zone NOT NULL
);
--> statement-breakpoint
ALTER TABLE "tokens" ADD COLUMN "program_id" uuid;--> statement-breakpoint
ALTER TABLE "tokens" ADD COLUMN "expires_at" timestamp (3) with time zone;--> statement-breakpoint
ALTER TABLE "tokens" ADD COLUMN "refresh_hash" text;--> statement-breakpoint
ALTER TABLE "tokens" ADD COLUMN "refresh_until" timestamp (3) with time zone;--> statement-breakpoint
ALTER TABLE "program_codes" ADD CONSTRAINT "program_codes_program_id_programs_id_fk" FOREIGN KEY ("program_id") REFERENCES "public"."programs"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "program_codes" ADD CONSTRAINT "program_codes_user_id_users_id_fk" FOREIGN KEY ("user_id") REFERENCES "public"."users"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "tokens" ADD CONSTRAINT "tokens_program_id_programs_id_fk" FOREIGN KEY ("program_id") REFERENCES "public"."programs"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "tokens_program" ON "tokens" USING btree ("program_id");--> statement-breakpoint
ALTER TABLE "tokens" ADD CONSTRAINT "tokens_refresh_hash_unique" UNIQUE("refresh_hash");