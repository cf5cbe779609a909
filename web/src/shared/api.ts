/** The server, as the page sees it. Failures are one of two kinds: the server said no (ApiProblem), or it did not answer. */
import { SCHEMA_VERSION, type Design } from '@hollow-finch/core/design/design';
import { withFamilies } from './families.ts';
import type { Store, StoreItems, StoreKind } from '@hollow-finch/core/stock/store';
import type {
  CutJob,
  CutOutcome,
  CutRequest,
  History,
  Job,
  JobListEntry,
  KeepRequest,
  Look,
  SaveRequest,
} from './contracts.ts';
import type { Kit, KitWritten, Lesson, Round, RoundWritten, Trial, TrialWritten } from './records.ts';

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

/** What the server answers when it says yes, as the contracts have it: the server's own tests check that. */
async function ask<T>(path: string, method: string, body?: unknown, longestMs = LONGEST_MS): Promise<T> {
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
  if (response.ok) return answer as T;
  const fields = (answer ?? {}) as Record<string, unknown>;
  throw new ApiProblem(
    response.status,
    String(fields.detail ?? `The server answered with status ${response.status}.`),
    fields,
  );
}

/** A page that was loaded before the server was renewed does not read what it does not know. */
async function known(job: Job): Promise<Job> {
  if (job.design?.schemaVersion === SCHEMA_VERSION) {
    await withFamilies(job.design);
    return job;
  }
  throw new Error('This page is of another version than the server. Load it again; nothing is lost.');
}

export const api = {
  list: (): Promise<JobListEntry[]> => ask('/api/jobs', 'GET'),
  create: async (design: Design): Promise<string> =>
    (await ask<{ id: string }>('/api/jobs', 'POST', { design })).id,
  job: async (id: string): Promise<Job> => known(await ask<Job>(`/api/jobs/${id}`, 'GET')),
  save: async (id: string, save: SaveRequest): Promise<number> =>
    (await ask<{ revision: number }>(`/api/jobs/${id}`, 'PUT', save)).revision,
  duplicate: async (id: string): Promise<string> =>
    (await ask<{ id: string }>(`/api/jobs/${id}/duplicate`, 'POST')).id,
  archive: async (id: string, archived: boolean): Promise<void> =>
    void (await ask(`/api/jobs/${id}`, 'PATCH', { archived })),
  takeIn: async (bundle: unknown): Promise<string[]> =>
    (await ask<{ names: string[] }>('/api/bundle', 'POST', bundle, LONGEST_BUNDLE_MS)).names,
  keep: async (id: string, keep: KeepRequest): Promise<void> =>
    void (await ask(`/api/jobs/${id}/history`, 'POST', keep)),
  history: (id: string): Promise<History> => ask(`/api/jobs/${id}/history`, 'GET'),
  /** A design of the past: `r12` for a revision, `k3` for one that was put aside. */
  past: async (id: string, which: string): Promise<Design> => {
    const { design } = await ask<{ design: unknown }>(`/api/jobs/${id}/history/${which}`, 'GET');
    const { readDesign } = await import('@hollow-finch/core/design/schema');
    const read = readDesign(design);
    if (!read.ok) throw new Error(read.message);
    return withFamilies(read.design);
  },
  look: async (id: string, look: Look): Promise<void> =>
    void (await ask(`/api/jobs/${id}/look`, 'PUT', look)),
  store: (): Promise<Store> => ask('/api/store', 'GET'),
  putInStore: async (items: readonly { kind: StoreKind; item: StoreItems[StoreKind] }[]): Promise<void> =>
    void (await ask('/api/store', 'POST', { items })),
  takeOutOfStore: async (kind: StoreKind, id: string): Promise<void> =>
    void (await ask(`/api/store/${kind}/${encodeURIComponent(id)}`, 'DELETE')),
  cuts: (id: string): Promise<CutJob[]> => ask(`/api/jobs/${id}/cuts`, 'GET'),
  settleCut: (id: string, number: number, outcome: CutOutcome): Promise<CutJob> =>
    ask(`/api/jobs/${id}/cuts/${number}`, 'PUT', outcome),
  trials: (id: string): Promise<Trial[]> => ask(`/api/jobs/${id}/trials`, 'GET'),
  addTrial: (id: string, trial: TrialWritten): Promise<Trial> => ask(`/api/jobs/${id}/trials`, 'POST', trial),
  changeTrial: (id: string, number: number, trial: TrialWritten): Promise<Trial> =>
    ask(`/api/jobs/${id}/trials/${number}`, 'PUT', trial),
  removeTrial: async (id: string, number: number): Promise<void> =>
    void (await ask(`/api/jobs/${id}/trials/${number}`, 'DELETE')),
  lessons: (): Promise<Lesson[]> => ask('/api/lessons', 'GET'),
  kits: (): Promise<Kit[]> => ask('/api/kits', 'GET'),
  addKit: (kit: KitWritten): Promise<Kit> => ask('/api/kits', 'POST', kit),
  changeKit: (id: string, kit: KitWritten): Promise<Kit> =>
    ask(`/api/kits/${encodeURIComponent(id)}`, 'PUT', kit),
  removeKit: async (id: string): Promise<void> =>
    void (await ask(`/api/kits/${encodeURIComponent(id)}`, 'DELETE')),
  rounds: (): Promise<Round[]> => ask('/api/rounds', 'GET'),
  addRound: (round: RoundWritten): Promise<Round> => ask('/api/rounds', 'POST', round),
  recordCut: (id: string, cut: CutRequest): Promise<CutJob> => ask(`/api/jobs/${id}/cuts`, 'POST', cut),
};

/** A sentence for a failure of either kind. */
export function saidOf(fault: unknown): string {
  if (fault instanceof ApiProblem) return fault.message;
  if (fault instanceof TypeError)
    return 'The server cannot be reached. Check that it is running; nothing is lost.';
  return fault instanceof Error ? fault.message : String(fault);
}
