/**
 * Bridges by hand: made across a cut or across what falls out, found again among the cuts, moved and taken away. A bridge is no
 * thing of its own: it is where cuts are interrupted (a gap), or where two run side by side (a strip between two openings).
 */
import {
  arcGeometry,
  endOf,
  flatten,
  reversePath,
  straight,
  type Path,
  type Segment,
} from '../geometry/path.ts';
import {
  closedBetween,
  crossingsOf,
  headingOn,
  isClosedPath,
  legsOf,
  nearestOn,
  pathBetween,
} from '../geometry/curve.ts';
import {
  add,
  cross,
  distance,
  dot,
  lengthOf,
  middle,
  scale,
  subtract,
  type Point,
} from '../geometry/point.ts';
import { insideRing } from '../geometry/polygon.ts';
import { withBridges } from './bridgedCuts.ts';
import type { NotShaped } from './corners.ts';

/** A cut of a part. */
export interface CutLine {
  readonly id: string;
  readonly path: Path;
}

/** The paths that take the place of cuts, by their ids: none where a cut goes. Cuts that are not in it stay. */
export type CutsReplaced = ReadonlyMap<string, readonly Path[]>;

/** Whether there is paper at a place. */
export type IsPaper = (p: Point) => boolean;

/** Wider strips are no bridges, mm. */
export const WIDEST_MM = 8;
/** A strip is so many times as long as wide at most. */
const LONGEST = 15;
/** Sides of a strip run along each other within this (cosine of 18 degrees). */
const FACING_COS = Math.cos((18 * Math.PI) / 180);
/** Ends of a gap face each other within this (cosine of 40 degrees): those of a small arc turn towards each other. */
const ENDS_COS = Math.cos((40 * Math.PI) / 180);
/** Where an outline leaves a bridge it turns away from it by this at least (sine). */
const TURNS_AWAY = 0.25;
const LEAST_MM = 0.05;

/** A bridge among the cuts. */
export interface FoundBridge {
  readonly kind: 'gap' | 'strip';
  readonly at: Point;
  /** The way from one side that it joins to the other. */
  readonly way: Point;
  readonly widthMm: number;
  /** From one opening's end to the other; nothing for a gap. */
  readonly lengthMm: number;
  /** The cuts on its two sides, and which end of the cut (a gap) or which segment (a strip) lies at it. */
  readonly sides: readonly [BridgeSide, BridgeSide];
}

interface BridgeSide {
  readonly lineId: string;
  /** A gap: 0 the beginning of the cut, 1 its end. A strip: the index of the segment. */
  readonly index: number;
}

const unit = (v: Point): Point => scale(v, 1 / (lengthOf(v) || 1));

/** The ends of open cuts, each with the way out of it. */
function endsOf(cuts: readonly CutLine[]): { at: Point; out: Point; side: BridgeSide }[] {
  return cuts.flatMap(({ id, path }) => {
    if (isClosedPath(path)) return [];
    const legs = legsOf(path);
    const last = legs[legs.length - 1];
    return [
      {
        at: path.start,
        out: scale(unit(headingOn(legs[0].from, legs[0].segment, 0)), -1),
        side: { lineId: id, index: 0 },
      },
      { at: endOf(path), out: unit(headingOn(last.from, last.segment, 1)), side: { lineId: id, index: 1 } },
    ];
  });
}

