/**
 * Starts the built server: tables brought up to date first, then the server listens on the loopback address, and only when it
 * answers is that said. At stop everything is folded into the one database file.
 */
import { guarded } from './guard.mjs';
import { startFault } from './startFault.mjs';

const fail = (sentence) => {
  console.error(sentence);
  process.exit(1);
};

if (Number(process.versions.node.split('.')[0]) < 20)
  fail(`Hollow Finch needs Node.js 20 or newer; this is ${process.versions.node}.`);

const { mkdirSync } = await import('node:fs');
const { createServer } = await import('node:http');
const { dirname, resolve } = await import('node:path');
const { fileURLToPath } = await import('node:url');

const here = dirname(fileURLToPath(import.meta.url));
process.env.NODE_ENV = 'production';
process.env.HOST ??= '127.0.0.1';
process.env.PORT ??= '4321';
process.env.HOLLOW_FINCH_DB ??= `file:${resolve(here, '../var/hollow-finch.db')}`;
const { HOST, PORT, HOLLOW_FINCH_DB } = process.env;
if (!['127.0.0.1', 'localhost', '::1'].includes(HOST))
  fail('Hollow Finch listens on this machine only (HOST must be 127.0.0.1, localhost or ::1).');
if (!/^\d+$/.test(PORT) || Number(PORT) < 1 || Number(PORT) > 65535)
  fail(`PORT is “${PORT}”; it should be a number from 1 to 65535.`);

/** What answers: at first only that the application is starting. */
let answer = (_request, response) => {
  response.writeHead(503, { 'content-type': 'text/plain', 'retry-after': '1' });
  response.end('Hollow Finch is starting.');
};

/** Takes the port, before anything else is done. */
const takePort = () =>
  new Promise((done, refuse) => {
    const server = createServer((request, response) => answer(request, response));
    server.once('error', refuse);
    // Longer than a browser keeps an idle connection: a save is never sent into one that is just being closed.
    server.keepAliveTimeout = 65_000;
    server.listen(Number(PORT), HOST, () => done());
  });

/** A connection to the database, for work before and after the server runs. */
const connect = async () => {
  const { createClient } = await import('@libsql/client');
  return createClient({
    url: HOLLOW_FINCH_DB,
    authToken: process.env.HOLLOW_FINCH_DB_TOKEN,
    concurrency: 1,
  });
};

const isFile = HOLLOW_FINCH_DB.startsWith('file:');

async function tablesUpToDate() {
  const { drizzle } = await import('drizzle-orm/libsql');
  const { migrate } = await import('drizzle-orm/libsql/migrator');
  if (isFile) mkdirSync(dirname(HOLLOW_FINCH_DB.slice('file:'.length)), { recursive: true });
  const client = await connect();
  try {
    if (isFile) {
      const { rows } = await client.execute('PRAGMA quick_check(1)');
      if (String(Object.values(rows[0] ?? {})[0]) !== 'ok')
        throw new Error('SQLITE_CORRUPT: the check failed');
    }
    await migrate(drizzle(client), { migrationsFolder: resolve(here, 'src/server/db/migrations') });
  } finally {
    client.close();
  }
}

/** Everything that was saved folded into the one file, so that a copy of it is whole. */
async function foldIn() {
  if (!isFile) return;
  const client = await connect();
  await client.execute('PRAGMA busy_timeout = 3000');
  await client.execute('PRAGMA wal_checkpoint(TRUNCATE)');
  client.close();
}

let stopping = false;
for (const signal of ['SIGINT', 'SIGTERM', 'SIGHUP'])
  process.on(signal, () => {
    if (stopping) return;
    stopping = true;
    foldIn().then(
      () => process.exit(0),
      (fault) => fail(startFault(fault)),
    );
  });

try {
  await takePort();
  await tablesUpToDate();
  process.env.ASTRO_NODE_AUTOSTART = 'disabled';
  const { handler } = await import('./dist/server/entry.mjs');
  const { default: sirv } = await import('sirv');
  // What was built carries its content in its name; it was compressed when it was built (weigh.mjs).
  const files = sirv(resolve(here, 'dist/client'), {
    brotli: true,
    gzip: true,
    etag: true,
    extensions: [],
    setHeaders: (response, path) =>
      response.setHeader(
        'cache-control',
        path.startsWith('/_astro/') ? 'public, max-age=31536000, immutable' : 'no-cache',
      ),
  });
  answer = guarded((request, response) => {
    const page = () => handler(request, response);
    return ['GET', 'HEAD'].includes(request.method ?? '') ? files(request, response, page) : page();
  });
  const address = `http://${HOST.includes(':') ? `[${HOST}]` : HOST}:${PORT}`;
  for (let tries = 0; ; tries++)
    try {
      const { status } = await fetch(`${address}/api/jobs`);
      if (status !== 200) throw new Error(`the server answers with ${status}`);
      console.log(`Hollow Finch is at ${address}  (stop it with Ctrl C)`);
      break;
    } catch (fault) {
      if (tries === 100) throw fault;
      await new Promise((done) => setTimeout(done, 100));
    }
} catch (fault) {
  fail(startFault(fault));
}
