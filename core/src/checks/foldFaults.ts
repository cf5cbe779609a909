/**
 * Folds that paper cannot make. At a vertex inside the paper at which only folds meet, all of them can close flat only if
 * their number is even, the angles between them taken in turn sum to half a turn each way (Kawasaki), and mountains and
 * valleys differ by two (Maekawa).
 */
import { panelPlan } from '../dieline/panels.ts';
import { indexSegments, type GraphEdge } from '../dieline/planarGraph.ts';
import { isFold, isRuling, openingLines, senseSign, stockOf, type Part } from '../dieline/part.ts';
import { cross, distance, dot, lengthOf, middle, subtract, type Point } from '../geometry/point.ts';
import { findingOf, mm, type CheckContext, type Finding, type Rule } from './finding.ts';

const RULE = 'foldFaults';
/** Drawn corners are rounded: angles may be off by this much, degrees. */
const ANGLE_DEG = 1;
/** Two folds that lean to each other by less run side by side (sine of 5 degrees). */
const SIDE_BY_SIDE = Math.sin((5 * Math.PI) / 180);
/** So many thicknesses must lie between two scores: each takes half of one on either side, and a panel is left. */
const THICKNESSES = 2;

const degrees = (radians: number): number => (radians * 180) / Math.PI;

/** What is wrong at a vertex where only folds meet; undefined when it can close flat. */
function vertexFault(
  at: Point,
  edges: readonly GraphEdge[],
  outer: (edge: GraphEdge) => Point,
): { what: string; sentence: string; offDeg?: number } | undefined {
  const spokes = edges
    .map((edge) => {
      const d = subtract(outer(edge), at);
      return { edge, angle: Math.atan2(d[1], d[0]) };
    })
    .sort((p, q) => p.angle - q.angle);
  const n = spokes.length;
  const gaps = spokes.map(({ angle }, i) => {
    const next = spokes[(i + 1) % n].angle + (i === n - 1 ? 2 * Math.PI : 0);
    return next - angle;
  });
  const straight = (gap: number) => Math.abs(degrees(gap) - 180) <= ANGLE_DEG;
  const senses = spokes.map(({ edge }) => senseSign(edge.fold!));
  if (n === 2) {
    if (!straight(gaps[0]))
      return { what: 'bent', sentence: 'two folds meet at an angle, and no other fold takes it up' };
    // A fold that changes its sense is told for the whole of it.
    return undefined;
  }
  if (n === 4) {
    const opposite = (i: number) => straight(gaps[i] + gaps[(i + 1) % 4]);
    const alike = senses[0] === senses[2] && senses[1] === senses[3];
    if (opposite(0) && opposite(1) && alike)
      return { what: 'crossing', sentence: 'two folds cross: paper folds along one of them, not along both' };
  }
  if (n % 2 === 1) return { what: 'odd', sentence: `${n} folds meet: an odd number cannot close flat` };
  const sum = gaps.reduce((total, gap, i) => total + (i % 2 === 0 ? gap : 0), 0);
  const offDeg = Math.abs(degrees(sum) - 180);
  if (offDeg > ANGLE_DEG)
    return {
      what: 'angles',
      sentence: `the angles between the folds, taken in turn, sum to ${degrees(sum).toFixed(1)}° and not to 180°: it cannot close flat`,
      offDeg,
    };
  const balance = Math.abs(senses.reduce((total, sense) => total + sense, 0));
  if (balance !== 2) {
    const valleys = senses.filter((sense) => sense > 0).length;
    return {
      what: 'senses',
      sentence: `${valleys} ${valleys === 1 ? 'valley' : 'valleys'} and ${n - valleys} ${n - valleys === 1 ? 'mountain' : 'mountains'} meet: to close flat they must differ by two`,
    };
  }
  return undefined;
}

function vertexFindings(part: Part): Finding[] {
  const { graph } = panelPlan(part);
  const gutters = openingLines(part);
  const rulings = new Set(part.lines.filter(isRuling).map(({ id }) => id));
  const at: GraphEdge[][] = graph.vertices.map(() => []);
  for (const edge of graph.edges) {
    at[edge.a].push(edge);
    at[edge.b].push(edge);
  }
  return graph.vertices.flatMap((vertex, v): Finding[] => {
    const edges = at[v];
    if (edges.length < 2 || !edges.every((edge) => isFold(edge))) return [];
    // Whether folds that meet the card's own can fold with it is told by the motion.
    if (edges.some((e) => e.lineIds.some((id) => gutters.has(id)))) return [];
    // Beside a bend, or a curved score, paper bends as it must: rulings stand for it in the drawing only.
    if (edges.some((e) => e.lineIds.some((id) => rulings.has(id)))) return [];
    // Folds that keep an angle are no folds to close flat: whether they close at it is told by the motion.
    if (edges.some(({ fold }) => fold!.restDeg !== undefined && fold!.restDeg > 0 && fold!.restDeg < 180))
      return [];
    const outer = (edge: GraphEdge) => graph.vertices[edge.a === v ? edge.b : edge.a];
    const fault = vertexFault(vertex, edges, outer);
    if (!fault) return [];
    const ids = [...new Set(edges.flatMap((edge) => edge.lineIds))].sort();
    return [
      findingOf(
        RULE,
        `${fault.what}:${part.id}:${ids.slice(0, 4).join('+')}`,
        `Inside ${part.name} ${fault.sentence} (at ${vertex.map((c) => c.toFixed(1)).join(', ')}).`,
        [{ partId: part.id, at: vertex, points: edges.flatMap((edge) => [vertex, outer(edge)]) }],
        fault.offDeg === undefined
          ? { limitFrom: 'how paper folds flat' }
          : {
              measured: fault.offDeg,
              limit: ANGLE_DEG,
              unit: 'deg',
              limitFrom: 'drawn corners are rounded by less',
            },
      ),
    ];
  });
}

