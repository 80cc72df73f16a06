ALTER TABLE "users" ADD COLUMN "provider_subject" text;--> statement-breakpoint
ALTER TABLE "users" ADD CONSTRAINT "users_provider_subject_unique" UNIQUE("provider_subject");