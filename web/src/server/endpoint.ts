import type { APIContext } from 'astro';
import type { z } from 'zod';
import { database, type Database } from './db/client.ts';
import { answer, checkedBy, readJson } from './problem.ts';

/** A job at its largest (20,000 lines in a part, several parts) with its history, which the page trims, fits well within. */
const MAX_BODY_BYTES = 40_000_000;

/** Reads and checks a request's body; what is wrong is said with the place in the body. */
export async function body<T>(request: Request, schema: z.ZodType<T>): Promise<T> {
  return checkedBy(schema, await readJson(request, MAX_BODY_BYTES));
}

/** An endpoint around the database: problems become problem details. */
export const endpoint =
  (work: (context: APIContext, db: Database) => Promise<Response>) =>
  (context: APIContext): Promise<Response> =>
    answer(async () => work(context, await database()));
