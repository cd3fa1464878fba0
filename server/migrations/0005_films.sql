CREATE TABLE "print_parts" (
	"id" uuid PRIMARY KEY DEFAULT gen_random_uuid() NOT NULL,
	"print_id" uuid NOT NULL,
	"position" integer NOT NULL,
	"media_id" uuid NOT NULL,
	"look" jsonb NOT NULL,
	"preparation" jsonb DEFAULT '{}'::jsonb NOT NULL
);
--> statement-breakpoint
ALTER TABLE "prints" ADD COLUMN "shots" integer DEFAULT 1 NOT NULL;--> statement-breakpoint
ALTER TABLE "print_parts" ADD CONSTRAINT "print_parts_print_id_prints_id_fk" FOREIGN KEY ("print_id") REFERENCES "public"."prints"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "print_parts" ADD CONSTRAINT "print_parts_media_id_media_id_fk" FOREIGN KEY ("media_id") REFERENCES "public"."media"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "print_parts_print" ON "print_parts" USING btree ("print_id","position");