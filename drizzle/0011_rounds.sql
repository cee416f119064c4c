CREATE TABLE `round` (
	`id` integer PRIMARY KEY AUTOINCREMENT NOT NULL,
	`site_id` integer NOT NULL,
	`name` text NOT NULL,
	`kind` text NOT NULL,
	`day` integer NOT NULL,
	`draw` text NOT NULL,
	`seed` integer NOT NULL,
	`window_days` integer NOT NULL,
	`settling_days` integer NOT NULL,
	`expectation` text,
	`person` text,
	`follows_id` integer,
	`decision` text,
	`decision_reason` text,
	`decided_on` integer,
	`first_change_id` integer,
	`second_change_id` integer,
	`created_at` text NOT NULL,
	`deleted_at` text
);
--> statement-breakpoint
CREATE INDEX `round_by_site` ON `round` (`site_id`,`day`);--> statement-breakpoint
CREATE TABLE `round_history` (
	`id` integer PRIMARY KEY AUTOINCREMENT NOT NULL,
	`round_id` integer NOT NULL,
	`at` text NOT NULL,
	`was` text NOT NULL
);
--> statement-breakpoint
CREATE INDEX `round_history_by_round` ON `round_history` (`round_id`);--> statement-breakpoint
CREATE TABLE `round_page` (
	`round_id` integer NOT NULL,
	`page_id` integer NOT NULL,
	`address` text NOT NULL,
	`place` integer NOT NULL,
	`half` text NOT NULL,
	`block` integer NOT NULL,
	`person` text,
	`old_text` text,
	`new_text` text,
	`made_on` integer,
	`requested_on` integer,
	`crawled_on` integer,
	`seen_on` integer,
	`frozen` text NOT NULL,
	`opening` text,
	PRIMARY KEY(`round_id`, `page_id`)
);
--> statement-breakpoint
CREATE INDEX `round_page_by_page` ON `round_page` (`page_id`);--> statement-breakpoint
CREATE TABLE `taken_opening` (
	`change_id` integer PRIMARY KEY NOT NULL,
	`opening` text NOT NULL
);
