/**
 * The order of cutting: marks first, then scores and perforations, kiss cuts, then inner cuts, outlines last, so that nothing is cut
 * that is no longer held; pieces in the apertures of others before those. Within a stage pieces follow one another, and lines the nearest next.
 */
import Flatbush from 'flatbush';
import { compensated } from './kerf.ts';
import { keptOffNicks, madePaths } from './made.ts';
import { mirroredPath, registrationMarks, runIn, type Making } from './making.ts';
import { isRuling, layerOf, stockOf, type DieLine, type Layer, type Part } from '../dieline/part.ts';
import { panelPlan } from '../dieline/panels.ts';
import { indexBoxes } from '../geometry/boxIndex.ts';
import { isClosedPath } from '../geometry/curve.ts';
import { inverse, place, placing, shift, type Isometry } from '../geometry/isometry.ts';
import { boxOf, boxOfPaths, endOf, flatten, placePath, reversePath, type Path } from '../geometry/path.ts';
import { distance, type Point } from '../geometry/point.ts';
import { insideRing } from '../geometry/polygon.ts';

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
  /** How deep its piece lies in the apertures of others, where it does. */
  readonly level?: number;
  /** Which pass it is, from the second on. */
  readonly pass?: number;
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

/** Whether a level or an upright way from a point out crosses some edges an odd number of times. */
function isWithin([x, y]: Point, edges: readonly (readonly [Point, Point])[]): boolean {
  let [level, upright] = [false, false];
  for (const [[ax, ay], [bx, by]] of edges) {
    if (ay > y !== by > y && ax + ((y - ay) / (by - ay)) * (bx - ax) > x) level = !level;
    if (ax > x !== bx > x && ay + ((x - ax) / (bx - ax)) * (by - ay) > y) upright = !upright;
  }
  return level && upright;
}

/** How deep each piece lies in the apertures of others: 0 for what lies in none. */
function levelsOf(pieces: readonly CutPiece[]): number[] {
  const placed = pieces.map(({ part, placement }) => {
    const plan = panelPlan(part);
    const edges = part.lines
      .filter(({ id }) => plan.outlineLineIds.has(id))
      .flatMap(({ path }) => {
        const points = flatten(path);
        return points.slice(1).map((p, i) => [points[i], p] as const);
      });
    const box = boxOf(edges.flat().map(placing(placement)));
    return { edges, box, back: inverse(placement), plan };
  });
  return placed.map(({ edges }, i) => {
    if (edges.length === 0) return 0;
    const at = place(pieces[i].placement, edges[0][0]);
    return placed.filter((other, j) => {
      const { minX, minY, maxX, maxY } = other.box;
      if (j === i || at[0] < minX || at[0] > maxX || at[1] < minY || at[1] > maxY) return false;
      const there = place(other.back, at);
      return isWithin(there, other.edges) && other.plan.panelContaining(there) < 0;
    }).length;
  });
}

/** How many closed inner cuts of a part each of its inner cuts lies in, by the id of its line. */
function depthsOf(inner: readonly DieLine[]): ReadonlyMap<string, number> {
  const rings = inner
    .filter(({ path }) => isClosedPath(path))
    .map(({ id, path }) => ({ id, ring: flatten(path).slice(0, -1) }));
  const index = indexBoxes(rings.map(({ ring }) => boxOf(ring)));
  return new Map(
    inner.map(({ id, path }) => {
      const [x, y] = path.start;
      const about = (index?.search(x, y, x, y) ?? []).map((i) => rings[i]);
      return [id, about.filter((other) => other.id !== id && insideRing(path.start, other.ring)).length];
    }),
  );
}

/** A cut as often as its stock needs; what is open runs back every other time. */
const passesOf = (cut: CutPath, passes: number): CutPath[] =>
  Array.from({ length: passes }, (_, pass) =>
    pass === 0
      ? cut
      : {
          ...cut,
          pass: pass + 1,
          path: pass % 2 === 1 && !isClosedPath(cut.path) ? reversePath(cut.path) : cut.path,
        },
  );

/**
 * The lines as they are drawn, in their order. What lies in the aperture of another piece is cut wholly before that aperture is, and
 * what lies in an inner cut before it: else it would be cut from what has come loose.
 */
function orderOf(pieces: readonly CutPiece[], withMarks: boolean, kerfMm: number): CutPath[] {
  const result: CutPath[] = [];
  let at: Point = [0, 0];
  const lay = ({ part, copy, placement }: CutPiece, stage: Stage, level: number) => {
    const lines = compensated(part, kerfMm).lines.filter(
      (line) => stageOf(part, line) === stage && isMade(line, withMarks),
    );
    const depths = stage === 'inner' ? depthsOf(lines) : undefined;
    const deepest = Math.max(0, ...(depths?.values() ?? []));
    for (let depth = deepest; depth >= 0; depth--) {
      const mine = lines
        .filter(({ id }) => (depths?.get(id) ?? 0) === depth)
        .flatMap((line) =>
          madePaths(line, keptOffNicks(part, line)).map((path): CutPath => ({
            stage,
            layer: layerOf(line),
            partId: part.id,
            copy,
            lineId: line.id,
            path: placePath(placement, path),
            ...(level > 0 ? { level } : {}),
          })),
        );
      const next = nearestFirst(mine, at);
      const passes = stage === 'inner' || stage === 'outer' ? (stockOf(part).passes ?? 1) : 1;
      result.push(...next.ordered.flatMap((cut) => passesOf(cut, passes)));
      at = next.at;
    }
  };
  const levels = levelsOf(pieces);
  const cuts: readonly Stage[] = ['inner', 'outer'];
  for (const stage of STAGES) if (!cuts.includes(stage)) pieces.forEach((piece) => lay(piece, stage, 0));
  for (let level = Math.max(0, ...levels); level >= 0; level--)
    for (const stage of cuts)
      pieces.forEach((piece, i) => {
        if (levels[i] === level) lay(piece, stage, level);
      });
  return result;
}
