CREATE TABLE `images` (
	`hash` text PRIMARY KEY NOT NULL,
	`data` text NOT NULL
);
