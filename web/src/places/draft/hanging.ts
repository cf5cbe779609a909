/** How a drafted part is hung on another one: new joints of every kind with sensible places, and changes that keep them sound. */
import type { Drive, Joint } from '@hollow-finch/core/design/design';
import { panelPlan, type Panel } from '@hollow-finch/core/dieline/panels';
import { layerOf, type Layer, type Part } from '@hollow-finch/core/dieline/part';
import { shift } from '@hollow-finch/core/geometry/isometry';
import type { Path } from '@hollow-finch/core/geometry/path';
import {
  add,
  direction,
  distance,
  distanceToSegment,
  dot,
  middle,
  scale,
  subtract,
  type Point,
} from '@hollow-finch/core/geometry/point';
import { distanceToRing } from '@hollow-finch/core/geometry/polygon';

export type HangKind = Exclude<Joint['kind'], 'glue'>;
export type Ends = readonly [Point, Point];

/** What each joint does, in the words of the list from which one is chosen. */
export const HANGS: readonly { readonly kind: HangKind; readonly label: string; readonly holds: string }[] = [
  { kind: 'pivot', label: 'Turns on a brad', holds: 'Turns on' },
  { kind: 'slide', label: 'Slides in a channel', holds: 'Slides on' },
  { kind: 'pin', label: 'A pin of it runs in a slit', holds: 'Pinned in a slit of' },
  { kind: 'tongue', label: 'Passes through a slot', holds: 'Through a slot of' },
  { kind: 'cross', label: 'Crosses in half slots', holds: 'Crosses' },
  { kind: 'rest', label: 'An edge of it stands on a line', holds: 'Stands on' },
  { kind: 'wrap', label: 'A band of it bends round an edge', holds: 'Bends round an edge of' },
  { kind: 'hand', label: 'A fold of it is turned by hand', holds: 'Turned by hand' },
];

export interface StraightEdge {
  readonly lineId: string;
  readonly layer: Layer;
  readonly ends: Ends;
}

/** The straight stretches of a path. */
function stretches({ start, segments }: Path): Ends[] {
  const out: Ends[] = [];
  let from = start;
  for (const segment of segments) {
    if (segment.kind === 'line' && distance(from, segment.to) > 0.5) out.push([from, segment.to]);
    from = segment.to;
  }
  return out;
}

/** All straight edges of a part that something can be hung on or by, the longest first. */
export const straightEdges = (part: Part): StraightEdge[] =>
  part.lines
    .filter((line) => line.process !== 'kiss')
    .flatMap((line) => stretches(line.path).map((ends) => ({ lineId: line.id, layer: layerOf(line), ends })))
    .sort((a, b) => distance(...b.ends) - distance(...a.ends));

const sameEnds = (a: Ends, b: Ends): boolean => distance(a[0], b[0]) < 1e-6 && distance(a[1], b[1]) < 1e-6;

/** The edge among some on which a stretch lies. */
export const edgeUnder = (edges: readonly StraightEdge[], ends: Ends): StraightEdge | undefined =>
  edges.find((edge) => ends.every((p) => distanceToSegment(p, ...edge.ends) < 1e-3)) ??
  edges.find((edge) => sameEnds(edge.ends, ends));

/** How far the middle of a stretch lies from the middle of its edge, along it, mm. */
export const alongEdge = (edge: Ends, ends: Ends): number =>
  dot(subtract(middle(...ends), middle(...edge)), direction(angleOf(edge)));

const angleOf = ([a, b]: Ends): number => Math.atan2(b[1] - a[1], b[0] - a[0]);

/** A stretch of a given length on an edge, its middle so far from the edge's own. */
export function stretchOn(edge: Ends, lengthMm: number, alongMm = 0): [Point, Point] {
  const way = direction(angleOf(edge));
  const centre = add(middle(...edge), scale(way, alongMm));
  return [add(centre, scale(way, -lengthMm / 2)), add(centre, scale(way, lengthMm / 2))];
}

/** Straight edges that lie on the border of a panel. */
const edgesOf = (part: Part, panel: Panel): StraightEdge[] =>
  straightEdges(part).filter((edge) => distanceToRing(middle(...edge.ends), panel.region.outer) < 0.05);

/** The edge of a host that a new joint takes: a slot or slit cut inside it if there is one, else the longest edge. */
function slotOf(host: Part): Ends | undefined {
  const edges = straightEdges(host);
  const { panels } = panelPlan(host);
  const inside = edges.find(
    ({ layer, ends }) =>
      layer === 'cut' && panels.every((panel) => distanceToRing(middle(...ends), panel.region.outer) > 0.05),
  );
  return (inside ?? edges[0])?.ends;
}

/** Whether an edge is scored as a fold. */
const isFoldEdge = ({ layer }: StraightEdge): boolean => layer === 'mountain' || layer === 'valley';

