ALTER TABLE `day_terms` ADD `change_id` text;--> statement-breakpoint
ALTER TABLE `hand_overs` ADD `change_id` text;--> statement-breakpoint
ALTER TABLE `next_services` ADD `change_id` text;