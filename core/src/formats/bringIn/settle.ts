/**
 * A drawing made into die lines: its size settled, its lines mapped to layers by where they come from, what is doubled or of no
 * length left out, loose ends joined, arcs found again; everything that was changed is told.
 */
import { withArcs, USUAL_ARCS } from '../../geometry/arcs.ts';
import { mapPath } from '../../geometry/affine.ts';
import { isClosedPath, legsOf, pointOn } from '../../geometry/curve.ts';
import { boxOfPaths, endOf, flatten, pathLength, placePath, type Path } from '../../geometry/path.ts';
import { shift } from '../../geometry/isometry.ts';
import { distance, type Point } from '../../geometry/point.ts';
import { joined } from '../../drafting/lines.ts';
import type { Layer } from '../../dieline/part.ts';
import type { Drawing, DrawnLine } from './drawing.ts';

/** Lines of a drawing that belong together by their layer, colour and dashes. */
export interface LineGroup {
  readonly key: string;
  readonly layer: string;
  readonly colour: string;
  readonly dashed: boolean;
  readonly filled: boolean;
  readonly count: number;
}

export interface Settling {
  readonly mmPerUnit: number;
  /** Which layer each group becomes; null leaves it out. */
  readonly layers: Readonly<Record<string, Layer | null>>;
  readonly withHidden: boolean;
  /** Ends nearer than this are joined, mm; 0 joins none. */
  readonly joinMm: number;
  readonly dropDoubles: boolean;
  readonly findArcs: boolean;
}

export interface Settled {
  readonly lines: readonly { readonly layer: Layer; readonly path: Path }[];
  readonly widthMm: number;
  readonly heightMm: number;
  /** What was changed, in sentences. */
  readonly report: readonly string[];
  /** Ends that are still loose, and how far the nearest other is. */
  readonly loose: readonly { readonly at: Point; readonly gapMm: number }[];
}

/** Ends within this are joined unless asked otherwise, mm. */
export const USUAL_JOIN_MM = 0.05;
/** Shorter lines are none, mm. */
const NOTHING_MM = 1e-4;
/** Lines that lie so near to each other are one, mm. */
const DOUBLE_MM = 0.002;

/** What a line's group is called: the same for the same layer, colour and dashes, in every file. */
export const groupKey = ({ layer, colour, dash, filled }: DrawnLine): string =>
  [layer, colour, dash.length > 0 ? 'dashed' : 'solid', filled ? 'filled' : 'drawn'].join('|');

/** The groups of a drawing, the largest first. */
export function groupsOf(lines: readonly DrawnLine[]): LineGroup[] {
  const groups = new Map<string, LineGroup>();
  for (const line of lines) {
    const key = groupKey(line);
    const { layer, colour, dash, filled } = line;
    const before = groups.get(key);
    groups.set(key, { key, layer, colour, dashed: dash.length > 0, filled, count: (before?.count ?? 0) + 1 });
  }
  return [...groups.values()].sort((a, b) => b.count - a.count);
}

const WORDS: readonly (readonly [RegExp, Layer])[] = [
  [/mountain|berg/i, 'mountain'],
  [/valley|tal\b/i, 'valley'],
  [/kiss/i, 'kiss'],
  [/perf/i, 'perforation'],
  [/crease|fold/i, 'valley'],
  [/score|rill/i, 'score'],
  [/mark|guide|note|text|registration|construction/i, 'mark'],
  [/cut|outline|die|contour|schnitt/i, 'cut'],
];

/** The layer that a group most likely means: by its name, else dashes are folds, and everything else is cut. */
export function likelyLayer({ layer, dashed, colour }: LineGroup): Layer {
  for (const [pattern, meant] of WORDS) if (pattern.test(layer)) return meant;
  if (dashed) return colour === '#0000ff' ? 'mountain' : 'valley';
  return 'cut';
}

/** A key that two lines share when one lies on the other, either way round. */
function placeKey(path: Path): string {
  const round = (p: Point) => p.map((v) => Math.round(v / DOUBLE_MM)).join(',');
  const legs = legsOf(path);
  const ends = [round(path.start), round(endOf(path))];
  const middles = legs.map(({ from, segment }) => round(pointOn(from, segment, 0.5)));
  const forward = [ends[0], ...middles, ends[1]].join(';');
  const back = [ends[1], ...middles.reverse(), ends[0]].join(';');
  return forward < back ? forward : back;
}

const plural = (count: number, one: string, many: string): string => `${count} ${count === 1 ? one : many}`;

