ALTER TABLE `cards` ADD `deleted_at` text;--> statement-breakpoint
CREATE INDEX `cards_removed` ON `cards` (`deleted_at`) WHERE deleted_at is not null;--> statement-breakpoint
ALTER TABLE `runs` ADD `typed` text;--> statement-breakpoint
CREATE INDEX `runs_removed` ON `runs` (`deleted_at`) WHERE deleted_at is not null;--> statement-breakpoint
ALTER TABLE `services` ADD `work_price` real;--> statement-breakpoint
CREATE INDEX `photos_removed` ON `photos` (`deleted_at`) WHERE deleted_at is not null;--> statement-breakpoint
CREATE INDEX `work_notes_removed` ON `work_notes` (`deleted_at`) WHERE deleted_at is not null;