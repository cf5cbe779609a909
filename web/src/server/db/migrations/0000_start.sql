CREATE TABLE `cut_jobs` (
	`job_id` text NOT NULL,
	`number` integer NOT NULL,
	`revision` integer NOT NULL,
	`subject` text NOT NULL,
	`title` text NOT NULL,
	`file_name` text NOT NULL,
	`stock_id` text NOT NULL,
	`machine_id` text NOT NULL,
	`profile_id` text NOT NULL,
	`fingerprint` text NOT NULL,
	`svg` text NOT NULL,
	`created_at` integer NOT NULL,
	PRIMARY KEY(`job_id`, `number`)
);
--> statement-breakpoint
CREATE TABLE `jobs` (
	`id` text PRIMARY KEY NOT NULL,
	`name` text NOT NULL,
	`revision` integer NOT NULL,
	`design` text NOT NULL,
	`undo` text NOT NULL,
	`redo` text NOT NULL,
	`archived` integer DEFAULT false NOT NULL,
	`created_at` integer NOT NULL,
	`updated_at` integer NOT NULL
);
--> statement-breakpoint
CREATE INDEX `jobs_updated` ON `jobs` (`archived`,`updated_at`);--> statement-breakpoint
CREATE TABLE `marks` (
	`key` text PRIMARY KEY NOT NULL,
	`at` integer NOT NULL
);
--> statement-breakpoint
CREATE TABLE `revisions` (
	`job_id` text NOT NULL,
	`revision` integer NOT NULL,
	`design` text NOT NULL,
	`saved_at` integer NOT NULL,
	PRIMARY KEY(`job_id`, `revision`)
);
