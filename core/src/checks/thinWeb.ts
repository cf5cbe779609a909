/**
 * Material between two cuts, or between ends of one, thinner than the stock can hold. Exact: the shortest link between two
 * cut segments that runs through material; its middle must be as far from every cut as from these two, which keeps
 * corners and neighbouring pieces of one curve out. Where the outline runs on from the one to the other round a sharp
 * point or a small bump, nothing hangs on it.
 */
import { panelPlan } from '../dieline/panels.ts';
import { indexSegments } from '../dieline/planarGraph.ts';
import { isCut, stockOf, type DieLine, type Part } from '../dieline/part.ts';
import { boxOf, endOf, flatten, placePath } from '../geometry/path.ts';
import { shift } from '../geometry/isometry.ts';
import { distance, distanceToSegment, middle, segmentGap, type Point } from '../geometry/point.ts';
import type { Ring } from '../geometry/polygon.ts';
import { SNAP_MM } from '../geometry/tolerances.ts';
import { findingOf, mm, type CheckContext, type Finding, type Mend, type Rule } from './finding.ts';
import { draftedLine } from './lineMends.ts';

const RULE = 'thinWeb';

interface Piece {
  readonly a: Point;
  readonly b: Point;
  readonly line: Course;
  /** How far along the line it begins, mm. */
  readonly from: number;
  readonly index: number;
}

/** A cut line as a polyline. */
interface Course {
  readonly id: string;
  readonly points: readonly Point[];
  readonly lengthMm: number;
  readonly closed: boolean;
}

export interface Web {
  readonly widthMm: number;
  readonly from: Point;
  readonly to: Point;
  readonly lineIds: readonly [string, string];
}

/** How much nearer than half the link another cut may be to its middle before the link is no web of its own. */
const CLEAR_SHARE = 0.4;
/** Tips sharper than this hold nothing (cosine of 75 degrees). */
const SHARP_COS = Math.cos((75 * Math.PI) / 180);
/** Round a tip the outline runs at most so many limits from the one side to the other. */
const TIP_LIMITS = 6;

const courseOf = ({ id, path }: DieLine): Course => {
  const points = flatten(path);
  const lengthMm = points.slice(1).reduce((sum, p, i) => sum + distance(p, points[i]), 0);
  return { id, points, lengthMm, closed: distance(points[0], points[points.length - 1]) <= SNAP_MM };
};

/** Whether two runs that leave a point make a sharp angle there. */
const sharp = (before: Point, at: Point, after: Point): boolean => {
  const [ux, uy, vx, vy] = [before[0] - at[0], before[1] - at[1], after[0] - at[0], after[1] - at[1]];
  return ux * vx + uy * vy > SHARP_COS * Math.hypot(ux, uy) * Math.hypot(vx, vy);
};

/** Whether two places on cuts are the two sides of a sharp tip, with not much of the outline between them. */
function roundTip(p: Piece, onP: Point, q: Piece, onQ: Point, limitMm: number): boolean {
  const [sp, sq] = [p.from + distance(p.a, onP), q.from + distance(q.a, onQ)];
  const most = TIP_LIMITS * limitMm;
  if (p.line === q.line) {
    const { points, closed, lengthMm } = p.line;
    const [first, last, from, to] = sp <= sq ? [p, q, sp, sq] : [q, p, sq, sp];
    const corner = (i: number) => sharp(points[i - 1], points[i], points[i + 1]);
    if (to - from <= most) for (let i = first.index + 1; i <= last.index; i++) if (corner(i)) return true;
    if (!closed || lengthMm - (to - from) > most) return false;
    // The other way round, over the point where the line begins.
    if (sharp(points[points.length - 2], points[0], points[1])) return true;
    for (let i = last.index + 1; i < points.length - 1; i++) if (corner(i)) return true;
    for (let i = 1; i <= first.index; i++) if (corner(i)) return true;
    return false;
  }
  return ([0, 1] as const).some((i) =>
    ([0, 1] as const).some((j) => {
      const [a, b] = [p.line.points, q.line.points];
      const [endA, endB] = [a[i === 0 ? 0 : a.length - 1], b[j === 0 ? 0 : b.length - 1]];
      if (distance(endA, endB) > SNAP_MM) return false;
      const far = (i === 0 ? sp : p.line.lengthMm - sp) + (j === 0 ? sq : q.line.lengthMm - sq);
      return far <= most && sharp(a[i === 0 ? 1 : a.length - 2], endA, b[j === 0 ? 1 : b.length - 2]);
    }),
  );
}

