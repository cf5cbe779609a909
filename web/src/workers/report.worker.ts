import '@hollow-finch/core/mechanisms/structures/all';
import {
  afterSteps,
  checkFold,
  glueOrder,
  type Answer,
  type FoldCheck,
  type GlueStep,
} from '@hollow-finch/core/assembly/rehearsal';
import { drawnSheet, type DrawnSheet } from '@hollow-finch/core/assembly/drawnSheet';
import { searchMend, type Tried } from '@hollow-finch/core/checks/clearing';
import { mirrorTwin, pieceOnEachPanel } from '@hollow-finch/core/checks/pieceCopies';
import { layPiece, type Laid, type NotLaid } from '@hollow-finch/core/checks/layPiece';
import { pieceRoom, type PieceRoom } from '@hollow-finch/core/checks/pieceScale';
import type { CheckContext, Mend, Pull } from '@hollow-finch/core/checks/finding';
import {
  blamedFindings,
  heldPullReport,
  reportOf,
  type HeldPull,
  type Report,
} from '@hollow-finch/core/checks/report';
import type { Design } from '@hollow-finch/core/design/design';
import { checkContext } from '@hollow-finch/core/checks/context';
import { mendedFindings } from '@hollow-finch/core/checks/runChecks';
import { expand } from '@hollow-finch/core/mechanisms/expand';
import { catchesOf } from '@hollow-finch/core/motion/catches';
import { decorateMap, type DecorateMap } from '@hollow-finch/core/motion/decorate';
import { linkageOf } from '@hollow-finch/core/motion/linkage';
import { looseTravel } from '@hollow-finch/core/motion/loose';
import { sweep, type Sweep } from '@hollow-finch/core/motion/sweep';
import { expose } from 'comlink';
import { cutIsCurrent, packingOf, savedCuts } from '../places/cut/currentCuts.ts';
import type { CutJob } from '../shared/contracts.ts';

export interface TimedReport extends Report {
  readonly tookMs: number;
  /** The name of what the packing depends on: a packing of another name is out of date. */
  readonly packing: string;
  /** The cut jobs that were asked about, by number: whether each still holds what its subject is now. */
  readonly cutsCurrent: ReadonlyMap<number, boolean>;
}

/** A search for a mend is given up after so long, ms: a minute. */
const LONGEST_MS = 60_000;
/** Nothing is told of work that takes less, ms. */
const QUIET_MS = 100;
let stopping = false;

/** The design that was reported last, by the caller's number for it: what follows a report starts from there. */
let last: { readonly version: number; readonly context: CheckContext } | undefined;

/** A search in the design that was reported under a number, a turn at a time: between two a newer design is reported. */
async function inTurns<T>(
  version: number,
  search: (context: CheckContext) => Generator<undefined, T>,
): Promise<T | null> {
  if (last?.version !== version) return null;
  const turns = search(last.context);
  for (;;) {
    const next = turns.next();
    if (next.done) return next.value;
    await new Promise((resolve) => setTimeout(resolve, 0));
    if (last?.version !== version) return null;
  }
}

