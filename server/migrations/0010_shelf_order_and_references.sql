ALTER TABLE "reels" ADD COLUMN "place" integer;--> statement-breakpoint
ALTER TABLE "references" ADD COLUMN "shipped" boolean DEFAULT false NOT NULL;--> statement-breakpoint
UPDATE "references" SET "shipped" = true WHERE "reel_id" IS NULL;