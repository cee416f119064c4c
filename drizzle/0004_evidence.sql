CREATE TABLE `change_part` (
	`change_id` integer NOT NULL,
	`place` integer NOT NULL,
	`kind` text NOT NULL,
	`page_id` integer,
	`old_text` text,
	`new_text` text,
	PRIMARY KEY(`change_id`, `place`),
	FOREIGN KEY (`change_id`) REFERENCES `change`(`id`) ON UPDATE no action ON DELETE no action,
	FOREIGN KEY (`page_id`) REFERENCES `page`(`id`) ON UPDATE no action ON DELETE no action
);
--> statement-breakpoint
CREATE TABLE `change_tag` (
	`change_id` integer NOT NULL,
	`tag` text NOT NULL,
	PRIMARY KEY(`change_id`, `tag`),
	FOREIGN KEY (`change_id`) REFERENCES `change`(`id`) ON UPDATE no action ON DELETE no action
) WITHOUT ROWID;
--> statement-breakpoint
CREATE TABLE `page_look` (
	`page_id` integer PRIMARY KEY NOT NULL,
	`site_id` integer NOT NULL,
	`watched` integer DEFAULT false NOT NULL,
	`last_tried_at` text,
	`failure` text,
	FOREIGN KEY (`page_id`) REFERENCES `page`(`id`) ON UPDATE no action ON DELETE no action
);
--> statement-breakpoint
CREATE TABLE `sighting` (
	`id` integer PRIMARY KEY AUTOINCREMENT NOT NULL,
	`page_id` integer NOT NULL,
	`day` integer NOT NULL,
	`since` integer,
	`title` text NOT NULL,
	`at` text NOT NULL,
	FOREIGN KEY (`page_id`) REFERENCES `page`(`id`) ON UPDATE no action ON DELETE no action
);
--> statement-breakpoint
CREATE INDEX `sighting_by_page` ON `sighting` (`page_id`,`id`);--> statement-breakpoint
CREATE TABLE `snapshot` (
	`id` integer PRIMARY KEY AUTOINCREMENT NOT NULL,
	`site_id` integer NOT NULL,
	`page_id` integer NOT NULL,
	`day` integer NOT NULL,
	`last_day` integer NOT NULL,
	`taken_at` text NOT NULL,
	`last_seen_at` text NOT NULL,
	`title` text,
	`evidence` text NOT NULL,
	`differences` text,
	`passed_over` integer DEFAULT false NOT NULL,
	FOREIGN KEY (`site_id`) REFERENCES `site`(`id`) ON UPDATE no action ON DELETE no action,
	FOREIGN KEY (`page_id`) REFERENCES `page`(`id`) ON UPDATE no action ON DELETE no action
);
--> statement-breakpoint
CREATE INDEX `snapshot_by_page` ON `snapshot` (`page_id`,`id`);--> statement-breakpoint
CREATE INDEX `snapshot_by_title` ON `snapshot` (`site_id`,`title`);--> statement-breakpoint
CREATE INDEX `snapshot_by_day` ON `snapshot` (`site_id`,`day`);--> statement-breakpoint
ALTER TABLE `site` ADD `private_hosts` text DEFAULT '' NOT NULL;