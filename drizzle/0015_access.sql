CREATE TABLE `access_token` (
	`id` integer PRIMARY KEY AUTOINCREMENT NOT NULL,
	`site_id` integer NOT NULL,
	`name` text NOT NULL,
	`right` text NOT NULL,
	`digest` text NOT NULL,
	`begins` text NOT NULL,
	`made_by` text,
	`created_at` text NOT NULL,
	`last_day` integer,
	`last_used_at` text,
	`ended_at` text
);
--> statement-breakpoint
CREATE UNIQUE INDEX `access_token_digest_unique` ON `access_token` (`digest`);--> statement-breakpoint
CREATE INDEX `access_token_by_site` ON `access_token` (`site_id`);--> statement-breakpoint
CREATE TABLE `account` (
	`id` text PRIMARY KEY NOT NULL,
	`user_id` text NOT NULL,
	`account_id` text NOT NULL,
	`provider_id` text NOT NULL,
	`access_token` text,
	`refresh_token` text,
	`id_token` text,
	`access_token_expires_at` integer,
	`refresh_token_expires_at` integer,
	`scope` text,
	`password` text,
	`created_at` integer NOT NULL,
	`updated_at` integer NOT NULL,
	FOREIGN KEY (`user_id`) REFERENCES `user`(`id`) ON UPDATE no action ON DELETE cascade
);
--> statement-breakpoint
CREATE INDEX `account_by_user` ON `account` (`user_id`);--> statement-breakpoint
CREATE TABLE `deed` (
	`id` integer PRIMARY KEY AUTOINCREMENT NOT NULL,
	`site_id` integer,
	`at` text NOT NULL,
	`times` integer DEFAULT 1 NOT NULL,
	`actor_kind` text NOT NULL,
	`actor_id` text,
	`actor` text NOT NULL,
	`did` text NOT NULL,
	`on` text,
	`thing_id` integer,
	`title` text
);
--> statement-breakpoint
CREATE INDEX `deed_by_site` ON `deed` (`site_id`,`id`);--> statement-breakpoint
CREATE INDEX `deed_by_thing` ON `deed` (`on`,`thing_id`);--> statement-breakpoint
CREATE TABLE `member` (
	`site_id` integer NOT NULL,
	`user_id` text NOT NULL,
	`role` text NOT NULL,
	`since` text NOT NULL,
	PRIMARY KEY(`site_id`, `user_id`),
	FOREIGN KEY (`user_id`) REFERENCES `user`(`id`) ON UPDATE no action ON DELETE cascade
);
--> statement-breakpoint
CREATE INDEX `member_by_user` ON `member` (`user_id`);--> statement-breakpoint
CREATE TABLE `pass` (
	`id` integer PRIMARY KEY AUTOINCREMENT NOT NULL,
	`digest` text NOT NULL,
	`kind` text NOT NULL,
	`email` text NOT NULL,
	`site_id` integer,
	`role` text,
	`made_by` text,
	`created_at` text NOT NULL,
	`expires_at` text NOT NULL,
	`used_at` text,
	`withdrawn_at` text
);
--> statement-breakpoint
CREATE UNIQUE INDEX `pass_digest_unique` ON `pass` (`digest`);--> statement-breakpoint
CREATE INDEX `pass_by_site` ON `pass` (`site_id`);--> statement-breakpoint
CREATE TABLE `session` (
	`id` text PRIMARY KEY NOT NULL,
	`user_id` text NOT NULL,
	`token` text NOT NULL,
	`expires_at` integer NOT NULL,
	`ip_address` text,
	`user_agent` text,
	`created_at` integer NOT NULL,
	`updated_at` integer NOT NULL,
	FOREIGN KEY (`user_id`) REFERENCES `user`(`id`) ON UPDATE no action ON DELETE cascade
);
--> statement-breakpoint
CREATE UNIQUE INDEX `session_token_unique` ON `session` (`token`);--> statement-breakpoint
CREATE INDEX `session_by_user` ON `session` (`user_id`);--> statement-breakpoint
CREATE TABLE `shared_link` (
	`id` integer PRIMARY KEY AUTOINCREMENT NOT NULL,
	`site_id` integer NOT NULL,
	`of` text NOT NULL,
	`thing_id` integer NOT NULL,
	`title` text NOT NULL,
	`digest` text NOT NULL,
	`password` text,
	`made_by` text,
	`created_at` text NOT NULL,
	`last_day` integer NOT NULL,
	`last_opened_at` text,
	`opened` integer DEFAULT 0 NOT NULL,
	`withdrawn_at` text
);
--> statement-breakpoint
CREATE UNIQUE INDEX `shared_link_digest_unique` ON `shared_link` (`digest`);--> statement-breakpoint
CREATE INDEX `shared_link_by_site` ON `shared_link` (`site_id`);--> statement-breakpoint
CREATE TABLE `two_factor` (
	`id` text PRIMARY KEY NOT NULL,
	`user_id` text NOT NULL,
	`secret` text NOT NULL,
	`backup_codes` text NOT NULL,
	`verified` integer DEFAULT true,
	`failed_verification_count` integer DEFAULT 0,
	`locked_until` integer,
	FOREIGN KEY (`user_id`) REFERENCES `user`(`id`) ON UPDATE no action ON DELETE cascade
);
--> statement-breakpoint
CREATE INDEX `two_factor_by_user` ON `two_factor` (`user_id`);--> statement-breakpoint
CREATE TABLE `user` (
	`id` text PRIMARY KEY NOT NULL,
	`name` text NOT NULL,
	`email` text NOT NULL,
	`email_verified` integer DEFAULT false NOT NULL,
	`image` text,
	`created_at` integer NOT NULL,
	`updated_at` integer NOT NULL,
	`two_factor_enabled` integer DEFAULT false,
	`administrator` integer DEFAULT false NOT NULL
);
--> statement-breakpoint
CREATE UNIQUE INDEX `user_email_unique` ON `user` (`email`);--> statement-breakpoint
CREATE TABLE `verification` (
	`id` text PRIMARY KEY NOT NULL,
	`identifier` text NOT NULL,
	`value` text NOT NULL,
	`expires_at` integer NOT NULL,
	`created_at` integer NOT NULL,
	`updated_at` integer NOT NULL
);
--> statement-breakpoint
CREATE INDEX `verification_by_identifier` ON `verification` (`identifier`);--> statement-breakpoint
ALTER TABLE `change_history` ADD `actor` text;--> statement-breakpoint
ALTER TABLE `event_history` ADD `actor` text;--> statement-breakpoint
ALTER TABLE `round_history` ADD `actor` text;