/**
 * Booleans and offsets of regions: a facade over one library (integer coordinates, robust), so that it can be exchanged.
 * Coordinates are rounded to 0.1 micrometre; results are exact on that grid.
 */
// The library ships no types: these are seen by every program that compiles this file.
// eslint-disable-next-line @typescript-eslint/triple-slash-reference
/// <reference path="./clipper-lib.d.ts" />
import * as ClipperModule from 'clipper-lib';
import type { IntPath, PolyNode } from 'clipper-lib';
import { allRings, type Region, type Ring } from './polygon.ts';

type ClipperLibrary = typeof ClipperModule;
// The library is CommonJS: some loaders put it under `default`.
const Lib: ClipperLibrary =
  (ClipperModule as unknown as { default?: ClipperLibrary }).default ?? ClipperModule;

/**
 * Grid units per millimetre; with 1e4 a sheet of 4.7 m still fits the library's fast integer range. What lies beyond (a chain
 * of parts hung far from each other) takes its slower one, which holds a kilometre with ease.
 */
const GRID_PER_MM = 1e4;
const MAX_COORDINATE_MM = 1e6;

function toGrid(ring: Ring): IntPath {
  return ring.map(([x, y]) => {
    if (!(Math.abs(x) <= MAX_COORDINATE_MM && Math.abs(y) <= MAX_COORDINATE_MM))
      throw new RangeError(
        `A point at (${x}, ${y}) mm lies beyond the ${MAX_COORDINATE_MM} mm that can be computed.`,
      );
    return { X: Math.round(x * GRID_PER_MM), Y: Math.round(y * GRID_PER_MM) };
  });
}

const fromGrid = (path: IntPath): Ring => path.map(({ X, Y }) => [X / GRID_PER_MM, Y / GRID_PER_MM]);

const pathsOf = (regions: readonly Region[]): IntPath[] => allRings(regions).map(toGrid);

function readTree(tree: PolyNode): Region[] {
  const regions: Region[] = [];
  const visit = (outer: PolyNode) => {
    regions.push({
      outer: fromGrid(outer.Contour()),
      holes: outer.Childs().map((hole) => fromGrid(hole.Contour())),
    });
    for (const hole of outer.Childs()) hole.Childs().forEach(visit);
  };
  tree.Childs().forEach(visit);
  return regions;
}

function clip(type: number, subject: readonly Region[], clips: readonly Region[], fill: number): Region[] {
  const clipper = new Lib.Clipper();
  const added = [
    clipper.AddPaths(pathsOf(subject), Lib.PolyType.ptSubject, true),
    clipper.AddPaths(pathsOf(clips), Lib.PolyType.ptClip, true),
  ];
  // What is thinner than the grid covers nothing.
  if (!added.includes(true)) return [];
  const tree = new Lib.PolyTree();
  if (!clipper.Execute(type, tree, fill, fill)) throw new Error('The outlines could not be combined.');
  return readTree(tree);
}

/** A simple ring as a region without holes. */
export const solid = (outer: Ring): Region => ({ outer, holes: [] });

/** Everything covered by at least one of `regions` (rings left-turning outside, right-turning holes). */
export const union = (regions: readonly Region[]): Region[] =>
  clip(Lib.ClipType.ctUnion, regions, [], Lib.PolyFillType.pftNonZero);

/** Of more regions than this some are put together first. */
const AT_ONCE = 32;

/** The union of many regions, neighbours in the list first: where they overlap each other this takes far less than all at once. */
export function unionOfMany(regions: readonly Region[]): Region[] {
  if (regions.length <= AT_ONCE) return union(regions);
  const some = Array.from({ length: Math.ceil(regions.length / AT_ONCE) }, (_, k) =>
    union(regions.slice(AT_ONCE * k, AT_ONCE * (k + 1))),
  );
  const fewer = some.flat();
  // Where hardly any of them touch there is nothing to gain.
  return fewer.length > 0.8 * regions.length ? union(fewer) : unionOfMany(fewer);
}

/** What of `subject` no region of `minus` covers. */
export const difference = (subject: readonly Region[], minus: readonly Region[]): Region[] =>
  subject.length === 0 ? [] : clip(Lib.ClipType.ctDifference, subject, minus, Lib.PolyFillType.pftNonZero);

/** What both `a` and `b` cover. */
export const intersection = (a: readonly Region[], b: readonly Region[]): Region[] =>
  a.length === 0 || b.length === 0
    ? []
    : clip(Lib.ClipType.ctIntersection, a, b, Lib.PolyFillType.pftNonZero);

const offsetBy = (
  worker: ClipperModule.ClipperOffset,
  regions: readonly Region[],
  join: number,
  deltaMm: number,
): Region[] => {
  worker.AddPaths(pathsOf(regions), join, Lib.EndType.etClosedPolygon);
  const tree = new Lib.PolyTree();
  worker.Execute(tree, deltaMm * GRID_PER_MM);
  return readTree(tree);
};

/**
 * Regions grown (deltaMm > 0) or shrunk (< 0) by a distance, corners rounded within `arcToleranceMm`.
 * Grown outlines never lie outside the true offset, and at most `arcToleranceMm` inside it.
 */
export function offset(regions: readonly Region[], deltaMm: number, arcToleranceMm = 0.01): Region[] {
  if (regions.length === 0 || deltaMm === 0) return [...regions];
  // The library's deviation is about 2.2 times the tolerance that it is given.
  const worker = new Lib.ClipperOffset(2, (arcToleranceMm / 2.2) * GRID_PER_MM);
  return offsetBy(worker, regions, Lib.JoinType.jtRound, deltaMm);
}

/** Sharper corners are cut off: where they would be farther from the corner than so many times the distance. */
const MITRE_LIMIT = 4;

/** Regions grown (deltaMm > 0) or shrunk (< 0) by a distance, with their corners kept sharp, to a limit. */
export function mitred(regions: readonly Region[], deltaMm: number): Region[] {
  if (regions.length === 0 || deltaMm === 0) return [...regions];
  return offsetBy(new Lib.ClipperOffset(MITRE_LIMIT, 1), regions, Lib.JoinType.jtMiter, deltaMm);
}
