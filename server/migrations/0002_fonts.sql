CREATE TABLE "fonts" (
	"id" text PRIMARY KEY NOT NULL,
	"name" text NOT NULL,
	"body" "bytea" NOT NULL,
	"characters" text NOT NULL,
	"created_at" timestamp with time zone DEFAULT now() NOT NULL
);
