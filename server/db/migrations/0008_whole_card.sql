ALTER TABLE `services` ADD `closed_reason` text DEFAULT '' NOT NULL;--> statement-breakpoint
CREATE TRIGGER `summary_by_board_model` AFTER UPDATE ON `board_models` WHEN NEW.`limits` IS NOT OLD.`limits` BEGIN
	UPDATE `service_summaries` SET `stale` = 1 WHERE `card_id` IN (SELECT `id` FROM `cards` WHERE `board_model_id` = NEW.`id`);
END;
--> statement-breakpoint
DROP TRIGGER `summary_by_settings`;
--> statement-breakpoint
CREATE TRIGGER `summary_by_settings` AFTER UPDATE ON `settings` WHEN NEW.`key` = 'workshop' AND (
	json_extract(NEW.`value`, '$.scatterMountK') IS NOT json_extract(OLD.`value`, '$.scatterMountK') OR
	json_extract(NEW.`value`, '$.scatterRunK') IS NOT json_extract(OLD.`value`, '$.scatterRunK') OR
	json_extract(NEW.`value`, '$.warmestRoomC') IS NOT json_extract(OLD.`value`, '$.warmestRoomC')) BEGIN
	UPDATE `service_summaries` SET `stale` = 1;
END;
