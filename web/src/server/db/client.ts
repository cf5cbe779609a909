import { mkdirSync } from 'node:fs';
import { dirname, resolve } from 'node:path';
import { fileURLToPath } from 'node:url';
import { createClient, type Client } from '@libsql/client';
import { drizzle, type LibSQLDatabase } from 'drizzle-orm/libsql';
import { migrate } from 'drizzle-orm/libsql/migrator';
import * as schema from './schema.ts';

export type Database = LibSQLDatabase<typeof schema>;

/**
 * The database address: HOLLOW_FINCH_DB (a file: or libsql: address, with its token in HOLLOW_FINCH_DB_TOKEN), else a file in
 * `var` beside the workspace `web`.
 */
function databaseUrl(): string {
  return process.env.HOLLOW_FINCH_DB ?? `file:${resolve('../var/hollow-finch.db')}`;
}

/**
 * Opens a database. One connection (`concurrency: 1`): with more, a local file answers SQLITE_BUSY to writers at once.
 * Pragmas hold for that one connection.
 */
export async function openDatabase(url = databaseUrl()): Promise<{ db: Database; client: Client }> {
  if (url.startsWith('file:')) mkdirSync(dirname(url.slice('file:'.length)), { recursive: true });
  const client = createClient({ url, authToken: process.env.HOLLOW_FINCH_DB_TOKEN, concurrency: 1 });
  if (url.startsWith('file:')) {
    // First of all: what follows waits for others, too.
    await client.execute('PRAGMA busy_timeout = 5000');
    await client.execute('PRAGMA journal_mode = WAL');
    await client.execute('PRAGMA synchronous = FULL');
  }
  return { db: drizzle(client, { schema }), client };
}

/** Brings the tables up to date. Called by the start script before the server listens, and by tests. */
export async function migrateDatabase(db: Database, folder = migrationsFolder()): Promise<void> {
  await migrate(db, { migrationsFolder: folder });
}

const migrationsFolder = (): string => fileURLToPath(new URL('./migrations', import.meta.url));

let shared: Promise<{ db: Database; client: Client }> | undefined;

/** The server's database, opened at the first request. */
export async function database(): Promise<Database> {
  shared ??= openDatabase();
  return (await shared).db;
}
