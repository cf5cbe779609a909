/** From the design document to plain parts and joints: what every later computation works on. */
import { gluesOf, type Design, type DraftedPart, type Instance, type Joint } from '../design/design.ts';
import { CARD_ID, tableGutter, turnedGutter, type Gutter } from '../design/frames.ts';
import { panelPlan } from '../dieline/panels.ts';
import { isFold, type DieLine, type Part } from '../dieline/part.ts';
import { takeOut } from '../dieline/takeOut.ts';
import { compose, IDENTITY, inverse, place, type Isometry } from '../geometry/isometry.ts';
import { endOf, placePath } from '../geometry/path.ts';
import type { Point } from '../geometry/point.ts';
import { buildBase, CARD_FRAMES } from './card.ts';
import { HOST_PART, type BuildContext, type Contribution, type Handle, type Params } from './family.ts';
import { baseHosts, draftedHosts, otherFolds, panelsOf } from './hosts.ts';
import { hostWorkOf, worked, type Built, type HostWork } from './hostWork.ts';
import { standsOn } from './instance.ts';
import { mounted, usualMount } from './mounting.ts';
import { foldsOnSheets, laidSheets } from './onSheets.ts';
import { markLines, zoneMarks } from './paperMarks.ts';
import { familyById } from './registry.ts';
import type { Stock } from '../stock/stock.ts';
import { fitsFor } from '../stock/readings.ts';
import type { Fits } from '../stock/stock.ts';
import { stockIn, storeWith, USUAL_STORE, type Store } from '../stock/store.ts';
import { outsideSpecs } from './limits.ts';

export interface BuildFault {
  readonly subject: string;
  readonly message: string;
}

export interface Expanded {
  readonly parts: readonly Part[];
  readonly joints: readonly Joint[];
  /** The design's view of the store. */
  readonly store: Store;
  /** What everything stands on, and the part that holds still; null when there is none. */
  readonly base: Design['base'];
  readonly rootPartId: string | null;
  /** Every fold and panel that a mechanism may stand on, those of the base first, and the one on which each instance does. */
  readonly gutters: readonly Gutter[];
  readonly gutterOf: Readonly<Record<string, Gutter>>;
  /** The instance that a part belongs to; absent for the card and drafted parts. */
  readonly instanceOf: Readonly<Record<string, string>>;
  readonly panelFrames: Readonly<Record<string, Readonly<Record<string, Isometry>>>>;
  /** Parts that are meant to be loose. */
  readonly loose: ReadonlySet<string>;
  /** Parts that lean on the card where stiff ones would run into it. */
  readonly leaning: ReadonlySet<string>;
  /** Parts that stand by themselves, on nothing of the design; and the steps in which they are folded up, by instance. */
  readonly alone: ReadonlySet<string>;
  /** Those of them that are glued onto a panel, folded up. */
  readonly mounted: ReadonlySet<string>;
  readonly stages: Readonly<Record<string, readonly string[]>>;
  /** By instance, by how much paper must give at evenly spaced moments of its folding up, mm. */
  readonly strains: Readonly<Record<string, readonly number[]>>;
  /** In how many steps what is drafted folds up. */
  readonly drawnStages: number;
  /** Parts that are taken out before the card is closed. */
  readonly takenOut: ReadonlySet<string>;
  /** Instances that could not be built, additions whose panel is gone, joints whose parts are gone. */
  readonly faults: readonly BuildFault[];
}

const contributions = new WeakMap<Instance, { key: string; contribution: Contribution }>();
const drafted = new WeakMap<DraftedPart, Part>();
const bases = new Map<string, Part | null>();

function buildContext(instance: Instance, gutter: Gutter, store: Store, fits: Fits): BuildContext {
  const { id, name, stockId } = instance;
  return { instanceId: id, name, stockId, stock: stockIn(store, stockId), fits, gutter };
}

/** Whether every number in a value is one: measures that contradict each other leave none. */
const isFinite = (value: unknown): boolean =>
  typeof value === 'number'
    ? Number.isFinite(value)
    : typeof value !== 'object' || value === null || Object.values(value).every(isFinite);

