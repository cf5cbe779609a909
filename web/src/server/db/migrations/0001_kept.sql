CREATE TABLE `kept` (
	`id` integer PRIMARY KEY AUTOINCREMENT NOT NULL,
	`job_id` text NOT NULL,
	`base_revision` integer NOT NULL,
	`reason` text NOT NULL,
	`design` text NOT NULL,
	`kept_at` integer NOT NULL
);
--> statement-breakpoint
CREATE INDEX `kept_of_job` ON `kept` (`job_id`);