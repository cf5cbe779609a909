/** From the design document to plain parts and joints: what every later computation works on. */
import type { Design, DraftedPart, Instance, Joint } from '../design/design.ts';
import {
  CARD_ID,
  cardDoors,
  cardFrame,
  cardGutters,
  cardMeasures,
  panelGutter,
  type Gutter,
} from '../design/frames.ts';
import { panelPlan } from '../dieline/panels.ts';
import type { DieLine, PanelMark, Part } from '../dieline/part.ts';
import { compose, IDENTITY, inverse, place, turn, type Isometry } from '../geometry/isometry.ts';
import { boxOf, placePath, type Box } from '../geometry/path.ts';
import { subtract, type Point } from '../geometry/point.ts';
import { buildCard, CARD_FRAMES, type HostWork } from './card.ts';
import { HOST_PART, type BuildContext, type Contribution, type Handle, type Params } from './family.ts';
import { standsOn } from './instance.ts';
import { familyById } from './registry.ts';

export interface BuildFault {
  readonly subject: string;
  readonly message: string;
}

export interface Expanded {
  readonly parts: readonly Part[];
  readonly joints: readonly Joint[];
  /** The card's own fold, every fold that a mechanism may stand on, and the one on which each instance does. */
  readonly gutter: Gutter;
  readonly gutters: readonly Gutter[];
  readonly gutterOf: Readonly<Record<string, Gutter>>;
  /** The instance that a part belongs to; absent for the card and drafted parts. */
  readonly instanceOf: Readonly<Record<string, string>>;
  readonly panelFrames: Readonly<Record<string, Readonly<Record<string, Isometry>>>>;
  /** Parts that are meant to be loose. */
  readonly loose: ReadonlySet<string>;
  /** Parts that lean on the card where stiff ones would run into it. */
  readonly leaning: ReadonlySet<string>;
  /** Parts that are taken out before the card is closed. */
  readonly takenOut: ReadonlySet<string>;
  /** Instances that could not be built, additions whose panel is gone, joints whose parts are gone. */
  readonly faults: readonly BuildFault[];
}

const contributions = new WeakMap<Instance, { key: string; contribution: Contribution }>();
const drafted = new WeakMap<DraftedPart, Part>();
const cards = new Map<string, Part>();

export function buildContext(instance: Instance, gutter: Gutter): BuildContext {
  return { instanceId: instance.id, name: instance.name, stockId: instance.stockId, gutter };
}

function contributionOf(instance: Instance, gutter: Gutter): Contribution {
  const family = familyById(instance.family);
  if (!family) throw new RangeError(`This version has no mechanism called "${instance.family}".`);
  if (!standsOn(family, gutter))
    throw new RangeError(
      family.on === 'panel'
        ? 'It lies on a panel: choose one, not a fold.'
        : gutter.kind === 'doors'
          ? 'It stands on one fold: choose one, not both doors.'
          : 'It stands on a fold: choose one, not a panel.',
    );
  const key = JSON.stringify(gutter);
  const known = contributions.get(instance);
  if (known?.key === key) return known.contribution;
  const contribution = family.build(instance.params, buildContext(instance, gutter));
  contributions.set(instance, { key, contribution });
  return contribution;
}

function plainPart(part: DraftedPart): Part {
  const known = drafted.get(part);
  if (known) return known;
  const plain: Part = {
    id: part.id,
    name: part.name,
    stockId: part.stockId,
    grainRad: part.grainRad,
    quantity: part.quantity,
    lines: Object.values(part.lines),
    glueZones: Object.values(part.glueZones),
    marks: [],
  };
  drafted.set(part, plain);
  return plain;
}

/** The card part, kept the same value while nothing that it is made of changes (panels are remembered per value). */
function cardPart(design: Design, work: HostWork): Part {
  const key = JSON.stringify([design.brief, design.settings.cardStockId, work]);
  const known = cards.get(key);
  if (known) return known;
  if (cards.size > 40) cards.clear();
  const part = buildCard(design, work);
  cards.set(key, part);
  return part;
}

const withLines = new WeakMap<Part, { key: string; part: Part }>();

