CREATE TABLE `cooler_plans` (
	`service_id` text PRIMARY KEY NOT NULL,
	`cooler_id` text,
	`plan` text NOT NULL,
	`change_id` text,
	`created_at` text NOT NULL,
	`updated_at` text NOT NULL,
	`version` integer NOT NULL,
	FOREIGN KEY (`service_id`) REFERENCES `services`(`id`) ON UPDATE no action ON DELETE no action,
	FOREIGN KEY (`cooler_id`) REFERENCES `coolers`(`id`) ON UPDATE no action ON DELETE no action
) STRICT;
--> statement-breakpoint
CREATE INDEX `cooler_plans_by_cooler` ON `cooler_plans` (`cooler_id`);--> statement-breakpoint
CREATE TABLE `coolers` (
	`id` text PRIMARY KEY NOT NULL,
	`name` text NOT NULL,
	`kind` text NOT NULL,
	`cooler` text NOT NULL,
	`change_id` text,
	`deleted_at` text,
	`created_at` text NOT NULL,
	`updated_at` text NOT NULL,
	`version` integer NOT NULL
) STRICT;
--> statement-breakpoint
CREATE TRIGGER `summary_by_new_cooler_plans` AFTER INSERT ON `cooler_plans` BEGIN
	UPDATE `service_summaries` SET `stale` = 1 WHERE `service_id` = NEW.`service_id`;
END;
--> statement-breakpoint
CREATE TRIGGER `summary_by_changed_cooler_plans` AFTER UPDATE OF `plan`, `cooler_id` ON `cooler_plans` BEGIN
	UPDATE `service_summaries` SET `stale` = 1 WHERE `service_id` = NEW.`service_id`;
END;
