/**
 * The linkage of a design: bodies, the links between them, and the drivers.
 *
 * Bodies are panels; panels glued face to face are one body (merging.ts). A crease is a rotation about its line; its angle
 * phi is the signed deviation from flat, valley positive. With the panel `left` on the left of the directed line d, the
 * right panel is turned by -phi about d. The fold between the card's halves is driven: its angle is pi minus the opening
 * angle. Folds inside one body do not move: they are kept with what holds them. Other joints are made into links in
 * `jointLinks.ts`.
 */
import { bradIn, raisedMm, type Brad } from '../stock/store.ts';
import { openingLines, senseSign, type Part } from '../dieline/part.ts';
import type { Expanded } from '../mechanisms/expand.ts';
import { CARD_ID, GUTTER_ID } from '../design/frames.ts';
import { panelPlan, type Hinge, type PanelPlan } from '../dieline/panels.ts';
import { JOINT_TOLERANCE_MM } from '../geometry/tolerances.ts';
import { compose, IDENTITY, place, shift, turn, type Isometry } from '../geometry/isometry.ts';
import { distance } from '../geometry/point.ts';
import { boxOf } from '../geometry/path.ts';
import { regionArea } from '../geometry/polygon.ts';
import { fromIsometry, type Rigid } from '../geometry/rigid.ts';
import { foldingUp } from './foldingDrives.ts';
import { glueEnds } from './glueEnds.ts';
import { jointLinks } from './jointLinks.ts';
import type { Crease, Driver, GluedPlace, HeldFold, Lying, Link, LinkageFault, Passage } from './links.ts';
import { Merger } from './merging.ts';
import { isCover, rootPanel, type PanelRef } from './panelRef.ts';

export type { Crease, LinkageFault } from './links.ts';
export { isCover, type PanelRef } from './panelRef.ts';

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
  /** Folds that glue holds, and all glued places. */
  readonly heldFolds: readonly HeldFold[];
  readonly glued: readonly GluedPlace[];
  /** Glue that closes a structure when it is folded up; of anything else there is none. */
  readonly closings: readonly GluedPlace[];
  /** The opening comes first. */
  readonly drivers: readonly Driver[];
  /** Pairs of panels that may pass through each other anywhere: bands that bend, and what leans. Lower index first. */
  readonly excused: readonly (readonly [number, number])[];
  /** Pairs of what leans and what it leans on: excused, but where they run into each other paper is pressed aside. */
  readonly leaning: readonly (readonly [number, number])[];
  /** Tongues in slots and half slots: where two panels pass through each other on purpose. */
  readonly passages: readonly Passage[];
  /** What lies on what and is free to move there, held by a joint that is not glue. */
  /** The brads of joints that are not pinned by the usual one. */
  readonly brads: Readonly<Record<string, Brad>>;
  readonly laid: readonly Lying[];
  /** Bodies of bands that bend round an edge of another body, and lie behind it afterwards. */
  readonly wrapped: ReadonlyMap<number, number>;
  /** The body that holds still, and the panel by which the base is known: the right half of a card; null without any panel. */
  readonly root: number;
  readonly still: PanelRef | null;
  /** Of a structure: what hangs together with nothing else folds up beside it; the body that holds still there, and where. */
  readonly islands: ReadonlyMap<number, Rigid>;
  /** Whether a body hangs together with the card; parts that are glued to nothing do not move with it. */
  readonly attached: readonly boolean[];
  readonly faults: readonly LinkageFault[];
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
  const merger = new Merger(count);
  const faults: LinkageFault[] = [];
  const closings: GluedPlace[] = [];
  const glued = mergeGlued(expanded, plans, firstPanel, merger, faults, closings);
  const { panels, bodyCount } = panelsOf(expanded, plans, firstPanel, merger);
  const placements = panels.map((panel) => panel.placement);
  const lying = glued.map(({ panel, host, onHostFront, layers }): Lying => ({
    panel,
    host,
    onFront: onHostFront,
    turned: false,
    layers,
  }));
  const { creases, links, heldFolds } = foldsOf(expanded, plans, firstPanel, panels, merger, faults);
  const hung = jointLinks({
    expanded,
    plans,
    firstPanel,
    panels,
    creases,
    creaseLinks: links,
    heldFolds,
    paperBodies: bodyCount,
  });
  faults.push(...hung.faults);
  const lifts = layersOf([...lying, ...hung.laid], panels.length, placements);
  panels.forEach((panel, i) => (panels[i] = { ...panel, liftLayers: lifts[i] }));
  const still = rootPanel(panels, expanded.rootPartId);
  const root = still?.body ?? 0;
  const gutters = openingLines(expanded.parts.find(({ id }) => id === CARD_ID));
  const allLinks = followingFolds(creases, hung.links, hung.bodyCount, gutters);
  const leaning = leaningPairs(expanded, panels);
  const islands = islandsOf(expanded, panels, allLinks, root, hung.bodyCount);
  return {
    panels,
    bodyCount: hung.bodyCount,
    creases,
    links: allLinks,
    heldFolds,
    glued,
    closings,
    drivers: hung.drivers,
    excused: [
      ...hung.excused,
      ...leaning,
      ...closings.map(({ panel, host }) => [Math.min(panel, host), Math.max(panel, host)] as const),
    ],
    leaning,
    brads: bradsIn(expanded),
    passages: hung.passages,
    laid: hung.laid,
    wrapped: hung.wrapped,
    root,
    still: still ?? null,
    islands,
    attached: reachable(hung.bodyCount, allLinks, [root, ...islands.keys()]),
    faults,
  };
}

