CREATE TABLE "rulebooks" (
	"id" text NOT NULL,
	"version" text NOT NULL,
	"document" jsonb NOT NULL,
	"saved_at" timestamp with time zone DEFAULT now() NOT NULL,
	CONSTRAINT "rulebooks_id_version_pk" PRIMARY KEY("id","version")
);
--> statement-breakpoint
ALTER TABLE "kits" ADD COLUMN "owed" jsonb;