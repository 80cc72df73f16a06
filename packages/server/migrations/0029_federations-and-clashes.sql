CREATE TABLE "clash_groups" (
	"id" uuid PRIMARY KEY DEFAULT gen_random_uuid() NOT NULL,
	"rule_id" uuid NOT NULL,
	"number" integer NOT NULL,
	"name" text NOT NULL,
	CONSTRAINT "clash_groups_number" UNIQUE("rule_id","number")
);
--> statement-breakpoint
CREATE TABLE "clash_pairs" (
	"rule_id" uuid NOT NULL,
	"fingerprint" text NOT NULL,
	"a_version_id" uuid NOT NULL,
	"b_version_id" uuid NOT NULL,
	"clashes" jsonb NOT NULL,
	"at" timestamp (3) with time zone NOT NULL,
	CONSTRAINT "clash_pairs_rule_id_fingerprint_a_version_id_b_version_id_pk" PRIMARY KEY("rule_id","fingerprint","a_version_id","b_version_id")
);
--> statement-breakpoint
CREATE TABLE "clash_rules" (
	"id" uuid PRIMARY KEY DEFAULT gen_random_uuid() NOT NULL,
	"project_id" uuid NOT NULL,
	"federation_id" uuid NOT NULL,
	"name" text NOT NULL,
	"definition" jsonb NOT NULL,
	"last_clash" integer DEFAULT 0 NOT NULL,
	"last_group" integer DEFAULT 0 NOT NULL,
	"last_run" integer DEFAULT 0 NOT NULL,
	"by_id" uuid NOT NULL,
	"at" timestamp (3) with time zone NOT NULL,
	"edition" integer DEFAULT 1 NOT NULL,
	CONSTRAINT "clash_rules_name" UNIQUE("federation_id","name")
);
--> statement-breakpoint
CREATE TABLE "clash_runs" (
	"id" uuid PRIMARY KEY DEFAULT gen_random_uuid() NOT NULL,
	"rule_id" uuid NOT NULL,
	"number" integer NOT NULL,
	"status" text NOT NULL,
	"version_ids" uuid[] DEFAULT '{}' NOT NULL,
	"pairs" integer DEFAULT 0 NOT NULL,
	"done" integer DEFAULT 0 NOT NULL,
	"note" text DEFAULT '' NOT NULL,
	"counts" jsonb,
	"asked_at" timestamp (3) with time zone NOT NULL,
	"ended_at" timestamp (3) with time zone,
	CONSTRAINT "clash_runs_number" UNIQUE("rule_id","number")
);
--> statement-breakpoint
CREATE TABLE "clashes" (
	"id" uuid PRIMARY KEY DEFAULT gen_random_uuid() NOT NULL,
	"rule_id" uuid NOT NULL,
	"number" integer NOT NULL,
	"group_id" uuid NOT NULL,
	"state" text NOT NULL,
	"kind" text NOT NULL,
	"a" jsonb NOT NULL,
	"b" jsonb NOT NULL,
	"a_container_id" uuid NOT NULL,
	"b_container_id" uuid NOT NULL,
	"a_version_id" uuid NOT NULL,
	"b_version_id" uuid NOT NULL,
	"depth" double precision,
	"gap" double precision,
	"at" jsonb NOT NULL,
	"since" timestamp (3) with time zone NOT NULL,
	"gone_at" timestamp (3) with time zone,
	"accepted_by" uuid,
	"accepted_at" timestamp (3) with time zone,
	"accepted_reason" text DEFAULT '' NOT NULL,
	"accepted_until" date,
	"assignee_id" uuid,
	"issue_id" uuid,
	CONSTRAINT "clashes_number" UNIQUE("rule_id","number")
);
--> statement-breakpoint
CREATE TABLE "federation_pins" (
	"federation_id" uuid NOT NULL,
	"container_id" uuid NOT NULL,
	"version_id" uuid NOT NULL,
	CONSTRAINT "federation_pins_federation_id_container_id_pk" PRIMARY KEY("federation_id","container_id")
);
--> statement-breakpoint
CREATE TABLE "federations" (
	"id" uuid PRIMARY KEY DEFAULT gen_random_uuid() NOT NULL,
	"project_id" uuid NOT NULL,
	"name" text NOT NULL,
	"whole" boolean DEFAULT false NOT NULL,
	"folder_id" uuid,
	"by_id" uuid NOT NULL,
	"at" timestamp (3) with time zone NOT NULL,
	"edition" integer DEFAULT 1 NOT NULL
);
--> statement-breakpoint
CREATE TABLE "line_ups" (
	"id" uuid PRIMARY KEY DEFAULT gen_random_uuid() NOT NULL,
	"project_id" uuid NOT NULL,
	"owner_id" uuid NOT NULL,
	"name" text NOT NULL,
	"shared" boolean NOT NULL,
	"models" jsonb NOT NULL,
	"levels" jsonb NOT NULL,
	"hidden" jsonb NOT NULL
);
--> statement-breakpoint
ALTER TABLE "comparisons" ADD COLUMN "rest_stays" boolean DEFAULT false NOT NULL;--> statement-breakpoint
ALTER TABLE "clash_groups" ADD CONSTRAINT "clash_groups_rule_id_clash_rules_id_fk" FOREIGN KEY ("rule_id") REFERENCES "public"."clash_rules"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "clash_pairs" ADD CONSTRAINT "clash_pairs_rule_id_clash_rules_id_fk" FOREIGN KEY ("rule_id") REFERENCES "public"."clash_rules"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "clash_pairs" ADD CONSTRAINT "clash_pairs_a_version_id_versions_id_fk" FOREIGN KEY ("a_version_id") REFERENCES "public"."versions"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "clash_pairs" ADD CONSTRAINT "clash_pairs_b_version_id_versions_id_fk" FOREIGN KEY ("b_version_id") REFERENCES "public"."versions"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "clash_rules" ADD CONSTRAINT "clash_rules_project_id_projects_id_fk" FOREIGN KEY ("project_id") REFERENCES "public"."projects"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "clash_rules" ADD CONSTRAINT "clash_rules_federation_id_federations_id_fk" FOREIGN KEY ("federation_id") REFERENCES "public"."federations"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "clash_rules" ADD CONSTRAINT "clash_rules_by_id_users_id_fk" FOREIGN KEY ("by_id") REFERENCES "public"."users"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "clash_runs" ADD CONSTRAINT "clash_runs_rule_id_clash_rules_id_fk" FOREIGN KEY ("rule_id") REFERENCES "public"."clash_rules"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "clashes" ADD CONSTRAINT "clashes_rule_id_clash_rules_id_fk" FOREIGN KEY ("rule_id") REFERENCES "public"."clash_rules"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "clashes" ADD CONSTRAINT "clashes_group_id_clash_groups_id_fk" FOREIGN KEY ("group_id") REFERENCES "public"."clash_groups"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "clashes" ADD CONSTRAINT "clashes_a_container_id_containers_id_fk" FOREIGN KEY ("a_container_id") REFERENCES "public"."containers"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "clashes" ADD CONSTRAINT "clashes_b_container_id_containers_id_fk" FOREIGN KEY ("b_container_id") REFERENCES "public"."containers"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "clashes" ADD CONSTRAINT "clashes_a_version_id_versions_id_fk" FOREIGN KEY ("a_version_id") REFERENCES "public"."versions"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "clashes" ADD CONSTRAINT "clashes_b_version_id_versions_id_fk" FOREIGN KEY ("b_version_id") REFERENCES "public"."versions"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "clashes" ADD CONSTRAINT "clashes_accepted_by_users_id_fk" FOREIGN KEY ("accepted_by") REFERENCES "public"."users"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "clashes" ADD CONSTRAINT "clashes_assignee_id_users_id_fk" FOREIGN KEY ("assignee_id") REFERENCES "public"."users"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "clashes" ADD CONSTRAINT "clashes_issue_id_issues_id_fk" FOREIGN KEY ("issue_id") REFERENCES "public"."issues"("id") ON DELETE set null ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "federation_pins" ADD CONSTRAINT "federation_pins_federation_id_federations_id_fk" FOREIGN KEY ("federation_id") REFERENCES "public"."federations"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "federation_pins" ADD CONSTRAINT "federation_pins_container_id_containers_id_fk" FOREIGN KEY ("container_id") REFERENCES "public"."containers"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "federation_pins" ADD CONSTRAINT "federation_pins_version_id_versions_id_fk" FOREIGN KEY ("version_id") REFERENCES "public"."versions"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "federations" ADD CONSTRAINT "federations_project_id_projects_id_fk" FOREIGN KEY ("project_id") REFERENCES "public"."projects"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "federations" ADD CONSTRAINT "federations_folder_id_folders_id_fk" FOREIGN KEY ("folder_id") REFERENCES "public"."folders"("id") ON DELETE set null ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "federations" ADD CONSTRAINT "federations_by_id_users_id_fk" FOREIGN KEY ("by_id") REFERENCES "public"."users"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "line_ups" ADD CONSTRAINT "line_ups_project_id_projects_id_fk" FOREIGN KEY ("project_id") REFERENCES "public"."projects"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "line_ups" ADD CONSTRAINT "line_ups_owner_id_users_id_fk" FOREIGN KEY ("owner_id") REFERENCES "public"."users"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "clash_rules_project" ON "clash_rules" USING btree ("project_id");--> statement-breakpoint
CREATE INDEX "clashes_issue" ON "clashes" USING btree ("issue_id");--> statement-breakpoint
CREATE INDEX "clashes_group" ON "clashes" USING btree ("group_id");--> statement-breakpoint
CREATE UNIQUE INDEX "federations_name" ON "federations" USING btree ("project_id","name");--> statement-breakpoint
CREATE UNIQUE INDEX "line_ups_name" ON "line_ups" USING btree ("project_id","owner_id","name");--> statement-breakpoint
CREATE INDEX "line_ups_shared" ON "line_ups" USING btree ("project_id","shared");