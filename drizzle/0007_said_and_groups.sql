CREATE TABLE `moving_group` (
	`id` integer PRIMARY KEY NOT NULL,
	`site_id` integer NOT NULL,
	`name` text NOT NULL,
	`pages` text NOT NULL
);
--> statement-breakpoint
CREATE INDEX `moving_group_site` ON `moving_group` (`site_id`);--> statement-breakpoint
CREATE TABLE `reading_said` (
	`change_id` integer PRIMARY KEY NOT NULL,
	`about` text NOT NULL,
	`day` integer NOT NULL,
	`verdict` text NOT NULL,
	`sentence` text NOT NULL
);
