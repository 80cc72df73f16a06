CREATE TABLE "changed_elements" (
	"comparison_id" uuid NOT NULL,
	"number" integer NOT NULL,
	"global_id" text NOT NULL,
	"former_id" text,
	"change" jsonb NOT NULL,
	CONSTRAINT "changed_elements_comparison_id_number_pk" PRIMARY KEY("comparison_id","number")
);
--> statement-breakpoint
ALTER TABLE "changed_elements" ADD CONSTRAINT "changed_elements_comparison_id_comparisons_id_fk" FOREIGN KEY ("comparison_id") REFERENCES "public"."comparisons"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "changed_elements_element" ON "changed_elements" USING btree ("global_id","comparison_id");--> statement-breakpoint
CREATE INDEX "changed_elements_former" ON "changed_elements" USING btree ("former_id","comparison_id");