/** Makes die lines of a drawing, lower left corner at the origin. */
export function settled(drawing: Drawing, settling: Settling): Settled {
  const { mmPerUnit, layers, withHidden, joinMm, dropDoubles, findArcs } = settling;
  const report: string[] = [];
  const all = withHidden ? [...drawing.lines, ...drawing.hidden] : drawing.lines;
  const byLayer = new Map<string, { layer: Layer; paths: Path[] }>();
  const scale = { a: mmPerUnit, b: 0, c: 0, d: mmPerUnit, e: 0, f: 0 };
  const seen = new Map<string, string>();
  let [nothing, doubles, twice, left] = [0, 0, 0, 0];
  for (const line of all) {
    const key = groupKey(line);
    const layer = layers[key];
    if (layer === null || layer === undefined) {
      left += 1;
      continue;
    }
    const path = mapPath(scale, line.path);
    if (pathLength(path) < NOTHING_MM) {
      nothing += 1;
      continue;
    }
    const place = placeKey(path);
    const before = seen.get(place);
    if (before === key) {
      doubles += 1;
      if (dropDoubles) continue;
    } else if (before !== undefined) twice += 1;
    seen.set(place, key);
    const group = byLayer.get(key) ?? { layer, paths: [] };
    group.paths.push(path);
    byLayer.set(key, group);
  }
  if (left > 0) report.push(`${plural(left, 'line was', 'lines were')} left out, as their groups are.`);
  if (nothing > 0)
    report.push(`${plural(nothing, 'line had no length and is gone.', 'lines had no length and are gone.')}`);
  if (doubles > 0)
    report.push(
      dropDoubles
        ? `${plural(doubles, 'line lay', 'lines lay')} on another of the same kind and ${doubles === 1 ? 'is' : 'are'} gone: it would have been cut twice.`
        : `${plural(doubles, 'line lies', 'lines lie')} on another of the same kind: it will be cut twice.`,
    );
  if (twice > 0)
    report.push(
      `${plural(twice, 'line lies', 'lines lie')} on one of another kind: that may be meant, so nothing was done.`,
    );
  const out: { layer: Layer; path: Path }[] = [];
  const loose: { at: Point; gapMm: number }[] = [];
  let [closed, gaps, most, arcs] = [0, 0, 0, 0];
  for (const { layer, paths } of byLayer.values()) {
    const before = paths.filter((path) => isClosedPath(path)).length;
    const made = joinMm > 0 ? joined(paths, joinMm) : { paths, moved: 0, mostMm: 0 };
    gaps += made.moved;
    most = Math.max(most, made.moved > 0 ? made.mostMm : 0);
    closed += made.paths.filter((path) => isClosedPath(path)).length - before;
    for (const path of made.paths) {
      const round = findArcs && path.segments.every(({ kind }) => kind === 'line') ? roundAgain(path) : path;
      if (round !== path) arcs += round.segments.filter(({ kind }) => kind === 'arc').length;
      out.push({ layer, path: round });
    }
    if (layer === 'cut') loose.push(...looseEnds(made.paths));
  }
  if (closed > 0)
    report.push(
      `${plural(closed, 'outline is', 'outlines are')} closed now, put together from lines that meet.`,
    );
  if (gaps > 0)
    report.push(
      `${plural(gaps, 'gap was', 'gaps were')} closed, the widest ${most.toFixed(3)} mm: both ends were moved to the middle.`,
    );
  if (arcs > 0) report.push(`${plural(arcs, 'arc was', 'arcs were')} found again in flattened curves.`);
  if (loose.length > 0)
    report.push(
      `${plural(loose.length, 'end of a cut is', 'ends of cuts are')} still loose${
        Number.isFinite(Math.min(...loose.map((l) => l.gapMm)))
          ? `, the nearest other end ${Math.min(...loose.map((l) => l.gapMm)).toFixed(2)} mm away`
          : ''
      }: they are shown after bringing in.`,
    );
  const box = boxOfPaths(out.map(({ path }) => path));
  const isEmpty = out.length === 0;
  const home = shift(isEmpty ? 0 : -box.minX, isEmpty ? 0 : -box.minY);
  return {
    lines: out.map(({ layer, path }) => ({ layer, path: placePath(home, path) })),
    widthMm: isEmpty ? 0 : box.maxX - box.minX,
    heightMm: isEmpty ? 0 : box.maxY - box.minY,
    report,
    loose: loose.map(({ at, gapMm }) => ({ at: [at[0] + home.dx, at[1] + home.dy], gapMm })),
  };
}

/** A polyline with arcs where its corners lie on circles: only where that makes it shorter. */
function roundAgain(path: Path): Path {
  const points = flatten(path);
  if (points.length < 6) return path;
  const made = withArcs(points, USUAL_ARCS);
  return made.segments.length < path.segments.length ? made : path;
}

/** Ends of open cuts that meet nothing, with the distance to the nearest end of another. */
function looseEnds(paths: readonly Path[]): { at: Point; gapMm: number }[] {
  const ends = paths.flatMap((path, i) =>
    isClosedPath(path) ? [] : [path.start, endOf(path)].map((at) => ({ at, i })),
  );
  if (ends.length > 4000) return ends.map(({ at }) => ({ at, gapMm: Infinity }));
  return ends.flatMap(({ at, i }, k) => {
    let gapMm = Infinity;
    for (const [j, other] of ends.entries())
      if (j !== k && (other.i !== i || ends.length === 2)) gapMm = Math.min(gapMm, distance(at, other.at));
    // Where three lines meet each end has another at no distance: that is no loose end.
    return gapMm < 1e-6 ? [] : [{ at, gapMm }];
  });
}
