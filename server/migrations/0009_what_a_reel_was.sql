ALTER TABLE "reels" ADD COLUMN "origin" jsonb;--> statement-breakpoint
-- A clip is kept as a whole; of those that were laid before, what was kept of them.
UPDATE "shots" SET "origin" = jsonb_build_object('clip', '{"OTIO_SCHEMA": "Clip.1"}'::jsonb || ("origin" - 'reference') || CASE WHEN "origin" ? 'reference' THEN jsonb_build_object('media_reference', "origin" -> 'reference') ELSE '{}'::jsonb END) WHERE "origin" IS NOT NULL;
