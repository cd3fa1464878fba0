CREATE TABLE "plates" (
	"id" uuid PRIMARY KEY DEFAULT gen_random_uuid() NOT NULL,
	"media_id" uuid NOT NULL,
	"name" text NOT NULL,
	"shipped_as" text,
	"created_at" timestamp with time zone DEFAULT now() NOT NULL,
	CONSTRAINT "plates_shipped_as_unique" UNIQUE("shipped_as")
);
--> statement-breakpoint
ALTER TABLE "plates" ADD CONSTRAINT "plates_media_id_media_id_fk" FOREIGN KEY ("media_id") REFERENCES "public"."media"("id") ON DELETE no action ON UPDATE no action;