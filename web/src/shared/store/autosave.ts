/**
 * Autosave: every edit is kept in the browser at once, and on the server soon after, under a revision number. "Saved" is
 * said only after the server confirmed it. When the server cannot be reached, saving goes on being tried; when another
 * window saved meanwhile, nothing is overwritten and the person is asked.
 */
import type { Edit } from '@hollow-finch/core/design/commands';
import { api, ApiProblem, saidOf } from '../api.ts';
import { dropDraft, forget, keepDraft, leftDrafts, takeOver } from './drafts.ts';
import { openJob, useJob, type JobState } from './jobStore.ts';

const DELAY_MS = 350;
const RETRY_MS = [500, 1000, 2000, 4000];

/** So many characters of history are kept with a job: the oldest edits go first. */
const MOST_HISTORY = 4_000_000;
const sizes = new WeakMap<Edit, number>();

/** The newest edits that are not too much to keep. */
export function affordable(edits: readonly Edit[], most = MOST_HISTORY): Edit[] {
  let left = most;
  let from = edits.length;
  while (from > 0) {
    const edit = edits[from - 1];
    const size = sizes.get(edit) ?? JSON.stringify(edit).length;
    sizes.set(edit, size);
    if (size > left) break;
    left -= size;
    from--;
  }
  return edits.slice(from);
}

/** Keeps what is not saved yet in this browser, and says whether that went. */
function keep(): void {
  const { id, design, undo, redo, revision } = useJob.getState();
  useJob.setState({
    keptHere: keepDraft(id, { design, undo: affordable(undo), redo: affordable(redo), revision }),
  });
}

/**
 * Opens a job: the server's state, or work that this browser kept because it could not be saved. Of several copies the newest
 * is taken up, and the others are put aside with the job's revisions.
 */
export async function loadJob(id: string): Promise<void> {
  const job = await api.job(id);
  const left = await leftDrafts(id);
  const same = JSON.stringify(job.design);
  const unsaved = left.flatMap(({ key, draft }) => {
    if (!draft) return [];
    if (JSON.stringify(draft.design) !== same) return [{ key, draft }];
    forget(key);
    return [];
  });
  const unread = left.some(({ draft }) => !draft);
  const [newest, ...older] = unsaved;
  if (!newest) openJob(job);
  else {
    const { draft, key } = newest;
    openJob({ id, ...draft, undo: [...draft.undo], redo: [...draft.redo] }, true);
    keep();
    if (useJob.getState().keptHere) takeOver(id, key);
    if (draft.revision !== job.revision) useJob.setState({ save: { kind: 'conflict', theirs: job } });
  }
  if (unread)
    useJob.setState({
      unread:
        'This browser keeps unsaved work of this job that this version cannot read; it is left as it is.',
    });
  for (const { key, draft } of older)
    await api
      .keep(id, { design: draft.design, baseRevision: draft.revision, reason: 'Left unsaved in a window' })
      .then(() => forget(key))
      .catch(() => undefined);
}

class Autosave {
  private timer: ReturnType<typeof setTimeout> | undefined;
  private busy = false;
  private savedVersion = 0;
  private tries = 0;

  start(): () => void {
    this.savedVersion = 0;
    const edited = ({ save }: JobState) => {
      keep();
      if (save.kind === 'saved' || save.kind === 'refused') useJob.setState({ save: { kind: 'waiting' } });
      if (save.kind !== 'conflict') this.schedule(DELAY_MS);
    };
    const now = useJob.getState();
    if (now.save.kind === 'waiting') this.schedule(0);
    // A hand that was quicker than the page: what was edited before this began is saved as well.
    else if (now.version !== this.savedVersion) edited(now);
    const stop = useJob.subscribe((state, before) => {
      if (state.id !== before.id) this.savedVersion = 0;
      if (state.version !== before.version && state.version !== this.savedVersion) edited(state);
    });
    const warn = (event: BeforeUnloadEvent) => {
      if (useJob.getState().save.kind !== 'saved') event.preventDefault();
    };
    const online = () => this.schedule(0);
    window.addEventListener('beforeunload', warn);
    window.addEventListener('online', online);
    return () => {
      stop();
      clearTimeout(this.timer);
      window.removeEventListener('beforeunload', warn);
      window.removeEventListener('online', online);
    };
  }

