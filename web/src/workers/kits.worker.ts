/** What a kit is, away from the page: its parts in one design, its sums, how long it is built and cut, and the instructions. */
import '@hollow-finch/core/mechanisms/structures/all';
import { buildSheet } from '@hollow-finch/core/assembly/buildSteps';
import { byHand, doneOf, handsMin, type SheetStep } from '@hollow-finch/core/assembly/byHand';
import { drawnSheet } from '@hollow-finch/core/assembly/drawnSheet';
import { scheduled } from '@hollow-finch/core/assembly/schedule';
import { writeSheetPdf, type SheetPaper } from '@hollow-finch/core/assembly/sheetPdf';
import { chosenEnvelope, envelopeFitOf } from '@hollow-finch/core/checks/envelopeFit';
import { cuttingTimeS, cutterOf } from '@hollow-finch/core/cutting/cutter';
import { cutOrder } from '@hollow-finch/core/cutting/order';
import type { Design, SheetPlan } from '@hollow-finch/core/design/design';
import { expand } from '@hollow-finch/core/mechanisms/expand';
import { closedState } from '@hollow-finch/core/motion/closed';
import {
  kitDesign,
  kitGauge,
  kitSums,
  type KitContents,
  type KitSums,
} from '@hollow-finch/core/planning/kits';
import { classed, gauged, type Classed, type Gauged } from '@hollow-finch/core/planning/post';
import { suitingCards } from '@hollow-finch/core/planning/suits';
import { machineIn, type Store } from '@hollow-finch/core/stock/store';
import type { LengthUnit } from '@hollow-finch/core/units/length';
import { expose } from 'comlink';
import { PDFDocument } from 'pdf-lib';
import { subjectsOf } from '../places/cut/subjects.ts';

export interface KitItemFacts {
  readonly name: string;
  readonly pieces: number;
  /** Which size of card it is, and whether it goes into its envelope. */
  readonly size: string | null;
  readonly envelope: { readonly name: string; readonly spareMm: number } | null;
  readonly minutes: number;
}

export interface KitFacts {
  readonly design: Design;
  readonly sums: KitSums;
  readonly items: readonly KitItemFacts[];
  /** From beginning to dry, minutes. */
  readonly run: { readonly totalMin: number } | { readonly refused: string };
  /** Hands are at one kit so long. */
  readonly minutes: number;
  readonly gauge: Gauged;
  readonly classes: readonly Classed[];
}

/** The steps of all things in a kit, one after another, each with a name of its own. */
function stepsOf(
  things: readonly { readonly own: readonly SheetStep[]; readonly pieces: number }[],
): SheetStep[] {
  return things.flatMap(({ own, pieces }, i) =>
    Array.from({ length: pieces }, (_, copy) => {
      const named = (id: string) => `${i}.${copy}/${id}`;
      return own.map((step) => ({
        ...step,
        id: named(step.id),
        // What names no part concerns all of its own card, not of the others.
        partIds: [named(''), ...step.partIds.map(named)],
        ontoIds: step.ontoIds.map(named),
      }));
    }).flat(),
  );
}

/** How long the run takes, or why it cannot be planned. */
function runOf(steps: readonly SheetStep[], copies: number, people: number): KitFacts['run'] {
  try {
    return { totalMin: scheduled(steps, copies, people).totalMin };
  } catch (fault) {
    if (fault instanceof RangeError) return { refused: fault.message };
    throw fault;
  }
}

const api = {
  /** Everything that is told of a kit but its sheets. */
  facts(kit: KitContents, people: number, studio: Store): KitFacts {
    const design = kitDesign(kit, studio);
    const things = kit.items.map(({ design: each, pieces }) => {
      const sheet = buildSheet(each);
      const closed = closedState(sheet.whole);
      const own = doneOf(byHand(sheet, each.build, each.settings.buildOrder).steps);
      return { each, pieces, closed, own, gauged: gauged(each, closed, sheet.whole) };
    });
    const steps = stepsOf(things);
    const sums = kitSums(kit, studio, design);
    const gauge = kitGauge(things);
    return {
      design,
      sums,
      run: runOf(steps, kit.copies, people),
      minutes: handsMin(steps),
      items: things.map(({ each, pieces, closed, own }): KitItemFacts => {
        const envelope = each.base.kind === 'structure' ? undefined : chosenEnvelope(each);
        const fit = envelope && envelopeFitOf(closed, envelope, each.brief.clearanceMm);
        return {
          name: each.name,
          pieces,
          size:
            each.base.kind === 'structure'
              ? null
              : `${each.brief.closedWidthMm} × ${each.brief.closedHeightMm} mm`,
          envelope:
            envelope && fit
              ? { name: envelope.name, spareMm: Math.min(fit.spareLongMm, fit.spareShortMm) }
              : null,
          minutes: handsMin(own),
        };
      }),
      gauge,
      classes: classed(gauge, sums.weightG, studio),
    };
  },
  /** The usual cards that each design of a kit suits: each is folded and closed on all of them. */
  sizes: (kit: KitContents): string[][] =>
    kit.items.map(({ design }) => (design.base.kind === 'card' ? suitingCards(design) : [])),
  /** How long the machine takes for all sheets of a kit, s. */
  cutS(design: Design, plan: SheetPlan): number {
    const packed = { ...design, sheetPlan: plan };
    const cutter = cutterOf(machineIn(expand(design).store, design.settings.machineId));
    return subjectsOf(packed)
      .filter(({ id }) => id.startsWith('sheet:'))
      .reduce(
        (sum, { pieces, sheet }) =>
          sum + cuttingTimeS(cutOrder(pieces, false, design.settings, sheet), cutter),
        0,
      );
  },
  /** The build sheets of all things in a kit as one file. */
  async instructions(kit: KitContents, paper: SheetPaper, unit: LengthUnit): Promise<Uint8Array> {
    const all = await PDFDocument.create();
    all.setTitle(kit.name);
    for (const { design } of kit.items) {
      const drawn = drawnSheet(design);
      if (doneOf(drawn.steps).length === 0) continue;
      const bytes = await writeSheetPdf(drawn, { title: `${kit.name}: ${design.name}`, paper, unit });
      const one = await PDFDocument.load(bytes);
      for (const page of await all.copyPages(one, one.getPageIndices())) all.addPage(page);
    }
    if (all.getPageCount() === 0) throw new RangeError('There is nothing in this kit to put together.');
    return all.save();
  },
};

export type KitsApi = typeof api;
expose(api);
