ALTER TABLE "shots" ADD COLUMN "sent_with" text;--> statement-breakpoint
ALTER TABLE "shots" ADD COLUMN "sent_place" integer;