CREATE TABLE `site_import` (
	`id` integer PRIMARY KEY AUTOINCREMENT NOT NULL,
	`file_name` text NOT NULL,
	`bytes` integer NOT NULL,
	`state` text NOT NULL,
	`rows_read` integer DEFAULT 0 NOT NULL,
	`rows_total` integer,
	`site_id` integer,
	`failure` text,
	`created_at` text NOT NULL,
	`finished_at` text
);
--> statement-breakpoint
ALTER TABLE `site` ADD `arriving` integer DEFAULT false NOT NULL;