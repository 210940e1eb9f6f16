CREATE TABLE `board_maps` (
	`board_model_id` text PRIMARY KEY NOT NULL,
	`map` text NOT NULL,
	`underlay` text,
	`change_id` text,
	`created_at` text NOT NULL,
	`updated_at` text NOT NULL,
	`version` integer NOT NULL,
	FOREIGN KEY (`board_model_id`) REFERENCES `board_models`(`id`) ON UPDATE no action ON DELETE no action
) STRICT;
--> statement-breakpoint
CREATE TABLE `gap_readings` (
	`id` text PRIMARY KEY NOT NULL,
	`service_id` text NOT NULL,
	`board_model_id` text NOT NULL,
	`part_id` text NOT NULL,
	`source` text NOT NULL,
	`value_mm` real NOT NULL,
	`pad_state` text NOT NULL,
	`softness` text NOT NULL,
	`cover_pct` real,
	`at` text NOT NULL,
	`deleted_at` text,
	FOREIGN KEY (`service_id`) REFERENCES `services`(`id`) ON UPDATE no action ON DELETE no action,
	FOREIGN KEY (`board_model_id`) REFERENCES `board_models`(`id`) ON UPDATE no action ON DELETE no action
) STRICT;
--> statement-breakpoint
CREATE INDEX `gap_readings_by_board` ON `gap_readings` (`board_model_id`);--> statement-breakpoint
CREATE TABLE `lot_uses` (
	`id` text PRIMARY KEY NOT NULL,
	`lot_id` text NOT NULL,
	`service_id` text NOT NULL,
	`amount` real NOT NULL,
	`what` text NOT NULL,
	`accepted` integer NOT NULL,
	`at` text NOT NULL,
	`deleted_at` text,
	FOREIGN KEY (`lot_id`) REFERENCES `lots`(`id`) ON UPDATE no action ON DELETE no action,
	FOREIGN KEY (`service_id`) REFERENCES `services`(`id`) ON UPDATE no action ON DELETE no action
) STRICT;
--> statement-breakpoint
CREATE INDEX `lot_uses_by_service` ON `lot_uses` (`service_id`);--> statement-breakpoint
CREATE TABLE `lots` (
	`id` text PRIMARY KEY NOT NULL,
	`material_id` text NOT NULL,
	`label` text NOT NULL,
	`thickness_mm` real,
	`width_mm` real,
	`height_mm` real,
	`amount` real NOT NULL,
	`price` real NOT NULL,
	`opened_on` text,
	`use_before` text,
	`left_over_of` text,
	`deleted_at` text,
	`created_at` text NOT NULL,
	`updated_at` text NOT NULL,
	`version` integer NOT NULL,
	FOREIGN KEY (`material_id`) REFERENCES `materials`(`id`) ON UPDATE no action ON DELETE no action,
	FOREIGN KEY (`left_over_of`) REFERENCES `services`(`id`) ON UPDATE no action ON DELETE no action
) STRICT;
--> statement-breakpoint
CREATE INDEX `lots_by_material` ON `lots` (`material_id`);--> statement-breakpoint
CREATE TABLE `materials` (
	`id` text PRIMARY KEY NOT NULL,
	`kind` text NOT NULL,
	`name` text NOT NULL,
	`note` text NOT NULL,
	`conductivity_w_per_mk` real,
	`curve` text,
	`curve_source` text NOT NULL,
	`most_mm` real,
	`density_g_per_ml` real,
	`conducts_electricity` integer NOT NULL,
	`attacks_aluminium` integer NOT NULL,
	`low_at` real,
	`deleted_at` text,
	`created_at` text NOT NULL,
	`updated_at` text NOT NULL,
	`version` integer NOT NULL
) STRICT;
--> statement-breakpoint
CREATE TABLE `offers` (
	`id` text PRIMARY KEY NOT NULL,
	`material_id` text NOT NULL,
	`label` text NOT NULL,
	`thickness_mm` real,
	`width_mm` real,
	`height_mm` real,
	`price` real NOT NULL,
	`deleted_at` text,
	`created_at` text NOT NULL,
	`updated_at` text NOT NULL,
	`version` integer NOT NULL,
	FOREIGN KEY (`material_id`) REFERENCES `materials`(`id`) ON UPDATE no action ON DELETE no action
) STRICT;
--> statement-breakpoint
CREATE TABLE `pad_plans` (
	`service_id` text PRIMARY KEY NOT NULL,
	`plan` text NOT NULL,
	`change_id` text,
	`created_at` text NOT NULL,
	`updated_at` text NOT NULL,
	`version` integer NOT NULL,
	FOREIGN KEY (`service_id`) REFERENCES `services`(`id`) ON UPDATE no action ON DELETE no action
) STRICT;
