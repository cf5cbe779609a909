import { gluesOf, type GlueJoint } from '../design/design.ts';
import { panelAt, panelPlan } from '../dieline/panels.ts';
import { stockOf, type GlueZone, type Part } from '../dieline/part.ts';
import { placing } from '../geometry/isometry.ts';
import { cross, lengthOf, subtract, type Point } from '../geometry/point.ts';
import {
  counterClockwise,
  distanceOutside,
  insidePoint,
  regionArea,
  type Ring,
} from '../geometry/polygon.ts';
import { difference, intersection, solid } from '../geometry/regions.ts';
import { AREA_TOLERANCE_MM2, TYPED_SLACK } from '../geometry/tolerances.ts';
import { familyById } from '../mechanisms/registry.ts';
import { findingOf, mm, type CheckContext, type Finding, type Mend, type Rule } from './finding.ts';

const RULE = 'glueLanding';

/** Least width of a ring in mm: the smallest distance between two parallel lines along an edge that hold all points. */
export function leastWidth(ring: Ring): number {
  let least = Infinity;
  for (let i = 0; i < ring.length; i++) {
    const [a, b] = [ring[i], ring[(i + 1) % ring.length]];
    const d = subtract(b, a);
    const length = lengthOf(d);
    if (length < 1e-9) continue;
    const heights = ring.map((p) => cross(d, subtract(p, a)) / length);
    least = Math.min(least, Math.max(...heights) - Math.min(...heights));
  }
  return least;
}

/** Widening the tab is offered when the mechanism has a tab depth and its own rules allow the wider one. */
function widerTab({ design, expanded }: CheckContext, partId: string, neededMm: number): Mend[] {
  const instance = design.instances[expanded.instanceOf[partId]];
  const family = instance && familyById(instance.family);
  if (!instance || !family || typeof instance.params.tabMm !== 'number') return [];
  const params = { ...instance.params, tabMm: neededMm };
  if (
    family
      .constraints(params, expanded.gutterOf[instance.id], design.settings.reachMarginMm, expanded.store.fits)
      .some((c) => c.overMm > TYPED_SLACK)
  )
    return [];
  return [
    {
      label: `Make the tabs ${mm(neededMm)} deep`,
      command: { do: 'put', in: 'instances', id: instance.id, value: { ...instance, params } },
    },
  ];
}

/** Where a zone lands on its host: off it, over an edge, or across a fold. */
function landingFinding(part: Part, host: Part, joint: GlueJoint, zone: GlueZone): Finding | undefined {
  const landed = counterClockwise(zone.outline.map(placing(joint.placement)));
  const plan = panelPlan(host);
  const hostPanel = panelAt(plan, insidePoint({ outer: landed, holes: [] }));
  const say = (what: string, sentence: string, measured: number, points: readonly Point[], from: string) =>
    findingOf(RULE, `${what}:${joint.id}`, sentence, [{ partId: host.id, at: points[0], points }], {
      measured,
      limit: 0,
      limitFrom: from,
    });
  if (hostPanel < 0) {
    const most = Math.max(
      ...landed.map((p) => Math.min(...plan.panels.map((panel) => distanceOutside(p, panel.region)))),
    );
    return say(
      'off',
      `A tab of ${part.name} lies off ${host.name}.`,
      most,
      landed,
      'glue needs paper under it',
    );
  }
  const panel = plan.panels[hostPanel];
  const outside = difference([solid(landed)], [panel.region]).filter(
    (region) => regionArea(region) > AREA_TOLERANCE_MM2,
  );
  if (outside.length === 0) return undefined;
  const others = plan.panels.filter((other) => other !== panel).map((other) => other.region);
  const across = intersection(outside, others).some((region) => regionArea(region) > AREA_TOLERANCE_MM2);
  const over = Math.max(
    0,
    ...outside.flatMap((region) => region.outer.map((p) => distanceOutside(p, panel.region))),
  );
  const points = outside.flatMap((region) => region.outer);
  return across
    ? say(
        'fold',
        `A tab of ${part.name} lies ${mm(over)} across a fold or slit of ${host.name}: glued there, it locks.`,
        over,
        points,
        'the whole tab must lie on one panel',
      )
    : say(
        'edge',
        `A tab of ${part.name} hangs ${mm(over)} over the edge of its landing on ${host.name}.`,
        over,
        points,
        'the whole tab must lie on one panel',
      );
}

