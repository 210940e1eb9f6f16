ALTER TABLE `runs` ADD `load` integer;--> statement-breakpoint
ALTER TABLE `runs` ADD `ambient_end_c` real;--> statement-breakpoint
ALTER TABLE `runs` ADD `core_offset_m_hz` real;--> statement-breakpoint
ALTER TABLE `runs` ADD `memory_offset_m_hz` real;--> statement-breakpoint
ALTER TABLE `runs` ADD `undervolt_mv` real;--> statement-breakpoint
ALTER TABLE `runs` ADD `frame_cap_fps` real;--> statement-breakpoint
ALTER TABLE `runs` ADD `frame_rate_fps` real;--> statement-breakpoint
ALTER TABLE `runs` ADD `score` real;--> statement-breakpoint
ALTER TABLE `runs` ADD `attempt` integer DEFAULT 1 NOT NULL;--> statement-breakpoint
ALTER TABLE `runs` ADD `left_out` text DEFAULT '' NOT NULL;--> statement-breakpoint
ALTER TABLE `services` ADD `attempts` text DEFAULT '[]' NOT NULL;