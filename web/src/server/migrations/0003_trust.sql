CREATE TABLE "blob_uses" (
	"kit" text NOT NULL,
	"sha" text NOT NULL,
	"first" integer NOT NULL,
	"last" integer,
	CONSTRAINT "blob_uses_kit_sha_first_pk" PRIMARY KEY("kit","sha","first")
);
--> statement-breakpoint
CREATE TABLE "settings" (
	"name" text PRIMARY KEY NOT NULL,
	"value" jsonb NOT NULL
);
--> statement-breakpoint
CREATE TABLE "windows" (
	"kit" text NOT NULL,
	"window" text NOT NULL,
	"name" text NOT NULL,
	"seen_at" timestamp with time zone DEFAULT now() NOT NULL,
	CONSTRAINT "windows_kit_window_pk" PRIMARY KEY("kit","window")
);
--> statement-breakpoint
ALTER TABLE "revisions" ADD COLUMN "key" text;--> statement-breakpoint
ALTER TABLE "revisions" ADD COLUMN "name" text;--> statement-breakpoint
ALTER TABLE "revisions" ADD COLUMN "notes" jsonb;--> statement-breakpoint
ALTER TABLE "blob_uses" ADD CONSTRAINT "blob_uses_kit_kits_id_fk" FOREIGN KEY ("kit") REFERENCES "public"."kits"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "windows" ADD CONSTRAINT "windows_kit_kits_id_fk" FOREIGN KEY ("kit") REFERENCES "public"."kits"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "blob_uses_sha" ON "blob_uses" USING btree ("sha");--> statement-breakpoint
CREATE UNIQUE INDEX "revisions_key" ON "revisions" USING btree ("kit","key");--> statement-breakpoint
CREATE INDEX "revisions_at" ON "revisions" USING btree ("at");--> statement-breakpoint
INSERT INTO "blob_uses" ("kit", "sha", "first", "last")
SELECT named.kit, named.sha, min(named.number), CASE WHEN max(named.number) >= max(kits.revision) THEN NULL ELSE max(named.number) END
FROM (
  SELECT DISTINCT revisions.kit, revisions.number, found[1] AS sha
  FROM revisions, LATERAL regexp_matches(revisions.document::text, '"([0-9a-f]{64})"', 'g') AS found
) AS named
JOIN kits ON kits.id = named.kit
GROUP BY named.kit, named.sha;
