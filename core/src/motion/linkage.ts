/**
 * The linkage of a design: bodies, the links between them, and the drivers.
 *
 * Bodies are panels; panels glued face to face are one body (union-find that carries the planar placement). A crease is
 * a rotation about its line; its angle phi is the signed deviation from flat, valley positive. With the panel `left` on
 * the left of the directed line d, the right panel is turned by -phi about d. The card's main fold is driven: its angle
 * is pi minus the opening angle. Other joints are made into links in `jointLinks.ts`.
 */
import type { Expanded } from '../mechanisms/expand.ts';
import type { GlueJoint } from '../design/design.ts';
import { GUTTER_ID, CARD_ID } from '../design/frames.ts';
import { panelAt, panelPlan, type PanelPlan } from '../dieline/panels.ts';
import type { Part } from '../dieline/part.ts';
import { compose, IDENTITY, inverse, place, turn, type Isometry } from '../geometry/isometry.ts';
import { between, distance, type Point } from '../geometry/point.ts';
import { insidePoint, type Region } from '../geometry/polygon.ts';
import { fromIsometry } from '../geometry/rigid.ts';
import { jointLinks } from './jointLinks.ts';
import type { Crease, Driver, Lying, Link, LinkageFault, Raised } from './links.ts';

export type { Crease, LinkageFault } from './links.ts';

export interface PanelRef {
  readonly part: Part;
  readonly partIndex: number;
  /** Index in the part's panel plan. */
  readonly panel: number;
  readonly id: string;
  readonly name: string;
  readonly region: Region;
  readonly body: number;
  /** From the part's plane into the body's plane. */
  readonly placement: Isometry;
  /** Layers of paper between this panel and its body's plane, along the body's normal: glued on top is +1, under is -1. */
  readonly liftLayers: number;
  /** Put in when the card is open, taken out before it is closed. */
  readonly takenOut: boolean;
}

/** Whether a panel is one of the card's own: its halves, or the doors and the back of a gatefold. */
export const isCover = (panel: { readonly part: Part; readonly id: string }): boolean =>
  panel.part.id === CARD_ID && ['left', 'right', 'door'].includes(panel.id);

/** The frame of a crease in its part's plane: origin at its start, x along it. */
const creaseFrame = (crease: Crease): Isometry =>
  turn(
    Math.atan2(crease.to[1] - crease.from[1], crease.to[0] - crease.from[0]),
    crease.from[0],
    crease.from[1],
  );

export interface Linkage {
  readonly panels: readonly PanelRef[];
  readonly bodyCount: number;
  readonly creases: readonly Crease[];
  /** All elementary motions; those of the creases come first, in their order. */
  readonly links: readonly Link[];
  /** The opening comes first. */
  readonly drivers: readonly Driver[];
  /** Pairs of panels that pass through each other on purpose: tongues in slots, half slots. Lower index first. */
  readonly excused: readonly (readonly [number, number])[];
  /** What lies on what and is free to move there, held by a joint that is not glue. */
  readonly laid: readonly Lying[];
  /** Bodies that are drawn so much over their host, along its normal: piles that turn over at an edge. */
  readonly raised: readonly Raised[];
  /** The body that holds still: the right half of the card. */
  readonly root: number;
  /** Whether a body hangs together with the card; parts that are glued to nothing do not move with it. */
  readonly attached: readonly boolean[];
  readonly faults: readonly LinkageFault[];
}

/** Placements round a glue loop may disagree by this much before they contradict each other. */
const GLUE_TOLERANCE_MM = 0.05;

/** Union-find over panels; `toRoot` carries a panel's part plane into the plane of its set's root panel's part. */
class Merger {
  private readonly parent: number[];
  private readonly toParent: Isometry[];

  constructor(count: number) {
    this.parent = Array.from({ length: count }, (_, i) => i);
    this.toParent = Array.from({ length: count }, () => IDENTITY);
  }

  find(i: number): { root: number; toRoot: Isometry } {
    if (this.parent[i] === i) return { root: i, toRoot: IDENTITY };
    const up = this.find(this.parent[i]);
    this.toParent[i] = compose(up.toRoot, this.toParent[i]);
    this.parent[i] = up.root;
    return { root: up.root, toRoot: this.toParent[i] };
  }

