import { gluesOf, type GlueJoint } from '../design/design.ts';
import { panelAt, panelPlan } from '../dieline/panels.ts';
import { stockOf, type GlueZone, type Part } from '../dieline/part.ts';
import { placing } from '../geometry/isometry.ts';
import { boxOf } from '../geometry/path.ts';
import { counterClockwise, insidePoint, areaOfRegions, type Region } from '../geometry/polygon.ts';
import { difference, intersection, solid } from '../geometry/regions.ts';
import { AREA_TOLERANCE_MM2, CATCH_TOLERANCE_MM } from '../geometry/tolerances.ts';
import { allCatches } from './catching.ts';
import { findingOf, mm, type CheckContext, type Finding, type Place, type Rule } from './finding.ts';

const RULE = 'glueZones';

const zoneRegion = (zone: GlueZone): Region => solid(counterClockwise(zone.outline));
/** The shorter side of the box of some regions, mm. */
const acrossMm = (regions: readonly Region[]): number => {
  const box = boxOf(regions.flatMap((r) => r.outer));
  return Math.min(box.maxX - box.minX, box.maxY - box.minY);
};
const shown = (part: Part, regions: readonly Region[]): Place[] =>
  regions.map((region) => ({ partId: part.id, at: insidePoint(region), points: region.outer }));

/** A zone that hangs over its own part, or lies over one of its folds. */
function ownFindings(part: Part, zone: GlueZone): Finding[] {
  const { panels } = panelPlan(part);
  if (zone.kind !== 'glue' || panels.length === 0) return [];
  const region = zoneRegion(zone);
  const off = difference(
    [region],
    panels.map((panel) => panel.region),
  );
  const findings: Finding[] = [];
  if (areaOfRegions(off) > AREA_TOLERANCE_MM2)
    findings.push(
      findingOf(
        RULE,
        `off:${part.id}:${zone.id}`,
        `A glue zone of ${part.name} hangs ${mm(acrossMm(off))} over the edge of its own part.`,
        shown(part, off),
        { measured: acrossMm(off), limit: 0, limitFrom: 'glue goes on paper' },
      ),
    );
  const own = panels[panelAt({ ...panelPlan(part) }, insidePoint(region))];
  const across = own
    ? intersection(
        difference([region], [own.region]),
        panels.map((panel) => panel.region),
      )
    : [];
  const deep = across.length > 0 ? acrossMm(across) : 0;
  if (areaOfRegions(across) > AREA_TOLERANCE_MM2 && deep > CATCH_TOLERANCE_MM)
    findings.push(
      findingOf(
        RULE,
        `fold:${part.id}:${zone.id}`,
        `A glue zone of ${part.name} reaches ${mm(deep)} across its own fold or slit: glued there, the fold is stuck.`,
        shown(part, across),
        { measured: deep, limit: 0, limitFrom: 'a tab is glued on one side of its fold' },
      ),
    );
  return findings;
}

/** Glue that lands where a part says that none may be, on the same face. */
function keepOutFindings(context: CheckContext, joint: GlueJoint): Finding[] {
  const { parts } = context.expanded;
  const [part, host] = [joint.partId, joint.hostPartId].map((id) => parts.find((p) => p.id === id));
  const zone = part?.glueZones.find((z) => z.id === joint.zoneId);
  if (!part || !host || !zone) return [];
  const landed = solid(counterClockwise(zone.outline.map(placing(joint.placement))));
  const hostFace = (zone.face === 'back') !== joint.placement.flip ? 'front' : 'back';
  const tries = [
    { owner: host, face: hostFace, region: landed },
    { owner: part, face: zone.face, region: zoneRegion(zone) },
  ];
  return tries.flatMap(({ owner, face, region }): Finding[] => {
    const kept = owner.glueZones.filter((z) => z.kind === 'keepOut' && z.face === face).map(zoneRegion);
    const inside = kept.length > 0 ? intersection([region], kept) : [];
    if (areaOfRegions(inside) <= AREA_TOLERANCE_MM2 || acrossMm(inside) <= CATCH_TOLERANCE_MM) return [];
    return [
      findingOf(
        RULE,
        `keepOut:${joint.id}:${owner.id}`,
        `${part.name} is glued ${mm(acrossMm(inside))} into a place of ${owner.name} that must stay free of glue.`,
        shown(owner, inside),
        { measured: acrossMm(inside), limit: 0, limitFrom: 'places to keep free of glue' },
      ),
    ];
  });
}

