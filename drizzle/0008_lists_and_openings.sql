CREATE TABLE `kept_filter` (
	`id` integer PRIMARY KEY AUTOINCREMENT NOT NULL,
	`site_id` integer NOT NULL,
	`subject` text NOT NULL,
	`name` text NOT NULL,
	`query` text NOT NULL
);
--> statement-breakpoint
CREATE UNIQUE INDEX `kept_filter_by_name` ON `kept_filter` (`site_id`,`subject`,`name`);--> statement-breakpoint
CREATE TABLE `page_trait` (
	`page_id` integer PRIMARY KEY NOT NULL,
	`target` text,
	`weight` real,
	`sink` integer DEFAULT false NOT NULL
);
--> statement-breakpoint
CREATE TABLE `passed_opening` (
	`site_id` integer NOT NULL,
	`key` text NOT NULL,
	`reason` text NOT NULL,
	`clicks_a_month` real NOT NULL,
	`at` text NOT NULL,
	PRIMARY KEY(`site_id`, `key`)
);
--> statement-breakpoint
CREATE TABLE `query_trait` (
	`query_id` integer PRIMARY KEY NOT NULL,
	`target_page_id` integer,
	`intent` text,
	`brand` integer
);
--> statement-breakpoint
CREATE TABLE `sheet` (
	`id` integer PRIMARY KEY AUTOINCREMENT NOT NULL,
	`site_id` integer NOT NULL,
	`name` text NOT NULL,
	`day` integer NOT NULL,
	`first_day` integer NOT NULL,
	`last_day` integer NOT NULL,
	`pages` text NOT NULL,
	`lines` text NOT NULL,
	`deleted_at` text
);
--> statement-breakpoint
CREATE INDEX `sheet_by_site` ON `sheet` (`site_id`);--> statement-breakpoint
ALTER TABLE `site` ADD `brand_words` text DEFAULT '' NOT NULL;--> statement-breakpoint
ALTER TABLE `site` ADD `worth_of_click` real;--> statement-breakpoint
ALTER TABLE `site` ADD `worth_of_conversion` real;