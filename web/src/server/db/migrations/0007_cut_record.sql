ALTER TABLE `cut_jobs` ADD `sheet_id` text DEFAULT '' NOT NULL;--> statement-breakpoint
ALTER TABLE `cut_jobs` ADD `estimated_s` real;