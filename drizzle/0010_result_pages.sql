CREATE TABLE `draft` (
	`id` integer PRIMARY KEY AUTOINCREMENT NOT NULL,
	`site_id` integer NOT NULL,
	`page_id` integer NOT NULL,
	`of` text NOT NULL,
	`text` text NOT NULL,
	`at` text NOT NULL,
	`changed_at` text NOT NULL,
	`deleted_at` text
);
--> statement-breakpoint
CREATE INDEX `draft_by_page` ON `draft` (`site_id`,`page_id`);--> statement-breakpoint
CREATE TABLE `left_out_term` (
	`site_id` integer NOT NULL,
	`term` text NOT NULL,
	`written` text NOT NULL,
	PRIMARY KEY(`site_id`, `term`)
);
--> statement-breakpoint
CREATE TABLE `result_page` (
	`id` integer PRIMARY KEY AUTOINCREMENT NOT NULL,
	`site_id` integer NOT NULL,
	`query_id` integer NOT NULL,
	`day` integer NOT NULL,
	`device` integer DEFAULT 0 NOT NULL,
	`content` text NOT NULL,
	`at` text NOT NULL,
	`deleted_at` text
);
--> statement-breakpoint
CREATE INDEX `result_page_by_query` ON `result_page` (`site_id`,`query_id`,`day`);--> statement-breakpoint
CREATE TABLE `rival_page` (
	`result_page_id` integer NOT NULL,
	`rank` integer NOT NULL,
	`at` text NOT NULL,
	`facts` text,
	`failure` text,
	PRIMARY KEY(`result_page_id`, `rank`)
);
--> statement-breakpoint
ALTER TABLE `site` ADD `results_address` text DEFAULT '' NOT NULL;--> statement-breakpoint
ALTER TABLE `site` ADD `results_token` text DEFAULT '' NOT NULL;--> statement-breakpoint
ALTER TABLE `site` ADD `results_country` text DEFAULT '' NOT NULL;