/** Gaps: two ends of cuts that face each other, each the nearest that the other faces. */
function gapsAmong(cuts: readonly CutLine[], isPaper: IsPaper): FoundBridge[] {
  const ends = endsOf(cuts).sort((a, b) => a.at[0] - b.at[0]);
  const best = ends.map((end, i) => {
    let [partner, far] = [-1, Infinity];
    const look = (j: number): boolean => {
      const other = ends[j];
      if (Math.abs(other.at[0] - end.at[0]) > WIDEST_MM) return false;
      const link = subtract(other.at, end.at);
      const mm = lengthOf(link);
      if (mm > LEAST_MM && mm <= WIDEST_MM && mm < far) {
        const way = scale(link, 1 / mm);
        if (dot(end.out, way) > ENDS_COS && dot(other.out, way) < -ENDS_COS) [partner, far] = [j, mm];
      }
      return true;
    };
    for (let j = i - 1; j >= 0 && look(j); j--);
    for (let j = i + 1; j < ends.length && look(j); j++);
    return partner;
  });
  return best.flatMap((j, i): FoundBridge[] => {
    if (j <= i || best[j] !== i) return [];
    const [a, b] = [ends[i], ends[j]];
    const at = middle(a.at, b.at);
    if (!isPaper(at)) return [];
    const along = unit(subtract(b.at, a.at));
    return [
      {
        kind: 'gap',
        at,
        way: [-along[1], along[0]],
        widthMm: distance(a.at, b.at),
        lengthMm: 0,
        sides: [a.side, b.side],
      },
    ];
  });
}

interface Side {
  readonly side: BridgeSide;
  readonly from: Point;
  readonly to: Point;
  readonly along: Point;
  /** How the outline comes to it, and how it goes on. */
  readonly before: Point;
  readonly after: Point;
}

/** Strips: straight sides of openings that run side by side, where the outlines turn away from each other at both ends. */
function stripsAmong(cuts: readonly CutLine[], isPaper: IsPaper): FoundBridge[] {
  const sides: Side[] = cuts.flatMap(({ id, path }) => {
    if (!isClosedPath(path)) return [];
    const legs = legsOf(path);
    return legs.flatMap(({ from, segment }, index): Side[] => {
      const long = distance(from, segment.to);
      if (segment.kind !== 'line' || long < LEAST_MM) return [];
      const [prior, next] = [legs[(index + legs.length - 1) % legs.length], legs[(index + 1) % legs.length]];
      return [
        {
          side: { lineId: id, index },
          from,
          to: segment.to,
          along: scale(subtract(segment.to, from), 1 / long),
          before: unit(headingOn(prior.from, prior.segment, 1)),
          after: unit(headingOn(next.from, next.segment, 0)),
        },
      ];
    });
  });
  const lowest = ({ from, to }: Side) => Math.min(from[0], to[0]);
  const highest = ({ from, to }: Side) => Math.max(from[0], to[0]);
  const sorted = sides.sort((a, b) => lowest(a) - lowest(b));
  const found: FoundBridge[] = [];
  sorted.forEach((a, i) => {
    for (let j = i + 1; j < sorted.length && lowest(sorted[j]) <= highest(a) + WIDEST_MM; j++) {
      const strip = stripBetween(a, sorted[j], isPaper);
      if (strip) found.push(strip);
    }
  });
  return found;
}

function stripBetween(a: Side, b: Side, isPaper: IsPaper): FoundBridge | undefined {
  const facing = dot(a.along, b.along);
  if (Math.abs(facing) < FACING_COS) return undefined;
  const link = subtract(middle(b.from, b.to), middle(a.from, a.to));
  const widthMm = Math.abs(cross(a.along, link));
  if (widthMm < LEAST_MM || widthMm > WIDEST_MM) return undefined;
  // Both seen along the way of the first.
  const along = (p: Point) => dot(a.along, subtract(p, a.from));
  const [b0, b1] = [along(b.from), along(b.to)];
  const [low, high] = [Math.max(0, Math.min(b0, b1)), Math.min(distance(a.from, a.to), Math.max(b0, b1))];
  const lengthMm = high - low;
  if (lengthMm < LEAST_MM || lengthMm > LONGEST * widthMm) return undefined;
  const towards = unit(subtract(link, scale(a.along, dot(a.along, link))));
  const away = (side: Side, to: Point) =>
    dot(side.after, to) < -TURNS_AWAY && -dot(side.before, to) < -TURNS_AWAY;
  if (!away(a, towards) || !away(b, scale(towards, -1))) return undefined;
  const at = add(add(a.from, scale(a.along, (low + high) / 2)), scale(towards, widthMm / 2));
  if (!isPaper(at)) return undefined;
  return { kind: 'strip', at, way: a.along, widthMm, lengthMm, sides: [a.side, b.side] };
}

