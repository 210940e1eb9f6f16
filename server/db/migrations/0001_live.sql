CREATE TABLE `live_chunks` (
	`id` text PRIMARY KEY NOT NULL,
	`live_id` text NOT NULL,
	`seq` integer NOT NULL,
	`rows` integer NOT NULL,
	`bytes` blob NOT NULL,
	FOREIGN KEY (`live_id`) REFERENCES `live_runs`(`id`) ON UPDATE no action ON DELETE no action
) STRICT;
--> statement-breakpoint
CREATE INDEX `live_chunks_by_run` ON `live_chunks` (`live_id`,`seq`);--> statement-breakpoint
CREATE TABLE `live_runs` (
	`id` text PRIMARY KEY NOT NULL,
	`bench_id` text NOT NULL,
	`service_id` text NOT NULL,
	`side` text NOT NULL,
	`protocol` text NOT NULL,
	`load_name` text NOT NULL,
	`side_panel` text NOT NULL,
	`room_c` real,
	`channels` text NOT NULL,
	`status` text NOT NULL,
	`reason` text,
	`counts` text NOT NULL,
	`elapsed_s` real NOT NULL,
	`run_ids` text NOT NULL,
	`started_at` text NOT NULL,
	`ended_at` text,
	FOREIGN KEY (`bench_id`) REFERENCES `test_benches`(`id`) ON UPDATE no action ON DELETE no action,
	FOREIGN KEY (`service_id`) REFERENCES `services`(`id`) ON UPDATE no action ON DELETE no action
) STRICT;
--> statement-breakpoint
CREATE TABLE `protocols` (
	`id` text PRIMARY KEY NOT NULL,
	`name` text NOT NULL,
	`about` text NOT NULL,
	`steps` text NOT NULL,
	`deleted_at` text,
	`created_at` text NOT NULL
) STRICT;
--> statement-breakpoint
CREATE TABLE `readings` (
	`id` text PRIMARY KEY NOT NULL,
	`service_id` text NOT NULL,
	`live_id` text,
	`kind` text NOT NULL,
	`place` text NOT NULL,
	`shown` real NOT NULL,
	`value` real NOT NULL,
	`emissivity` real,
	`surround_c` real,
	`note` text NOT NULL,
	`warning` text,
	`at_s` real,
	`at` text NOT NULL,
	`deleted_at` text,
	FOREIGN KEY (`service_id`) REFERENCES `services`(`id`) ON UPDATE no action ON DELETE no action
) STRICT;
--> statement-breakpoint
CREATE INDEX `readings_by_service` ON `readings` (`service_id`);--> statement-breakpoint
CREATE TABLE `test_benches` (
	`id` text PRIMARY KEY NOT NULL,
	`name` text NOT NULL,
	`driver` text NOT NULL,
	`interval_s` real NOT NULL,
	`seed` real NOT NULL,
	`speed` real NOT NULL,
	`path` text NOT NULL,
	`token_hash` text,
	`deleted_at` text,
	`created_at` text NOT NULL
) STRICT;
--> statement-breakpoint
ALTER TABLE `runs` ADD `symptoms` text;--> statement-breakpoint
ALTER TABLE `services` ADD `power_on` text;--> statement-breakpoint
ALTER TABLE `services` ADD `decision` text;