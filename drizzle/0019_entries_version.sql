CREATE TABLE `entries` (
	`version` integer NOT NULL
);
--> statement-breakpoint
INSERT INTO `entries` VALUES (0);
