/** Starts the built server: tables brought up to date first, then the server listens on the loopback address. */
import { mkdirSync } from 'node:fs';
import { dirname, resolve } from 'node:path';
import { fileURLToPath } from 'node:url';
import { createClient } from '@libsql/client';
import { drizzle } from 'drizzle-orm/libsql';
import { migrate } from 'drizzle-orm/libsql/migrator';

const here = dirname(fileURLToPath(import.meta.url));
process.env.NODE_ENV = 'production';
process.env.HOST ??= '127.0.0.1';
process.env.PORT ??= '4321';
process.env.HOLLOW_FINCH_DB ??= `file:${resolve(here, '../var/hollow-finch.db')}`;
if (!['127.0.0.1', 'localhost', '::1'].includes(process.env.HOST)) {
  console.error('Hollow Finch listens on this machine only (HOST must be 127.0.0.1, localhost or ::1).');
  process.exit(1);
}
if (process.env.HOLLOW_FINCH_DB.startsWith('file:'))
  mkdirSync(dirname(process.env.HOLLOW_FINCH_DB.slice('file:'.length)), { recursive: true });
const client = createClient({ url: process.env.HOLLOW_FINCH_DB, concurrency: 1 });
await migrate(drizzle(client), { migrationsFolder: resolve(here, 'src/server/db/migrations') });
client.close();
await import('./dist/server/entry.mjs');
