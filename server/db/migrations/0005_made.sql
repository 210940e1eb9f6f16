CREATE TABLE `changes_made` (
	`name` text PRIMARY KEY NOT NULL,
	`made` text,
	`at` text NOT NULL
) STRICT;
--> statement-breakpoint
CREATE INDEX `changes_made_by_time` ON `changes_made` (`at`);--> statement-breakpoint
DROP TABLE `answers`;