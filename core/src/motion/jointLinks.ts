/**
 * Joints other than glue as links: each an elementary motion, or a chain of two with a body of no paper between. One
 * builder for each kind of joint. Joints whose part, panel or line is gone, or that have no length, are faults, never
 * dropped silently.
 */
import type { Expanded } from '../mechanisms/expand.ts';
import type { Drive, Joint } from '../design/design.ts';
import { panelAt, type PanelPlan } from '../dieline/panels.ts';
import {
  compose,
  IDENTITY,
  inverse,
  place,
  turn,
  TURNED_ABOUT_X,
  type Isometry,
} from '../geometry/isometry.ts';
import { distance, middle, subtract, type Point } from '../geometry/point.ts';
import { distanceToRing } from '../geometry/polygon.ts';
import { fromIsometry, rigidIdentity } from '../geometry/rigid.ts';
import { SNAP_MM } from '../geometry/tolerances.ts';
import type { Crease, Driver, HeldFold, Link, LinkageFault, Lying, Passage } from './links.ts';
import type { PanelRef } from './panelRef.ts';

const RAD = Math.PI / 180;
/** So near must a host's paper be to what it holds: the half width of a slot or window. */
const NEAR_MM = 60;

/** What joints are hung on. */
export interface Hanging {
  readonly expanded: Expanded;
  readonly plans: readonly PanelPlan[];
  /** Index of each part's first panel in the linkage's panels. */
  readonly firstPanel: readonly number[];
  readonly panels: readonly PanelRef[];
  readonly creases: readonly Crease[];
  readonly creaseLinks: readonly Link[];
  readonly heldFolds: readonly HeldFold[];
  /** How many bodies of paper there are. */
  readonly paperBodies: number;
}

export interface Hung {
  readonly links: readonly Link[];
  readonly drivers: readonly Driver[];
  readonly bodyCount: number;
  readonly laid: readonly Lying[];
  readonly excused: readonly (readonly [number, number])[];
  readonly passages: readonly Passage[];
  readonly wrapped: ReadonlyMap<number, number>;
  readonly faults: readonly LinkageFault[];
}

type JointOf<K extends Joint['kind']> = Extract<Joint, { kind: K }>;
/** Tongues, half slots and stops: they lean from the line that holds them. */
type Leaning = Extract<Joint, { leanDeg: number }>;
type Lined = Leaning | JointOf<'wrap'>;

/** Where a joint holds: a panel as an index into the linkage's panels, with its body and placement. */
interface Held {
  readonly panel: number;
  readonly body: number;
  readonly placement: Isometry;
}

/** The frame with its origin at the first of two points and x towards the second. */
const alongLine = ([a, b]: readonly [Point, Point]): Isometry => {
  const d = subtract(b, a);
  return turn(Math.atan2(d[1], d[0]), a[0], a[1]);
};

const plainLink = (kind: Link['kind'], left: number, right: number, jointId: string): Link => ({
  kind,
  left,
  right,
  inLeft: rigidIdentity(),
  inRight: rigidIdentity(),
  sign: 0,
  seed: 0,
  unbent: 0,
  drive: null,
  stops: null,
  crease: -1,
  jointId,
  halfMm: 0,
  bandMm: 0,
});

/** Across a line: the x of a slide is the line's y. */
const ACROSS = turn(Math.PI / 2);

/** How what is held on a line leans from it. */
const leanOf = ({ leanDeg, on }: Pick<Leaning, 'leanDeg' | 'on'>) => ({
  sign: Math.sign(leanDeg) as 1 | -1 | 0,
  seed: leanDeg * RAD,
  halfMm: distance(...on) / 2,
});

/** What the first driver does: it opens a card, folds a structure up (180 is flat); a flat sheet has nothing to open. */
const OPENING_NAMES = { card: 'Opening', sheet: 'Lying flat', structure: 'Folding up' } as const;
const OPENING = { id: 'opening', unit: 'deg', from: 0, to: 180, rest: 180, atOpeningDeg: 180 } as const;

/** Collects links, drivers and faults while joint after joint is hung. */
class Hanger {
  readonly links: Link[];
  readonly drivers: Driver[];
  readonly laid: Lying[] = [];
  readonly excused: (readonly [number, number])[] = [];
  readonly passages: Passage[] = [];
  readonly faults: LinkageFault[] = [];
  bodyCount: number;
  private readonly driverOfStrip = new Map<string, number>();
  private readonly partIndex: ReadonlyMap<string, number>;
  /** Bodies of bands that bend round an edge, with the body of their host. */
  readonly wrapped = new Map<number, number>();

