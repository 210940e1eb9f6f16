CREATE TABLE `day_terms` (
	`service_id` text PRIMARY KEY NOT NULL,
	`promised_at` text,
	`weight` real NOT NULL,
	`return_by` text,
	`held` text NOT NULL,
	`created_at` text NOT NULL,
	`updated_at` text NOT NULL,
	`version` integer NOT NULL,
	FOREIGN KEY (`service_id`) REFERENCES `services`(`id`) ON UPDATE no action ON DELETE no action
) STRICT;
--> statement-breakpoint
CREATE TABLE `quotes` (
	`service_id` text PRIMARY KEY NOT NULL,
	`quote` text NOT NULL,
	`accepted` text,
	`created_at` text NOT NULL,
	`updated_at` text NOT NULL,
	`version` integer NOT NULL,
	FOREIGN KEY (`service_id`) REFERENCES `services`(`id`) ON UPDATE no action ON DELETE no action
) STRICT;
--> statement-breakpoint
ALTER TABLE `offers` ADD `lead_days` real;--> statement-breakpoint
ALTER TABLE `service_summaries` ADD `ahead` text DEFAULT '[]' NOT NULL;--> statement-breakpoint
ALTER TABLE `service_summaries` ADD `hand_min` text DEFAULT '{}' NOT NULL;