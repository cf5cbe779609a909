/**
 * Work that this browser keeps of jobs until the server has it. Each window keeps its own copy; what a window left behind that
 * is no longer open can be taken over by the next one. Nothing that cannot be read (by an older version, say) is deleted.
 */
import type { Edit } from '@hollow-finch/core/design/commands';
import type { Job } from '../contracts.ts';
import { withFamilies } from '../families.ts';

/** What is kept of a job. */
export type Draft = Pick<Job, 'design' | 'revision'> & {
  readonly undo: readonly Edit[];
  readonly redo: readonly Edit[];
};

const PREFIX = 'hollow-finch:unsaved:';
const windowId = crypto.randomUUID().slice(0, 13);
const lockOf = (id: string): string => `hollow-finch:window:${id}`;
const ownKey = (jobId: string): string => `${PREFIX}${jobId}:${windowId}`;

/** The browser's locks, where it has them. */
function locks(): LockManager | undefined {
  return typeof navigator === 'undefined'
    ? undefined
    : ((navigator.locks as LockManager | null) ?? undefined);
}

/** Lets others know that this window is not open any more. */
let letGo: (() => void) | undefined;

/** Held as long as this window is open: so others know that its copy is not left behind. */
function hold(): void {
  void locks()?.request(lockOf(windowId), () => new Promise<void>((resolve) => (letGo = resolve)));
}

if (typeof window !== 'undefined') {
  hold();
  // A page that was left may be kept by the browser, with all that it holds, in case a person comes back to it.
  window.addEventListener('pagehide', () => letGo?.());
  window.addEventListener('pageshow', (event) => event.persisted && hold());
}

/** Other windows that are open; where the browser cannot tell, none. */
async function otherWindows(): Promise<ReadonlySet<string>> {
  const open = new Set<string>();
  const query = await locks()?.query();
  for (const { name } of query?.held ?? [])
    if (name?.startsWith(lockOf(''))) open.add(name.slice(lockOf('').length));
  open.delete(windowId);
  return open;
}

/** Keeps this window's copy. False when the browser's store is full or blocked. */
export function keepDraft(jobId: string, draft: Draft): boolean {
  try {
    localStorage.setItem(ownKey(jobId), JSON.stringify({ ...draft, at: Date.now() }));
    return true;
  } catch {
    return false;
  }
}

/** Lets this window's copy go: the server has it. */
export function dropDraft(jobId: string): void {
  forget(ownKey(jobId));
}

/** Lets a copy go that this window has taken over as its own. */
export function takeOver(jobId: string, key: string): void {
  if (key !== ownKey(jobId)) forget(key);
}

/** Takes an entry out of the browser's store. */
export function forget(key: string): void {
  try {
    localStorage.removeItem(key);
  } catch {
    // A blocked store holds nothing.
  }
}

/** A copy that was left behind: what it holds, or null when it cannot be read here. */
export interface LeftDraft {
  readonly key: string;
  readonly draft: Draft | null;
}

/** Copies of a job by windows that are no longer open, and by this one, the newest first. */
export async function leftDrafts(jobId: string): Promise<LeftDraft[]> {
  const open = await otherWindows();
  const texts = new Map<string, string | null>();
  try {
    for (const key of Object.keys(localStorage)) {
      if (key !== `${PREFIX}${jobId}` && !key.startsWith(`${PREFIX}${jobId}:`)) continue;
      if (open.has(key.slice(PREFIX.length + jobId.length + 1))) continue;
      texts.set(key, localStorage.getItem(key));
    }
  } catch {
    // A blocked store holds nothing.
  }
  const found = await Promise.all(
    [...texts].map(async ([key, text]) => ({ key, ...(await readLeft(text)) })),
  );
  return found.sort((a, b) => b.at - a.at);
}

async function readLeft(text: string | null): Promise<{ draft: Draft | null; at: number }> {
  try {
    const kept = JSON.parse(text ?? 'null') as (Draft & { at?: number }) | null;
    // Only what was left behind needs checking: the page does not carry the schema otherwise.
    const { readDesign } = await import('@hollow-finch/core/design/schema');
    const read = readDesign(kept?.design);
    if (!kept || !read.ok) return { draft: null, at: kept?.at ?? 0 };
    const { presentEdits } = await import('@hollow-finch/core/design/migrations');
    const edits = (list: readonly Edit[]) => presentEdits(list, kept.design) as Edit[];
    return {
      draft: {
        ...kept,
        design: await withFamilies(read.design),
        undo: edits(kept.undo),
        redo: edits(kept.redo),
      },
      at: kept.at ?? 0,
    };
  } catch {
    return { draft: null, at: 0 };
  }
}