  constructor(private readonly on: Hanging) {
    const { kind } = on.expanded.base;
    this.drivers = [{ ...OPENING, name: OPENING_NAMES[kind], ...(kind === 'sheet' ? { still: true } : {}) }];
    this.links = [...on.creaseLinks];
    this.bodyCount = on.paperBodies;
    this.partIndex = new Map(on.expanded.parts.map((part, i) => [part.id, i]));
  }

  hang(joint: Joint): void {
    switch (joint.kind) {
      case 'glue':
        return;
      case 'hand':
        return this.hand(joint);
      case 'pivot':
        return this.pivot(joint);
      case 'slide':
        return this.slide(joint);
      case 'pin':
        return this.pin(joint);
      case 'tongue':
        return this.tongue(joint);
      case 'cross':
        return this.cross(joint);
      case 'rest':
        return this.rest(joint);
      case 'wrap':
        return this.wrap(joint);
    }
  }

  private nameOf(partId: string): string {
    return this.on.expanded.parts.find((part) => part.id === partId)?.name ?? partId;
  }

  private fault(joint: Joint, message: string, at: Point, partId = joint.partId): undefined {
    this.faults.push({ kind: 'jointNowhere', jointId: joint.id, partId, at, message });
    return undefined;
  }

  private driverOf(joint: Joint, drive: Drive, unit: 'deg' | 'mm'): number {
    this.drivers.push({ ...drive, id: joint.id, unit });
    return this.drivers.length - 1;
  }

  /** A drive as a link has it: degrees are radians there. */
  private driveOf(joint: Joint, drive: Drive | null, unit: 'deg' | 'mm'): Link['drive'] {
    return (
      drive && { driver: this.driverOf(joint, drive, unit), offset: 0, factor: unit === 'deg' ? RAD : 1 }
    );
  }

  /** The panel of a part at a point of its plane; a missing one is a fault. */
  private panelOf(joint: Joint, partId: string, at: Point): Held | undefined {
    const { plans, firstPanel, panels } = this.on;
    const p = this.partIndex.get(partId);
    const panel = p === undefined ? -1 : panelRound(plans[p], at);
    if (p === undefined || panel < 0)
      return this.fault(
        joint,
        `The ${words[joint.kind]} “${joint.id}” holds ${this.nameOf(partId)} where there is no paper: move it onto the part.`,
        at,
        partId,
      );
    const index = firstPanel[p] + panel;
    return { panel: index, body: panels[index].body, placement: panels[index].placement };
  }

  /** Both ends of a joint, or nothing (a fault) when they are nowhere or one body. */
  private ends(joint: Joint, at: Point, onHost: Point): readonly [Held, Held] | undefined {
    const held = this.panelOf(joint, joint.partId, at);
    const host = held && this.panelOf(joint, joint.hostPartId, onHost);
    if (!held || !host) return undefined;
    if (held.body !== host.body) return [held, host];
    return this.fault(
      joint,
      `The ${words[joint.kind]} of ${this.nameOf(joint.partId)} cannot move: glue makes it one with what it should move on. Take that glue away.`,
      'at' in joint ? joint.at : at,
    );
  }

  private hand(joint: JointOf<'hand'>): void {
    const driver = this.driverOf(joint, joint.drive, 'deg');
    for (const fold of joint.folds) {
      const crease = this.on.creases.findIndex(
        (c) => c.partId === joint.partId && c.lineIds.includes(fold.lineId),
      );
      if (crease >= 0) {
        this.links[crease] = {
          ...this.links[crease],
          drive: { driver, offset: 0, factor: fold.factor * RAD },
        };
        continue;
      }
      const held = this.on.heldFolds.find(
        (f) => f.partId === joint.partId && f.lineIds.includes(fold.lineId),
      );
      this.fault(
        joint,
        held
          ? `“${joint.drive.name}” cannot turn the fold “${fold.lineId}” of ${this.nameOf(joint.partId)}: glue holds both its sides. Take the glue away beyond the fold.`
          : `“${joint.drive.name}” should turn the fold “${fold.lineId}”, which is not there: draw it or take the handle away.`,
        held ? middle(held.from, held.to) : [0, 0],
      );
    }
  }

  /** A part that a joint lays on its host, from `onHost`: both ends, and a frame of the host in the planes of their bodies. */
  private placed(joint: JointOf<'pivot' | 'slide' | 'pin'>, onHost: Point) {
    const ends = this.ends(joint, joint.at, onHost);
    if (!ends) return undefined;
    const [held, host] = ends;
    this.laid.push({
      panel: held.panel,
      host: host.panel,
      onFront: joint.face === 'front',
      turned: (host.placement.flip !== joint.placement.flip) !== held.placement.flip,
    });
    return {
      held,
      host,
      inHost: (frame: Isometry) => fromIsometry(compose(host.placement, frame)),
      inPart: (frame: Isometry) =>
        fromIsometry(compose(held.placement, compose(inverse(joint.placement), frame))),
    };
  }