  /**
   * Glues panel a onto panel b by a placement of a's plane in b's plane. When both are one body already, nothing is
   * merged and the distance (mm, over `probe`) by which the two placements differ is returned; `flipped` when one of
   * them lies face down and the other face up.
   */
  glue(
    a: number,
    b: number,
    placement: Isometry,
    probe: readonly Point[],
  ): { offMm: number; flipped: boolean } {
    const [fa, fb] = [this.find(a), this.find(b)];
    const viaB = compose(fb.toRoot, placement);
    if (fa.root === fb.root)
      return {
        offMm: Math.max(...probe.map((p) => distance(place(viaB, p), place(fa.toRoot, p)))),
        flipped: viaB.flip !== fa.toRoot.flip,
      };
    this.parent[fa.root] = fb.root;
    this.toParent[fa.root] = compose(viaB, inverse(fa.toRoot));
    return { offMm: 0, flipped: false };
  }
}

/** Builds the linkage of an expanded design. Contradicting glue is reported and not merged. */
export function linkageOf(expanded: Expanded): Linkage {
  const plans = expanded.parts.map((part) => panelPlan(part));
  const firstPanel: number[] = [];
  let count = 0;
  for (const plan of plans) {
    firstPanel.push(count);
    count += plan.panels.length;
  }
  const partIndex = new Map(expanded.parts.map((part, i) => [part.id, i]));
  const merger = new Merger(count);
  const faults: LinkageFault[] = [];
  const glued: Lying[] = [];
  for (const joint of expanded.joints) {
    if (joint.kind !== 'glue') continue;
    const ends = jointEnds(joint, expanded.parts, plans, partIndex);
    if ('message' in ends) {
      faults.push({ kind: 'jointNowhere', jointId: joint.id, ...ends });
      continue;
    }
    const { zone, at } = ends;
    glued.push({
      panel: firstPanel[ends.part] + ends.panel,
      host: firstPanel[ends.host] + ends.hostPanel,
      onFront: ends.onHostFront,
      turned: false,
      layers: joint.layers,
    });
    const { offMm, flipped } = merger.glue(
      firstPanel[ends.part] + ends.panel,
      firstPanel[ends.host] + ends.hostPanel,
      joint.placement,
      zone,
    );
    if (offMm > GLUE_TOLERANCE_MM || flipped)
      faults.push({
        kind: 'contradiction',
        jointId: joint.id,
        partId: joint.partId,
        at,
        offMm,
        message: flipped
          ? `${expanded.parts[ends.part].name} is glued to one body face up and face down at once.`
          : `${expanded.parts[ends.part].name} is glued to one body in two places that differ by ${offMm.toFixed(2)} mm.`,
      });
  }
  const bodyOf = new Map<number, number>();
  const panels: PanelRef[] = [];
  const placements: Isometry[] = [];
  const bodies: number[] = [];
  plans.forEach((plan, p) =>
    plan.panels.forEach((panel, k) => {
      const { root, toRoot } = merger.find(firstPanel[p] + k);
      if (!bodyOf.has(root)) bodyOf.set(root, bodyOf.size);
      const body = bodyOf.get(root)!;
      bodies.push(body);
      placements.push(toRoot);
      const part = expanded.parts[p];
      panels.push({
        part,
        partIndex: p,
        panel: k,
        id: panel.id,
        name: panel.name,
        region: panel.region,
        body,
        placement: toRoot,
        liftLayers: 0,
        takenOut: expanded.takenOut.has(part.id),
      });
    }),
  );
  const creases: Crease[] = [];
  const links: Link[] = [];
  const covers = new Set(panels.filter(isCover).map((panel) => panel.body));
  plans.forEach((plan, p) => {
    const part = expanded.parts[p];
    for (const hinge of plan.hinges) {
      const [l, r] = [firstPanel[p] + hinge.left, firstPanel[p] + hinge.right];
      if (bodies[l] === bodies[r]) continue;
      const crease: Crease = {
        id: `${part.id}/${hinge.id}`,
        partId: part.id,
        lineIds: hinge.lineIds,
        left: bodies[l],
        right: bodies[r],
        leftPanel: l,
        rightPanel: r,
        from: hinge.from,
        to: hinge.to,
        inLeft: placements[l],
        inRight: placements[r],
        sign: hinge.layer === 'valley' ? 1 : -1,
      };
      const driven = part.id === CARD_ID && hinge.lineIds.some((id) => id.startsWith(GUTTER_ID));
      const frame = creaseFrame(crease);
      // What leans on the card is pressed aside there: its feet may turn a little past closed.
      const leans = expanded.leaning.has(part.id) && (covers.has(crease.left) || covers.has(crease.right));
      links.push({
        kind: 'fold',
        left: crease.left,
        right: crease.right,
        inLeft: fromIsometry(compose(crease.inLeft, frame)),
        inRight: fromIsometry(compose(crease.inRight, frame)),
        sign: leans ? 0 : crease.sign,
        seed: leans ? (crease.sign * Math.PI) / 2 : 0,
        unbent: 0,
        drive: driven ? { driver: 0, offset: crease.sign * Math.PI, factor: -crease.sign } : null,
        stops: null,
        crease: creases.length,
        jointId: null,
        halfMm: distance(crease.from, crease.to) / 2,
        bandMm: 0,
      });
      creases.push(crease);
    }
  });
  const hung = jointLinks(expanded, plans, firstPanel, bodies, placements, creases, links, bodyOf.size);
  faults.push(...hung.faults);
  const lifts = layersOf([...glued, ...hung.laid], panels.length, placements);
  panels.forEach((panel, i) => (panels[i] = { ...panel, liftLayers: lifts[i] }));
  const root = panels.find((panel) => panel.part.id === CARD_ID && panel.id === 'right')?.body ?? 0;
  return {
    panels,
    bodyCount: hung.bodyCount,
    creases,
    links: hung.links,
    drivers: hung.drivers,
    excused: [...hung.excused, ...leaningPairs(expanded, panels)],
    laid: hung.laid,
    raised: hung.raised,
    root,
    attached: reachable(hung.bodyCount, hung.links, root),
    faults,
  };
}

