CREATE TABLE "federation_pictures" (
	"federation_id" uuid PRIMARY KEY NOT NULL,
	"content" text NOT NULL,
	"version_ids" uuid[] NOT NULL,
	"sha256" text,
	"at" timestamp (3) with time zone NOT NULL
);
--> statement-breakpoint
ALTER TABLE "federation_pictures" ADD CONSTRAINT "federation_pictures_federation_id_federations_id_fk" FOREIGN KEY ("federation_id") REFERENCES "public"."federations"("id") ON DELETE cascade ON UPDATE no action;