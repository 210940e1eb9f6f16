CREATE TABLE `step_marks` (
	`id` text PRIMARY KEY NOT NULL,
	`service_id` text NOT NULL,
	`station` text NOT NULL,
	`attempt` integer NOT NULL,
	`seq` integer NOT NULL,
	`step_id` text NOT NULL,
	`what` text NOT NULL,
	`value` text NOT NULL,
	`text` text NOT NULL,
	`at` text NOT NULL,
	FOREIGN KEY (`service_id`) REFERENCES `services`(`id`) ON UPDATE no action ON DELETE no action
) STRICT;
--> statement-breakpoint
CREATE INDEX `step_marks_by_service` ON `step_marks` (`service_id`,`station`,`seq`);
--> statement-breakpoint
CREATE TRIGGER `summary_by_new_step_marks` AFTER INSERT ON `step_marks` BEGIN
	UPDATE `service_summaries` SET `stale` = 1 WHERE `service_id` = NEW.`service_id`;
END;
--> statement-breakpoint
UPDATE `board_maps` SET `map` = json_set(`map`,
	'$.version', 2,
	'$.layers', json('[{"id":"bracket","there":null},{"id":"fan","there":null},{"id":"shroud","there":null},{"id":"backplate","there":null},{"id":"cooler","there":null},{"id":"mid-plate","there":null}]'),
	'$.plugs', json('[]'),
	'$.screws', json((SELECT json_group_array(json_patch(
		'{"standoff":false,"thread":null,"lengthMm":null,"head":null,"driver":"","spring":null,"sleeve":false,"side":"back","layer":null,"hiddenBy":"nothing","leaveAlone":false}',
		screw.value)) FROM json_each(`map`, '$.screws') AS screw)));
