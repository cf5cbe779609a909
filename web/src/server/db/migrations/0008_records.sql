CREATE TABLE `kits` (
	`id` text PRIMARY KEY NOT NULL,
	`value` text NOT NULL,
	`updated_at` integer NOT NULL
);
--> statement-breakpoint
CREATE TABLE `rounds` (
	`id` integer PRIMARY KEY AUTOINCREMENT NOT NULL,
	`value` text NOT NULL,
	`at` integer NOT NULL
);
--> statement-breakpoint
CREATE TABLE `trials` (
	`job_id` text NOT NULL,
	`number` integer NOT NULL,
	`value` text NOT NULL,
	PRIMARY KEY(`job_id`, `number`)
);