/** Pairs of a part that leans on the card, and the card's own panels. */
function leaningPairs({ leaning }: Expanded, panels: readonly PanelRef[]): (readonly [number, number])[] {
  if (leaning.size === 0) return [];
  return panels.flatMap((cover, i) =>
    isCover(cover)
      ? panels.flatMap((panel, j) =>
          leaning.has(panel.part.id) ? [[Math.min(i, j), Math.max(i, j)] as const] : [],
        )
      : [],
  );
}

/** Layers of each panel over its body's plane: one more than what it lies on, on the side where it lies. */
function layersOf(lying: readonly Lying[], count: number, placements: readonly Isometry[]): number[] {
  const lifts = Array.from({ length: count }, () => 0);
  // What lies on what is known in any order: as often as piles can be high here.
  for (let pass = 0; pass < 4; pass++)
    for (const { panel, host, onFront, turned, layers = 1 } of lying)
      lifts[panel] =
        (lifts[host] + layers * (onFront !== placements[host].flip ? 1 : -1)) * (turned ? -1 : 1);
  return lifts;
}

/** Bodies that links connect with the root. */
function reachable(count: number, links: readonly Link[], root: number): boolean[] {
  const reached = Array.from({ length: count }, (_, i) => i === root);
  for (let grown = true; grown;) {
    grown = false;
    for (const { left, right } of links)
      if (reached[left] !== reached[right]) {
        reached[left] = reached[right] = true;
        grown = true;
      }
  }
  return reached;
}

type Ends =
  | { message: string; partId: string; at: Point }
  | {
      part: number;
      panel: number;
      host: number;
      hostPanel: number;
      zone: readonly Point[];
      at: Point;
      onHostFront: boolean;
    };

/** The panels that a glue joint ties together: the one its zone lies in, and the host's one under it. */
export function jointEnds(
  joint: GlueJoint,
  parts: readonly Part[],
  plans: readonly PanelPlan[],
  partIndex: ReadonlyMap<string, number>,
): Ends {
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
