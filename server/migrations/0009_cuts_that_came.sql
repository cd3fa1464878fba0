CREATE TABLE "clips" (
	"shot_id" uuid PRIMARY KEY NOT NULL,
	"origin" jsonb NOT NULL
);
--> statement-breakpoint
CREATE TABLE "cuts" (
	"reel_id" uuid PRIMARY KEY NOT NULL,
	"origin" jsonb NOT NULL
);
--> statement-breakpoint
ALTER TABLE "clips" ADD CONSTRAINT "clips_shot_id_shots_id_fk" FOREIGN KEY ("shot_id") REFERENCES "public"."shots"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "cuts" ADD CONSTRAINT "cuts_reel_id_reels_id_fk" FOREIGN KEY ("reel_id") REFERENCES "public"."reels"("id") ON DELETE cascade ON UPDATE no action;
--> statement-breakpoint
-- A clip is kept as a whole; of those that were laid before, what was kept of them.
INSERT INTO "clips" SELECT "id", jsonb_build_object('clip', '{"OTIO_SCHEMA": "Clip.1"}'::jsonb || ("origin" - 'reference') || CASE WHEN "origin" ? 'reference' THEN jsonb_build_object('media_reference', "origin" -> 'reference') ELSE '{}'::jsonb END) FROM "shots" WHERE "origin" IS NOT NULL;
--> statement-breakpoint
ALTER TABLE "shots" DROP COLUMN "origin";