/** All bridges among the cuts of a part, from left to right. */
export const bridgesAmong = (cuts: readonly CutLine[], isPaper: IsPaper): FoundBridge[] =>
  [...gapsAmong(cuts, isPaper), ...stripsAmong(cuts, isPaper)].sort(
    (a, b) => a.at[0] - b.at[0] || a.at[1] - b.at[1],
  );

/** A cut left whole for a width where a straight way crosses it. */
function withGap(
  path: Path,
  from: Point,
  to: Point,
  at: Point,
  widthMm: number,
): readonly Path[] | NotShaped {
  const way = unit(subtract(to, from));
  const aside = scale([-way[1], way[0]] as Point, widthMm / 2);
  const reach = scale(way, 4 * widthMm + distance(from, to));
  const centre = nearestOn(path, at);
  const place = (p: { segment: number; share: number }) => p.segment + p.share;
  const met = [1, -1].map(
    (sign) =>
      crossingsOf(
        path,
        straight(subtract(add(at, scale(aside, sign)), reach), add(add(at, scale(aside, sign)), reach)),
      )
        .map(({ a }) => a)
        .sort((p, q) => distance(p.at, at) - distance(q.at, at))[0],
  );
  if (isClosedPath(path)) {
    const [p, q] = met;
    if (!p || !q) return { refused: 'The cut is too small for a bridge of this width.' };
    // Of the two ways round, the one that does not lead through the middle of the bridge.
    const ways = [closedBetween(path, p, q), closedBetween(path, q, p)];
    const rest = ways.find((each) => each && nearestOn(each, centre.at).mm > widthMm / 8);
    return rest ? [rest] : { refused: 'The cut is too small for a bridge of this width.' };
  }
  const near = met.filter((p) => p !== undefined).sort((a, b) => place(a) - place(b));
  const first = near.find((p) => place(p) < place(centre));
  const second = near.find((p) => place(p) > place(centre));
  const last = path.segments.length - 1;
  return [
    first && pathBetween(path, { segment: 0, share: 0 }, first),
    second && pathBetween(path, second, { segment: last, share: 1 }),
  ].filter((each) => each !== undefined);
}

/**
 * A bridge drawn from paper to paper: across a cut that is left whole there, or across an opening whose edges it joins; several
 * of either where the way crosses several.
 *
 * @returns what takes the place of the cuts, and how many bridges there are now; or why not
 */