/**
 * Merges what is glued; what contradicts itself, or is glued to nothing, is a fault. Of a structure, glue between parts that
 * hang together already closes it at the end: that is told apart, to be measured when all is folded up.
 */
function mergeGlued(
  expanded: Expanded,
  plans: readonly PanelPlan[],
  firstPanel: readonly number[],
  merger: Merger,
  faults: LinkageFault[],
  closings: GluedPlace[],
): (GluedPlace & { readonly layers: number | undefined })[] {
  const hanging = new Merger(expanded.parts.length);
  const partIndex = new Map(expanded.parts.map((part, i) => [part.id, i]));
  return expanded.joints.flatMap((joint) => {
    if (joint.kind !== 'glue') return [];
    const ends = glueEnds(joint, expanded.parts, plans, partIndex);
    if ('message' in ends) {
      faults.push({ kind: 'jointNowhere', jointId: joint.id, ...ends });
      return [];
    }
    const panel = firstPanel[ends.part] + ends.panel;
    const host = firstPanel[ends.host] + ends.hostPanel;
    const { zone, at, onHostFront } = ends;
    const { placement } = joint;
    const padMm = raisedMm(expanded.store, joint);
    const glue = { jointId: joint.id, panel, host, zone, onHostFront, padMm, placement };
    if (expanded.base.kind === 'structure' || expanded.alone.has(joint.partId)) {
      if (hanging.find(ends.part).root === hanging.find(ends.host).root) {
        closings.push(glue);
        return [];
      }
      hanging.glue(ends.part, ends.host, IDENTITY, [], joint.id);
    }
    const { offMm, flipped } = merger.glue(panel, host, joint.placement, zone, joint.id);
    const { name } = expanded.parts[ends.part];
    if (offMm > JOINT_TOLERANCE_MM || flipped)
      faults.push({
        kind: 'contradiction',
        jointId: joint.id,
        partId: joint.partId,
        at,
        offMm,
        message: flipped
          ? `${name} is glued to one body face up and face down at once.`
          : `${name} is glued to one body in two places that differ by ${offMm.toFixed(2)} mm.`,
      });
    return [{ ...glue, layers: joint.layers }];
  });
}

/** All panels with their bodies, numbered in the order in which they come. */
function panelsOf(
  expanded: Expanded,
  plans: readonly PanelPlan[],
  firstPanel: readonly number[],
  merger: Merger,
): { panels: PanelRef[]; bodyCount: number } {
  const bodyOf = new Map<number, number>();
  const panels = plans.flatMap((plan, p) =>
    plan.panels.map((panel, k): PanelRef => {
      const { root, toRoot } = merger.find(firstPanel[p] + k);
      if (!bodyOf.has(root)) bodyOf.set(root, bodyOf.size);
      const part = expanded.parts[p];
      return {
        part,
        partIndex: p,
        panel: k,
        id: panel.id,
        name: panel.name,
        role: panel.role,
        region: panel.region,
        body: bodyOf.get(root)!,
        placement: toRoot,
        liftLayers: 0,
        takenOut: expanded.takenOut.has(part.id),
      };
    }),
  );
  return { panels, bodyCount: bodyOf.size };
}

