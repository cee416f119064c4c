CREATE TABLE `__new_change_page` (
	`change_id` integer NOT NULL,
	`address` text NOT NULL,
	`page_id` integer NOT NULL,
	PRIMARY KEY(`change_id`, `address`),
	FOREIGN KEY (`change_id`) REFERENCES `change`(`id`) ON UPDATE no action ON DELETE no action,
	FOREIGN KEY (`page_id`) REFERENCES `page`(`id`) ON UPDATE no action ON DELETE no action
) WITHOUT ROWID;
--> statement-breakpoint
INSERT INTO `__new_change_page`("change_id", "address", "page_id") SELECT x."change_id", p."address", x."page_id" FROM `change_page` x JOIN `page` p ON p.`id` = x.`page_id`;--> statement-breakpoint
DROP TABLE `change_page`;--> statement-breakpoint
ALTER TABLE `__new_change_page` RENAME TO `change_page`;--> statement-breakpoint
CREATE INDEX `change_page_by_page` ON `change_page` (`page_id`);--> statement-breakpoint
ALTER TABLE `change_part` ADD `address` text;--> statement-breakpoint
UPDATE `change_part` SET `address` = (SELECT p.`address` FROM `page` p WHERE p.`id` = `change_part`.`page_id`) WHERE `page_id` IS NOT NULL;