export function bridgeAcross(
  cuts: readonly CutLine[],
  from: Point,
  to: Point,
  widthMm: number,
  isPaper: IsPaper,
): { readonly replaced: CutsReplaced; readonly bridges: number } | NotShaped {
  const way = straight(from, to);
  const long = distance(from, to);
  if (long < LEAST_MM) return { refused: 'Draw the bridge from paper to paper.' };
  const met = cuts
    .flatMap(({ path }) => crossingsOf(path, way).map(({ b }) => b))
    .sort((a, b) => a.share - b.share)
    .filter((place, i, all) => i === 0 || (place.share - all[i - 1].share) * long > LEAST_MM / 5);
  if (met.length === 0)
    return { refused: 'It crosses no cut: draw the bridge across one, from paper to paper.' };
  const shares = [0, ...met.map(({ share }) => share), 1];
  const paper = shares.slice(1).map((share, i) => {
    const at = (share + shares[i]) / 2;
    return isPaper([from[0] + at * (to[0] - from[0]), from[1] + at * (to[1] - from[1])]);
  });
  // What falls out of a cut, and holds nothing else, can be held by the bridge: it is paper then.
  const held = (end: Point, at: Point): boolean => {
    const cut = cuts.find(({ path }) => isClosedPath(path) && nearestOn(path, at).mm < 1e-3);
    if (!cut) return false;
    const ring = flatten(cut.path);
    return (
      insideRing(end, ring) &&
      !cuts.some(({ id, path }) => id !== cut.id && isClosedPath(path) && insideRing(flatten(path)[0], ring))
    );
  };
  paper[0] ||= held(from, met[0].at);
  paper[paper.length - 1] ||= held(to, met[met.length - 1].at);
  if (!paper[0] || !paper[paper.length - 1])
    return { refused: 'Begin and end the bridge on paper: it must hold on both sides.' };
  let work: CutLine[] = [...cuts];
  let bridges = 0;
  for (let k = 0; k < met.length; k++) {
    const { at } = met[k];
    if (paper[k + 1]) {
      const near = work.map(({ path }) => nearestOn(path, at).mm);
      const which = near.indexOf(Math.min(...near));
      const made = withGap(work[which].path, from, to, at, widthMm);
      if ('refused' in made) return made;
      work = work.toSpliced(which, 1, ...made.map((path) => ({ id: work[which].id, path })));
    } else {
      if (!paper[k + 2])
        return { refused: 'Something is cut in what falls out there: take that away first.' };
      const closed = work.filter(({ path }) => isClosedPath(path));
      const made = withBridges(
        closed.map(({ path }) => path),
        [{ from: at, to: met[k + 1].at, widthMm }],
      );
      if ('refused' in made) return made;
      const kept = new Set(made);
      const touched = closed.filter(({ path }) => !kept.has(path));
      if (touched.length === 0) return { refused: 'These cuts cannot be joined: close the outlines first.' };
      const fresh = made.filter((path) => !closed.some((each) => each.path === path));
      work = [
        ...work.filter((each) => !touched.includes(each)),
        ...fresh.map((path, i) => ({ id: touched[Math.min(i, touched.length - 1)].id, path })),
      ];
      k += 1;
    }
    bridges += 1;
  }
  return { replaced: changedBetween(cuts, work), bridges };
}

/** What changed between two states of the cuts. */
function changedBetween(before: readonly CutLine[], now: readonly CutLine[]): CutsReplaced {
  const replaced = new Map<string, readonly Path[]>();
  for (const { id, path } of before) {
    const own = now.filter((each) => each.id === id).map((each) => each.path);
    if (own.length !== 1 || own[0] !== path) replaced.set(id, own);
  }
  return replaced;
}

/** The segment that leads from one piece of an outline on to the next: along the circle that both lie on, else straight. */
function linkBetween(
  before: { from: Point; segment: Segment },
  after: { from: Point; segment: Segment },
): Segment {
  const [a, b] = [before.segment, after.segment];
  if (a.kind === 'arc' && b.kind === 'arc') {
    const [one, other] = [arcGeometry(before.from, a.to, a.bulge), arcGeometry(after.from, b.to, b.bulge)];
    if (
      one &&
      other &&
      Math.sign(a.bulge) === Math.sign(b.bulge) &&
      distance(one.centre, other.centre) < 0.01 &&
      Math.abs(one.radius - other.radius) < 0.01
    ) {
      const [u, v] = [subtract(a.to, one.centre), subtract(after.from, one.centre)];
      const turn = Math.atan2(cross(u, v), dot(u, v));
      if (Math.sign(turn) === Math.sign(a.bulge))
        return { kind: 'arc', to: after.from, bulge: Math.tan(turn / 4) };
    }
  }
  return { kind: 'line', to: after.from };
}

/** A path with another one put after it, what leads over included; straight runs and arcs of one circle become one where they meet. */
function followedBy(first: Path, second: Path | undefined): Path {
  const legs = legsOf(first);
  const next = second ? legsOf(second) : legs;
  const link = linkBetween(legs[legs.length - 1], next[0]);
  const segments = [...first.segments, link, ...(second?.segments ?? [])];
  return merged({ start: first.start, segments }, first.segments.length, second !== undefined);
}

