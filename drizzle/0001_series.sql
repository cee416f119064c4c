CREATE TABLE `page_series` (
	`page_id` integer NOT NULL,
	`device` integer NOT NULL,
	`first_day` integer NOT NULL,
	`days` integer NOT NULL,
	`figures` blob NOT NULL,
	PRIMARY KEY(`page_id`, `device`)
);