/** What hangs on a link is a bump, no piece, when its edge is at most so many times as long as the link. */
const BUMP_RUN = 2.5;

/** How far along a ring the point of it nearest to p is, mm; undefined where the ring does not pass there. */
function alongRing(ring: Ring, p: Point): number | undefined {
  let from = 0;
  for (let i = 0; i < ring.length; i++) {
    const [a, b] = [ring[i], ring[(i + 1) % ring.length]];
    if (distanceToSegment(p, a, b) <= SNAP_MM) return from + distance(a, p);
    from += distance(a, b);
  }
  return undefined;
}

/** Whether the edge of the paper runs on from one end of a link to the other so shortly that nothing hangs on it. */
function isBump(ring: Ring, from: Point, to: Point): boolean {
  const [s, t] = [alongRing(ring, from), alongRing(ring, to)];
  if (s === undefined || t === undefined) return false;
  const whole = ring.reduce((sum, p, i) => sum + distance(p, ring[(i + 1) % ring.length]), 0);
  const run = Math.min(Math.abs(s - t), whole - Math.abs(s - t));
  return run <= BUMP_RUN * distance(from, to);
}

/** Every web of a part narrower than `limitMm`, the narrowest one per pair of lines and place (cells of 4 limits). */
export function websOf(part: Part, limitMm: number): Web[] {
  const pieces: Piece[] = part.lines
    .filter((line) => isCut(line))
    .flatMap((cut) => {
      const line = courseOf(cut);
      let from = 0;
      return line.points.slice(1).map((b, i): Piece => {
        const piece = { a: line.points[i], b, line, from, index: i };
        from += distance(piece.a, b);
        return piece;
      });
    });
  const index = indexSegments(pieces, 0);
  if (!index) return [];
  const { panelContaining, panels } = panelPlan(part);
  const near = (p: Point, r: number) => index.search(p[0] - r, p[1] - r, p[0] + r, p[1] + r);
  const best = new Map<string, Web>();
  pieces.forEach((p, i) => {
    const box = boxOf([p.a, p.b]);
    for (const j of index.search(
      box.minX - limitMm,
      box.minY - limitMm,
      box.maxX + limitMm,
      box.maxY + limitMm,
    )) {
      if (j <= i) continue;
      const q = pieces[j];
      const gap = segmentGap(p.a, p.b, q.a, q.b);
      if (gap.distance >= limitMm - SNAP_MM || gap.distance < 1e-6) continue;
      const at = middle(gap.onFirst, gap.onSecond);
      const clear = CLEAR_SHARE * gap.distance;
      if (near(at, clear).some((k) => distanceToSegment(at, pieces[k].a, pieces[k].b) < clear)) continue;
      const panel = panelContaining(at);
      if (panel < 0 || roundTip(p, gap.onFirst, q, gap.onSecond, limitMm)) continue;
      if (isBump(panels[panel].region.outer, gap.onFirst, gap.onSecond)) continue;
      const cell = at.map((v) => Math.round(v / (4 * limitMm))).join();
      const lineIds = [p.line.id, q.line.id].sort() as [string, string];
      const key = `${lineIds.join('|')}|${cell}`;
      const known = best.get(key);
      if (!known || gap.distance < known.widthMm)
        best.set(key, { widthMm: gap.distance, from: gap.onFirst, to: gap.onSecond, lineIds });
    }
  });
  // One web can fall into neighbouring cells: keep the narrower of two that nearly touch.
  const webs = [...best.values()].sort((x, y) => x.widthMm - y.widthMm);
  return webs.filter(
    (web, i) =>
      !webs
        .slice(0, i)
        .some(
          (w) =>
            distance(middle(w.from, w.to), middle(web.from, web.to)) < 4 * limitMm &&
            w.lineIds.join() === web.lineIds.join(),
        ),
  );
}

