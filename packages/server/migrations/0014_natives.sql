CREATE TABLE "natives" (
	"id" uuid PRIMARY KEY DEFAULT gen_random_uuid() NOT NULL,
	"version_id" uuid NOT NULL,
	"file_name" text NOT NULL,
	"media_type" text NOT NULL,
	"size" bigint NOT NULL,
	"sha256" text NOT NULL
);
--> statement-breakpoint
ALTER TABLE "natives" ADD CONSTRAINT "natives_version_id_versions_id_fk" FOREIGN KEY ("version_id") REFERENCES "public"."versions"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "natives_version" ON "natives" USING btree ("version_id");--> statement-breakpoint
CREATE INDEX "natives_sha256" ON "natives" USING btree ("sha256");