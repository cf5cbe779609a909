import { issueWords } from '@hollow-finch/core/design/issueWords';
import type { z } from 'zod';

/** Errors as problem details (RFC 9457): what is wrong, where, what to do. */
export class Problem extends Error {
  constructor(
    readonly status: number,
    readonly title: string,
    readonly detail: string,
    readonly extra: Readonly<Record<string, unknown>> = {},
  ) {
    super(detail);
  }
}

/** The response that tells a problem. */
export function problemResponse(problem: Problem): Response {
  const { status, title, detail, extra } = problem;
  return new Response(JSON.stringify({ type: 'about:blank', title, status, detail, ...extra }), {
    status,
    headers: { 'content-type': 'application/problem+json' },
  });
}

export function json(value: unknown, status = 200): Response {
  return new Response(JSON.stringify(value), { status, headers: { 'content-type': 'application/json' } });
}

/** The response that is a file to keep. */
export function file(text: string, type: string, name: string): Response {
  return new Response(text, {
    headers: { 'content-type': type, 'content-disposition': `attachment; filename="${name}"` },
  });
}

/**
 * What a schema reads in a document.
 *
 * @throws Problem 422 with the place of the first thing wrong
 */
export function checkedBy<T>(schema: z.ZodType<T>, document: unknown, title = 'Not acceptable'): T {
  const parsed = schema.safeParse(document, { reportInput: true });
  if (parsed.success) return parsed.data;
  const said = issueWords(parsed.error.issues[0]);
  throw new Problem(422, title, `${said.charAt(0).toUpperCase()}${said.slice(1)}`);
}

/** What the database or the disk says, in words with what to do. */
function knownFault(fault: unknown): Problem | undefined {
  const { code, message, cause } = fault as {
    code?: string;
    message?: string;
    cause?: { code?: string; message?: string };
  };
  const said = `${code} ${message} ${cause?.code} ${cause?.message}`;
  if (/SQLITE_FULL|ENOSPC|disk is full/.test(said))
    return new Problem(
      507,
      'The disk is full',
      'The disk is full: nothing was stored. Make room on it, and try again.',
    );
  if (/SQLITE_BUSY|database is locked/.test(said))
    return new Problem(
      503,
      'Busy',
      'Another program holds the database: nothing was stored. Try again in a moment.',
    );
  if (/SQLITE_READONLY|SQLITE_IOERR|EROFS/.test(said))
    return new Problem(
      507,
      'The disk cannot be written',
      'The database cannot be written: nothing was stored. Check the disk and who may write to it.',
    );
  return undefined;
}

/** Runs an endpoint; a Problem becomes its response, anything else a 500 that tells nothing of the inside. */
export async function answer(work: () => Promise<Response>): Promise<Response> {
  try {
    return await work();
  } catch (fault) {
    if (fault instanceof Problem) return problemResponse(fault);
    const known = knownFault(fault);
    if (known) return problemResponse(known);
    process.stderr.write(`${fault instanceof Error ? (fault.stack ?? fault.message) : String(fault)}\n`);
    return problemResponse(
      new Problem(
        500,
        'The server failed',
        'Something went wrong on the server. Nothing was half-written; try again.',
      ),
    );
  }
}

/** Reads a JSON body of at most `limitBytes`. */
export async function readJson(request: Request, limitBytes: number): Promise<unknown> {
  if (!request.headers.get('content-type')?.startsWith('application/json'))
    throw new Problem(415, 'Not JSON', 'Send the request as application/json.');
  const text = await readText(request, limitBytes);
  try {
    return JSON.parse(text);
  } catch (fault) {
    throw new Problem(400, 'Not JSON', `The request is not valid JSON: ${(fault as Error).message}.`);
  }
}

/** How much of a request that is too large is read before the line is cut. */
const DRAIN_FACTOR = 4;

async function readText(request: Request, limitBytes: number): Promise<string> {
  const reader = request.body?.getReader();
  if (!reader) throw new Problem(400, 'Empty request', 'The request has no body.');
  const chunks: Uint8Array[] = [];
  let size = 0;
  for (;;) {
    const { done, value } = await reader.read();
    if (done) break;
    size += value.length;
    if (size <= limitBytes) chunks.push(value);
    // Read on without keeping it, so that the sender hears the answer; but not for ever.
    else if (size > DRAIN_FACTOR * limitBytes) {
      await reader.cancel();
      break;
    }
  }
  if (size > limitBytes)
    throw new Problem(413, 'Too large', `The request is larger than ${Math.round(limitBytes / 1e6)} MB.`);
  return new TextDecoder().decode(Buffer.concat(chunks));
}