/**
 * The hinges at which the card opens: between its two halves, or between the back of a gatefold and each door. Other
 * stretches of a gutter, which folds drawn on the card part from these, only follow.
 *
 * @returns by hinge; a fold that is missing altogether is told by its ends
 */
function openingHinges(plan: PanelPlan, card: Part): { hinges: Hinge[]; missing: boolean } {
  const roles = openingLines(card);
  const names = plan.panels.map((panel) => panel.id);
  const pairs = [{ on: 'opening', panels: ['left', 'right'] }];
  if (names.includes('door')) pairs.push({ on: 'openingRight', panels: ['right', 'door'] });
  const found = pairs.map(({ on, panels }) => {
    const along = plan.hinges.filter((hinge) => hinge.lineIds.some((id) => roles.get(id) === on));
    return (
      along.find((hinge) => panels.every((id) => id === names[hinge.left] || id === names[hinge.right])) ??
      along.find((hinge) => panels.some((id) => id === names[hinge.left] || id === names[hinge.right])) ??
      along[0]
    );
  });
  const hinges = found.filter((hinge) => hinge !== undefined);
  return { hinges, missing: hinges.length < found.length };
}

/** Between what folds up beside each other, mm. */
const AISLE_MM = 25;

/** What folds up by itself beside the rest of a structure: the body of its largest panel holds still, to the right. */
function islandsOf(
  { base }: Expanded,
  panels: readonly PanelRef[],
  links: readonly Link[],
  root: number,
  bodyCount: number,
): Map<number, Rigid> {
  const islands = new Map<number, Rigid>();
  if (base.kind !== 'structure') return islands;
  const widthOf = (own: readonly PanelRef[]) =>
    [...new Set(own.map(({ part }) => part))].reduce((sum, part) => {
      const box = boxOf(own.filter((p) => p.part === part).flatMap((p) => p.region.outer));
      return sum + box.maxX - box.minX;
    }, 0);
  const first = reachable(bodyCount, links, [root]);
  const taken = [...first];
  const drawn = panels.filter(({ body }) => first[body]);
  let x = drawn.length > 0 ? boxOf(drawn.flatMap((p) => p.region.outer)).minX + widthOf(drawn) : 0;
  for (const panel of panels) {
    if (taken[panel.body]) continue;
    const own = reachable(bodyCount, links, [panel.body]);
    own.forEach((is, body) => is && (taken[body] = true));
    if (!links.some(({ left, drive }) => own[left] && drive?.driver === 0)) continue;
    const members = panels.filter(({ body }) => own[body]);
    const still = members.reduce((a, b) => (regionArea(b.region) > regionArea(a.region) ? b : a));
    const box = boxOf(members.filter((p) => p.part === still.part).flatMap((p) => p.region.outer));
    islands.set(still.body, fromIsometry(shift(x + AISLE_MM - box.minX, 0)));
    x += AISLE_MM + widthOf(members);
  }
  return islands;
}

