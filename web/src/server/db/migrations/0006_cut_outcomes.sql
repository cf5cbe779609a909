ALTER TABLE `cut_jobs` ADD `checksum` text DEFAULT '' NOT NULL;--> statement-breakpoint
ALTER TABLE `cut_jobs` ADD `result` text DEFAULT 'open' NOT NULL;--> statement-breakpoint
ALTER TABLE `cut_jobs` ADD `minutes` real;--> statement-breakpoint
ALTER TABLE `cut_jobs` ADD `sheets` integer DEFAULT 0 NOT NULL;