/** Tabs glued to the face from which their own panel would have to go through the landing. */
const wrongFaces = (context: CheckContext): Finding[] => {
  const { parts, joints } = context.expanded;
  const ids = new Set(allCatches(context).flatMap(({ caught }) => caught.wrongFaceOf ?? []));
  return [...ids].flatMap((id): Finding[] => {
    const joint = joints.find((j) => j.id === id);
    if (joint?.kind !== 'glue') return [];
    const [part, host] = [joint.partId, joint.hostPartId].map((p) => parts.find((q) => q.id === p));
    const zone = part?.glueZones.find((z) => z.id === joint.zoneId);
    if (!part || !host || !zone) return [];
    return [
      findingOf(
        RULE,
        `face:${joint.id}`,
        `A tab of ${part.name} is glued by its ${zone.face} to ${host.name}, but folds to that side: its panel would have to go through ${host.name}. Glue it by the other face, or fold it the other way.`,
        [{ partId: part.id, at: insidePoint({ outer: zone.outline, holes: [] }), points: zone.outline }],
        { limitFrom: 'a tab folds away from what it is glued to' },
      ),
    ];
  });
};

/** Parts with glue zones that are glued to nothing, and parts that hang together but not with the card. */
function gluedToNothing({ expanded, sweep }: CheckContext): Finding[] {
  const { panels, attached } = sweep.linkage;
  const on = new Set(panels.filter((p) => attached[p.body]).map((p) => p.part.id));
  const joined = new Set(expanded.joints.flatMap((j) => [j.partId, j.hostPartId]));
  return expanded.parts.flatMap((part): Finding[] => {
    if (on.has(part.id) || expanded.loose.has(part.id)) return [];
    const zones = part.glueZones.filter((zone) => zone.kind === 'glue');
    if (zones.length === 0 && !joined.has(part.id)) return [];
    return [
      findingOf(
        RULE,
        `nothing:${part.id}`,
        joined.has(part.id)
          ? `${part.name} does not hang together with the card: what it is joined to is joined to nothing.`
          : `${part.name} has ${zones.length === 1 ? 'a glue zone' : 'glue zones'}, but is glued to nothing: it is not folded with the card, and nothing of it was looked at while it moves.`,
        zones.map((zone) => ({
          partId: part.id,
          at: insidePoint({ outer: zone.outline, holes: [] }),
          points: zone.outline,
        })),
        { severity: 'warning', limitFrom: 'what has glue on it is glued to something' },
      ),
    ];
  });
}

/** Plates of a stock with one good face that are glued by that face: their bare back is seen. */
function faceDown({ expanded }: CheckContext): Finding[] {
  return gluesOf(expanded.joints).flatMap((joint): Finding[] => {
    const part = expanded.parts.find((p) => p.id === joint.partId);
    const zone = part?.glueZones.find((z) => z.id === joint.zoneId);
    const stock = part && stockOf(part);
    if (!part || !zone || !stock || stock.twoSided || zone.face !== 'front') return [];
    const plan = panelPlan(part);
    const panel = plan.panels[panelAt(plan, insidePoint({ outer: zone.outline, holes: [] }))];
    // A tab is hidden under what it holds.
    if (!panel || plan.panels.length > 1) return [];
    return [
      findingOf(
        RULE,
        `faceDown:${joint.id}`,
        `${part.name} is glued by its good face: ${stock.name} has only one, and its bare back is seen.`,
        [{ partId: part.id, at: insidePoint(panel.region), points: panel.region.outer }],
        { severity: 'warning', limitFrom: `${stock.name} is good on one side only` },
      ),
    ];
  });
}

/** Glue must be on paper, on one side of every fold, on the right face, out of what must stay free, and hold something. */
export const glueZones: Rule = {
  id: RULE,
  title: 'Glue',
  protects:
    'Glue lies on its part, on one side of its folds, on the right face, and never where something has to move.',
  needs: ['lines', 'joints', 'motion'],
  limit: 'the edges of the part and of what must stay free',
  unit: 'mm',
  run(context) {
    const { parts, joints } = context.expanded;
    return [
      ...parts.flatMap((part) => part.glueZones.flatMap((zone) => ownFindings(part, zone))),
      ...gluesOf(joints).flatMap((joint) => keepOutFindings(context, joint)),
      ...wrongFaces(context),
      ...gluedToNothing(context),
      ...faceDown(context),
    ];
  },
};