const api = {
  /**
   * Motion, closed state and findings of a design; with a number it is kept for what follows.
   *
   * @param tell is told what is being done, once it takes long
   */
  report(
    design: Design,
    version?: number,
    cuts: readonly CutJob[] = [],
    tell?: (words: string) => void,
  ): TimedReport {
    const from = performance.now();
    const say = (words: string) => {
      if (performance.now() - from > QUIET_MS) tell?.(words);
    };
    const context = checkContext(design, savedCuts(cuts, design), say);
    if (version !== undefined) last = { version, context };
    return {
      ...reportOf(context, say),
      packing: packingOf(design),
      cutsCurrent: new Map(cuts.map((cut) => [cut.number, cutIsCurrent(cut, design)])),
      tookMs: performance.now() - from,
    };
  },
  /** The findings of what is locked, with the joints that lock it named; null when another design was reported since. */
  blamed: (version: number) => inTurns(version, blamedFindings),
  /** Findings that have a mend, tried by now; null when another design was reported since. */
  mended: (version: number) => inTurns(version, mendedFindings),
  /** One pull of the design reported under that number tried together with the opening; null when another came after it. */
  heldPull: (version: number, index: number): Promise<HeldPull | null> =>
    inTurns(version, (context) => heldPullReport(context, index)),
  /** A loose component moved along its freedoms at a place of the opening's travel, or of a pull's; null when it is not loose. */
  loose(version: number, driver: number, component: number, place: number): Sweep | null {
    if (last?.version !== version) return null;
    const { sweep: opening, pulls } = last.context;
    const motion = driver === 0 ? opening : pulls.find((pull) => pull.sweep.driver === driver)!.sweep;
    return looseTravel(motion, component, place);
  },
  /** The opening's travel with a pull held at a whole place of its own; null when another design was reported since. */
  opened(version: number, index: number, place: number): Pull | null {
    if (last?.version !== version) return null;
    const { sweep: opening, pulls } = last.context;
    const held = sweep(opening.linkage, 0, opening, { pull: pulls[index].sweep, place });
    return { sweep: held, catches: catchesOf(held) };
  },
  /**
   * A change that puts a finding right, tried on the design; null when no single one does it, or it was stopped.
   *
   * @param tell is told how many changes have been tried
   */
  async findMend(
    design: Design,
    key: string,
    cuts: readonly CutJob[] = [],
    tell?: (tried: Tried) => void,
  ): Promise<Mend | null> {
    stopping = false;
    const search = searchMend(checkContext(design, savedCuts(cuts, design)), key);
    const from = performance.now();
    let spoke = from;
    for (;;) {
      const next = search.next();
      if (next.done) return next.value;
      if (performance.now() - from > LONGEST_MS)
        throw new Error(
          'No change was found within a minute: put it right by hand, or change something and search again.',
        );
      if (performance.now() - spoke < QUIET_MS) continue;
      tell?.(next.value);
      // Between two trials others are heard, and so is a stop.
      await new Promise((resolve) => setTimeout(resolve, 0));
      if (stopping) return null;
      spoke = performance.now();
    }
  },
  stopMend(): void {
    stopping = true;
  },
  /** The build sheet of a design as a person changed it, with a picture of every step. */
  buildSheet: (design: Design): DrawnSheet => drawnSheet(design),
  /** An order in which a design can be put together. */
  glueOrder: (design: Design): GlueStep[] => glueOrder(design),
  /** What the last of some steps did, with the motion of what is joined so far. */
  afterSteps: (design: Design, jointIds: readonly string[]): Answer => afterSteps(design, jointIds),
  /** Whether a fold is folded the drawn way, and what the other way would do. */
  checkFold: (design: Design, partId: string, lineId: string, chosen: 'mountain' | 'valley'): FoldCheck =>
    checkFold(design, partId, lineId, chosen),
  /** The room that a glued piece has on its panel. */
  pieceRoom: (design: Design, jointId: string): PieceRoom | null =>
    pieceRoom(design, jointId, design.settings.reachMarginMm),
  /** A piece laid on a panel at its largest legal size, or why there is no room. */
  layPiece: (
    design: Design,
    partId: string,
    panelId: string,
    drawn: Parameters<typeof layPiece>[3],
  ): Laid | NotLaid => layPiece(design, partId, panelId, drawn),
  /** A piece put on each other panel of what it is glued to. */
  pieceOnEachPanel: (design: Design, jointId: string): ReturnType<typeof pieceOnEachPanel> =>
    pieceOnEachPanel(design, jointId),
  mirrorTwin: (design: Design, jointId: string, panelId: string): ReturnType<typeof mirrorTwin> =>
    mirrorTwin(design, jointId, panelId),
  /** Where a panel may be decorated; null when the panel is not in the design. */
  decorate(design: Design, partId: string, panelId: string): DecorateMap | null {
    const motion = sweep(linkageOf(expand(design)));
    const index = motion.linkage.panels.findIndex(
      (panel) => panel.part.id === partId && panel.id === panelId,
    );
    return index < 0 ? null : decorateMap(motion, index, design.settings.reachMarginMm);
  },
};

export type ReportApi = typeof api;
expose(api);
