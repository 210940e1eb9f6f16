ALTER TABLE `service_summaries` ADD `clocks` text DEFAULT '[]' NOT NULL;--> statement-breakpoint
UPDATE `services` SET `skips` = json_set(json_remove(`skips`, '$.work'),
	'$.clean', json_extract(`skips`, '$.work'),
	'$.compound', json_extract(`skips`, '$.work'),
	'$.fans', json_extract(`skips`, '$.work'))
	WHERE json_extract(`skips`, '$.work') IS NOT NULL;
--> statement-breakpoint
DROP TRIGGER `summary_of_new_service`;
--> statement-breakpoint
CREATE TRIGGER `summary_of_new_service` AFTER INSERT ON `services` BEGIN
	INSERT INTO `service_summaries` (`service_id`, `card_id`, `station`, `figure`, `next`, `verdict`, `ladder`, `clocks`, `closed`, `lead_cause`, `gain_k`, `words`, `updated_at`, `made_by`, `stale`)
		VALUES (NEW.`id`, NEW.`card_id`, '', '', '', NULL, '[]', '[]', 0, NULL, NULL, '', NEW.`opened_at`, '', 1);
END;
