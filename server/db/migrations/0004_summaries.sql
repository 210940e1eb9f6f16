CREATE TABLE `service_summaries` (
	`service_id` text PRIMARY KEY NOT NULL,
	`card_id` text NOT NULL,
	`station` text NOT NULL,
	`figure` text NOT NULL,
	`next` text NOT NULL,
	`verdict` text,
	`ladder` text NOT NULL,
	`closed` integer NOT NULL,
	`lead_cause` text,
	`gain_k` real,
	`words` text NOT NULL,
	`updated_at` text NOT NULL,
	`made_by` text NOT NULL,
	`stale` integer NOT NULL,
	FOREIGN KEY (`service_id`) REFERENCES `services`(`id`) ON UPDATE no action ON DELETE no action,
	FOREIGN KEY (`card_id`) REFERENCES `cards`(`id`) ON UPDATE no action ON DELETE no action
) STRICT;
--> statement-breakpoint
CREATE INDEX `service_summaries_by_day` ON `service_summaries` (`closed`,`updated_at`,`service_id`);--> statement-breakpoint
CREATE INDEX `service_summaries_by_cause` ON `service_summaries` (`lead_cause`);--> statement-breakpoint
CREATE INDEX `service_summaries_stale` ON `service_summaries` (`service_id`) WHERE stale = 1;--> statement-breakpoint
ALTER TABLE `lot_uses` ADD `booking_id` text;--> statement-breakpoint
ALTER TABLE `lots` ADD `booking_id` text;--> statement-breakpoint
CREATE INDEX `cards_by_board` ON `cards` (`board_model_id`);--> statement-breakpoint
CREATE TRIGGER `summary_of_new_service` AFTER INSERT ON `services` BEGIN
	INSERT INTO `service_summaries` VALUES (NEW.`id`, NEW.`card_id`, '', '', '', NULL, '[]', 0, NULL, NULL, '', NEW.`opened_at`, '', 1);
END;
--> statement-breakpoint
CREATE TRIGGER `summary_by_service` AFTER UPDATE ON `services` BEGIN
	UPDATE `service_summaries` SET `stale` = 1 WHERE `service_id` = NEW.`id`;
END;
--> statement-breakpoint
CREATE TRIGGER `summary_by_card` AFTER UPDATE ON `cards` BEGIN
	UPDATE `service_summaries` SET `stale` = 1 WHERE `card_id` = NEW.`id`;
END;
--> statement-breakpoint
CREATE TRIGGER `summary_by_new_runs` AFTER INSERT ON `runs` BEGIN
	UPDATE `service_summaries` SET `stale` = 1 WHERE `service_id` = NEW.`service_id`;
END;
--> statement-breakpoint
CREATE TRIGGER `summary_by_runs` AFTER UPDATE ON `runs` BEGIN
	UPDATE `service_summaries` SET `stale` = 1 WHERE `service_id` = NEW.`service_id`;
END;
--> statement-breakpoint
CREATE TRIGGER `summary_by_new_work_notes` AFTER INSERT ON `work_notes` BEGIN
	UPDATE `service_summaries` SET `stale` = 1 WHERE `service_id` = NEW.`service_id`;
END;
--> statement-breakpoint
CREATE TRIGGER `summary_by_work_notes` AFTER UPDATE ON `work_notes` BEGIN
	UPDATE `service_summaries` SET `stale` = 1 WHERE `service_id` = NEW.`service_id`;
END;
--> statement-breakpoint
CREATE TRIGGER `summary_by_new_pad_plans` AFTER INSERT ON `pad_plans` BEGIN
	UPDATE `service_summaries` SET `stale` = 1 WHERE `service_id` = NEW.`service_id`;
END;
--> statement-breakpoint
CREATE TRIGGER `summary_by_pad_plans` AFTER UPDATE ON `pad_plans` BEGIN
	UPDATE `service_summaries` SET `stale` = 1 WHERE `service_id` = NEW.`service_id`;
END;
--> statement-breakpoint
CREATE TRIGGER `summary_by_new_settings` AFTER INSERT ON `settings` WHEN NEW.`key` = 'workshop' BEGIN
	UPDATE `service_summaries` SET `stale` = 1;
END;
--> statement-breakpoint
CREATE TRIGGER `summary_by_settings` AFTER UPDATE ON `settings` WHEN NEW.`key` = 'workshop' AND (
	json_extract(NEW.`value`, '$.scatterMountK') IS NOT json_extract(OLD.`value`, '$.scatterMountK') OR
	json_extract(NEW.`value`, '$.scatterRunK') IS NOT json_extract(OLD.`value`, '$.scatterRunK')) BEGIN
	UPDATE `service_summaries` SET `stale` = 1;
END;
--> statement-breakpoint
INSERT INTO `service_summaries` SELECT `id`, `card_id`, '', '', '', NULL, '[]', 0, NULL, NULL, '', `opened_at`, '', 1 FROM `services`;
--> statement-breakpoint
UPDATE `lots` SET `booking_id` = `left_over_of` || ':' || (CAST(substr(`label`, 18) AS INTEGER) - 1) WHERE `left_over_of` IS NOT NULL AND `label` LIKE 'Left over, sheet %';
--> statement-breakpoint
UPDATE `lot_uses` SET `booking_id` = `service_id` || ':' || (CAST(substr(`what`, 17) AS INTEGER) - 1) WHERE `what` LIKE 'Pads cut, sheet %';
