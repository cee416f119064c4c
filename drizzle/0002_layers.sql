CREATE TABLE `address` (
	`id` integer PRIMARY KEY NOT NULL,
	`site_id` integer NOT NULL,
	`text` text NOT NULL,
	`page_id` integer,
	`joined_to` text,
	FOREIGN KEY (`site_id`) REFERENCES `site`(`id`) ON UPDATE no action ON DELETE no action,
	FOREIGN KEY (`page_id`) REFERENCES `page`(`id`) ON UPDATE no action ON DELETE no action
);
--> statement-breakpoint
CREATE UNIQUE INDEX `address_by_text` ON `address` (`site_id`,`text`);--> statement-breakpoint
CREATE INDEX `address_by_page` ON `address` (`page_id`);--> statement-breakpoint
CREATE TABLE `attribute` (
	`subject` text NOT NULL,
	`subject_id` integer NOT NULL,
	`name` text NOT NULL,
	`import_id` integer NOT NULL,
	`value` text NOT NULL,
	PRIMARY KEY(`subject`, `subject_id`, `name`, `import_id`)
) WITHOUT ROWID;
--> statement-breakpoint
CREATE TABLE `feed` (
	`id` integer PRIMARY KEY AUTOINCREMENT NOT NULL,
	`site_id` integer NOT NULL,
	`name` text NOT NULL,
	`address` text NOT NULL,
	`token` text,
	`allow_private` integer NOT NULL,
	`daily` integer NOT NULL,
	`complete_until` integer,
	`state` text NOT NULL,
	`pages_fetched` integer DEFAULT 0 NOT NULL,
	`last_tried_at` text,
	`last_fetched_at` text,
	`failure` text,
	`created_at` text NOT NULL,
	`deleted_at` text,
	FOREIGN KEY (`site_id`) REFERENCES `site`(`id`) ON UPDATE no action ON DELETE no action
);
--> statement-breakpoint
CREATE TABLE `figures` (
	`id` integer PRIMARY KEY NOT NULL,
	`address_id` integer NOT NULL,
	`grain` integer NOT NULL,
	`piece` integer NOT NULL,
	`import_id` integer NOT NULL,
	`rows` integer NOT NULL,
	`bytes` blob NOT NULL
);
--> statement-breakpoint
CREATE UNIQUE INDEX `figures_by_address` ON `figures` (`address_id`,`grain`,`piece`,`import_id`);--> statement-breakpoint
CREATE INDEX `figures_by_import` ON `figures` (`import_id`);--> statement-breakpoint
CREATE TABLE `import_day` (
	`import_id` integer NOT NULL,
	`day` integer NOT NULL,
	`rows` integer NOT NULL,
	PRIMARY KEY(`import_id`, `day`)
) WITHOUT ROWID;
--> statement-breakpoint
CREATE TABLE `intake_memory` (
	`site_id` integer NOT NULL,
	`head` text NOT NULL,
	`settings` text NOT NULL,
	PRIMARY KEY(`site_id`, `head`)
) WITHOUT ROWID;
--> statement-breakpoint
CREATE TABLE `label` (
	`id` integer PRIMARY KEY NOT NULL,
	`text` text NOT NULL
);
--> statement-breakpoint
CREATE UNIQUE INDEX `label_text_unique` ON `label` (`text`);--> statement-breakpoint
ALTER TABLE `import` ADD `feed_id` integer;--> statement-breakpoint
ALTER TABLE `import` ADD `layer` integer;--> statement-breakpoint
ALTER TABLE `import` ADD `dialect` text;--> statement-breakpoint
ALTER TABLE `import` ADD `rows_changed` integer DEFAULT 0 NOT NULL;--> statement-breakpoint
ALTER TABLE `import` ADD `address_floor` integer;--> statement-breakpoint
ALTER TABLE `import` ADD `query_floor` integer;--> statement-breakpoint
ALTER TABLE `page` ADD `into_id` integer;--> statement-breakpoint
ALTER TABLE `site` ADD `address_rules` text;--> statement-breakpoint
ALTER TABLE `site` ADD `address_rules_before` text;--> statement-breakpoint
ALTER TABLE `site` ADD `keyed_at` text;--> statement-breakpoint
DROP TABLE `page_total_day`;--> statement-breakpoint
DROP TABLE `site_day_covered`;--> statement-breakpoint
DELETE FROM `page_series`;