function withAdditions(part: Part, lines: readonly DieLine[]): Part {
  if (lines.length === 0) return part;
  const key = JSON.stringify(lines);
  const known = withLines.get(part);
  if (known?.key === key) return known.part;
  const next = { ...part, lines: [...part.lines, ...lines] };
  withLines.set(part, { key, part: next });
  return next;
}

interface Built {
  readonly instance: Instance;
  readonly gutter: Gutter;
  readonly contribution: Contribution;
}

const gutterKey = (partId: string, lineId: string): string => `${partId}|${lineId}`;

/** The box of a part's panel with the given mark, in the mark's frame. */
function panelBox(part: Part, panelId: string, frame: Isometry): Box | undefined {
  const panel = panelPlan(part).panels.find((p) => p.id === panelId);
  const back = inverse(frame);
  return panel && boxOf(panel.region.outer.map((p) => place(back, p)));
}

/** Panels of a mechanism's parts that planar mechanisms may stand on. */
function panelsOf({ parts, panelFrames }: Contribution): Gutter[] {
  return parts.flatMap((part) =>
    Object.entries(panelFrames[part.id] ?? {}).flatMap(([panelId, frame]) => {
      const box = panelBox(part, panelId, frame);
      const name = part.marks.find((mark) => mark.id === panelId)?.name ?? panelId;
      return box ? [panelGutter(part.id, panelId, `${part.name}: ${name}`, frame, box)] : [];
    }),
  );
}

/** What a drafted part offers to stand on: its folds, and its panels. */
const draftedHosts = (part: Part): Gutter[] => [
  ...foldsOf(part, () => true),
  ...panelPlan(part).panels.map((panel) =>
    panelGutter(part.id, panel.id, `${part.name}: ${panel.name}`, IDENTITY, boxOf(panel.region.outer)),
  ),
];

/**
 * The folds of a part as something to stand on, each from the side on which it closes: a valley from the front, a mountain
 * from behind.
 *
 * @param bears whether a panel can bear anything: a fold between two that can is offered
 */
function foldsOf(part: Part, bears: (panelId: string) => boolean): Gutter[] {
  const { panels, hinges } = panelPlan(part);
  return hinges.flatMap((hinge, i): Gutter[] => {
    const sides = [panels[hinge.left], panels[hinge.right]];
    if (!sides.every((panel) => bears(panel.id))) return [];
    const d = subtract(hinge.to, hinge.from);
    const lengthMm = Math.hypot(...d);
    // Mechanism coordinates: the fold along +y, its left side at x < 0; from behind, left and right change places.
    const behind = hinge.layer === 'mountain';
    const along = Math.atan2(d[1], d[0]) - Math.PI / 2;
    const frame: Isometry = behind
      ? { angleRad: along + Math.PI, flip: true, dx: hinge.from[0], dy: hinge.from[1] }
      : turn(along, ...hinge.from);
    const back = inverse(frame);
    const [left, right] = (behind ? [...sides].reverse() : sides).map((panel) => ({
      partId: part.id,
      frame,
      depthMm: Math.max(...panel.region.outer.map((p) => Math.abs(place(back, p)[0]))),
    }));
    return [
      {
        kind: 'fold',
        partId: part.id,
        lineId: hinge.id,
        name: `${part.name}: ${behind ? 'inside ' : ''}fold ${i + 1}`,
        lengthMm,
        left,
        right,
        reachMm: Math.min(left.depthMm, right.depthMm),
        lowMm: 0,
        highMm: lengthMm,
      },
    ];
  });
}

/**
 * Folds of a mechanism's parts that the family itself does not offer: between any two panels that are no tabs. Rulings stand
 * for a bend, not for folds.
 */
const otherFolds = ({ parts, gutters }: Contribution): Gutter[] =>
  parts
    .flatMap((part) => foldsOf(part, (panelId) => !panelId.startsWith('tab-')))
    .filter((fold) => !fold.lineId.startsWith('ruling-'))
    .filter((fold) => !gutters.some((g) => g.partId === fold.partId && g.lineId === fold.lineId));

/** Mirrors in the card's fold: a place on one half to the place that it lies on when the card is closed. */
const OTHER_HALF: Isometry = { angleRad: Math.PI, flip: true, dx: 0, dy: 0 };

