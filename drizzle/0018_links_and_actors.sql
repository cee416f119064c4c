ALTER TABLE `change_history` ADD `actor_id` text;--> statement-breakpoint
ALTER TABLE `event_history` ADD `actor_id` text;--> statement-breakpoint
ALTER TABLE `round_history` ADD `actor_id` text;--> statement-breakpoint
ALTER TABLE `pass` ADD `maker_id` text;--> statement-breakpoint
ALTER TABLE `pass` ADD `credential` text;