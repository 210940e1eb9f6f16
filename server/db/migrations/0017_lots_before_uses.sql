ALTER TABLE `lots` ADD `before_uses` real;--> statement-breakpoint
UPDATE `lots` SET `before_uses` = `amount` + coalesce((SELECT sum(u.`amount`) FROM `lot_uses` AS u WHERE u.`lot_id` = `lots`.`id` AND u.`deleted_at` IS NULL), 0);
