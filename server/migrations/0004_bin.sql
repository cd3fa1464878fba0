ALTER TABLE "reels" ADD COLUMN "discarded_at" timestamp with time zone;--> statement-breakpoint
ALTER TABLE "shots" ADD COLUMN "discarded_at" timestamp with time zone;