const folds = (part: Part): StraightEdge[] => straightEdges(part).filter(isFoldEdge);

const driveOf = (name: string, to: number): Drive => ({ name, from: 0, to, rest: 0, atOpeningDeg: 180 });

/**
 * A new joint by which a panel of a part hangs on a host.
 *
 * @param id of the joint
 * @returns the joint, or a sentence that says what must be drawn first
 */
export function newJoint(
  kind: HangKind,
  id: string,
  part: Part,
  panel: Panel,
  host: Part,
): Joint | { refused: string } {
  const base = { id, partId: part.id, hostPartId: host.id };
  const laid = { ...base, placement: shift(20, 20), at: panel.inside, face: 'front' as const };
  const slot = slotOf(host);
  const on = edgesOf(part, panel)[0]?.ends;
  const fold = folds(part)[0];
  switch (kind) {
    case 'pivot':
      return { ...laid, kind, stops: null, drive: driveOf(part.name, 180) };
    case 'slide':
      return { ...laid, kind, directionDeg: 0, stops: { from: 0, to: 30 }, drive: driveOf(part.name, 30) };
    case 'hand':
      if (!fold) return { refused: `Draw a score on ${part.name} first: that fold is what a hand turns.` };
      return {
        ...base,
        kind,
        hostPartId: part.id,
        folds: [{ lineId: fold.lineId, factor: 1 }],
        drive: driveOf(part.name, 90),
      };
    case 'pin':
      if (!slot) return { refused: `Draw the slit on ${host.name} first.` };
      return {
        ...laid,
        kind,
        placement: shift(...subtract(middle(...slot), panel.inside)),
        slit: slot,
      };
    case 'wrap': {
      const lead = fold ?? edgesOf(part, panel)[0];
      if (!slot || !lead)
        return { refused: `Draw a straight edge on ${host.name}, and a score on ${part.name}.` };
      return {
        ...base,
        kind,
        slot: stretchOn(slot, distance(...lead.ends)),
        on: lead.ends,
        within: panel.inside,
        bandMm: 20,
        startMm: 0,
        layers: 1,
        drive: driveOf(part.name, 20),
      };
    }
    default:
      if (!slot || !on)
        return { refused: `Draw a straight line on ${host.name} and a straight edge on ${part.name} first.` };
      return {
        ...base,
        kind,
        slot: stretchOn(slot, distance(...on)),
        on,
        within: panel.inside,
        leanDeg: kind === 'rest' ? 45 : 90,
        stops: null,
        drive: null,
      };
  }
}

/** A joint moved to another host: what it holds there is looked for anew. */
export function onHost(joint: Joint, host: Part): Joint {
  const slot = slotOf(host) ?? [
    [0, 0],
    [10, 0],
  ];
  if ('slot' in joint) return { ...joint, hostPartId: host.id, slot: stretchOn(slot, distance(...joint.on)) };
  if (joint.kind === 'pin')
    return {
      ...joint,
      hostPartId: host.id,
      slit: [...slot],
      placement: shift(...subtract(middle(...slot), joint.at)),
    };
  if (joint.kind !== 'glue') return { ...joint, hostPartId: host.id };
  // The panel to which it was anchored is another part's.
  const { onPanel: _onPanel, ...free } = joint;
  return { ...free, hostPartId: host.id };
}

/** A joint that a hand moves, or that follows the rest of the design; the joints that are always moved stay as they are. */
export function movedByHand(joint: Joint, name: string, moved: boolean): Joint {
  switch (joint.kind) {
    case 'pivot':
    case 'cross':
      return { ...joint, drive: moved ? driveOf(name, 90) : null };
    case 'slide':
      return { ...joint, drive: moved ? { ...driveOf(name, joint.stops.to), from: joint.stops.from } : null };
    case 'tongue':
    case 'rest':
      return { ...joint, drive: moved ? driveOf(name, 20) : null };
    default:
      return joint;
  }
}

/** A joint with another end of its travel (mm or degrees); stops that lie at the end go with it. */
export function withTravel(joint: Joint, to: number): Joint {
  switch (joint.kind) {
    case 'slide':
      return { ...joint, stops: { ...joint.stops, to }, drive: joint.drive && { ...joint.drive, to } };
    case 'pivot':
    case 'cross':
    case 'tongue':
    case 'rest':
      return { ...joint, drive: joint.drive && { ...joint.drive, to } };
    case 'wrap':
    case 'hand':
      return { ...joint, drive: { ...joint.drive, to } };
    default:
      return joint;
  }
}

/** What the end of a joint's travel counts: millimetres or degrees. */
export const travelUnit = (kind: Joint['kind']): 'mm' | 'deg' =>
  kind === 'pivot' || kind === 'cross' || kind === 'hand' ? 'deg' : 'mm';
