CREATE TABLE `site_word` (
	`site_id` integer NOT NULL,
	`language` text NOT NULL,
	`purpose` text NOT NULL,
	`words` text NOT NULL,
	PRIMARY KEY(`site_id`, `language`, `purpose`)
);
--> statement-breakpoint
ALTER TABLE `site` ADD `language` text DEFAULT 'en' NOT NULL;