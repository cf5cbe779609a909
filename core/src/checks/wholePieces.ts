import { indexBoxes } from '../geometry/boxIndex.ts';
import { panelPlan, type PanelPlan } from '../dieline/panels.ts';
import { isCut, isFold, zoneIn, type GlueZone, type Part, type Process } from '../dieline/part.ts';
import { place } from '../geometry/isometry.ts';
import { boxOf, flatten } from '../geometry/path.ts';
import { middle, type Point } from '../geometry/point.ts';
import { insidePoint, insideRegion, insideRing, type Region } from '../geometry/polygon.ts';
import { solid } from '../geometry/regions.ts';
import { findingOf, type CheckContext, type Finding, type Place, type Rule } from './finding.ts';

const RULE = 'wholePieces';

/** A spot of a part that is meant to stay, and what is there. */
interface Spot {
  readonly at: Point;
  readonly what: string;
}

/** What a line that is no cut is called. */
const NAMES: Readonly<Record<Exclude<Process, 'cut' | 'mark'>, string>> = {
  score: 'a score',
  perforate: 'a perforation',
  kiss: 'a kiss cut',
};

/** What of a part is meant to stay: glue, folds, marks, places where something hangs. */
function spotsOf({ expanded }: CheckContext, part: Part): Spot[] {
  const zoneAt = (zone: GlueZone): Point => insidePoint(solid(zone.outline));
  const glued = part.glueZones
    .filter((zone) => zone.kind === 'glue')
    .map((zone): Spot => ({ at: zoneAt(zone), what: 'glue' }));
  const drawn = part.lines.flatMap((line): Spot[] => {
    const { process } = line;
    if (process === 'cut' || process === 'mark') return [];
    const points = flatten(line.path);
    const at = points.length > 2 ? points[Math.floor(points.length / 2)] : middle(points[0], points[1]);
    return [{ at, what: isFold(line) ? 'a fold' : NAMES[process] }];
  });
  const joined = expanded.joints.flatMap((joint): Point[] => {
    if (joint.hostPartId === part.id && joint.kind === 'glue') {
      const zone = zoneIn(expanded.parts, joint);
      return zone ? [place(joint.placement, zoneAt(zone))] : [];
    }
    if (joint.partId !== part.id) return [];
    if ('at' in joint && joint.kind !== 'pivot') return [joint.at];
    return 'within' in joint ? [joint.within] : [];
  });
  return [...glued, ...drawn, ...joined.map((at): Spot => ({ at, what: 'what is joined there' }))];
}

/** What of a part's spots lies in a region: the first of them. */
function keeper(spots: readonly Spot[]): (region: Region) => string | undefined {
  const index = indexBoxes(spots.map(({ at }) => boxOf([at])));
  if (!index) return () => undefined;
  return (region) => {
    const { minX, minY, maxX, maxY } = boxOf(region.outer);
    const inside = index
      .search(minX, minY, maxX, maxY)
      .filter((i) => insideRegion(spots[i].at, region))
      .sort((i, j) => i - j);
    return inside.length > 0 ? spots[inside[0]].what : undefined;
  };
}

/** The pieces of a part: which hang together by folds or paper, the largest first. */
function piecesOf(plan: PanelPlan): { number: number; areaMm2: number; regions: Region[] }[] {
  const pieces = new Map<number, { number: number; areaMm2: number; regions: Region[] }>();
  for (const panel of plan.panels) {
    const piece = pieces.get(panel.piece) ?? { number: panel.piece, areaMm2: 0, regions: [] };
    pieces.set(panel.piece, piece);
    piece.areaMm2 += panel.areaMm2;
    piece.regions.push(panel.region);
  }
  return [...pieces.values()].sort((a, b) => b.areaMm2 - a.areaMm2);
}

/** A cut line that runs between two pieces of a part. */
function cutBetween(
  plan: PanelPlan,
  part: Part,
  a: readonly Region[],
  b: readonly Region[],
): readonly string[] {
  const touches = (regions: readonly Region[]) => {
    const points = new Set(
      regions.flatMap((r) => [r.outer, ...r.holes].flat()).map((p) => p.map((v) => v.toFixed(3)).join()),
    );
    return (p: Point) => points.has(p.map((v) => v.toFixed(3)).join());
  };
  const [inA, inB] = [touches(a), touches(b)];
  const { vertices, edges } = plan.graph;
  const shared = edges.filter((edge) => {
    const ends = [vertices[edge.a], vertices[edge.b]];
    return isCut(edge) && ends.every(inA) && ends.every(inB);
  });
  return [...new Set(shared.flatMap((edge) => edge.lineIds))].filter((id) =>
    part.lines.some((l) => l.id === id),
  );
}

function pieceFindings(context: CheckContext, part: Part): Finding[] {
  const plan = panelPlan(part);
  const [main, ...others] = piecesOf(plan);
  if (!main) return [];
  const place = (regions: readonly Region[]): Place[] =>
    regions.map((region) => ({ partId: part.id, at: insidePoint(region), points: region.outer }));
  const findings = others.map((piece): Finding => {
    const at = insidePoint(piece.regions[0]);
    const island = main.regions.some((region) => region.holes.some((hole) => insideRing(at, hole)));
    const lines = cutBetween(plan, part, main.regions, piece.regions);
    const [what, sentence] = island
      ? [
          'island',
          `A piece inside an opening of ${part.name} is held by nothing: it falls out with the waste. Leave a bridge to it.`,
        ]
      : lines.length > 0
        ? [
            'two',
            `${part.name} falls in two: a cut runs right across it where it should hang together. If that is a fold, put it on a score layer.`,
          ]
        : [
            'apart',
            `${part.name} is drawn in pieces that do not hang together: make each a part of its own.`,
          ];
    return findingOf(RULE, `${what}:${part.id}:${lines[0] ?? piece.number}`, sentence, place(piece.regions), {
      measured: others.length + 1,
      limit: 1,
      unit: 'pieces',
      limitFrom: 'a part is one piece of paper',
    });
  });
  const keptIn = plan.apertures.length > 0 ? keeper(spotsOf(context, part)) : () => undefined;
  for (const aperture of plan.apertures) {
    const kept = keptIn(aperture);
    if (!kept) continue;
    const line = plan.graph.edges.find((edge) => {
      const p = plan.graph.vertices[edge.a];
      return isCut(edge) && aperture.outer.some((q) => q[0] === p[0] && q[1] === p[1]);
    });
    findings.push(
      findingOf(
        RULE,
        `loose:${part.id}:${line?.lineIds[0] ?? ''}`,
        `A closed cut of ${part.name} frees what lies inside it, but there is ${kept}: it falls out. Leave a bridge, or score one side.`,
        place([aperture]),
        { limitFrom: 'what should stay needs a bridge' },
      ),
    );
  }
  return findings;
}

/** A part is one piece of paper: nothing that should stay falls out, nothing falls in two. */
export const wholePieces: Rule = {
  id: RULE,
  title: 'Loose islands',
  protects: 'Every part stays one piece: islands have bridges, nothing falls in two.',
  needs: ['lines', 'joints'],
  limit: 'one piece of paper',
  unit: 'pieces',
  run: (context) => context.expanded.parts.flatMap((part) => pieceFindings(context, part)),
};
