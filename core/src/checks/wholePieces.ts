import type { CheckContext } from './finding.ts';
import { panelPlan, type PanelPlan } from '../dieline/panels.ts';
import { isCut, isFold, type Part } from '../dieline/part.ts';
import { place } from '../geometry/isometry.ts';
import { flatten } from '../geometry/path.ts';
import { middle, type Point } from '../geometry/point.ts';
import { insidePoint, insideRegion, insideRing, type Region } from '../geometry/polygon.ts';
import { findingOf, type Finding, type Place, type Rule } from './finding.ts';

const RULE = 'wholePieces';

/** What of a part lies in a region and is meant to stay: glue, folds, marks, places where something hangs. */
function keepsSomething({ expanded }: CheckContext, part: Part, region: Region): string | undefined {
  if (
    part.glueZones.some(
      (z) => z.kind === 'glue' && insideRegion(insidePoint({ outer: z.outline, holes: [] }), region),
    )
  )
    return 'glue';
  const inside = (p: Point) => insideRegion(p, region);
  for (const line of part.lines) {
    if (isCut(line.layer) || line.layer === 'guide') continue;
    const points = flatten(line.path);
    const probe = points.length > 2 ? points[Math.floor(points.length / 2)] : middle(points[0], points[1]);
    if (inside(probe))
      return isFold(line.layer) ? 'a fold' : line.layer === 'kiss' ? 'a kiss cut' : 'a perforation';
  }
  for (const joint of expanded.joints) {
    const spots: Point[] = [];
    if (joint.partId === part.id) {
      if ('at' in joint && joint.kind !== 'pivot') spots.push(joint.at);
      if ('within' in joint) spots.push(joint.within);
    }
    if (joint.hostPartId === part.id && joint.kind === 'glue') {
      const zone = expanded.parts
        .find((p) => p.id === joint.partId)
        ?.glueZones.find((z) => z.id === joint.zoneId);
      if (zone) spots.push(place(joint.placement, insidePoint({ outer: zone.outline, holes: [] })));
    }
    if (spots.some(inside)) return 'what is joined there';
  }
  return undefined;
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
    return isCut(edge.layer) && ends.every(inA) && ends.every(inB);
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
  for (const aperture of plan.apertures) {
    const kept = keepsSomething(context, part, aperture);
    if (!kept) continue;
    const line = plan.graph.edges.find((edge) => {
      const p = plan.graph.vertices[edge.a];
      return isCut(edge.layer) && aperture.outer.some((q) => q[0] === p[0] && q[1] === p[1]);
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