  private pivot(joint: JointOf<'pivot'>): void {
    const onHost = place(joint.placement, joint.at);
    const laid = this.placed(joint, onHost);
    if (!laid) return;
    const frame = compose(turn(0, ...onHost), joint.behind ? TURNED_ABOUT_X : IDENTITY);
    this.links.push({
      ...plainLink('pivot', laid.host.body, laid.held.body, joint.id),
      inLeft: laid.inHost(frame),
      inRight: laid.inPart(frame),
      stops: joint.stops && [joint.stops.from * RAD, joint.stops.to * RAD],
      drive: this.driveOf(joint, joint.drive, 'deg'),
    });
  }

  private slide(joint: JointOf<'slide'>): void {
    const onHost = place(joint.placement, joint.at);
    const laid = this.placed(joint, onHost);
    if (!laid) return;
    const frame = turn(joint.directionDeg * RAD, ...onHost);
    this.links.push({
      ...plainLink('slide', laid.host.body, laid.held.body, joint.id),
      inLeft: laid.inHost(frame),
      inRight: laid.inPart(frame),
      stops: [joint.stops.from, joint.stops.to],
      drive: this.driveOf(joint, joint.drive, 'mm'),
    });
  }

  /** It runs along the slit, and turns in it. */
  private pin(joint: JointOf<'pin'>): void {
    if (distance(...joint.slit) < SNAP_MM)
      return this.noLength(joint, 'slit', joint.slit[0], joint.hostPartId);
    const laid = this.placed(joint, joint.slit[0]);
    if (!laid) return;
    const onHost = place(joint.placement, joint.at);
    const slit = alongLine(joint.slit);
    const between = this.bodyCount++;
    this.links.push(
      {
        ...plainLink('slide', laid.host.body, between, joint.id),
        inLeft: laid.inHost(slit),
        seed: distance(onHost, joint.slit[0]),
        stops: [0, distance(...joint.slit)],
      },
      {
        ...plainLink('pivot', between, laid.held.body, joint.id),
        inRight: laid.inPart(turn(slit.angleRad, ...onHost)),
      },
    );
  }

  private noLength(joint: Joint, what: string, at: Point, partId: string): undefined {
    return this.fault(
      joint,
      `The ${what} for the ${words[joint.kind]} of ${this.nameOf(joint.partId)} has no length: draw its two ends apart.`,
      at,
      partId,
    );
  }

  /** A line of a part that a joint holds on a line of its host: both ends, and the frames along the lines in their bodies. */
  private lined(joint: Lined) {
    if (distance(...joint.slot) < SNAP_MM)
      return this.noLength(joint, slotWords[joint.kind], joint.slot[0], joint.hostPartId);
    if (distance(...joint.on) < SNAP_MM) return this.noLength(joint, 'line', joint.on[0], joint.partId);
    const ends = this.ends(joint, joint.within, middle(...joint.slot));
    if (!ends) return undefined;
    const [held, host] = ends;
    return {
      held,
      host,
      // Seen from behind, what is left of the line is right of it, and what leans towards one leans away.
      slot: compose(host.placement, compose(alongLine(joint.slot), joint.behind ? TURNED_ABOUT_X : IDENTITY)),
      on: compose(held.placement, alongLine(joint.on)),
    };
  }

  /** What passes through its host along the slot; where it holds in half slots, only along its own line too. */
  private passes(joint: Leaning, held: Held, host: Held): void {
    const at = ({ placement }: Held, [a, b]: readonly [Point, Point]): [Point, Point] => [
      place(placement, a),
      place(placement, b),
    ];
    this.passages.push({
      panel: held.panel,
      host: host.panel,
      slot: at(host, joint.slot),
      on: joint.kind === 'cross' ? at(held, joint.on) : null,
    });
  }

  private tongue(joint: Leaning): void {
    const lined = this.lined(joint);
    if (!lined) return;
    const { held, host, slot, on } = lined;
    this.passes(joint, held, host);
    const between = this.bodyCount++;
    this.links.push(
      {
        ...plainLink('fold', host.body, between, joint.id),
        ...leanOf(joint),
        inLeft: fromIsometry(slot),
      },
      {
        ...plainLink('slide', between, held.body, joint.id),
        inLeft: fromIsometry(ACROSS),
        inRight: fromIsometry(compose(on, ACROSS)),
        ...this.slides(joint),
      },
    );
  }