/** Folds between the same two panels that are drawn as mountain here and as valley there. */
function mixedHinges(part: Part): Finding[] {
  return panelPlan(part).hinges.flatMap((hinge): Finding[] => {
    const lines = part.lines.filter((line) => hinge.lineIds.includes(line.id));
    const layers = new Set(lines.filter(isFold).map((line) => line.fold.sense));
    if (layers.size < 2) return [];
    return [
      findingOf(
        RULE,
        `mixed:${part.id}:${[...hinge.lineIds].sort().slice(0, 4).join('+')}`,
        `One fold of ${part.name} is a mountain on one stretch and a valley on another: two panels turn one way about it.`,
        [{ partId: part.id, at: middle(hinge.from, hinge.to), points: [hinge.from, hinge.to] }],
        { limitFrom: 'two panels turn one way about a fold' },
      ),
    ];
  });
}

interface Fold {
  readonly a: Point;
  readonly b: Point;
  readonly lineId: string;
}

/** How far apart two folds run side by side; undefined when they do not. */
function sideBySide(p: Fold, q: Fold): number | undefined {
  const [d, e] = [subtract(p.b, p.a), subtract(q.b, q.a)];
  const [ld, le] = [lengthOf(d), lengthOf(e)];
  if (Math.abs(cross(d, e)) > SIDE_BY_SIDE * ld * le) return undefined;
  const along = [q.a, q.b].map((x) => dot(d, subtract(x, p.a)) / ld).sort((x, y) => x - y);
  const [from, to] = [Math.max(0, along[0]), Math.min(ld, along[1])];
  if (to - from < 1) return undefined;
  const off = (x: Point) => cross(d, subtract(x, p.a)) / ld;
  const share = (s: number) => (s - along[0]) / (along[1] - along[0] || 1);
  const ends = dot(d, e) >= 0 ? [off(q.a), off(q.b)] : [off(q.b), off(q.a)];
  const at = (s: number) => Math.abs(ends[0] + (ends[1] - ends[0]) * share(s));
  return Math.min(at(from), at(to));
}

/** Scores that run so near to each other that the paper between them breaks. */
function closeFolds(part: Part): Finding[] {
  const stock = stockOf(part);
  const limit = THICKNESSES * stock.thicknessMm;
  const folds: Fold[] = panelPlan(part).hinges.map((hinge) => ({
    a: hinge.from,
    b: hinge.to,
    lineId: hinge.lineIds[0],
  }));
  const index = indexSegments(folds, limit);
  if (!index) return [];
  return folds.flatMap((p, i) =>
    index
      .search(
        Math.min(p.a[0], p.b[0]),
        Math.min(p.a[1], p.b[1]),
        Math.max(p.a[0], p.b[0]),
        Math.max(p.a[1], p.b[1]),
      )
      .flatMap((j): Finding[] => {
        const q = folds[j];
        if (j <= i || distance(p.a, p.b) === 0 || distance(q.a, q.b) === 0) return [];
        const apart = sideBySide(p, q);
        if (apart === undefined || apart >= limit - 1e-6 || apart < 0.02) return [];
        return [
          findingOf(
            RULE,
            `close:${part.id}:${[p.lineId, q.lineId].sort().join('+')}`,
            `Two scores of ${part.name} run ${mm(apart)} beside each other; ${stock.name} is ${mm(stock.thicknessMm)} thick and wants ${mm(limit)} between them.`,
            [{ partId: part.id, at: middle(p.a, p.b), points: [p.a, p.b, q.b, q.a] }],
            {
              severity: 'warning',
              measured: apart,
              limit,
              limitFrom: `twice the thickness of ${stock.name}`,
            },
          ),
        ];
      }),
  );
}

/** Folds that cross, that cannot close flat, that change their sense, or that lie too near to each other. */
export const foldFaults: Rule = {
  id: RULE,
  title: 'Folds',
  protects:
    'Folds that meet can close flat, none changes from mountain to valley, none lies too near to the next.',
  needs: ['lines'],
  limit: `angles to ${ANGLE_DEG}°; ${THICKNESSES} thicknesses between two scores`,
  unit: 'deg',
  run: ({ expanded }: CheckContext) =>
    expanded.parts.flatMap((part) => [...vertexFindings(part), ...mixedHinges(part), ...closeFolds(part)]),
};
