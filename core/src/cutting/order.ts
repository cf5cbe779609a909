/**
 * The order of cutting: scores and perforations first, kiss cuts, then inner cuts, outlines last, so that nothing is cut
 * that is no longer held. Within a stage pieces follow one another, and lines the nearest next.
 */
import type { Layer, Part } from '../dieline/part.ts';
import { panelPlan } from '../dieline/panels.ts';
import type { Isometry } from '../geometry/isometry.ts';
import { endOf, placePath, reversePath, type Path } from '../geometry/path.ts';
import { distance, type Point } from '../geometry/point.ts';

export const STAGES = ['mountain', 'valley', 'perforation', 'kiss', 'inner', 'outer'] as const;
export type Stage = (typeof STAGES)[number];

export interface CutPath {
  readonly stage: Stage;
  readonly layer: Layer;
  readonly partId: string;
  readonly copy: number;
  readonly lineId: string;
  readonly path: Path;
}

export interface CutPiece {
  readonly part: Part;
  readonly copy: number;
  readonly placement: Isometry;
}

function stageOf(part: Part, lineId: string, layer: Layer): Stage | undefined {
  if (layer === 'guide') return undefined;
  if (layer !== 'cut') return layer;
  return panelPlan(part).outlineLineIds.has(lineId) ? 'outer' : 'inner';
}

/** Greedy nearest neighbour; open paths may be run backwards. */
function nearestFirst(paths: CutPath[], from: Point): { ordered: CutPath[]; at: Point } {
  const left = [...paths];
  const ordered: CutPath[] = [];
  let at = from;
  while (left.length > 0) {
    let [best, reverse, least] = [0, false, Infinity];
    left.forEach(({ path }, i) => {
      const [toStart, toEnd] = [distance(at, path.start), distance(at, endOf(path))];
      if (toStart < least - 1e-9) [best, reverse, least] = [i, false, toStart];
      if (toEnd < least - 1e-9) [best, reverse, least] = [i, true, toEnd];
    });
    const [next] = left.splice(best, 1);
    const path = reverse ? reversePath(next.path) : next.path;
    ordered.push({ ...next, path });
    at = endOf(path);
  }
  return { ordered, at };
}

/** All lines of placed pieces in the order in which they are cut. Guide lines are not cut. */
export function cutOrder(pieces: readonly CutPiece[]): CutPath[] {
  const result: CutPath[] = [];
  let at: Point = [0, 0];
  for (const stage of STAGES)
    for (const { part, copy, placement } of pieces) {
      const mine = part.lines
        .filter((line) => stageOf(part, line.id, line.layer) === stage)
        .map((line): CutPath => ({
          stage,
          layer: line.layer,
          partId: part.id,
          copy,
          lineId: line.id,
          path: placePath(placement, line.path),
        }));
      const next = nearestFirst(mine, at);
      result.push(...next.ordered);
      at = next.at;
    }
  return result;
}
