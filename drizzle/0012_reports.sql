CREATE TABLE `report` (
	`id` integer PRIMARY KEY AUTOINCREMENT NOT NULL,
	`site_id` integer NOT NULL,
	`title` text NOT NULL,
	`first_day` integer NOT NULL,
	`last_day` integer NOT NULL,
	`scope` text NOT NULL,
	`parts` text NOT NULL,
	`leave_out` text NOT NULL,
	`words` text NOT NULL,
	`ink` text NOT NULL,
	`logo` text,
	`created_at` text NOT NULL,
	`deleted_at` text
);
--> statement-breakpoint
CREATE INDEX `report_by_site` ON `report` (`site_id`);--> statement-breakpoint
CREATE TABLE `report_issue` (
	`report_id` integer NOT NULL,
	`number` integer NOT NULL,
	`day` integer NOT NULL,
	`shown` text NOT NULL,
	`at` text NOT NULL,
	PRIMARY KEY(`report_id`, `number`)
);
--> statement-breakpoint
CREATE TABLE `routine` (
	`id` integer PRIMARY KEY AUTOINCREMENT NOT NULL,
	`site_id` integer NOT NULL,
	`name` text NOT NULL,
	`steps` text NOT NULL,
	`rule` text NOT NULL,
	`first_day` integer NOT NULL,
	`created_at` text NOT NULL,
	`deleted_at` text
);
--> statement-breakpoint
CREATE INDEX `routine_by_site` ON `routine` (`site_id`);--> statement-breakpoint
CREATE TABLE `routine_done` (
	`routine_id` integer NOT NULL,
	`due_on` integer NOT NULL,
	`step` integer NOT NULL,
	`person` text,
	`at` text NOT NULL,
	PRIMARY KEY(`routine_id`, `due_on`, `step`)
);
