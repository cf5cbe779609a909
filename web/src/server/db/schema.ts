import { index, integer, primaryKey, real, sqliteTable, text } from 'drizzle-orm/sqlite-core';

/** A job: its current design, and the edits that can be undone and redone. */
export const jobs = sqliteTable(
  'jobs',
  {
    id: text('id').primaryKey(),
    name: text('name').notNull(),
    revision: integer('revision').notNull(),
    design: text('design').notNull(),
    undo: text('undo').notNull(),
    redo: text('redo').notNull(),
    archived: integer('archived', { mode: 'boolean' }).notNull().default(false),
    createdAt: integer('created_at').notNull(),
    updatedAt: integer('updated_at').notNull(),
  },
  (table) => [index('jobs_updated').on(table.archived, table.updatedAt)],
);

/** Every saved state of every job; never changed, never deleted. */
export const revisions = sqliteTable(
  'revisions',
  {
    jobId: text('job_id').notNull(),
    revision: integer('revision').notNull(),
    design: text('design').notNull(),
    savedAt: integer('saved_at').notNull(),
  },
  (table) => [primaryKey({ columns: [table.jobId, table.revision] })],
);

/** Designs that were put aside: one that lost a conflict, or was left unsaved in a window. Never changed, never deleted. */
export const kept = sqliteTable(
  'kept',
  {
    id: integer('id').primaryKey({ autoIncrement: true }),
    jobId: text('job_id').notNull(),
    baseRevision: integer('base_revision').notNull(),
    reason: text('reason').notNull(),
    design: text('design').notNull(),
    keptAt: integer('kept_at').notNull(),
  },
  (table) => [index('kept_of_job').on(table.jobId)],
);

/** Every exported cut file, numbered within its job, with the file itself. */
export const cutJobs = sqliteTable(
  'cut_jobs',
  {
    jobId: text('job_id').notNull(),
    number: integer('number').notNull(),
    revision: integer('revision').notNull(),
    subject: text('subject').notNull(),
    title: text('title').notNull(),
    fileName: text('file_name').notNull(),
    stockId: text('stock_id').notNull(),
    machineId: text('machine_id').notNull(),
    profileId: text('profile_id').notNull(),
    marks: text('marks', { enum: ['none', 'drawn', 'kiss'] })
      .notNull()
      .default('none'),
    fingerprint: text('fingerprint').notNull(),
    svg: text('svg').notNull(),
    createdAt: integer('created_at').notNull(),
    /** SHA-256 of the file, in hexadecimal digits; empty for files of before. */
    checksum: text('checksum').notNull().default(''),
    /** What became of it: how it came out, in how many minutes, on how many sheets. */
    result: text('result', { enum: ['open', 'good', 'spoiled'] })
      .notNull()
      .default('open'),
    minutes: real('minutes'),
    sheets: integer('sheets').notNull().default(0),
    /** The size or offcut of the store that it is cut from; empty for a stock's own sheets. */
    sheetId: text('sheet_id').notNull().default(''),
    /** How long the machine takes for it, as it is reckoned, s; null where that cannot be. */
    estimatedS: real('estimated_s'),
    /** How many alike sheets are cut from the file. */
    times: integer('times').notNull().default(1),
  },
  (table) => [primaryKey({ columns: [table.jobId, table.number] })],
);

/** Trial builds of a job, numbered within it, as JSON each (shared/records.ts). */
export const trials = sqliteTable(
  'trials',
  {
    jobId: text('job_id').notNull(),
    number: integer('number').notNull(),
    value: text('value').notNull(),
  },
  (table) => [primaryKey({ columns: [table.jobId, table.number] })],
);

/** Kits: several designs that are sold together, as JSON each. */
export const kits = sqliteTable('kits', {
  id: text('id').primaryKey(),
  value: text('value').notNull(),
  updatedAt: integer('updated_at').notNull(),
});

/** Rounds of practice, as JSON each. */
export const rounds = sqliteTable('rounds', {
  id: integer('id').primaryKey({ autoIncrement: true }),
  value: text('value').notNull(),
  at: integer('at').notNull(),
});

/** What a page saw when it last looked at a job: a small picture of it folded open, and how many faults it has. */
export const looks = sqliteTable('looks', {
  jobId: text('job_id').primaryKey(),
  /** The revision that was looked at, and by which version of the looking. */
  revision: integer('revision').notNull(),
  version: integer('version').notNull(),
  faults: integer('faults').notNull(),
  picture: text('picture').notNull(),
});

/** The studio's store: stocks, envelopes, machines, hardware, adhesives, as JSON each. */
export const storeItems = sqliteTable(
  'store_items',
  {
    kind: text('kind').notNull(),
    id: text('id').notNull(),
    value: text('value').notNull(),
    updatedAt: integer('updated_at').notNull(),
  },
  (table) => [primaryKey({ columns: [table.kind, table.id] })],
);

/** What was done once to this database, such as seeding a demo job. */
export const marks = sqliteTable('marks', { key: text('key').primaryKey(), at: integer('at').notNull() });

/** The data of picture files, each once however many revisions of however many jobs show it; by the SHA-256 of its text. */
export const images = sqliteTable('images', {
  hash: text('hash').primaryKey(),
  data: text('data').notNull(),
});