/** The two halves of the card as panels, or the doors and the back of a gatefold. */
function cardPanels({ brief }: Design): Gutter[] {
  const frame = cardFrame(brief);
  const { depthMm, gutterLengthMm } = cardMeasures(brief);
  const panel = (id: string, name: string, minX: number, maxX: number) =>
    panelGutter(CARD_ID, id, name, frame, { minX, maxX, minY: 0, maxY: gutterLengthMm });
  if (brief.opening === 'gate')
    return [
      panel('left', 'the left door', -depthMm, -depthMm / 2),
      panel('right', 'the card’s back', -depthMm / 2, depthMm / 2),
      panel('door', 'the right door', depthMm / 2, depthMm),
    ];
  return (['left', 'right'] as const).map((side) => {
    const said = brief.opening === 'side' ? side : side === 'left' ? 'upper' : 'lower';
    const [minX, maxX] = side === 'left' ? [-depthMm, 0] : [0, depthMm];
    const half = panel(side, `the card’s ${said} half`, minX, maxX);
    const inCard = compose(inverse(frame), half.left.frame);
    return {
      ...half,
      facing: {
        ...half.left,
        frame: compose(frame, compose(OTHER_HALF, inCard)),
        openAt: side === 'left' ? -1 : 1,
      },
    };
  });
}

const hostsOfDrafted = new WeakMap<DraftedPart, Gutter[]>();

/** Builds instances, those first whose host is there already; what stands on nothing, or cannot be built, is a fault. */
function buildAll(design: Design): { built: Built[]; gutters: Gutter[]; faults: BuildFault[] } {
  const gutters = new Map<string, Gutter>();
  const offer = (made: Gutter) => gutters.set(gutterKey(made.partId, made.lineId), made);
  const doors = cardDoors(design);
  [...cardGutters(design), ...(doors ? [doors] : []), ...cardPanels(design)].forEach(offer);
  for (const part of Object.values(design.parts)) {
    let hosts = hostsOfDrafted.get(part);
    if (!hosts) hostsOfDrafted.set(part, (hosts = draftedHosts(plainPart(part))));
    hosts.forEach(offer);
  }
  const built: Built[] = [];
  const faults: BuildFault[] = [];
  let waiting = Object.values(design.instances);
  for (let grown = true; grown && waiting.length > 0;) {
    grown = false;
    const later: Instance[] = [];
    for (const instance of waiting) {
      const gutter = gutters.get(gutterKey(instance.host.partId, instance.host.gutterId));
      if (!gutter) {
        later.push(instance);
        continue;
      }
      grown = true;
      try {
        const contribution = contributionOf(instance, gutter);
        built.push({ instance, gutter, contribution });
        contribution.gutters.forEach(offer);
        otherFolds(contribution).forEach(offer);
        panelsOf(contribution).forEach(offer);
      } catch (fault) {
        if (!(fault instanceof RangeError)) throw fault;
        faults.push({ subject: instance.id, message: `${instance.name} cannot be built. ${fault.message}` });
      }
    }
    waiting = later;
  }
  for (const instance of waiting)
    faults.push({ subject: instance.id, message: `${instance.name} stands on a fold that is not there.` });
  return { built, gutters: [...gutters.values()], faults };
}

/** Lines and marks that mechanisms add to what they stand on, by part, in the part's plane. */
function hostWorkOf(built: readonly Built[]): {
  lines: Map<string, DieLine[]>;
  marks: Map<string, PanelMark[]>;
} {
  const [lines, marks] = [new Map<string, DieLine[]>(), new Map<string, PanelMark[]>()];
  const push = <T>(map: Map<string, T[]>, partId: string, value: T) =>
    map.set(partId, [...(map.get(partId) ?? []), value]);
  for (const { gutter, contribution } of built) {
    for (const { side, line } of contribution.hostLines) {
      const host = gutter[side];
      if (host) push(lines, host.partId, { ...line, path: placePath(host.frame, line.path) });
    }
    for (const { side, mark } of contribution.hostMarks)
      push(marks, gutter[side].partId, { ...mark, at: place(gutter[side].frame, mark.at) });
  }
  return { lines, marks };
}

