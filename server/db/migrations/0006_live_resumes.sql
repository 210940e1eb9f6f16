ALTER TABLE `live_runs` ADD `place` real;--> statement-breakpoint
ALTER TABLE `live_runs` ADD `last_at` text;--> statement-breakpoint
ALTER TABLE `live_runs` ADD `orders` text DEFAULT '[]' NOT NULL;