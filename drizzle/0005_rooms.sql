ALTER TABLE `change` ADD `import_id` integer;--> statement-breakpoint
ALTER TABLE `change` ADD `import_key` text;--> statement-breakpoint
CREATE INDEX `change_by_followed` ON `change` (`follows_id`);--> statement-breakpoint
ALTER TABLE `import` ADD `rows_left_out` integer DEFAULT 0 NOT NULL;--> statement-breakpoint
ALTER TABLE `import` ADD `folded_at` text;--> statement-breakpoint
ALTER TABLE `import` ADD `about` text DEFAULT 'figures' NOT NULL;--> statement-breakpoint
ALTER TABLE `site` ADD `undo_days` integer DEFAULT 90 NOT NULL;--> statement-breakpoint
DROP TABLE IF EXISTS `page_day`;--> statement-breakpoint
DROP TABLE IF EXISTS `page_query_day`;
