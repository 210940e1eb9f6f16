CREATE TABLE `blobs` (
	`hash` text PRIMARY KEY NOT NULL,
	`kind` text NOT NULL,
	`bytes` blob NOT NULL
) STRICT;
--> statement-breakpoint
CREATE TABLE `board_models` (
	`id` text PRIMARY KEY NOT NULL,
	`name` text NOT NULL,
	`notes` text NOT NULL,
	`limits` text NOT NULL,
	`created_at` text NOT NULL,
	`updated_at` text NOT NULL,
	`version` integer NOT NULL
) STRICT;
--> statement-breakpoint
CREATE UNIQUE INDEX `board_models_name_unique` ON `board_models` (`name`);--> statement-breakpoint
CREATE TABLE `cards` (
	`id` text PRIMARY KEY NOT NULL,
	`maker` text NOT NULL,
	`model` text NOT NULL,
	`serial` text NOT NULL,
	`board_model_id` text,
	`holder` text NOT NULL,
	`owner_name` text NOT NULL,
	`price` real,
	`age_years` real,
	`use_kind` text NOT NULL,
	`complaint` text NOT NULL,
	`seal` text NOT NULL,
	`warranty` text NOT NULL,
	`look_over` text NOT NULL,
	`created_at` text NOT NULL,
	`updated_at` text NOT NULL,
	`version` integer NOT NULL,
	FOREIGN KEY (`board_model_id`) REFERENCES `board_models`(`id`) ON UPDATE no action ON DELETE no action
) STRICT;
--> statement-breakpoint
CREATE TABLE `events` (
	`id` text PRIMARY KEY NOT NULL,
	`at` text NOT NULL,
	`what` text NOT NULL,
	`subject` text NOT NULL,
	`detail` text
) STRICT;
--> statement-breakpoint
CREATE TABLE `header_choices` (
	`header_key` text PRIMARY KEY NOT NULL,
	`mapping` text NOT NULL,
	`updated_at` text NOT NULL
) STRICT;
--> statement-breakpoint
CREATE TABLE `photos` (
	`id` text PRIMARY KEY NOT NULL,
	`card_id` text NOT NULL,
	`hash` text NOT NULL,
	`width` integer NOT NULL,
	`height` integer NOT NULL,
	`caption` text NOT NULL,
	`deleted_at` text,
	`created_at` text NOT NULL,
	FOREIGN KEY (`card_id`) REFERENCES `cards`(`id`) ON UPDATE no action ON DELETE no action,
	FOREIGN KEY (`hash`) REFERENCES `blobs`(`hash`) ON UPDATE no action ON DELETE no action
) STRICT;
--> statement-breakpoint
CREATE INDEX `photos_by_card` ON `photos` (`card_id`);--> statement-breakpoint
CREATE TABLE `runs` (
	`id` text PRIMARY KEY NOT NULL,
	`service_id` text NOT NULL,
	`side` text NOT NULL,
	`name` text NOT NULL,
	`file_name` text NOT NULL,
	`file_bytes` integer NOT NULL,
	`log_hash` text NOT NULL,
	`samples_hash` text NOT NULL,
	`fan_mode` text NOT NULL,
	`fan_pct` real,
	`load_name` text NOT NULL,
	`side_panel` text NOT NULL,
	`clocks` text NOT NULL,
	`power_limit_pct` real,
	`picture` text NOT NULL,
	`ambient_c` real,
	`ambient_u_95_k` real,
	`interval_s` real,
	`mapping` text NOT NULL,
	`window` text,
	`analysis` text NOT NULL,
	`deleted_at` text,
	`created_at` text NOT NULL,
	`updated_at` text NOT NULL,
	`version` integer NOT NULL,
	FOREIGN KEY (`service_id`) REFERENCES `services`(`id`) ON UPDATE no action ON DELETE no action,
	FOREIGN KEY (`log_hash`) REFERENCES `blobs`(`hash`) ON UPDATE no action ON DELETE no action,
	FOREIGN KEY (`samples_hash`) REFERENCES `blobs`(`hash`) ON UPDATE no action ON DELETE no action
) STRICT;
--> statement-breakpoint
CREATE INDEX `runs_by_service` ON `runs` (`service_id`);--> statement-breakpoint
CREATE TABLE `services` (
	`id` text PRIMARY KEY NOT NULL,
	`card_id` text NOT NULL,
	`opened_at` text NOT NULL,
	`closed_at` text,
	`skips` text NOT NULL,
	`version` integer NOT NULL,
	FOREIGN KEY (`card_id`) REFERENCES `cards`(`id`) ON UPDATE no action ON DELETE no action
) STRICT;
--> statement-breakpoint
CREATE INDEX `services_by_card` ON `services` (`card_id`);--> statement-breakpoint
CREATE TABLE `sessions` (
	`token_hash` text PRIMARY KEY NOT NULL,
	`expires_at` text NOT NULL
) STRICT;
--> statement-breakpoint
CREATE TABLE `settings` (
	`key` text PRIMARY KEY NOT NULL,
	`value` text NOT NULL
) STRICT;
--> statement-breakpoint
CREATE TABLE `work_notes` (
	`id` text PRIMARY KEY NOT NULL,
	`service_id` text NOT NULL,
	`done_on` text NOT NULL,
	`person` text NOT NULL,
	`work` text NOT NULL,
	`compound` text NOT NULL,
	`minutes` real,
	`text` text NOT NULL,
	`deleted_at` text,
	`created_at` text NOT NULL,
	`updated_at` text NOT NULL,
	`version` integer NOT NULL,
	FOREIGN KEY (`service_id`) REFERENCES `services`(`id`) ON UPDATE no action ON DELETE no action
) STRICT;
--> statement-breakpoint
CREATE INDEX `work_notes_by_service` ON `work_notes` (`service_id`);