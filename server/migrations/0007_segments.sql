CREATE TABLE "print_segments" (
	"id" uuid PRIMARY KEY DEFAULT gen_random_uuid() NOT NULL,
	"print_id" uuid NOT NULL,
	"position" integer NOT NULL,
	"kind" text NOT NULL,
	"from" integer NOT NULL,
	"to" integer NOT NULL,
	"state" text DEFAULT 'waiting' NOT NULL,
	"worker_id" uuid,
	"job_id" uuid,
	"done" integer DEFAULT 0 NOT NULL,
	"per_second" real DEFAULT 0 NOT NULL,
	"fails" integer DEFAULT 0 NOT NULL,
	"losses" integer DEFAULT 0 NOT NULL,
	"not_before" timestamp with time zone
);
--> statement-breakpoint
CREATE TABLE "workers" (
	"id" uuid PRIMARY KEY NOT NULL,
	"name" text NOT NULL,
	"place" text NOT NULL,
	"pid" integer NOT NULL,
	"engine" text NOT NULL,
	"threads" integer NOT NULL,
	"started_at" timestamp with time zone DEFAULT now() NOT NULL,
	"seen_at" timestamp with time zone DEFAULT now() NOT NULL
);
--> statement-breakpoint
ALTER TABLE "media" ADD COLUMN "worker_id" uuid;--> statement-breakpoint
ALTER TABLE "media" ADD COLUMN "job_id" uuid;--> statement-breakpoint
ALTER TABLE "prints" ADD COLUMN "priority" integer DEFAULT 0 NOT NULL;--> statement-breakpoint
ALTER TABLE "print_segments" ADD CONSTRAINT "print_segments_print_id_prints_id_fk" FOREIGN KEY ("print_id") REFERENCES "public"."prints"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
CREATE UNIQUE INDEX "print_segments_print" ON "print_segments" USING btree ("print_id","position");--> statement-breakpoint
CREATE INDEX "print_segments_state" ON "print_segments" USING btree ("state");