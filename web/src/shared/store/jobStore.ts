/** The open job: its design, edits that can be undone across a reload, and what is computed from it. */
import { applyCommand, type Command, type Edit } from '@hollow-finch/core/design/commands';
import { lockedAgainst } from '@hollow-finch/core/design/locks';
import { withFollowers } from '@hollow-finch/core/design/followers';
import type { Pull } from '@hollow-finch/core/checks/finding';
import type { HeldPull } from '@hollow-finch/core/checks/report';
import type { Design } from '@hollow-finch/core/design/design';
import { create } from 'zustand';
import type { TimedReport } from '../../workers/report.worker.ts';
import type { CutJob, Job } from '../contracts.ts';
import type { Lesson, Trial } from '../records.ts';
import { MAX_HISTORY } from '../limits.ts';
import type { Selection } from './selection.ts';

export type SaveState =
  | { readonly kind: 'saved' }
  | { readonly kind: 'waiting' }
  | { readonly kind: 'saving' }
  | { readonly kind: 'unreachable'; readonly message: string }
  | { readonly kind: 'refused'; readonly message: string }
  | { readonly kind: 'conflict'; readonly theirs: Job };

export type { Selection } from './selection.ts';

export interface JobState {
  readonly id: string;
  /** The design as edited. */
  readonly design: Design;
  /** The design as shown: with the drag or typing in progress applied. */
  readonly shown: Design;
  /** The design as shown, but a few times a second while a hand drags: for measures and figures beside the drawing. */
  readonly calm: Design;
  readonly undo: readonly Edit[];
  readonly redo: readonly Edit[];
  readonly revision: number;
  /** Counts edits, undo and redo: what is saved is the state of one count. */
  readonly version: number;
  readonly save: SaveState;
  readonly report: TimedReport | null;
  readonly reporting: boolean;
  /** What the report on its way is doing; null while it is quick. */
  readonly reportProgress: { readonly words: string } | null;
  /** Why there is no report of the design as shown: it was stopped, or something failed, in words. */
  readonly notLooked: string | null;
  /** Counts reports, and what is known so far of each pull held while the card opens. */
  readonly reportVersion: number;
  readonly heldPulls: readonly HeldPull[];
  /** A pull (by its index) that is held while the opening is looked at, with the travel that comes of it once known. */
  readonly held: { readonly index: number; readonly place: number; readonly opened: Pull | null } | null;
  /** Whether this browser keeps what is not saved yet; and what it keeps of this job that cannot be read here, in words. */
  readonly keptHere: boolean;
  readonly unread: string | null;
  readonly cuts: readonly CutJob[];
  /** Its trial builds, newest first. */
  readonly trials: readonly Trial[];
  /** What was seen on the trials of all jobs. */
  readonly lessons: readonly Lesson[];
  /** Counts the fields that are typed in: edits of one count are one entry. Null while no field is. */
  readonly typing: number | null;
  readonly selection: Selection;
  /** Why the last edit was not made, in words: a new value each time. */
  readonly refused: { readonly words: string } | null;
  /** The panel on which the drawing was pressed last, as part and panel id: `m1/strip|front`. */
  readonly pressed: string | null;
  readonly openingDeg: number;
  /** What the strip moves: the opening, or a pull by its id; and where that pull is, 0 to 180. */
  readonly travelId: string;
  readonly pullAt: number;
  /** Makes an edit; what is locked refuses it, unless even that is meant (putting a revision back). */
  edit(label: string, command: Command, evenLocked?: boolean): void;
  preview(command: Command | null): void;
  undoLast(): void;
  redoLast(): void;
  select(selection: Selection): void;
  setOpening(deg: number): void;
  /** Chooses what the strip moves, and where to go on it. */
  setTravel(id: string, at: number): void;
}

const initial = {
  id: '',
  design: null as unknown as Design,
  shown: null as unknown as Design,
  calm: null as unknown as Design,
  undo: [],
  redo: [],
  revision: 0,
  version: 0,
  save: { kind: 'saved' } as SaveState,
  report: null,
  reporting: false,
  reportProgress: null,
  notLooked: null,
  reportVersion: 0,
  heldPulls: [],
  held: null,
  keptHere: true,
  unread: null,
  cuts: [],
  trials: [],
  lessons: [],
  typing: null,
  selection: null,
  refused: null,
  pressed: null,
  openingDeg: 110,
  travelId: 'opening',
  pullAt: 0,
};

/** At most one preview a picture: the first at once, the newest of those that follow when the picture is drawn. */
let frame: number | null = null;
let waiting: Command | null | undefined;
/** What is previewed, on what: taken as it is, it is the same design and nothing is computed anew. */
let previewed: { readonly on: Design; readonly command: string; readonly gives: Design } | null = null;

