CREATE TABLE `hand_overs` (
	`service_id` text PRIMARY KEY NOT NULL,
	`chosen` text NOT NULL,
	`created_at` text NOT NULL,
	`updated_at` text NOT NULL,
	`version` integer NOT NULL,
	FOREIGN KEY (`service_id`) REFERENCES `services`(`id`) ON UPDATE no action ON DELETE no action
) STRICT;
--> statement-breakpoint
CREATE TABLE `left_out_results` (
	`id` text PRIMARY KEY NOT NULL,
	`reason` text NOT NULL,
	`at` text NOT NULL
) STRICT;
--> statement-breakpoint
CREATE TABLE `next_services` (
	`service_id` text PRIMARY KEY NOT NULL,
	`told` text NOT NULL,
	`due_on` text,
	`created_at` text NOT NULL,
	`updated_at` text NOT NULL,
	`version` integer NOT NULL,
	FOREIGN KEY (`service_id`) REFERENCES `services`(`id`) ON UPDATE no action ON DELETE no action
) STRICT;
--> statement-breakpoint
CREATE INDEX `next_services_by_day` ON `next_services` (`due_on`);--> statement-breakpoint
CREATE TABLE `paper_imports` (
	`id` text PRIMARY KEY NOT NULL,
	`name` text NOT NULL,
	`at` text NOT NULL,
	`deleted_at` text
) STRICT;
--> statement-breakpoint
CREATE TABLE `paper_results` (
	`id` text PRIMARY KEY NOT NULL,
	`import_id` text NOT NULL,
	`paper` text NOT NULL,
	`change_k` real NOT NULL,
	`u95_k` real NOT NULL,
	FOREIGN KEY (`import_id`) REFERENCES `paper_imports`(`id`) ON UPDATE no action ON DELETE no action
) STRICT;
--> statement-breakpoint
CREATE INDEX `paper_results_by_import` ON `paper_results` (`import_id`);--> statement-breakpoint
CREATE TABLE `sheet_mappings` (
	`header_key` text PRIMARY KEY NOT NULL,
	`mapping` text NOT NULL,
	`updated_at` text NOT NULL
) STRICT;
--> statement-breakpoint
ALTER TABLE `service_summaries` ADD `ends` text DEFAULT '{"before":null,"after":null}' NOT NULL;--> statement-breakpoint
ALTER TABLE `service_summaries` ADD `result` text;--> statement-breakpoint
CREATE INDEX `service_summaries_proved` ON `service_summaries` (`updated_at`) WHERE result is not null;--> statement-breakpoint
CREATE INDEX `service_summaries_by_card` ON `service_summaries` (`card_id`);