/** The path whose segment k is one with its neighbours where they run on. */
function merged({ start, segments }: Path, k: number, hasNext: boolean): Path {
  const from = (i: number): Point => (i === 0 ? start : segments[i - 1].to);
  const one = segments[k];
  const runsOn = (i: number): boolean => {
    const other = segments[i];
    if (one.kind === 'line' && other.kind === 'line') {
      const [u, v] = [unit(subtract(one.to, from(k))), unit(subtract(other.to, from(i)))];
      return dot(u, v) > 0 && Math.abs(cross(u, v)) < 1e-6;
    }
    return one.kind === 'arc' && other.kind === 'arc';
  };
  const low = k > 0 && runsOn(k - 1) ? k - 1 : k;
  const high = hasNext && k + 1 < segments.length && runsOn(k + 1) ? k + 1 : k;
  if (low === high) return { start, segments };
  const run = segments.slice(low, high + 1);
  const to = run[run.length - 1].to;
  if (one.kind === 'line')
    return { start, segments: segments.toSpliced(low, run.length, { kind: 'line', to }) };
  const sweep = run.reduce((sum, each) => sum + (each.kind === 'arc' ? 4 * Math.atan(each.bulge) : 0), 0);
  if (Math.abs(sweep) > 1.9 * Math.PI) return { start, segments };
  return {
    start,
    segments: segments.toSpliced(low, run.length, { kind: 'arc', to, bulge: Math.tan(sweep / 4) }),
  };
}

/** A closed path from after one of its segments round to before another, both left out; undefined where nothing lies between. */
function openedAt(path: Path, after: number, before: number): Path | undefined {
  const count = path.segments.length;
  const from = (after + 1) % count;
  const segments: Segment[] = [];
  for (let i = from; i !== before; i = (i + 1) % count) {
    segments.push(path.segments[i]);
    if (segments.length > count) return undefined;
  }
  return segments.length === 0 ? undefined : { start: path.segments[after].to, segments };
}

function closedUp(path: Path): Path {
  const joined = followedBy(path, undefined);
  const [first, ...others] = joined.segments;
  // Begun at the next corner, so that the side in which it began can be one again.
  const turned: Path = { start: first.to, segments: [...others, first] };
  const { start, segments } = others.length > 1 ? merged(turned, others.length, false) : joined;
  return { start, segments: segments.with(-1, { ...segments[segments.length - 1], to: start }) };
}

/**
 * The cuts without a bridge: they run on where it was, along the arc that they lie on or straight.
 *
 * @param bridge one that was found among these cuts
 */
export function withoutBridge(cuts: readonly CutLine[], bridge: FoundBridge): CutsReplaced | NotShaped {
  const [one, other] = bridge.sides.map(({ lineId }) => cuts.find(({ id }) => id === lineId));
  if (!one || !other) return { refused: 'This bridge is no longer there.' };
  const [{ index: i }, { index: j }] = bridge.sides;
  if (bridge.kind === 'gap') {
    if (one.id === other.id) return new Map([[one.id, [closedUp(one.path)]]]);
    const first = i === 1 ? one.path : reversePath(one.path);
    const second = j === 0 ? other.path : reversePath(other.path);
    return new Map([
      [one.id, [followedBy(first, second)]],
      [other.id, []],
    ]);
  }
  if (one.id === other.id) {
    const pieces = [openedAt(one.path, i, j), openedAt(one.path, j, i)];
    if (!pieces[0] || !pieces[1]) return { refused: 'Nothing would be left of the opening without it.' };
    return new Map([[one.id, pieces.map((piece) => closedUp(piece!))]]);
  }
  const first = openedAt(one.path, i, i);
  const second = openedAt(other.path, j, j);
  if (!first || !second) return { refused: 'Nothing would be left of the opening without it.' };
  // Both openings must be run round the same way for their edges to meet.
  const run = dot(sideWay(one.path, i), sideWay(other.path, j)) < 0 ? second : reversePath(second);
  return new Map([
    [one.id, [closedUp(followedBy(first, run))]],
    [other.id, []],
  ]);
}

const sideWay = (path: Path, index: number): Point => {
  const { from, segment } = legsOf(path)[index];
  return subtract(segment.to, from);
};

