/** The server, as the page sees it. Failures are one of two kinds: the server said no (ApiProblem), or it did not answer. */
import { readDesign, type Design } from '@hollow-finch/core/design/design';
import type { z } from 'zod';
import {
  cutJobSchema,
  cutListSchema,
  historySchema,
  jobListSchema,
  jobSchema,
  type CutJob,
  type CutRequest,
  type History,
  type Job,
  type JobListEntry,
  type KeepRequest,
  type SaveRequest,
} from './contracts.ts';

/** The server's answer when it refuses: a sentence for people, and the problem's own fields. */
export class ApiProblem extends Error {
  constructor(
    readonly status: number,
    message: string,
    readonly fields: Readonly<Record<string, unknown>>,
  ) {
    super(message);
  }
}

/** The server did not answer in time: whether it did what it was asked is not known. */
export class NoAnswer extends Error {}

/** So long an answer is waited for, ms; taking in a whole studio takes longer. */
const LONGEST_MS = 30_000;
const LONGEST_BUNDLE_MS = 600_000;

async function ask(path: string, method: string, body?: unknown, longestMs = LONGEST_MS): Promise<unknown> {
  const late = new AbortController();
  const timer = setTimeout(() => late.abort(), longestMs);
  let response: Response;
  let answer: unknown;
  try {
    response = await fetch(path, {
      method,
      headers: body === undefined ? undefined : { 'content-type': 'application/json' },
      body: body === undefined ? undefined : JSON.stringify(body),
      signal: late.signal,
    });
    answer = await response.json().catch(() => ({}));
  } catch (fault) {
    if (late.signal.aborted)
      throw new NoAnswer(
        `The server has not answered for ${Math.round(longestMs / 1000)} seconds; nothing is lost.`,
      );
    throw fault;
  } finally {
    clearTimeout(timer);
  }
  if (response.ok) return answer;
  const fields = (answer ?? {}) as Record<string, unknown>;
  throw new ApiProblem(
    response.status,
    String(fields.detail ?? `The server answered with status ${response.status}.`),
    fields,
  );
}

const checked = async <T>(answer: Promise<unknown>, schema: z.ZodType<T>): Promise<T> =>
  schema.parse(await answer);

export const api = {
  list: (): Promise<JobListEntry[]> => checked(ask('/api/jobs', 'GET'), jobListSchema),
  create: async (design: Design): Promise<string> =>
    ((await ask('/api/jobs', 'POST', { design })) as { id: string }).id,
  job: (id: string): Promise<Job> => checked(ask(`/api/jobs/${id}`, 'GET'), jobSchema),
  save: async (id: string, save: SaveRequest): Promise<number> =>
    ((await ask(`/api/jobs/${id}`, 'PUT', save)) as { revision: number }).revision,
  duplicate: async (id: string): Promise<string> =>
    ((await ask(`/api/jobs/${id}/duplicate`, 'POST')) as { id: string }).id,
  archive: async (id: string, archived: boolean): Promise<void> =>
    void (await ask(`/api/jobs/${id}`, 'PATCH', { archived })),
  takeIn: async (bundle: unknown): Promise<string[]> =>
    ((await ask('/api/bundle', 'POST', bundle, LONGEST_BUNDLE_MS)) as { names: string[] }).names,
  keep: async (id: string, keep: KeepRequest): Promise<void> =>
    void (await ask(`/api/jobs/${id}/history`, 'POST', keep)),
  history: (id: string): Promise<History> => checked(ask(`/api/jobs/${id}/history`, 'GET'), historySchema),
  /** A design of the past: `r12` for a revision, `k3` for one that was put aside. */
  past: async (id: string, which: string): Promise<Design> => {
    const { design } = (await ask(`/api/jobs/${id}/history/${which}`, 'GET')) as { design: unknown };
    const read = readDesign(design);
    if (!read.ok) throw new Error(read.message);
    return read.design;
  },
  cuts: (id: string): Promise<CutJob[]> => checked(ask(`/api/jobs/${id}/cuts`, 'GET'), cutListSchema),
  recordCut: (id: string, cut: CutRequest): Promise<CutJob> =>
    checked(ask(`/api/jobs/${id}/cuts`, 'POST', cut), cutJobSchema),
};

/** A sentence for a failure of either kind. */
export function saidOf(fault: unknown): string {
  if (fault instanceof ApiProblem) return fault.message;
  if (fault instanceof TypeError)
    return 'The server cannot be reached. Check that it is running; nothing is lost.';
  return fault instanceof Error ? fault.message : String(fault);
}
