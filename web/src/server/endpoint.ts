import type { APIContext } from 'astro';
import { issueWords } from '@hollow-finch/core/design/issueWords';
import type { z } from 'zod';
import { database, type Database } from './db/client.ts';
import { answer, Problem, readJson } from './problem.ts';

/** A job at its largest (20,000 lines in a part, several parts) with its history, which the page trims, fits well within. */
const MAX_BODY_BYTES = 40_000_000;

/** Reads and checks a request's body; what is wrong is said with the place in the body. */
export async function body<T>(request: Request, schema: z.ZodType<T>): Promise<T> {
  const parsed = schema.safeParse(await readJson(request, MAX_BODY_BYTES), { reportInput: true });
  if (parsed.success) return parsed.data;
  const said = issueWords(parsed.error.issues[0]);
  throw new Problem(422, 'Not acceptable', `${said.charAt(0).toUpperCase()}${said.slice(1)}`);
}

/** An endpoint around the database: problems become problem details. */
export const endpoint =
  (work: (context: APIContext, db: Database) => Promise<Response>) =>
  (context: APIContext): Promise<Response> =>
    answer(async () => work(context, await database()));