function contributionOf(instance: Instance, gutter: Gutter, store: Store, machineId: string): Contribution {
  const family = familyById(instance.family);
  if (!family) throw new RangeError(`This version has no mechanism called "${instance.family}".`);
  if (!standsOn(family, gutter))
    throw new RangeError(
      family.on === 'table'
        ? 'It stands by itself or on a panel, not on a fold.'
        : family.on === 'panel'
          ? 'It lies on a panel: choose one, not a fold.'
          : gutter.kind === 'doors'
            ? 'It stands on one fold: choose one, not both doors.'
            : 'It stands on a fold: choose one, not a panel.',
    );
  const context = buildContext(instance, gutter, store, fitsFor(store, instance.stockId, machineId));
  const key = JSON.stringify([gutter, context.stock, context.fits]);
  const known = contributions.get(instance);
  if (known?.key === key) return known.contribution;
  const outside = outsideSpecs(family, instance.params);
  if (outside) throw new RangeError(outside);
  const own = family.build(instance.params, context);
  const contribution =
    family.on === 'table' && gutter.kind === 'panel'
      ? mounted(own, instance.id, gutter, instance.mount ?? usualMount(gutter))
      : own;
  if (!isFinite(contribution)) {
    const broken = family
      .constraints(instance.params, gutter, 0, store.fits)
      .find(({ overMm }) => !(overMm <= 0));
    throw new RangeError(
      broken?.reason ?? 'With these measures there is nothing to draw: change the last one.',
    );
  }
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
    lines: [...Object.values(part.lines), ...zoneMarks(part)],
    glueZones: Object.values(part.glueZones),
    marks: Object.values(part.marks),
  };
  drafted.set(part, plain);
  return plain;
}

/** The part of the base, kept the same value while nothing that it is made of changes (panels are remembered per value). */
function basePart(design: Design): Part | null {
  const key = JSON.stringify([design.base, design.brief, design.settings.cardStockId]);
  const known = bases.get(key);
  if (known !== undefined) return known;
  if (bases.size > 40) bases.clear();
  const part = buildBase(design);
  bases.set(key, part);
  return part;
}

/** The part that holds still: the base, or of a structure the one that is named, or else the first. */
function rootOf({ base }: Design, parts: readonly Part[]): string | null {
  const named = base.kind === 'structure' ? base.rootPartId : null;
  return (parts.find(({ id }) => id === named) ?? parts.at(0))?.id ?? null;
}

const stagesDrawn = new WeakMap<DraftedPart, number>();

/** The last step in which a fold of a drafted part turns. */
function lastStage(part: DraftedPart): number {
  const known = stagesDrawn.get(part);
  if (known !== undefined) return known;
  const last = Object.values(part.lines).reduce((most, { fold }) => Math.max(most, fold?.stage ?? 0), 0);
  stagesDrawn.set(part, last);
  return last;
}

const withLines = new WeakMap<Part, { key: string; part: Part }>();

/** The part with what mechanisms do to it and what is drawn on it, the same value while these stay the same. */
function withWork(part: Part, work: HostWork | undefined, drawn: readonly DieLine[]): Part {
  if (!work && drawn.length === 0) return part;
  const key = JSON.stringify([work, drawn]);
  const known = withLines.get(part);
  if (known?.key === key) return known.part;
  const host = work ? worked(part, work) : part;
  const opened = drawn.flatMap(({ opensFold, path }) =>
    opensFold ? [{ from: path.start, to: endOf(path) }] : [],
  );
  const lines = opened.reduce<readonly DieLine[]>(
    (left, stretch) => left.flatMap((line) => (isFold(line) ? takeOut(line, stretch) : [line])),
    host.lines,
  );
  const next = { ...host, lines: [...lines, ...drawn] };
  withLines.set(part, { key, part: next });
  return next;
}

const stocked = new WeakMap<Part, { stock: Stock; part: Part }>();

const glued = new WeakMap<Part, { key: string; part: Part }>();

/** The part with how thick the adhesives of its zones are, where any is named; the same value while these stay the same. */
function withAdhesives(part: Part, { adhesives }: Store): Part {
  const thickness = (id: string | undefined) =>
    id !== undefined && Object.hasOwn(adhesives, id) ? adhesives[id].thicknessMm : undefined;
  const named = part.glueZones.map(({ adhesiveId }) => thickness(adhesiveId));
  if (named.every((mm) => mm === undefined)) return part;
  const key = named.join();
  const known = glued.get(part);
  if (known?.key === key) return known.part;
  const glueZones = part.glueZones.map((zone, i) =>
    named[i] === undefined ? zone : { ...zone, adhesiveMm: named[i] },
  );
  const next = { ...part, glueZones };
  glued.set(part, { key, part: next });
  return next;
}

