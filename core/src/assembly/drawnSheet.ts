/** A build sheet as it is shown: with what a person changed of it, its pictures, and what to look out for. */
import type { Design } from '../design/design.ts';
import { buildSheet, type BuildSheet } from './buildSteps.ts';
import { byHand, type HandSheet } from './byHand.ts';
import { cautionsOf } from './cautions.ts';
import { stepPictures, type StepPictures } from './stepDrawing.ts';

export interface DrawnSheet extends HandSheet {
  readonly faults: readonly string[];
  /** By the ids of its steps. */
  readonly pictures: ReadonlyMap<string, StepPictures>;
  readonly cautions: readonly string[];
}

/** The pictures of the steps of a sheet: each with what is made before it. */
export function picturesOf(
  sheet: BuildSheet,
  { steps }: Pick<HandSheet, 'steps'>,
  design: Design,
): Map<string, StepPictures> {
  const made = new Set<string>();
  return new Map(
    steps.map((step) => {
      const drawn = stepPictures(sheet, design, step, made);
      if (step.jointId !== null && !step.leftOut) made.add(step.jointId);
      return [step.id, drawn];
    }),
  );
}

export function drawnSheet(design: Design): DrawnSheet {
  const sheet = buildSheet(design);
  const hand = byHand(sheet, design.build, design.settings.buildOrder);
  return {
    ...hand,
    faults: sheet.faults,
    pictures: picturesOf(sheet, hand, design),
    cautions: cautionsOf(sheet, design),
  };
}