const expansions = new WeakMap<Design, Expanded>();

/**
 * Builds every part and joint of a design. Faulty instances, orphaned additions and joints are reported, never dropped
 * from the document; what can be built is built.
 */
export function expand(design: Design): Expanded {
  const known = expansions.get(design);
  if (known) return known;
  const folds = cardGutters(design).map((fold) => fold.lineId);
  const { built, gutters, faults } = buildAll(design);
  const instanceOf: Record<string, string> = {};
  const gutterOf: Record<string, Gutter> = {};
  const panelFrames: Record<string, Record<string, Isometry>> = { [CARD_ID]: CARD_FRAMES };
  for (const { instance, gutter: host, contribution } of built) {
    gutterOf[instance.id] = host;
    for (const part of contribution.parts) instanceOf[part.id] = instance.id;
    for (const [partId, frames] of Object.entries(contribution.panelFrames))
      panelFrames[partId] = { ...panelFrames[partId], ...frames };
  }
  const { lines: added, marks } = hostWorkOf(built);
  const onCard: HostWork = {
    lines: added.get(CARD_ID) ?? [],
    marks: marks.get(CARD_ID) ?? [],
    gaps: built
      .filter((b) => b.gutter.partId === CARD_ID && folds.includes(b.gutter.lineId))
      .flatMap((b) => b.contribution.gutterGaps.map((gap) => ({ ...gap, lineId: b.gutter.lineId }))),
  };
  added.delete(CARD_ID);
  const plain = [
    cardPart(design, onCard),
    ...built.flatMap((b) => b.contribution.parts),
    ...Object.values(design.parts).map(plainPart),
  ];
  for (const addition of Object.values(design.additions)) {
    const frame = panelFrames[addition.partId]?.[addition.panelId];
    if (!frame) {
      faults.push({
        subject: addition.id,
        message: `A line drawn on ${addition.partId} has lost its panel ("${addition.panelId}").`,
      });
      continue;
    }
    const line = { ...addition.line, path: placePath(frame, addition.line.path) };
    added.set(addition.partId, [...(added.get(addition.partId) ?? []), line]);
  }
  const parts = plain.map((part) => withAdditions(part, added.get(part.id) ?? []));
  const partIds = new Set(parts.map((part) => part.id));
  const joints: Joint[] = built.flatMap((b) => [...b.contribution.joints]);
  for (const joint of Object.values(design.joints)) {
    if (partIds.has(joint.partId) && partIds.has(joint.hostPartId)) joints.push(joint);
    else
      faults.push({
        subject: joint.id,
        message: `A joint has lost its part (${joint.partId} onto ${joint.hostPartId}).`,
      });
  }
  const loose = new Set(built.flatMap((b) => b.contribution.loose ?? []));
  const expanded: Expanded = {
    parts,
    joints,
    gutter: gutters[0],
    gutters,
    gutterOf,
    instanceOf,
    panelFrames,
    loose,
    leaning: new Set(built.flatMap((b) => b.contribution.leaning ?? [])),
    takenOut: new Set(built.flatMap((b) => b.contribution.takenOut ?? [])),
    faults,
  };
  expansions.set(design, expanded);
  return expanded;
}

/** An instance's handles with places and drags in the planes of the parts they sit on. */
export function handlesOf(instance: Instance, gutter: Gutter): Handle[] {
  const family = familyById(instance.family);
  if (!family) return [];
  return family.handles(instance.params, buildContext(instance, gutter)).map((handle) => {
    // Handles on the host sit on the side of the fold where they are.
    const side = handle.partId === HOST_PART ? gutter[handle.at[0] < 0 ? 'left' : 'right'] : undefined;
    const frame = side?.frame ?? IDENTITY;
    const back = inverse(frame);
    const turned: Isometry = { ...frame, dx: 0, dy: 0 };
    return {
      ...handle,
      partId: side?.partId ?? handle.partId,
      at: place(frame, handle.at),
      axis: handle.axis && place(turned, handle.axis),
      drag: (to: Point): Params => handle.drag(place(back, to)),
    };
  });
}