/** A piece that has hardly anything to hold it: what stands beyond its support is decoration, but some of it must be glued. */
function pieceFinding(part: Part, host: Part, joint: GlueJoint, zone: GlueZone): Finding[] {
  const landed = solid(counterClockwise(zone.outline.map(placing(joint.placement))));
  const held = panelPlan(host).panels.map((panel) => intersection([landed], [panel.region]));
  const widths = held.flat().map((region) => leastWidth(region.outer));
  const widest = Math.max(0, ...widths);
  const { minTabMm, name } = stockOf(part);
  if (widest >= minTabMm - TYPED_SLACK) return [];
  return [
    findingOf(
      RULE,
      `held:${joint.id}`,
      widest < 0.1
        ? `${part.name} lies off ${host.name}, to which it is glued.`
        : `${part.name} is held by only ${mm(widest)} of glue on ${host.name}; ${name} wants ${mm(minTabMm)}.`,
      [{ partId: host.id, at: landed.outer[0], points: landed.outer }],
      {
        severity: widest < 0.1 ? 'fault' : 'warning',
        measured: widest,
        limit: minTabMm,
        limitFrom: `the least tab of ${name}`,
      },
    ),
  ];
}

/** Tabs that are narrower than their stock wants, once for each part. */
function narrowTabs(part: Part, zones: readonly GlueZone[]): Finding[] {
  const stock = stockOf(part);
  const narrow = zones
    .map((zone) => ({ zone, width: leastWidth(zone.outline) }))
    .filter(({ width }) => width < stock.minTabMm - TYPED_SLACK)
    .sort((a, b) => a.width - b.width);
  if (narrow.length === 0) return [];
  const [{ width }] = narrow;
  return [
    findingOf(
      RULE,
      `width:${part.id}`,
      `${narrow.length === 1 ? 'A glue tab' : `${narrow.length} glue tabs`} of ${part.name} ${narrow.length === 1 ? 'is' : 'are'} only ${mm(width)} wide; ${stock.name} wants ${mm(stock.minTabMm)}.`,
      narrow.map(({ zone }) => ({
        partId: part.id,
        at: insidePoint({ outer: zone.outline, holes: [] }),
        points: zone.outline,
      })),
      {
        severity: 'warning',
        measured: width,
        limit: stock.minTabMm,
        limitFrom: `the least tab of ${stock.name}`,
      },
    ),
  ];
}

/** A glue tab must lie on paper, on one side of every fold, and be wide enough to hold. */
export const glueLanding: Rule = {
  id: RULE,
  title: 'Glue tab and landing',
  protects: 'Every tab has a flat place to stick to and enough width to hold.',
  needs: ['lines', 'joints'],
  limit: 'the edges of the landing’s panel; the least tab of the stock',
  unit: 'mm',
  run(context) {
    const { expanded } = context;
    const byId = new Map(expanded.parts.map((part) => [part.id, part]));
    const used = new Map<Part, GlueZone[]>();
    const landings = gluesOf(expanded.joints).flatMap((joint): Finding[] => {
      const [part, host] = [byId.get(joint.partId), byId.get(joint.hostPartId)];
      const zone = part?.glueZones.find((z) => z.id === joint.zoneId);
      if (!part || !host || !zone || panelPlan(host).panels.length === 0) return [];
      if (joint.as === 'piece') return pieceFinding(part, host, joint, zone);
      const zones = used.get(part) ?? [];
      if (!zones.includes(zone)) used.set(part, [...zones, zone]);
      const finding = landingFinding(part, host, joint, zone);
      return finding ? [finding] : [];
    });
    return [...landings, ...[...used].flatMap(([part, zones]) => narrowTabs(part, zones))];
  },
  offers: (context, { key, places, limit }) =>
    key.startsWith(`${RULE}:width:`) ? widerTab(context, places[0].partId, limit!) : [],
};
