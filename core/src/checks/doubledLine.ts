import { isCut, isFold, isRuling, type Part } from '../dieline/part.ts';
import { indexSegments } from '../dieline/planarGraph.ts';
import { flatten } from '../geometry/path.ts';
import { between, cross, distance, dot, lengthOf, subtract, type Point } from '../geometry/point.ts';
import { DOUBLED_MM } from '../geometry/tolerances.ts';
import { findingOf, mm, type CheckContext, type Finding, type Mend, type Rule } from './finding.ts';
import { draftedLine, withoutStretch } from './lineMends.ts';

const RULE = 'doubledLine';
/** Shorter overlaps do not harm. */
const SHORTEST_MM = 0.5;

interface Piece {
  readonly a: Point;
  readonly b: Point;
  readonly lineId: string;
}

/** The stretch of segment p that segment q runs along, as ends on p; undefined when they do not overlap. */
function overlapOf(p: { a: Point; b: Point }, q: { a: Point; b: Point }): [Point, Point] | undefined {
  const d = subtract(p.b, p.a);
  const length = lengthOf(d);
  if (length === 0) return undefined;
  const off = (x: Point) => Math.abs(cross(d, subtract(x, p.a))) / length;
  if (off(q.a) > DOUBLED_MM || off(q.b) > DOUBLED_MM) return undefined;
  const along = [q.a, q.b].map((x) => dot(d, subtract(x, p.a)) / (length * length)).sort((x, y) => x - y);
  const [from, to] = [Math.max(0, along[0]), Math.min(1, along[1])];
  return to - from > 1e-9 ? [between(p.a, p.b, from), between(p.a, p.b, to)] : undefined;
}

interface Double {
  readonly first: string;
  readonly second: string;
  lengthMm: number;
  /** Ends of the stretches that they share, two by two. */
  readonly points: Point[];
}

function doublesOf(part: Part): Double[] {
  const pieces: Piece[] = [];
  for (const line of part.lines) {
    // The rulings of a bend are not made.
    if (isRuling(line)) continue;
    if (!isCut(line) && !isFold(line) && line.process !== 'score' && line.process !== 'perforate') continue;
    const points = flatten(line.path);
    for (let i = 1; i < points.length; i++) pieces.push({ a: points[i - 1], b: points[i], lineId: line.id });
  }
  const found = new Map<string, Double>();
  const index = indexSegments(pieces, DOUBLED_MM);
  pieces.forEach((p, i) => {
    const box = [
      Math.min(p.a[0], p.b[0]),
      Math.min(p.a[1], p.b[1]),
      Math.max(p.a[0], p.b[0]),
      Math.max(p.a[1], p.b[1]),
    ] as const;
    for (const j of index!.search(...box)) {
      const q = pieces[j];
      if (j <= i || q.lineId === p.lineId) continue;
      const overlap = overlapOf(p, q);
      if (!overlap) continue;
      const [first, second] = [p.lineId, q.lineId].sort();
      const key = `${first}|${second}`;
      const known = found.get(key) ?? { first, second, lengthMm: 0, points: [] };
      known.lengthMm += distance(...overlap);
      known.points.push(...overlap);
      found.set(key, known);
    }
  });
  return [...found.values()].filter((double) => double.lengthMm > SHORTEST_MM);
}

const lineLength = (part: Part, id: string): number => {
  const points = flatten(part.lines.find((line) => line.id === id)!.path);
  return points.slice(1).reduce((sum, p, i) => sum + distance(p, points[i]), 0);
};

/** Which of two lines does nothing: a fold under a cut, a perforation under either; of two alike the shorter one. */
function spareOf(part: Part, ids: readonly [string, string]): 0 | 1 {
  const cuts = ids.map((id) => isCut(part.lines.find((line) => line.id === id)!));
  if (cuts[0] !== cuts[1]) return cuts[0] ? 1 : 0;
  return lineLength(part, ids[0]) < lineLength(part, ids[1]) ? 0 : 1;
}

/** The spare line taken away where it lies under the other: wholly, or the stretch that they share. */
function mendFor(context: CheckContext, part: Part, double: Double): Mend | null {
  const ids = [double.first, double.second] as const;
  const spare = spareOf(part, ids);
  for (const i of [spare, 1 - spare]) {
    const whole = lineLength(part, ids[i]) - double.lengthMm <= 4 * DOUBLED_MM;
    const drafted = draftedLine(context, part.id, ids[i]);
    if (whole && drafted) return { label: 'Take the second line away', command: drafted.remove() };
    // One straight stretch in common: the rest stays.
    const [from, to] = [double.points[0], double.points[double.points.length - 1]];
    if (whole || double.points.length !== 2) continue;
    const command = withoutStretch(context, part.id, ids[i], [from, to]);
    if (command) return { label: `Take the ${mm(double.lengthMm)} that are doubled away`, command };
  }
  return null;
}

/** A line drawn twice is cut twice: the blade tears, the laser burns. */
export const doubledLine: Rule = {
  id: RULE,
  title: 'Doubled line',
  protects: 'No line is cut or scored twice, and no cut severs a fold.',
  needs: ['lines'],
  limit: `${SHORTEST_MM} mm: shorter overlaps do not harm`,
  unit: 'mm',
  run(context) {
    return context.expanded.parts.flatMap((part) =>
      doublesOf(part).map((double): Finding => {
        const { first, second, lengthMm, points } = double;
        const lines = [first, second].map((id) => part.lines.find((line) => line.id === id)!);
        const severs = lines.some(isCut) && lines.some(isFold);
        return findingOf(
          RULE,
          `${part.id}:${first}:${second}`,
          severs
            ? `A cut of ${part.name} severs a fold over ${mm(lengthMm)}: they lie on each other.`
            : `Two lines of ${part.name} lie on each other over ${mm(lengthMm)}.`,
          [{ partId: part.id, at: points[0], points }],
          {
            measured: lengthMm,
            limit: SHORTEST_MM,
            limitFrom: 'shorter overlaps do not harm',
            mend: mendFor(context, part, double),
          },
        );
      }),
    );
  },
};
