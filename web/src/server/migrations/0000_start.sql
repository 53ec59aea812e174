CREATE TABLE "blobs" (
	"sha" text PRIMARY KEY NOT NULL,
	"bytes" "bytea" NOT NULL,
	"size" integer NOT NULL
);
--> statement-breakpoint
CREATE TABLE "kits" (
	"id" text PRIMARY KEY NOT NULL,
	"name" text NOT NULL,
	"document" jsonb NOT NULL,
	"revision" integer NOT NULL,
	"counts" jsonb,
	"counts_revision" integer,
	"thumbnail" "bytea",
	"thumbnail_revision" integer,
	"created_at" timestamp with time zone DEFAULT now() NOT NULL,
	"changed_at" timestamp with time zone DEFAULT now() NOT NULL,
	"deleted_at" timestamp with time zone
);
--> statement-breakpoint
CREATE TABLE "packages" (
	"id" text PRIMARY KEY NOT NULL,
	"kit" text NOT NULL,
	"revision" integer NOT NULL,
	"rulebook" text NOT NULL,
	"version" text NOT NULL,
	"file_name" text NOT NULL,
	"sha" text NOT NULL,
	"size" integer NOT NULL,
	"manifest" jsonb NOT NULL,
	"bytes" "bytea" NOT NULL,
	"at" timestamp with time zone DEFAULT now() NOT NULL
);
--> statement-breakpoint
CREATE TABLE "revisions" (
	"kit" text NOT NULL,
	"number" integer NOT NULL,
	"document" jsonb NOT NULL,
	"cause" text NOT NULL,
	"at" timestamp with time zone DEFAULT now() NOT NULL,
	CONSTRAINT "revisions_kit_number_pk" PRIMARY KEY("kit","number")
);
--> statement-breakpoint
ALTER TABLE "packages" ADD CONSTRAINT "packages_kit_kits_id_fk" FOREIGN KEY ("kit") REFERENCES "public"."kits"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "revisions" ADD CONSTRAINT "revisions_kit_kits_id_fk" FOREIGN KEY ("kit") REFERENCES "public"."kits"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "packages_kit" ON "packages" USING btree ("kit","at");--> statement-breakpoint
ALTER TABLE "blobs" ALTER COLUMN "bytes" SET STORAGE EXTERNAL;--> statement-breakpoint
ALTER TABLE "packages" ALTER COLUMN "bytes" SET STORAGE EXTERNAL;