  private cross(joint: Leaning): void {
    const lined = this.lined(joint);
    if (!lined) return;
    const { held, host, slot, on } = lined;
    this.passes(joint, held, host);
    const lean = leanOf(joint);
    this.links.push({
      ...plainLink('fold', host.body, held.body, joint.id),
      ...lean,
      // In their slots pieces lie flat either way: open to one plane, or one on the other.
      unbent: Math.abs(joint.leanDeg) > 90 ? lean.sign * Math.PI : 0,
      inLeft: fromIsometry(slot),
      inRight: fromIsometry(on),
      drive: this.driveOf(joint, joint.drive, 'deg'),
    });
  }

  private rest(joint: Leaning): void {
    const lined = this.lined(joint);
    if (!lined) return;
    const { held, host, slot, on } = lined;
    const between = this.bodyCount++;
    this.links.push(
      {
        ...plainLink('slide', host.body, between, joint.id),
        inLeft: fromIsometry(compose(slot, ACROSS)),
        inRight: fromIsometry(ACROSS),
        ...this.slides(joint),
      },
      {
        ...plainLink('fold', between, held.body, joint.id),
        ...leanOf(joint),
        inRight: fromIsometry(on),
      },
    );
  }

  private slides(joint: Leaning): Pick<Link, 'stops' | 'drive'> {
    return {
      stops: joint.stops && [joint.stops.from, joint.stops.to],
      drive: this.driveOf(joint, joint.drive, 'mm'),
    };
  }

  private wrap(joint: JointOf<'wrap'>): void {
    const lined = this.lined(joint);
    if (!lined) return;
    const { held, host, slot, on } = lined;
    // The bands of one strip are moved by one pull.
    const driver = this.driverOfStrip.get(joint.partId) ?? this.driverOf(joint, joint.drive, 'mm');
    this.driverOfStrip.set(joint.partId, driver);
    this.wrapped.set(held.body, host.body);
    this.links.push({
      ...plainLink('wrap', host.body, held.body, joint.id),
      inLeft: fromIsometry(slot),
      inRight: fromIsometry(on),
      bandMm: joint.bandMm,
      drive: { driver, offset: -joint.startMm, factor: 1 },
    });
    this.laid.push({
      panel: held.panel,
      host: host.panel,
      onFront: !joint.behind,
      turned: joint.behind === true,
      layers: joint.layers,
    });
  }

  /** Bands are shown as plates while they bend: among themselves and with their host that is no catch, and no tear. */
  excuseBands(): void {
    const { panels } = this.on;
    const { wrapped, excused, links } = this;
    if (wrapped.size === 0) return;
    links.forEach((link, i) => {
      const [a, b] = [wrapped.get(link.left), wrapped.get(link.right)];
      if (link.kind === 'fold' && a !== undefined && a === b) links[i] = { ...link, bends: true };
    });
    panels.forEach(({ body: one }, i) => {
      for (let j = i + 1; j < panels.length; j++) {
        const other = panels[j].body;
        const [a, b] = [wrapped.get(one), wrapped.get(other)];
        if (a === other || b === one || (a !== undefined && a === b)) excused.push([i, j]);
      }
    });
  }
}

/**
 * Adds the links of all joints that are not glue to those of the creases.
 *
 * @returns all links, drivers (the opening first), the number of bodies with those of no paper, and what went wrong
 */
export function jointLinks(on: Hanging): Hung {
  const hanger = new Hanger(on);
  for (const joint of on.expanded.joints) hanger.hang(joint);
  hanger.excuseBands();
  return hanger;
}

/** The panel at a point, or the one round the hole or slot in which it lies (a pivot's own hole, a window). */
function panelRound(plan: PanelPlan, at: Point): number {
  const direct = panelAt(plan, at);
  if (direct >= 0) return direct;
  let [best, least] = [-1, NEAR_MM];
  plan.panels.forEach((panel, k) => {
    for (const ring of [panel.region.outer, ...panel.region.holes]) {
      const off = distanceToRing(at, ring);
      if (off < least) [best, least] = [k, off];
    }
  });
  return best;
}

const words: Readonly<Record<Joint['kind'], string>> = {
  glue: 'glue',
  pivot: 'pivot',
  slide: 'channel',
  pin: 'pin',
  tongue: 'tongue',
  cross: 'half slot',
  rest: 'stop',
  wrap: 'wrapped band',
  hand: 'handle',
};

const slotWords: Readonly<Record<Lined['kind'], string>> = {
  tongue: 'slot',
  cross: 'slot',
  rest: 'line to rest on',
  wrap: 'edge',
};
