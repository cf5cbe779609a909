/**
 * The order of cutting: marks first, then scores and perforations, kiss cuts, then inner cuts, outlines last, so that nothing is cut
 * that is no longer held. Within a stage pieces follow one another, and lines the nearest next.
 */
import Flatbush from 'flatbush';
import { compensated } from './kerf.ts';
import { madePaths } from './made.ts';
import { mirroredPath, registrationMarks, runIn, type Making } from './making.ts';
import { isRuling, layerOf, type DieLine, type Layer, type Part } from '../dieline/part.ts';
import { panelPlan } from '../dieline/panels.ts';
import { isClosedPath } from '../geometry/curve.ts';
import { shift, type Isometry } from '../geometry/isometry.ts';
import { boxOf, boxOfPaths, endOf, flatten, placePath, reversePath, type Path } from '../geometry/path.ts';
import { distance, type Point } from '../geometry/point.ts';

export const STAGES = [
  'registration',
  'mark',
  'mountain',
  'valley',
  'score',
  'perforation',
  'kiss',
  'inner',
  'outer',
] as const;
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

/** A part by itself with its lower left corner at the origin, or so far from it, and the room that it takes with that border. */
export function pieceAtOrigin(
  part: Part,
  borderMm = 0,
): { readonly piece: CutPiece; readonly widthMm: number; readonly heightMm: number } {
  const box = boxOf(part.lines.flatMap((line) => (line.process === 'mark' ? [] : [...flatten(line.path)])));
  return {
    piece: { part, copy: 1, placement: shift(borderMm - box.minX, borderMm - box.minY) },
    widthMm: box.maxX - box.minX + 2 * borderMm,
    heightMm: box.maxY - box.minY + 2 * borderMm,
  };
}

/** Whether a line is made at all: rulings never, marks when they are asked for. */
const isMade = (line: DieLine, withMarks: boolean): boolean =>
  !isRuling(line) && (withMarks || line.process !== 'mark');

function stageOf(part: Part, line: DieLine): Stage {
  const layer = layerOf(line);
  if (layer !== 'cut') return layer;
  return panelPlan(part).outlineLineIds.has(line.id) ? 'outer' : 'inner';
}

/** Ends nearer to each other than this are at one place: the line drawn first goes first, forwards rather than backwards, mm. */
const SAME_PLACE_MM = 1e-9;
/** So many of the nearest ends are compared. */
const COMPARED = 8;

/** The ends of paths by place: the start of path i is end 2 i, its end 2 i + 1. */
function indexEnds(paths: readonly CutPath[]): Flatbush {
  const index = new Flatbush(2 * paths.length);
  for (const { path } of paths) for (const [x, y] of [path.start, endOf(path)]) index.add(x, y, x, y);
  index.finish();
  return index;
}

/**
 * Greedy nearest neighbour; open paths may be run backwards. The index is made anew when half of its paths are taken, so
 * that what is taken is not searched again and again.
 */
function nearestFirst(paths: readonly CutPath[], from: Point): { ordered: CutPath[]; at: Point } {
  const ordered: CutPath[] = [];
  let at = from;
  let left = paths;
  while (left.length > 0) {
    const index = indexEnds(left);
    const taken = new Uint8Array(left.length);
    const enough = Math.ceil(left.length / 2);
    for (let count = 0; count < enough; count++) {
      const ends = index.neighbors(at[0], at[1], COMPARED, Infinity, (end) => taken[end >> 1] === 0);
      const away = (end: number) => {
        const { path } = left[end >> 1];
        return distance(at, end % 2 === 0 ? path.start : endOf(path));
      };
      const nearest = Math.min(...ends.map(away));
      const end = Math.min(...ends.filter((each) => away(each) <= nearest + SAME_PLACE_MM));
      taken[end >> 1] = 1;
      const next = left[end >> 1];
      const path = end % 2 === 0 ? next.path : reversePath(next.path);
      ordered.push({ ...next, path });
      at = endOf(path);
    }
    left = left.filter((_, i) => taken[i] === 0);
  }
  return { ordered, at };
}

/** The sheet that pieces lie on: as wide as it is mirrored, with marks in its margin. */
export interface MadeOn {
  readonly widthMm: number;
  readonly heightMm: number;
  readonly marginMm: number;
}

/**
 * All lines of placed pieces in the order in which they are made.
 *
 * @param withMarks whether marks are made, too, before all else
 * @param making how they are made beyond that
 * @param on the sheet; without it there are no registration marks, and what is mirrored lies where it lay
 */
export function cutOrder(
  pieces: readonly CutPiece[],
  withMarks = false,
  making: Making = {},
  on?: MadeOn,
): CutPath[] {
  const ordered = orderOf(pieces, withMarks, making.kerfMm ?? 0);
  // Only a way in could cross a neighbour.
  const outlines = making.leadInMm
    ? ordered.flatMap(({ stage, path }) =>
        stage === 'outer' && isClosedPath(path) ? [flatten(path).slice(0, -1)] : [],
      )
    : [];
  const run = ordered.map((cut): CutPath =>
    cut.stage === 'outer' || cut.stage === 'inner'
      ? { ...cut, path: runIn(cut.path, cut.stage, making, outlines) }
      : cut,
  );
  const marks =
    making.registration && on
      ? registrationMarks(on.widthMm, on.heightMm, on.marginMm).map((path, i): CutPath => ({
          stage: 'registration',
          layer: 'mark',
          partId: 'sheet',
          copy: 1,
          lineId: `registration-${i + 1}`,
          path,
        }))
      : [];
  const all = [...marks, ...run];
  if (!making.fromBack || all.length === 0) return all;
  const box = boxOfPaths(run.map(({ path }) => path));
  const widthMm = on?.widthMm ?? box.minX + box.maxX;
  return all.map((cut) => ({ ...cut, path: mirroredPath(cut.path, widthMm) }));
}

/** The lines as they are drawn, in their order. */
function orderOf(pieces: readonly CutPiece[], withMarks: boolean, kerfMm: number): CutPath[] {
  const result: CutPath[] = [];
  let at: Point = [0, 0];
  for (const stage of STAGES)
    for (const { part, copy, placement } of pieces) {
      const mine = compensated(part, kerfMm)
        .lines.filter((line) => stageOf(part, line) === stage && isMade(line, withMarks))
        .flatMap((line) =>
          madePaths(line).map((path): CutPath => ({
            stage,
            layer: layerOf(line),
            partId: part.id,
            copy,
            lineId: line.id,
            path: placePath(placement, path),
          })),
        );
      const next = nearestFirst(mine, at);
      result.push(...next.ordered);
      at = next.at;
    }
  return result;
}
