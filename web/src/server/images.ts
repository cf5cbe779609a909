/**
 * The data of picture files, kept once. In the texts of designs and edits it is replaced by its name before they are stored, and
 * put back when they are read: a job with pictures that is saved a hundred times grows by its designs, not by its pictures.
 */
import { inArray } from 'drizzle-orm';
import { createHash } from 'node:crypto';
import type { Database } from './db/client.ts';
import { images } from './db/schema.ts';

/** Data of a picture as it stands in JSON, long enough to be worth it. */
const DATA = /"(data:image\/(?:png|jpeg|webp);base64,[A-Za-z0-9+/]{200,}={0,2})"/g;
const NAME = /"stored-image:([0-9a-f]{64})"/g;

/** So many names are asked for at a time. */
const AT_A_TIME = 200;

/** Takes the data of pictures out of texts that are stored together. */
export class Packing {
  private readonly found = new Map<string, string>();

  /** A JSON text with names in the place of pictures. */
  text(json: string): string {
    return json.replace(DATA, (_, data: string) => {
      const hash = createHash('sha256').update(data).digest('hex');
      this.found.set(hash, data);
      return `"stored-image:${hash}"`;
    });
  }

  /** What stores the pictures that were taken out: for the same transaction as the texts. */
  statements(db: Database) {
    return [...this.found].map(([hash, data]) =>
      db.insert(images).values({ hash, data }).onConflictDoNothing(),
    );
  }
}

/** The names of pictures in JSON texts. */
const namesIn = (texts: readonly string[]): string[] => [
  ...new Set(texts.flatMap((json) => [...json.matchAll(NAME)].map(([, hash]) => hash))),
];

/** The data of the pictures that are named in JSON texts, by their names. */
export async function imagesOf(db: Database, texts: readonly string[]): Promise<Map<string, string>> {
  const names = namesIn(texts);
  const data = new Map<string, string>();
  for (let from = 0; from < names.length; from += AT_A_TIME) {
    const some = names.slice(from, from + AT_A_TIME);
    for (const row of await db.select().from(images).where(inArray(images.hash, some)))
      data.set(row.hash, row.data);
  }
  return data;
}

/** A JSON text with the data of its pictures; a picture that is not there keeps its name, and its job tells. */
export const withImages = (json: string, data: ReadonlyMap<string, string>): string =>
  json.replace(NAME, (name, hash: string) => (data.has(hash) ? JSON.stringify(data.get(hash)) : name));

/** JSON texts as they were before they were packed. */
export async function unpacked<const T extends readonly string[]>(
  db: Database,
  texts: T,
): Promise<{ [K in keyof T]: string }> {
  const data = await imagesOf(db, texts);
  return texts.map((json) => withImages(json, data)) as unknown as { [K in keyof T]: string };
}
