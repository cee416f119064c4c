ALTER TABLE `site` ADD `time_zone` text;--> statement-breakpoint
ALTER TABLE `site` ADD `fall_share` real DEFAULT 0.2 NOT NULL;--> statement-breakpoint
ALTER TABLE `site` ADD `fall_beyond` real DEFAULT 3 NOT NULL;