/** Every fold: those that move as creases with their links, those inside one body as held. */
function foldsOf(
  expanded: Expanded,
  plans: readonly PanelPlan[],
  firstPanel: readonly number[],
  panels: readonly PanelRef[],
  merger: Merger,
  faults: LinkageFault[],
): { creases: Crease[]; links: Link[]; heldFolds: HeldFold[] } {
  const creases: Crease[] = [];
  const links: Link[] = [];
  const heldFolds: HeldFold[] = [];
  const covers = new Set(panels.filter(isCover).map((panel) => panel.body));
  plans.forEach((plan, p) => {
    const part = expanded.parts[p];
    const gutters = openingLines(part);
    const opening =
      part.id === CARD_ID && expanded.base.kind === 'card'
        ? openingHinges(plan, part)
        : { hinges: [], missing: false };
    if (opening.missing && plan.panels.length > 0)
      faults.push({
        kind: 'noFold',
        jointId: GUTTER_ID,
        partId: part.id,
        at: plan.panels[0].inside,
        message: 'The card does not hang together at its fold: it is cut through there, or the fold is gone.',
      });
    for (const hinge of plan.hinges) {
      const [l, r] = [firstPanel[p] + hinge.left, firstPanel[p] + hinge.right];
      const opens = opening.hinges.includes(hinge);
      const sign = senseSign(hinge.fold);
      const onGutter = hinge.lineIds.some((id) => gutters.has(id));
      const [left, right] = [panels[l], panels[r]];
      if (left.body === right.body) {
        const apart = [hinge.from, hinge.to].map((end) =>
          distance(place(left.placement, end), place(right.placement, end)),
        );
        heldFolds.push({
          partId: part.id,
          lineIds: hinge.lineIds,
          from: hinge.from,
          to: hinge.to,
          leftPanel: l,
          rightPanel: r,
          offMm: Math.max(...apart),
          folded: left.placement.flip !== right.placement.flip,
          sign,
          jointIds: merger.between(l, r),
          opens,
        });
        continue;
      }
      const crease: Crease = {
        id: `${part.id}/${hinge.id}`,
        partId: part.id,
        lineIds: hinge.lineIds,
        left: left.body,
        right: right.body,
        leftPanel: l,
        rightPanel: r,
        from: hinge.from,
        to: hinge.to,
        inLeft: left.placement,
        inRight: right.placement,
        sign,
      };
      const frame = creaseFrame(crease);
      // What leans on the card is pressed aside there: its feet may turn a little past closed. A stretch of the gutter
      // that only follows is scored already and goes either way.
      const free =
        (onGutter && !opens) ||
        (expanded.leaning.has(part.id) && (covers.has(crease.left) || covers.has(crease.right)));
      const { restDeg } = hinge.fold;
      links.push({
        kind: 'fold',
        left: crease.left,
        right: crease.right,
        inLeft: fromIsometry(compose(crease.inLeft, frame)),
        inRight: fromIsometry(compose(crease.inRight, frame)),
        sign: free ? 0 : sign,
        seed: 0,
        unbent: 0,
        drive: opens
          ? { driver: 0, offset: sign * Math.PI, factor: -sign }
          : foldingUp(expanded, part, hinge, frame, panels[l].id),
        ...(restDeg === undefined ? {} : { restRad: (sign * restDeg * Math.PI) / 180 }),
        stops: null,
        crease: creases.length,
        jointId: null,
        halfMm: distance(crease.from, crease.to) / 2,
        bandMm: 0,
      });
      creases.push(crease);
    }
  });
  return { creases, links, heldFolds };
}

/** Whether a fold that is folded right over and glued lies on the other face than it is drawn for; false where none is above. */
export function foldedWrongWay(
  { folded, sign, leftPanel, rightPanel }: HeldFold,
  { panels }: Linkage,
): boolean {
  if (!folded) return false;
  const [left, right] = [panels[leftPanel], panels[rightPanel]];
  const above = (right.liftLayers - left.liftLayers) * (left.placement.flip ? -1 : 1);
  return above * sign < 0;
}

const bradsIn = ({ joints, store }: Expanded): Record<string, Brad> =>
  Object.fromEntries(
    joints.flatMap((joint) =>
      joint.kind === 'pivot' && joint.hardwareId !== undefined
        ? [[joint.id, bradIn(store, joint.hardwareId)]]
        : [],
    ),
  );

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

/**
 * Stretches of the card's fold by which a piece of the card merely hangs (between two letters, say) fold as the rest of it
 * does; those in a loop are left to the loop.
 */
function followingFolds(
  creases: readonly Crease[],
  links: readonly Link[],
  bodyCount: number,
  gutters: ReturnType<typeof openingLines>,
): Link[] {
  const opens = links.findIndex((link) => link.drive?.driver === 0);
  if (opens < 0) return [...links];
  return links.map((link, i): Link => {
    const crease = creases[link.crease];
    if (!crease || crease.partId !== CARD_ID || link.drive || !crease.lineIds.some((id) => gutters.has(id)))
      return link;
    const others = links.filter((_, k) => k !== i);
    if (reachable(bodyCount, others, [link.left])[link.right]) return link;
    const { sign } = crease;
    return { ...link, sign, drive: { driver: 0, offset: sign * Math.PI, factor: -sign } };
  });
}

/** Bodies that links connect with one of the roots. */
export function reachable(count: number, links: readonly Link[], roots: readonly number[]): boolean[] {
  const reached = Array.from({ length: count }, (_, i) => roots.includes(i));
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
