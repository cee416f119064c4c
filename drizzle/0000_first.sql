CREATE TABLE `change` (
	`id` integer PRIMARY KEY AUTOINCREMENT NOT NULL,
	`site_id` integer NOT NULL,
	`title` text NOT NULL,
	`kind` text NOT NULL,
	`day` integer NOT NULL,
	`old_text` text,
	`new_text` text,
	`window_days` integer,
	`settling_days` integer,
	`expected_metric` text,
	`expected_direction` text,
	`expected_amount` real,
	`review_day` integer,
	`person` text,
	`link` text,
	`note` text,
	`created_at` text NOT NULL,
	`deleted_at` text,
	FOREIGN KEY (`site_id`) REFERENCES `site`(`id`) ON UPDATE no action ON DELETE no action
);
--> statement-breakpoint
CREATE INDEX `change_by_site` ON `change` (`site_id`,`day`);--> statement-breakpoint
CREATE TABLE `change_history` (
	`id` integer PRIMARY KEY AUTOINCREMENT NOT NULL,
	`change_id` integer NOT NULL,
	`at` text NOT NULL,
	`was` text NOT NULL,
	FOREIGN KEY (`change_id`) REFERENCES `change`(`id`) ON UPDATE no action ON DELETE no action
);
--> statement-breakpoint
CREATE INDEX `change_history_by_change` ON `change_history` (`change_id`);--> statement-breakpoint
CREATE TABLE `change_page` (
	`change_id` integer NOT NULL,
	`page_id` integer NOT NULL,
	PRIMARY KEY(`change_id`, `page_id`),
	FOREIGN KEY (`change_id`) REFERENCES `change`(`id`) ON UPDATE no action ON DELETE no action,
	FOREIGN KEY (`page_id`) REFERENCES `page`(`id`) ON UPDATE no action ON DELETE no action
) WITHOUT ROWID;
--> statement-breakpoint
CREATE INDEX `change_page_by_page` ON `change_page` (`page_id`);--> statement-breakpoint
CREATE TABLE `change_query` (
	`change_id` integer NOT NULL,
	`text` text NOT NULL,
	PRIMARY KEY(`change_id`, `text`),
	FOREIGN KEY (`change_id`) REFERENCES `change`(`id`) ON UPDATE no action ON DELETE no action
) WITHOUT ROWID;
--> statement-breakpoint
CREATE TABLE `event` (
	`id` integer PRIMARY KEY AUTOINCREMENT NOT NULL,
	`site_id` integer NOT NULL,
	`name` text NOT NULL,
	`kind` text NOT NULL,
	`first_day` integer NOT NULL,
	`last_day` integer NOT NULL,
	`link` text,
	`note` text,
	`created_at` text NOT NULL,
	`deleted_at` text,
	FOREIGN KEY (`site_id`) REFERENCES `site`(`id`) ON UPDATE no action ON DELETE no action
);
--> statement-breakpoint
CREATE INDEX `event_by_site` ON `event` (`site_id`,`first_day`);--> statement-breakpoint
CREATE TABLE `import_problem` (
	`import_id` integer NOT NULL,
	`line` integer NOT NULL,
	`message` text NOT NULL,
	`cells` text NOT NULL,
	PRIMARY KEY(`import_id`, `line`),
	FOREIGN KEY (`import_id`) REFERENCES `import`(`id`) ON UPDATE no action ON DELETE no action
) WITHOUT ROWID;
--> statement-breakpoint
CREATE TABLE `import` (
	`id` integer PRIMARY KEY AUTOINCREMENT NOT NULL,
	`site_id` integer NOT NULL,
	`file_name` text NOT NULL,
	`state` text NOT NULL,
	`grain` text,
	`settings` text,
	`bytes_total` integer NOT NULL,
	`bytes_read` integer DEFAULT 0 NOT NULL,
	`rows_read` integer DEFAULT 0 NOT NULL,
	`rows_stored` integer DEFAULT 0 NOT NULL,
	`rows_replaced` integer DEFAULT 0 NOT NULL,
	`rows_repeated` integer DEFAULT 0 NOT NULL,
	`rows_refused` integer DEFAULT 0 NOT NULL,
	`first_day` integer,
	`last_day` integer,
	`taken_on` integer NOT NULL,
	`failure` text,
	`cancelled` integer DEFAULT false NOT NULL,
	`created_at` text NOT NULL,
	`started_at` text,
	`finished_at` text,
	FOREIGN KEY (`site_id`) REFERENCES `site`(`id`) ON UPDATE no action ON DELETE no action
);
--> statement-breakpoint
CREATE INDEX `import_by_site` ON `import` (`site_id`);--> statement-breakpoint
CREATE TABLE `page` (
	`id` integer PRIMARY KEY NOT NULL,
	`site_id` integer NOT NULL,
	`address` text NOT NULL,
	FOREIGN KEY (`site_id`) REFERENCES `site`(`id`) ON UPDATE no action ON DELETE no action
);
--> statement-breakpoint
CREATE UNIQUE INDEX `page_by_address` ON `page` (`site_id`,`address`);--> statement-breakpoint
CREATE TABLE `page_day` (
	`page_id` integer NOT NULL,
	`day` integer NOT NULL,
	`device` integer NOT NULL,
	`country` text NOT NULL,
	`clicks` integer NOT NULL,
	`impressions` integer NOT NULL,
	`position_sum` real,
	PRIMARY KEY(`page_id`, `day`, `device`, `country`)
) WITHOUT ROWID;
--> statement-breakpoint
CREATE TABLE `page_query_day` (
	`page_id` integer NOT NULL,
	`query_id` integer NOT NULL,
	`day` integer NOT NULL,
	`device` integer NOT NULL,
	`country` text NOT NULL,
	`clicks` integer NOT NULL,
	`impressions` integer NOT NULL,
	`position_sum` real,
	PRIMARY KEY(`page_id`, `query_id`, `day`, `device`, `country`)
) WITHOUT ROWID;
--> statement-breakpoint
CREATE TABLE `page_total_day` (
	`page_id` integer NOT NULL,
	`day` integer NOT NULL,
	`clicks` integer NOT NULL,
	`impressions` integer NOT NULL,
	`position_sum` real,
	`from_queries` integer NOT NULL,
	PRIMARY KEY(`page_id`, `day`)
) WITHOUT ROWID;
--> statement-breakpoint
CREATE TABLE `query` (
	`id` integer PRIMARY KEY NOT NULL,
	`site_id` integer NOT NULL,
	`text` text NOT NULL,
	FOREIGN KEY (`site_id`) REFERENCES `site`(`id`) ON UPDATE no action ON DELETE no action
);
--> statement-breakpoint
CREATE UNIQUE INDEX `query_by_text` ON `query` (`site_id`,`text`);--> statement-breakpoint
CREATE TABLE `site` (
	`id` integer PRIMARY KEY AUTOINCREMENT NOT NULL,
	`name` text NOT NULL,
	`address` text NOT NULL,
	`window_days` integer NOT NULL,
	`settling_days` integer NOT NULL,
	`provisional_days` integer NOT NULL,
	`created_at` text NOT NULL
);
--> statement-breakpoint
CREATE UNIQUE INDEX `site_address_unique` ON `site` (`address`);--> statement-breakpoint
CREATE TABLE `site_day_covered` (
	`site_id` integer NOT NULL,
	`day` integer NOT NULL,
	`has_queries` integer NOT NULL,
	PRIMARY KEY(`site_id`, `day`)
) WITHOUT ROWID;
