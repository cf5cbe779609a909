/** Whether a packing and earlier cut jobs still say what the design is now. */
import type { SavedCut } from '@hollow-finch/core/checks/finding';
import type { Design } from '@hollow-finch/core/design/design';
import { expand } from '@hollow-finch/core/mechanisms/expand';
import { packingFingerprint } from '@hollow-finch/core/sheets/packingFingerprint';
import type { CutJob } from '../../shared/contracts.ts';
import { subjectsOf } from './subjects.ts';
import { subjectFingerprint } from './subjectSvg.ts';

/** The name of what a design's packing depends on. */
export const packingOf = (design: Design): string => packingFingerprint(expand(design), design.settings);

/** Whether the packing belongs to the design as it is now. */
export function packingIsCurrent(design: Design): boolean {
  return design.sheetPlan !== null && design.sheetPlan.fingerprint === packingOf(design);
}

const known = new WeakMap<Design, Map<string, string>>();

/** Whether a cut job still holds what its subject is now. */
export function cutIsCurrent(cut: CutJob, design: Design): boolean {
  if (cut.subject.startsWith('sheet:') && !packingIsCurrent(design)) return false;
  const cache = known.get(design) ?? known.set(design, new Map()).get(design)!;
  const key = `${cut.subject}|${cut.profileId}|${cut.marks}`;
  if (!cache.has(key)) {
    const subject = subjectsOf(design).find((s) => s.id === cut.subject);
    cache.set(key, subject ? subjectFingerprint(design, subject, cut.profileId, cut.marks) : '');
  }
  return cache.get(key) === cut.fingerprint;
}

/** The newest cut file of every sheet and part, and whether the design would still give it. */
export function savedCuts(cuts: readonly CutJob[], design: Design): SavedCut[] {
  const newest = new Map<string, SavedCut>();
  for (const cut of cuts)
    if (!newest.has(cut.subject))
      newest.set(cut.subject, { number: cut.number, title: cut.title, current: cutIsCurrent(cut, design) });
  return [...newest.values()];
}