/** The part with its stock, where that is the design's own; the same value while both stay the same. */
function ofStock(part: Part, { stocks = {} }: Design['store']): Part {
  const stock = Object.hasOwn(stocks, part.stockId) ? stocks[part.stockId] : undefined;
  if (!stock) return part;
  const known = stocked.get(part);
  if (known?.stock === stock) return known.part;
  const next = { ...part, stock };
  stocked.set(part, { stock, part: next });
  return next;
}

const gutterKey = (partId: string, lineId: string): string => `${partId}|${lineId}`;

const hostsOfDrafted = new WeakMap<DraftedPart, Gutter[]>();

/** Builds instances, those first whose host is there already; what stands on nothing, or cannot be built, is a fault. */
function buildAll(design: Design, store: Store): { built: Built[]; gutters: Gutter[]; faults: BuildFault[] } {
  const gutters = new Map<string, Gutter>();
  const offer = (made: Gutter) => gutters.set(gutterKey(made.partId, made.lineId), made);
  baseHosts(design).forEach(offer);
  offer(tableGutter(design));
  for (const part of Object.values(design.parts)) {
    let hosts = hostsOfDrafted.get(part);
    if (!hosts) hostsOfDrafted.set(part, (hosts = draftedHosts(plainPart(part))));
    hosts.forEach(offer);
  }
  const built: Built[] = [];
  const faults: BuildFault[] = [];
  /** Folds, and what lies on their sides: known anew whenever a sheet is laid. */
  const sheets = laidSheets(
    Object.values(design.parts).map(plainPart),
    gluesOf(Object.values(design.joints)),
  );
  const coverFolds = () => {
    if (sheets.length === 0) return;
    for (const fold of [...gutters.values()])
      if (!fold.lineId.includes('@')) foldsOnSheets(fold, sheets).forEach(offer);
  };
  coverFolds();
  let waiting = Object.values(design.instances);
  for (let grown = true; grown && waiting.length > 0;) {
    grown = false;
    const later: Instance[] = [];
    for (const instance of waiting) {
      const host = gutters.get(gutterKey(instance.host.partId, instance.host.gutterId));
      const gutter = host && turnedGutter(host, instance.turnDeg ?? 0);
      if (!gutter) {
        later.push(instance);
        continue;
      }
      grown = true;
      try {
        const contribution = contributionOf(instance, gutter, store, design.settings.machineId);
        built.push({ instance, gutter, contribution });
        contribution.gutters.forEach(offer);
        otherFolds(contribution).forEach(offer);
        panelsOf(contribution).forEach(offer);
        sheets.push(...laidSheets(contribution.parts, gluesOf(contribution.joints)));
      } catch (fault) {
        if (!(fault instanceof RangeError)) throw fault;
        faults.push({ subject: instance.id, message: `${instance.name} cannot be built. ${fault.message}` });
      }
    }
    waiting = later;
    coverFolds();
  }
  for (const instance of waiting)
    faults.push({ subject: instance.id, message: `${instance.name} stands on a fold that is not there.` });
  return { built, gutters: [...gutters.values()], faults };
}

const expansions = new WeakMap<Design, Expanded>();

/**
 * Builds every part and joint of a design. Faulty instances, orphaned additions and joints are reported, never dropped
 * from the document; what can be built is built.
 */