  /** Tries to save now. */
  schedule(delay: number): void {
    clearTimeout(this.timer);
    this.timer = setTimeout(() => void this.save(), delay);
  }

  /** Saves what is not saved yet; rejects with the reason when that is not possible now. */
  async flush(): Promise<void> {
    for (let tries = 0; tries < 40; tries++) {
      const { save } = useJob.getState();
      if (save.kind === 'saved') return;
      if (save.kind === 'unreachable' || save.kind === 'refused') throw new Error(save.message);
      if (save.kind === 'conflict')
        throw new Error('This job was saved elsewhere meanwhile; decide which one to keep first.');
      this.schedule(0);
      await new Promise((resolve) => setTimeout(resolve, 100));
    }
    throw new Error('Saving takes too long; try again.');
  }

  private async save(): Promise<void> {
    if (this.busy) return this.schedule(DELAY_MS);
    const { id, design, undo, redo, revision, version, save } = useJob.getState();
    if (save.kind === 'conflict' || version === this.savedVersion) return;
    this.busy = true;
    if (save.kind !== 'unreachable') useJob.setState({ save: { kind: 'saving' } });
    try {
      const next = await api.save(id, {
        baseRevision: revision,
        design,
        undo: affordable(undo),
        redo: affordable(redo),
      });
      this.savedVersion = version;
      this.tries = 0;
      const more = useJob.getState().version !== version;
      useJob.setState({ revision: next, save: { kind: more ? 'waiting' : 'saved' } });
      if (more) {
        keep();
        this.schedule(DELAY_MS);
      } else dropDraft(id);
    } catch (fault) {
      await this.failed(id, fault);
    } finally {
      this.busy = false;
    }
  }

  private async failed(id: string, fault: unknown): Promise<void> {
    if (fault instanceof ApiProblem && fault.status === 409) {
      try {
        const theirs = await api.job(id);
        // The answer to an earlier save may have been lost on the way: then "theirs" is this very design.
        if (JSON.stringify(theirs.design) === JSON.stringify(useJob.getState().design)) {
          this.savedVersion = useJob.getState().version;
          useJob.setState({ revision: theirs.revision, save: { kind: 'saved' } });
          dropDraft(id);
        } else useJob.setState({ save: { kind: 'conflict', theirs } });
        return;
      } catch {
        // Fall through: the server went away between the two questions.
      }
    }
    if (fault instanceof ApiProblem && fault.status < 500 && fault.status !== 409) {
      useJob.setState({ save: { kind: 'refused', message: saidOf(fault) } });
      return;
    }
    useJob.setState({ save: { kind: 'unreachable', message: saidOf(fault) } });
    this.schedule(RETRY_MS[Math.min(this.tries++, RETRY_MS.length - 1)]);
  }

  /**
   * Answers a conflict: keep this window's design as the next revision, or take the other one. Both stay in the record: the
   * other one is there already, and this one is put aside first. Rejects when that cannot be done; then nothing is changed.
   */
  async resolve(keep: 'mine' | 'theirs'): Promise<void> {
    const { save, id, version, design, revision } = useJob.getState();
    if (save.kind !== 'conflict') return;
    if (keep === 'theirs') {
      await api.keep(id, {
        design,
        baseRevision: revision,
        reason: `Given up for revision ${save.theirs.revision}, saved elsewhere`,
      });
      dropDraft(id);
      // What is opened is what the server has: set before opening, so that opening is no edit.
      this.savedVersion = 0;
      openJob(save.theirs);
    } else {
      useJob.setState({ revision: save.theirs.revision, save: { kind: 'waiting' }, version: version + 1 });
      this.schedule(0);
    }
  }
}

export const autosave = new Autosave();