/** What stands beside the drawing follows a drag this often, ms: its fields cost more than the drawing itself. */
const CALM_MS = 200;
let calming: ReturnType<typeof setTimeout> | null = null;

/** Gives up what waits for its picture: something else was decided. */
function endPreview(): void {
  if (frame !== null && typeof cancelAnimationFrame === 'function') cancelAnimationFrame(frame);
  if (calming !== null) clearTimeout(calming);
  [frame, waiting, previewed, calming] = [null, undefined, null, null];
}

const lockedWords = (name: string): string => `${name} is locked: unlock it in its particulars to change it.`;

/** A design that was decided on: shown everywhere at once. */
const settled = (design: Design) => ({ design, shown: design, calm: design });

/** The last entry that was typed, and in which field. */
let typedLast: { readonly typing: number; readonly entry: Edit } | null = null;

export const useJob = create<JobState>((set, get) => ({
  ...initial,
  edit(label, asked, evenLocked = false) {
    const { design, undo, version, typing } = get();
    const command = withFollowers(design, asked);
    const locked = evenLocked ? undefined : lockedAgainst(design, command);
    if (locked !== undefined) {
      endPreview();
      return set({ ...settled(design), refused: { words: lockedWords(locked) } });
    }
    const computed = applyCommand(design, command);
    const same = previewed?.on === design && previewed.command === JSON.stringify(command);
    const applied = same ? { ...computed, design: previewed!.gives } : computed;
    endPreview();
    // What is typed on in one field is one entry: the last one's way back leads to before the first of them.
    const last = undo[undo.length - 1];
    const goesOn =
      typing !== null && typedLast?.typing === typing && typedLast.entry === last && last.label === label;
    const entry: Edit = { label, command, inverse: goesOn ? last.inverse : applied.inverse };
    typedLast = typing === null ? null : { typing, entry };
    set({
      ...settled(applied.design),
      undo: [...(goesOn ? undo.slice(0, -1) : undo), entry].slice(-MAX_HISTORY),
      redo: [],
      version: version + 1,
    });
  },
  preview(command) {
    const show = (asked: Command | null) => {
      const { design } = get();
      const meant = asked && withFollowers(design, asked);
      // What is locked does not move under the hand either; letting go says why.
      const next = meant && lockedAgainst(design, meant) === undefined ? meant : null;
      const shown = next ? applyCommand(design, next).design : design;
      previewed = next ? { on: design, command: JSON.stringify(next), gives: shown } : null;
      set(next ? { shown } : settled(design));
      if (next)
        calming ??= setTimeout(() => {
          calming = null;
          set({ calm: get().shown });
        }, CALM_MS);
    };
    if (command === null) {
      endPreview();
      show(null);
    } else if (frame !== null) waiting = command;
    else {
      show(command);
      if (typeof requestAnimationFrame !== 'function') return;
      const drawn = () => {
        frame = waiting === undefined ? null : requestAnimationFrame(drawn);
        const next = waiting;
        waiting = undefined;
        if (next !== undefined) show(next);
      };
      frame = requestAnimationFrame(drawn);
    }
  },
  undoLast() {
    const { undo, redo, design, version } = get();
    const entry = undo[undo.length - 1];
    if (!entry) return;
    endPreview();
    const applied = applyCommand(design, entry.inverse);
    set({
      ...settled(applied.design),
      undo: undo.slice(0, -1),
      redo: [...redo, entry],
      version: version + 1,
    });
  },
  redoLast() {
    const { undo, redo, design, version } = get();
    const entry = redo[redo.length - 1];
    if (!entry) return;
    endPreview();
    const applied = applyCommand(design, entry.command);
    set({
      ...settled(applied.design),
      undo: [...undo, entry],
      redo: redo.slice(0, -1),
      version: version + 1,
    });
  },
  select: (selection) => set({ selection }),
  setTravel: (id, at) =>
    set(id === 'opening' ? { travelId: id, openingDeg: at } : { travelId: id, pullAt: at, held: null }),
  setOpening: (deg) => set({ openingDeg: Math.min(180, Math.max(0, deg)) }),
}));

/** Opens a job in the store. */
export function openJob(
  job: Pick<Job, 'id' | 'design' | 'undo' | 'redo' | 'revision'>,
  unsaved = false,
): void {
  endPreview();
  useJob.setState({
    ...initial,
    id: job.id,
    ...settled(job.design),
    undo: job.undo,
    redo: job.redo,
    revision: job.revision,
    version: unsaved ? 1 : 0,
    save: { kind: unsaved ? 'waiting' : 'saved' },
  });
}