export function expand(design: Design): Expanded {
  const known = expansions.get(design);
  if (known) return known;
  const store = storeWith(design.store);
  const { built, gutters, faults } = buildAll(design, store);
  const instanceOf: Record<string, string> = {};
  const gutterOf: Record<string, Gutter> = {};
  const base = basePart(design);
  const panelFrames: Record<string, Record<string, Isometry>> = base ? { [CARD_ID]: CARD_FRAMES } : {};
  for (const { instance, gutter: host, contribution } of built) {
    gutterOf[instance.id] = host;
    for (const part of contribution.parts) instanceOf[part.id] = instance.id;
    for (const [partId, frames] of Object.entries(contribution.panelFrames))
      panelFrames[partId] = { ...panelFrames[partId], ...frames };
  }
  const work = hostWorkOf(built);
  const drawn = new Map<string, DieLine[]>();
  const plain = [
    ...(base ? [base] : []),
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
    drawn.set(addition.partId, [...(drawn.get(addition.partId) ?? []), line]);
  }
  // What will be glued somewhere is marked there, as asked.
  for (const joint of gluesOf(Object.values(design.joints))) {
    const part = joint.marks && design.parts[joint.partId];
    const host = part && plain.find(({ id }) => id === joint.hostPartId);
    const frame = joint.onPanel === undefined ? IDENTITY : panelFrames[joint.hostPartId]?.[joint.onPanel];
    if (!part || !host || !frame) continue;
    const paper = panelPlan(host).panels.map(({ region }) => region);
    const made = markLines(joint, compose(frame, joint.placement), part, plainPart(part), paper);
    drawn.set(host.id, [...(drawn.get(host.id) ?? []), ...made]);
  }
  const parts = plain
    .map((part) => withWork(part, work.get(part.id), drawn.get(part.id) ?? []))
    .map((part) => withAdhesives(ofStock(part, design.store), store));
  const partIds = new Set(parts.map((part) => part.id));
  const nameOf = (id: string) => parts.find((part) => part.id === id)?.name ?? id;
  const joints: Joint[] = built.flatMap((b) => [...b.contribution.joints]);
  for (const joint of Object.values(design.joints)) {
    if (partIds.has(joint.partId) && partIds.has(joint.hostPartId)) {
      const frame =
        joint.kind === 'glue' && joint.onPanel !== undefined
          ? panelFrames[joint.hostPartId]?.[joint.onPanel]
          : IDENTITY;
      if (!frame)
        faults.push({
          subject: joint.id,
          message: `What ${nameOf(joint.partId)} was glued to on ${nameOf(joint.hostPartId)} is not there any more: glue it to another panel.`,
        });
      else if (joint.kind === 'glue' && joint.onPanel !== undefined)
        joints.push({ ...joint, placement: compose(frame, joint.placement) });
      else joints.push(joint);
    } else
      faults.push({
        subject: joint.id,
        message: `A joint has lost its part (${joint.partId} onto ${joint.hostPartId}).`,
      });
  }
  const loose = new Set(built.flatMap((b) => b.contribution.loose ?? []));
  const alone = built.filter(({ instance }) => familyById(instance.family)?.on === 'table');
  const partIdsOf = (some: readonly Built[]) =>
    new Set(some.flatMap(({ contribution }) => contribution.parts.map(({ id }) => id)));
  const expanded: Expanded = {
    parts,
    joints,
    base: design.base,
    store,
    rootPartId: rootOf(design, [
      ...(base ? [base] : []),
      ...Object.values(design.parts).map(plainPart),
      ...parts,
    ]),
    gutters,
    gutterOf,
    instanceOf,
    panelFrames,
    loose,
    leaning: new Set(built.flatMap((b) => b.contribution.leaning ?? [])),
    takenOut: new Set(built.flatMap((b) => b.contribution.takenOut ?? [])),
    alone: partIdsOf(alone),
    mounted: partIdsOf(alone.filter(({ gutter }) => gutter.kind !== 'table')),
    stages: Object.fromEntries(
      built.flatMap(({ instance, contribution: { stages } }) => (stages ? [[instance.id, stages]] : [])),
    ),
    strains: Object.fromEntries(
      built.flatMap(({ instance, contribution: { strainMm } }) =>
        strainMm ? [[instance.id, strainMm]] : [],
      ),
    ),
    drawnStages: 1 + Math.max(0, ...Object.values(design.parts).map(lastStage)),
    faults,
  };
  expansions.set(design, expanded);
  return expanded;
}

/** An instance's handles with places and drags in the planes of the parts they sit on. */
export function handlesOf(instance: Instance, gutter: Gutter, store: Store = USUAL_STORE): Handle[] {
  const family = familyById(instance.family);
  if (!family) return [];
  return family.handles(instance.params, buildContext(instance, gutter, store, store.fits)).map((handle) => {
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
