CREATE TABLE `store_items` (
	`kind` text NOT NULL,
	`id` text NOT NULL,
	`value` text NOT NULL,
	`updated_at` integer NOT NULL,
	PRIMARY KEY(`kind`, `id`)
);