/** Cuts with what takes the place of some of them: those that are new are named after what they come from. */
export const withReplaced = (cuts: readonly CutLine[], replaced: CutsReplaced): CutLine[] =>
  cuts.flatMap(
    (cut) =>
      replaced.get(cut.id)?.map((path, i) => ({ id: i === 0 ? cut.id : `${cut.id}+${i}`, path })) ?? [cut],
  );

/**
 * A bridge at another place, or of another width: taken away, and made again where the cut or the edge of the opening is nearest
 * to that place, straight across it.
 *
 * @param to where its middle is to be
 */
export function movedBridge(
  cuts: readonly CutLine[],
  bridge: FoundBridge,
  to: Point,
  widthMm: number,
  isPaperWithout: (cuts: readonly CutLine[]) => IsPaper,
): CutsReplaced | NotShaped {
  const without = withoutBridge(cuts, bridge);
  if ('refused' in without) return without;
  // Ids of what comes from several cuts are made one again afterwards.
  const left = withReplaced(cuts, without);
  const touched = new Set(bridge.sides.map(({ lineId }) => lineId));
  const own = left.filter(({ id }) => touched.has(id.split('+')[0]));
  const nearest = own.map(({ path }) => nearestOn(path, to)).sort((a, b) => a.mm - b.mm)[0];
  if (!nearest) return { refused: 'There is no cut to hold there.' };
  const legs = own.map(({ path }) => path).find((path) => nearestOn(path, to).mm === nearest.mm)!;
  const { from, segment } = legsOf(legs)[nearest.segment];
  const heading = unit(headingOn(from, segment, nearest.share));
  const normal: Point = [-heading[1], heading[0]];
  const isPaper = isPaperWithout(left);
  const reach = bridge.kind === 'gap' ? Math.max(1, widthMm) : Math.max(4 * bridge.lengthMm, 40);
  for (const sign of bridge.kind === 'gap' ? [1] : [1, -1]) {
    const way = scale(normal, sign);
    const back = add(nearest.at, scale(way, -0.2));
    if (bridge.kind === 'gap') {
      const made = bridgeAcross(
        left,
        add(nearest.at, scale(way, -reach / 2)),
        add(nearest.at, scale(way, reach / 2)),
        widthMm,
        isPaper,
      );
      return 'refused' in made ? made : onto(cuts, left, made.replaced, without);
    }
    if (!isPaper(back)) continue;
    // From this edge over the opening to the next.
    const ray = straight(back, add(nearest.at, scale(way, reach)));
    const hits = left
      .flatMap(({ path }) => crossingsOf(path, ray).map(({ b }) => b))
      .sort((a, b) => a.share - b.share);
    const hit = hits.find((place) => distance(place.at, nearest.at) > LEAST_MM);
    if (!hit) continue;
    const made = bridgeAcross(left, back, add(hit.at, scale(way, 0.2)), widthMm, isPaper);
    if ('refused' in made) return made;
    return onto(cuts, left, made.replaced, without);
  }
  return { refused: 'There is nothing across from there to hold on to.' };
}

/** Two changes after each other, as one: by the ids of the first cuts. */
function onto(
  cuts: readonly CutLine[],
  left: readonly CutLine[],
  second: CutsReplaced,
  first: CutsReplaced,
): CutsReplaced {
  const replaced = new Map<string, Path[]>([...first.keys()].map((id) => [id, []]));
  for (const { id, path } of left) {
    const own = id.split('+')[0];
    const paths = second.get(id);
    if (!paths && !first.has(own)) continue;
    if (paths && !replaced.has(own)) replaced.set(own, []);
    replaced.get(own)!.push(...(paths ?? [path]));
  }
  // A cut of which nothing is left gives its name to none; what has no name of its own takes it.
  const free = [...replaced].filter(([, paths]) => paths.length === 0).map(([id]) => id);
  for (const paths of replaced.values())
    while (paths.length > 1 && free.length > 0) replaced.set(free.shift()!, [paths.pop()!]);
  return new Map(
    [...replaced].filter(
      ([id, paths]) => paths.length !== 1 || cuts.find((cut) => cut.id === id)?.path !== paths[0],
    ),
  );
}
