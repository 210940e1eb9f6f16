CREATE TABLE `answers` (
	`key` text PRIMARY KEY NOT NULL,
	`status` integer NOT NULL,
	`body` text NOT NULL,
	`at` text NOT NULL
) STRICT;
