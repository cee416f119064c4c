CREATE TABLE `change_step` (
	`change_id` integer NOT NULL,
	`step` text NOT NULL,
	`day` integer NOT NULL,
	`at` text NOT NULL,
	PRIMARY KEY(`change_id`, `step`),
	FOREIGN KEY (`change_id`) REFERENCES `change`(`id`) ON UPDATE no action ON DELETE no action
) WITHOUT ROWID;
--> statement-breakpoint
CREATE TABLE `event_history` (
	`id` integer PRIMARY KEY AUTOINCREMENT NOT NULL,
	`event_id` integer NOT NULL,
	`at` text NOT NULL,
	`was` text NOT NULL,
	FOREIGN KEY (`event_id`) REFERENCES `event`(`id`) ON UPDATE no action ON DELETE no action
);
--> statement-breakpoint
CREATE INDEX `event_history_by_event` ON `event_history` (`event_id`);--> statement-breakpoint
CREATE TABLE `idempotency` (
	`site_id` integer NOT NULL,
	`key` text NOT NULL,
	`request` text NOT NULL,
	`change_id` integer NOT NULL,
	`at` text NOT NULL,
	PRIMARY KEY(`site_id`, `key`)
) WITHOUT ROWID;
--> statement-breakpoint
CREATE TABLE `put_off` (
	`site_id` integer NOT NULL,
	`key` text NOT NULL,
	`until` integer NOT NULL,
	PRIMARY KEY(`site_id`, `key`)
) WITHOUT ROWID;
--> statement-breakpoint
ALTER TABLE `change` ADD `decision` text;--> statement-breakpoint
ALTER TABLE `change` ADD `decision_reason` text;--> statement-breakpoint
ALTER TABLE `change` ADD `follows_id` integer;--> statement-breakpoint
ALTER TABLE `event` ADD `pages` text;--> statement-breakpoint
ALTER TABLE `event` ADD `hidden` integer DEFAULT false NOT NULL;