/** Whether a line meets no other, so that it can be moved by itself: closed, or with both its ends in the paper. */
function standsAlone(part: Part, id: string): boolean {
  const path = part.lines.find((line) => line.id === id)!.path;
  const ends = [path.start, endOf(path)];
  if (distance(ends[0], ends[1]) <= SNAP_MM) return true;
  return part.lines.every(
    (other) => other.id === id || ends.every((end) => distanceToPath(part, other.id, end) > SNAP_MM),
  );
}

/** That line of the two that stands alone, moved away from the other until the web is as wide as the stock wants. */
function widen(context: CheckContext, part: Part, web: Web, limitMm: number): Mend[] {
  const { outlineLineIds } = panelPlan(part);
  const lack = limitMm - web.widthMm + SNAP_MM;
  for (const [id, from, to] of [
    [web.lineIds[0], web.from, web.to],
    [web.lineIds[1], web.from, web.to],
  ] as const) {
    const drafted = draftedLine(context, part.id, id);
    if (!drafted || outlineLineIds.has(id)) continue;
    const { path } = drafted.line;
    if (!standsAlone(part, id)) continue;
    // Away from the other line: towards whichever end of the link lies on this one.
    const onThis = distanceToPath(part, id, from) <= distanceToPath(part, id, to) ? from : to;
    const other = onThis === from ? to : from;
    const [dx, dy] = [(onThis[0] - other[0]) / web.widthMm, (onThis[1] - other[1]) / web.widthMm];
    const turned = Math.atan2(dy, dx) + drafted.back.angleRad * (drafted.back.flip ? -1 : 1);
    const by = shift(lack * Math.cos(turned), lack * Math.sin(turned));
    return [
      {
        label: `Move the cut ${mm(lack)} away`,
        command: drafted.change({ ...drafted.line, path: placePath(by, path) }),
      },
    ];
  }
  return [];
}

function distanceToPath(part: Part, id: string, p: Point): number {
  const points = flatten(part.lines.find((line) => line.id === id)!.path);
  return Math.min(...points.slice(1).map((b, i) => distanceToSegment(p, points[i], b)));
}

/** Thin strips of material tear when the waste is pushed out, and bridges that are too narrow do not hold. */
export const thinWeb: Rule = {
  id: RULE,
  title: 'Thin web or bridge',
  protects: 'Strips between cuts and bridges are wide enough for the stock.',
  needs: ['lines'],
  limit: 'the least web of the part’s stock',
  unit: 'mm',
  run(context) {
    return context.expanded.parts.flatMap((part) => {
      const stock = stockOf(part);
      // All that is narrow between the same two cuts is one finding.
      const byLines = new Map<string, Web[]>();
      for (const web of websOf(part, stock.minWebMm)) {
        const key = web.lineIds.join(':');
        byLines.set(key, [...(byLines.get(key) ?? []), web]);
      }
      return [...byLines].map(([key, [narrowest, ...more]]): Finding => {
        const webs = [narrowest, ...more];
        const where = more.length > 0 ? `, at ${webs.length} places` : '';
        return findingOf(
          RULE,
          `${part.id}:${key}`,
          narrowest.lineIds[0] === narrowest.lineIds[1]
            ? `A cut of ${part.name} comes within ${mm(narrowest.widthMm)} of itself${where}: only so much material is left, and ${stock.name} wants ${mm(stock.minWebMm)}.`
            : `Between two cuts of ${part.name} only ${mm(narrowest.widthMm)} of material is left${where}; ${stock.name} wants ${mm(stock.minWebMm)}.`,
          webs.map((web) => ({
            partId: part.id,
            at: middle(web.from, web.to),
            points: [web.from, web.to],
          })),
          {
            measured: narrowest.widthMm,
            limit: stock.minWebMm,
            limitFrom: `the least web of ${stock.name}`,
          },
        );
      });
    });
  },
  offers(context, { key, places, limit }) {
    const part = context.expanded.parts.find(({ id }) => id === places[0].partId)!;
    const web = websOf(part, limit!).find(({ lineIds }) => key === `${RULE}:${part.id}:${lineIds.join(':')}`);
    return web ? widen(context, part, web, limit!) : [];
  },
};
