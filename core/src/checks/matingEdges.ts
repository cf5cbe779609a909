import { gluesOf } from '../design/design.ts';
import { endOf, pathLength, placePath } from '../geometry/path.ts';
import { distance } from '../geometry/point.ts';
import { mm, type Finding, type Rule } from './finding.ts';

/** Edges that meet may differ by this much: half the width of a pencil line. */
const TOLERANCE_MM = 0.2;

/** Edges that are glued along each other must be equally long and lie on each other. */
export const matingEdges: Rule = {
  id: 'matingEdges',
  title: 'Mating edges',
  protects: 'Edges that meet are equally long and lie on each other.',
  run({ expanded }) {
    const byId = new Map(expanded.parts.map((part) => [part.id, part]));
    return gluesOf(expanded.joints).flatMap((joint): Finding[] => {
      if (!joint.mate) return [];
      const [part, host] = [byId.get(joint.partId)!, byId.get(joint.hostPartId)!];
      const edge = part.lines.find((line) => line.id === joint.mate!.lineId);
      const landing = host.lines.find((line) => line.id === joint.mate!.hostLineId);
      const base = {
        rule: 'matingEdges',
        severity: 'fault' as const,
        limit: TOLERANCE_MM,
        unit: 'mm' as const,
        limitFrom: 'edges that meet may differ by this much',
        mend: null,
      };
      if (!edge || !landing)
        return [
          {
            ...base,
            key: `matingEdges:gone:${joint.id}`,
            sentence: `An edge of ${(edge ? host : part).name} that should meet another one is gone.`,
            measured: 0,
            places: [{ partId: part.id, at: [0, 0], points: [] }],
          },
        ];
      const difference = Math.abs(pathLength(edge.path) - pathLength(landing.path));
      const placed = placePath(joint.placement, edge.path);
      const off = (a: number, b: number) => Math.max(a, b);
      const apart = Math.min(
        off(distance(placed.start, landing.path.start), distance(endOf(placed), endOf(landing.path))),
        off(distance(placed.start, endOf(landing.path)), distance(endOf(placed), landing.path.start)),
      );
      // Edges of different length cannot lie on each other: the length is what to put right first.
      const measured = difference > TOLERANCE_MM ? difference : apart;
      if (measured <= TOLERANCE_MM) return [];
      return [
        {
          ...base,
          key: `matingEdges:${joint.id}`,
          sentence:
            difference > TOLERANCE_MM
              ? `An edge of ${part.name} and the one of ${host.name} that it meets differ in length by ${mm(difference)}.`
              : `An edge of ${part.name} lies ${mm(apart)} off the one of ${host.name} that it should meet.`,
          measured,
          places: [{ partId: host.id, at: landing.path.start, points: [placed.start, endOf(placed)] }],
        },
      ];
    });
  },
};
