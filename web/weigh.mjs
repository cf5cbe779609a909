/**
 * What the pages weigh: the gzipped script that each place loads before it can be used, workers and what is loaded on demand
 * not counted. Fails beyond the budget; also writes every asset in compressed form beside it, for the server to send.
 */
import { readdirSync, readFileSync, writeFileSync } from 'node:fs';
import { dirname, join, resolve } from 'node:path';
import { fileURLToPath } from 'node:url';
import { brotliCompressSync, constants, gzipSync } from 'node:zlib';

const client = resolve(dirname(fileURLToPath(import.meta.url)), 'dist/client');
const assets = join(client, '_astro');

/** Places with the chunks that they begin with, and their budgets in kB of gzipped script. */
const BUDGETS = {
  shelf: { begins: ['ShelfPage', 'client'], kB: 250 },
  brief: { begins: ['JobPage', 'client', 'Brief'], kB: 250 },
  cut: { begins: ['JobPage', 'client', 'Cut'], kB: 250 },
  draft: { begins: ['JobPage', 'client', 'Draft'], kB: 300 },
};

const scripts = new Map(
  readdirSync(assets)
    .filter((name) => name.endsWith('.js'))
    .map((name) => [name, readFileSync(join(assets, name), 'utf8')]),
);
const sizes = new Map([...scripts].map(([name, text]) => [name, gzipSync(text, { level: 9 }).length]));

/** What a script imports before it runs. */
const importsOf = (text) => [...text.matchAll(/(?:from|import)\s*"\.\/([\w.-]+\.js)"/g)].map((m) => m[1]);

/** Chunks by the name that they were built from; a name that is only handed on has more than one. */
const named = (name) => [...scripts.keys()].filter((file) => file.split('.')[0] === name);

let failed = false;
for (const [place, { begins, kB }] of Object.entries(BUDGETS)) {
  const open = begins.flatMap(named);
  if (open.length < begins.length) {
    console.error(`The script of ${place} was not found among the assets.`);
    failed = true;
  }
  const needed = new Set(open);
  for (let at = open.pop(); at !== undefined; at = open.pop())
    for (const next of importsOf(scripts.get(at) ?? ''))
      if (!needed.has(next)) {
        needed.add(next);
        open.push(next);
      }
  const bytes = [...needed].reduce((sum, name) => sum + (sizes.get(name) ?? 0), 0);
  const over = bytes > kB * 1000;
  failed ||= over;
  console.log(
    `${place.padEnd(6)} ${(bytes / 1000).toFixed(0)} kB of script, ${over ? 'over' : 'within'} ${kB} kB`,
  );
  if (process.env.WEIGH_ALL)
    for (const name of [...needed].sort((a, b) => sizes.get(b) - sizes.get(a)))
      console.log(`  ${sizes.get(name)} ${name}`);
}

/** Kinds that grow smaller by compressing, and from which size on it pays. */
const TEXT = /\.(?:js|css|svg|html|json|txt)$/;
const LEAST = 1000;
for (const entry of readdirSync(client, { recursive: true, withFileTypes: true })) {
  if (!entry.isFile() || !TEXT.test(entry.name)) continue;
  const path = join(entry.parentPath ?? entry.path, entry.name);
  const raw = readFileSync(path);
  if (raw.length < LEAST) continue;
  writeFileSync(`${path}.gz`, gzipSync(raw, { level: 9 }));
  writeFileSync(`${path}.br`, brotliCompressSync(raw, { params: { [constants.BROTLI_PARAM_QUALITY]: 9 } }));
}
if (failed) process.exit(1);
