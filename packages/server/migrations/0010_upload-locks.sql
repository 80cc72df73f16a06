CREATE TABLE "upload_locks" (
	"id" text PRIMARY KEY NOT NULL,
	"holder" uuid NOT NULL,
	"until" timestamp (3) with time zone NOT NULL,
	"asked" boolean DEFAULT false NOT NULL
);
