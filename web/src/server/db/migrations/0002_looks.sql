CREATE TABLE `looks` (
	`job_id` text PRIMARY KEY NOT NULL,
	`revision` integer NOT NULL,
	`version` integer NOT NULL,
	`faults` integer NOT NULL,
	`picture` text NOT NULL
);
