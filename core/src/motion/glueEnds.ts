/** Where glue joins: the panel that a zone lies in, and the host's panel under it. */
import type { GlueJoint } from '../design/design.ts';
import { mostUnder } from '../dieline/landing.ts';
import { panelAt, type PanelPlan } from '../dieline/panels.ts';
import type { GlueZone, Part } from '../dieline/part.ts';
import { inverse, place } from '../geometry/isometry.ts';
import { between, type Point } from '../geometry/point.ts';
import { counterClockwise, insidePoint, largestRegion, placeRegion } from '../geometry/polygon.ts';
import { AREA_TOLERANCE_MM2 } from '../geometry/tolerances.ts';

export interface GlueEnds {
  /** Indices of the part and its panel, of the host and its panel. */
  readonly part: number;
  readonly panel: number;
  readonly host: number;
  readonly hostPanel: number;
  readonly zone: readonly Point[];
  readonly at: Point;
  readonly onHostFront: boolean;
}

export interface GlueNowhere {
  readonly message: string;
  readonly partId: string;
  readonly at: Point;
}

/** A piece is glued by what of its zone lies on one panel of its support: on the one that it overlaps most. */
function heldBy(
  name: string,
  plan: PanelPlan,
  hostPlan: PanelPlan,
  joint: GlueJoint,
  zone: GlueZone,
): Omit<GlueEnds, 'part' | 'host'> | GlueNowhere {
  const landed = placeRegion(joint.placement, { outer: zone.outline, holes: [] });
  const { index: hostPanel, shared, areaMm2 } = mostUnder(hostPlan, landed);
  const at = insidePoint({ outer: zone.outline, holes: [] });
  if (areaMm2 < AREA_TOLERANCE_MM2)
    return {
      message: `${name} lies off what it is glued to: lay it on its support.`,
      partId: joint.partId,
      at,
    };
  const { outer } = placeRegion(inverse(joint.placement), largestRegion(shared));
  const own = insidePoint({ outer, holes: [] });
  const panel = panelAt(plan, own);
  if (panel < 0) return { message: `A glue zone of ${name} lies off the part.`, partId: joint.partId, at };
  const onHostFront = (zone.face === 'back') !== joint.placement.flip;
  return { panel, hostPanel, zone: counterClockwise(outer), at: own, onHostFront };
}

/** The panels that a glue joint ties together: the one its zone lies in, and the host's one under it. */
export function glueEnds(
  joint: GlueJoint,
  parts: readonly Part[],
  plans: readonly PanelPlan[],
  partIndex: ReadonlyMap<string, number>,
): GlueEnds | GlueNowhere {
  const part = partIndex.get(joint.partId);
  const host = partIndex.get(joint.hostPartId);
  if (part === undefined || host === undefined)
    return { message: 'One of the parts that this glue joins is gone.', partId: joint.partId, at: [0, 0] };
  const zone = parts[part].glueZones.find((z) => z.id === joint.zoneId);
  if (!zone)
    return {
      message: `${parts[part].name} has no glue zone "${joint.zoneId}".`,
      partId: joint.partId,
      at: [0, 0],
    };
  const at = insidePoint({ outer: zone.outline, holes: [] });
  const panel = panelAt(plans[part], at);
  if (panel < 0)
    return { message: `A glue zone of ${parts[part].name} lies off the part.`, partId: joint.partId, at };
  if (joint.as === 'piece') {
    const held = heldBy(parts[part].name, plans[part], plans[host], joint, zone);
    return 'message' in held ? held : { part, host, ...held };
  }
  // Where a window in the host takes away the zone's middle, its corners tell.
  const spots = [at, ...zone.outline.map((corner) => between(corner, at, 0.1))];
  const hostPanel =
    spots.map((spot) => panelAt(plans[host], place(joint.placement, spot))).find((k) => k >= 0) ?? -1;
  if (hostPanel < 0)
    return {
      message: `${parts[part].name} is glued to a place off ${parts[host].name}.`,
      partId: joint.partId,
      at,
    };
  // The zone's face lies against the host: the back of a part lying face up is on the host's front.
  return {
    part,
    panel,
    host,
    hostPanel,
    zone: zone.outline,
    at,
    onHostFront: (zone.face === 'back') !== joint.placement.flip,
  };
}
