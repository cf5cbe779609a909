import { gluesOf, type DraftedPart, type GlueJoint } from '../design/design.ts';
import type { DieLine } from '../dieline/part.ts';
import { endOf, pathLength, placePath } from '../geometry/path.ts';
import { distance, dot, lengthOf, subtract, type Point } from '../geometry/point.ts';
import { EDGE_TOLERANCE_MM } from '../geometry/tolerances.ts';
import { findingOf, mm, type CheckContext, type Finding, type Mend, type Rule } from './finding.ts';

const RULE = 'matingEdges';

/** Two edges that should lie along each other, in the host's plane. */
interface Mating {
  readonly joint: GlueJoint;
  readonly edge: DieLine;
  readonly placed: readonly [Point, Point];
  readonly landing: readonly [Point, Point];
  readonly differenceMm: number;
  readonly apartMm: number;
}

function matingOf({ expanded }: CheckContext, joint: GlueJoint): Mating | undefined {
  const [part, host] = [joint.partId, joint.hostPartId].map((id) => expanded.parts.find((p) => p.id === id));
  const edge = part?.lines.find((line) => line.id === joint.mate?.lineId);
  const along = host?.lines.find((line) => line.id === joint.mate?.hostLineId);
  if (!edge || !along) return undefined;
  const path = placePath(joint.placement, edge.path);
  const placed = [path.start, endOf(path)] as const;
  const ends = [along.path.start, endOf(along.path)] as const;
  const off = (a: Point, b: Point) => Math.max(distance(placed[0], a), distance(placed[1], b));
  const straightOn = off(ends[0], ends[1]) <= off(ends[1], ends[0]);
  const landing = straightOn ? ends : ([ends[1], ends[0]] as const);
  return {
    joint,
    edge,
    placed,
    landing,
    differenceMm: pathLength(edge.path) - pathLength(along.path),
    apartMm: off(...landing),
  };
}

/**
 * A drafted part made longer or shorter along one of its edges, straight lines only: everything beyond the edge's start is
 * stretched with it. Null when it has arcs, which would not stay arcs.
 */
function stretched(part: DraftedPart, edge: DieLine, factor: number): DraftedPart | null {
  const origin = edge.path.start;
  const d = subtract(endOf(edge.path), origin);
  const length = lengthOf(d);
  if (length === 0) return null;
  const u: Point = [d[0] / length, d[1] / length];
  const at = (p: Point): Point => {
    const by = (factor - 1) * dot(subtract(p, origin), u);
    return [p[0] + by * u[0], p[1] + by * u[1]];
  };
  if (Object.values(part.lines).some((line) => line.path.segments.some((s) => s.kind === 'arc'))) return null;
  const lines = Object.entries(part.lines).map(([id, line]) => [
    id,
    {
      ...line,
      path: {
        start: at(line.path.start),
        segments: line.path.segments.map((s) =>
          s.kind === 'cubic' ? { ...s, c1: at(s.c1), c2: at(s.c2), to: at(s.to) } : { ...s, to: at(s.to) },
        ),
      },
    },
  ]);
  const glueZones = Object.entries(part.glueZones).map(([id, zone]) => [
    id,
    { ...zone, outline: zone.outline.map(at) },
  ]);
  return { ...part, lines: Object.fromEntries(lines), glueZones: Object.fromEntries(glueZones) };
}

/** The edge made as long as the one that it meets, or the part moved so that they lie on each other. */
function matingMend(context: CheckContext, finding: Finding): Mend[] {
  const joint = gluesOf(context.expanded.joints).find((j) => finding.key === `${RULE}:${j.id}`);
  const mating = joint && matingOf(context, joint);
  const part = joint && context.design.parts[joint.partId];
  const own = joint && context.design.joints[joint.id];
  if (!joint || !mating || !part || own?.kind !== 'glue') return [];
  const { placed, landing, differenceMm } = mating;
  const place = (dx: number, dy: number) => ({
    ...own,
    placement: { ...own.placement, dx: own.placement.dx + dx, dy: own.placement.dy + dy },
  });
  const [dx, dy] = subtract(landing[0], placed[0]);
  if (Math.abs(differenceMm) <= EDGE_TOLERANCE_MM)
    return [
      {
        label: `Move ${part.name} ${mm(Math.hypot(dx, dy))} onto the edge`,
        command: { do: 'put', in: 'joints', id: joint.id, value: place(dx, dy) },
      },
    ];
  const length = pathLength(mating.edge.path);
  const longer = stretched(part, mating.edge, (length - differenceMm) / length);
  return longer
    ? [
        {
          label: `Make ${part.name} ${mm(Math.abs(differenceMm))} ${differenceMm > 0 ? 'shorter' : 'longer'} along that edge`,
          command: {
            do: 'all',
            commands: [
              { do: 'put', in: 'parts', id: part.id, value: longer },
              { do: 'put', in: 'joints', id: joint.id, value: place(dx, dy) },
            ],
          },
        },
      ]
    : [];
}

/** Edges that are glued along each other must be equally long and lie on each other. */
export const matingEdges: Rule = {
  id: RULE,
  title: 'Mating edges',
  protects: 'Edges that meet are equally long and lie on each other.',
  needs: ['lines', 'joints'],
  limit: `${EDGE_TOLERANCE_MM} mm: half the width of a pencil line`,
  unit: 'mm',
  run(context) {
    const byId = new Map(context.expanded.parts.map((part) => [part.id, part]));
    return gluesOf(context.expanded.joints).flatMap((joint): Finding[] => {
      const [part, host] = [byId.get(joint.partId), byId.get(joint.hostPartId)];
      if (!joint.mate || !part || !host) return [];
      const mating = matingOf(context, joint);
      if (!mating) {
        const gone = part.lines.some((line) => line.id === joint.mate!.lineId) ? host : part;
        return [
          findingOf(
            RULE,
            `gone:${joint.id}`,
            `An edge of ${gone.name} that should meet another one is gone.`,
            [{ partId: part.id, at: [0, 0], points: [] }],
            { limitFrom: 'edges that meet must both be there' },
          ),
        ];
      }
      const difference = Math.abs(mating.differenceMm);
      // Edges of different length cannot lie on each other: the length is what to put right first.
      const measured = difference > EDGE_TOLERANCE_MM ? difference : mating.apartMm;
      if (measured <= EDGE_TOLERANCE_MM) return [];
      return [
        findingOf(
          RULE,
          joint.id,
          difference > EDGE_TOLERANCE_MM
            ? `An edge of ${part.name} and the one of ${host.name} that it meets differ in length by ${mm(difference)}.`
            : `An edge of ${part.name} lies ${mm(mating.apartMm)} off the one of ${host.name} that it should meet.`,
          [{ partId: host.id, at: mating.landing[0], points: [...mating.placed] }],
          {
            measured,
            limit: EDGE_TOLERANCE_MM,
            limitFrom: 'edges that meet may differ by this much',
          },
        ),
      ];
    });
  },
  offers: matingMend,
};
