import type { Command } from '../design/commands.ts';
import { indexSegments } from '../dieline/planarGraph.ts';
import { isCut, isFold, type Part } from '../dieline/part.ts';
import { flatten } from '../geometry/path.ts';
import { cross, distance, dot, lengthOf, subtract, between, type Point } from '../geometry/point.ts';
import { mm, type Finding, type Mend, type Rule, type CheckContext } from './finding.ts';

/** Lines nearer than this, over more than the shortest length, are one line drawn twice. */
const APART_MM = 0.05;
const SHORTEST_MM = 0.5;

interface Piece {
  readonly a: Point;
  readonly b: Point;
  readonly lineId: string;
}

/** The stretch of segment p that segment q runs along, as ends on p; undefined when they do not overlap. */
export function overlapOf(p: { a: Point; b: Point }, q: { a: Point; b: Point }): [Point, Point] | undefined {
  const d = subtract(p.b, p.a);
  const length = lengthOf(d);
  if (length === 0) return undefined;
  const off = (x: Point) => Math.abs(cross(d, subtract(x, p.a))) / length;
  if (off(q.a) > APART_MM || off(q.b) > APART_MM) return undefined;
  const along = [q.a, q.b].map((x) => dot(d, subtract(x, p.a)) / (length * length)).sort((x, y) => x - y);
  const [from, to] = [Math.max(0, along[0]), Math.min(1, along[1])];
  return to - from > 1e-9 ? [between(p.a, p.b, from), between(p.a, p.b, to)] : undefined;
}

function doublesOf(
  part: Part,
): Map<string, { first: string; second: string; lengthMm: number; points: Point[] }> {
  const pieces: Piece[] = [];
  for (const line of part.lines) {
    if (!isCut(line.layer) && !isFold(line.layer) && line.layer !== 'perforation') continue;
    const points = flatten(line.path);
    for (let i = 1; i < points.length; i++) pieces.push({ a: points[i - 1], b: points[i], lineId: line.id });
  }
  const found = new Map<string, { first: string; second: string; lengthMm: number; points: Point[] }>();
  const index = indexSegments(pieces, APART_MM);
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
  return found;
}

/** Taking one of the two lines away is safe when they cover each other over their whole length. */
function mendFor(
  { design }: CheckContext,
  part: Part,
  first: string,
  second: string,
  lengthMm: number,
): Mend | null {
  const lengths = [first, second].map((id) => {
    const points = flatten(part.lines.find((line) => line.id === id)!.path);
    return points.slice(1).reduce((sum, p, i) => sum + distance(p, points[i]), 0);
  });
  const layers = [first, second].map((id) => part.lines.find((line) => line.id === id)!.layer);
  // A fold under a cut does nothing; of two alike the shorter one goes.
  const spare = layers[0] === layers[1] ? (lengths[0] < lengths[1] ? 0 : 1) : layers[0] === 'cut' ? 1 : 0;
  if (lengths[spare] - lengthMm > 4 * APART_MM) return null;
  const id = [first, second][spare];
  const addition = Object.values(design.additions).find((a) => a.partId === part.id && a.line.id === id);
  const command: Command | undefined = design.parts[part.id]?.lines[id]
    ? { do: 'line', partId: part.id, id, value: null }
    : addition && { do: 'put', in: 'additions', id: addition.id, value: null };
  return command ? { label: 'Take the second line away', command } : null;
}

/** A line drawn twice is cut twice: the blade tears, the laser burns. */
export const doubledLine: Rule = {
  id: 'doubledLine',
  title: 'Doubled line',
  protects: 'No line is cut or scored twice.',
  run(context) {
    return context.expanded.parts.flatMap((part) =>
      [...doublesOf(part).values()]
        .filter((double) => double.lengthMm > SHORTEST_MM)
        .map(({ first, second, lengthMm, points }): Finding => ({
          key: `doubledLine:${part.id}:${first}:${second}`,
          rule: 'doubledLine',
          severity: 'fault',
          sentence: `Two lines of ${part.name} lie on each other over ${mm(lengthMm)}.`,
          measured: lengthMm,
          limit: SHORTEST_MM,
          unit: 'mm',
          limitFrom: 'shorter overlaps do not harm',
          places: [{ partId: part.id, at: points[0], points }],
          mend: mendFor(context, part, first, second, lengthMm),
        })),
    );
  },
};
