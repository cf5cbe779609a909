/**
 * Joints other than glue as links: each an elementary motion, or a chain of two with a body of no paper between. Joints
 * whose part, panel or line is gone are faults, never dropped silently.
 */
import type { Expanded } from '../mechanisms/expand.ts';
import type { Drive, Joint } from '../design/design.ts';
import { panelAt, type PanelPlan } from '../dieline/panels.ts';
import { compose, inverse, place, turn, type Isometry } from '../geometry/isometry.ts';
import { distance, middle, subtract, type Point } from '../geometry/point.ts';
import { distanceToRing } from '../geometry/polygon.ts';
import { fromIsometry, rigidIdentity } from '../geometry/rigid.ts';
import type { Crease, Driver, Link, LinkageFault, Lying, Raised } from './links.ts';

const RAD = Math.PI / 180;
/** So near must a host's paper be to what it holds: the half width of a slot or window. */
const NEAR_MM = 60;

export interface Hung {
  readonly links: readonly Link[];
  readonly drivers: readonly Driver[];
  readonly bodyCount: number;
  readonly laid: readonly Lying[];
  readonly excused: readonly (readonly [number, number])[];
  readonly raised: readonly Raised[];
  readonly faults: readonly LinkageFault[];
}

/** Where a joint holds: panels as indices into the linkage's panels, and their bodies and placements. */
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

/**
 * Adds the links of all joints that are not glue to those of the creases.
 *
 * @param firstPanel index of each part's first panel in the linkage's panels
 * @param bodies, placements body and placement of every panel
 * @returns all links, drivers (the opening first), the number of bodies with those of no paper, and what went wrong
 */
export function jointLinks(
  expanded: Expanded,
  plans: readonly PanelPlan[],
  firstPanel: readonly number[],
  bodies: readonly number[],
  placements: readonly Isometry[],
  creases: readonly Crease[],
  creaseLinks: readonly Link[],
  paperBodies: number,
): Hung {
  const links = [...creaseLinks];
  const drivers: Driver[] = [
    { id: 'opening', name: 'Opening', unit: 'deg', from: 0, to: 180, rest: 180, atOpeningDeg: 180 },
  ];
  const laid: Lying[] = [];
  const excused: (readonly [number, number])[] = [];
  const raised: Raised[] = [];
  const driverOfStrip = new Map<string, number>();
  const faults: LinkageFault[] = [];
  const partIndex = new Map(expanded.parts.map((part, i) => [part.id, i]));
  let bodyCount = paperBodies;
  /** Bodies of bands that bend round an edge, with the body of their host. */
  const wrapped = new Map<number, number>();

  const driverOf = (joint: Joint, drive: Drive, unit: 'deg' | 'mm'): number => {
    drivers.push({ ...drive, id: joint.id, unit });
    return drivers.length - 1;
  };
  /** The bands of one strip are moved by one pull. */
  const wrapDriver = (joint: Extract<Joint, { kind: 'wrap' }>): number => {
    const known = driverOfStrip.get(joint.partId) ?? driverOf(joint, joint.drive, 'mm');
    driverOfStrip.set(joint.partId, known);
    return known;
  };
  /** The panel of a part at a point of its plane; a missing one is a fault. */
  const panelOf = (joint: Joint, partId: string, at: Point): Held | undefined => {
    const p = partIndex.get(partId);
    const panel = p === undefined ? -1 : panelRound(plans[p], at);
    if (p === undefined || panel < 0) {
      const name = p === undefined ? partId : expanded.parts[p].name;
      faults.push({
        kind: 'jointNowhere',
        jointId: joint.id,
        partId,
        at,
        message: `The ${words[joint.kind]} “${joint.id}” holds ${name} where there is no paper: move it onto the part.`,
      });
      return undefined;
    }
    const index = firstPanel[p] + panel;
    return { panel: index, body: bodies[index], placement: placements[index] };
  };
  const lay = (held: Held, host: Held, face: 'front' | 'back', flip: boolean) =>
    laid.push({
      panel: held.panel,
      host: host.panel,
      onFront: face === 'front',
      turned: (host.placement.flip !== flip) !== held.placement.flip,
    });
  const excuse = (a: Held, b: Held) =>
    excused.push(a.panel < b.panel ? [a.panel, b.panel] : [b.panel, a.panel]);

  for (const joint of expanded.joints) {
    switch (joint.kind) {
      case 'glue':
        break;
      case 'hand': {
        const driver = driverOf(joint, joint.drive, 'deg');
        for (const fold of joint.folds) {
          const crease = creases.findIndex(
            (c) => c.partId === joint.partId && c.lineIds.includes(fold.lineId),
          );
          if (crease < 0)
            faults.push({
              kind: 'jointNowhere',
              jointId: joint.id,
              partId: joint.partId,
              at: [0, 0],
              message: `“${joint.drive.name}” should turn the fold “${fold.lineId}”, which is not there: draw it or take the handle away.`,
            });
          else links[crease] = { ...links[crease], drive: { driver, offset: 0, factor: fold.factor * RAD } };
        }
        break;
      }
      case 'pivot':
      case 'slide':
      case 'pin': {
        const held = panelOf(joint, joint.partId, joint.at);
        const onHost = place(joint.placement, joint.at);
        const host = held && panelOf(joint, joint.hostPartId, joint.kind === 'pin' ? joint.slit[0] : onHost);
        if (!held || !host) break;
        if (held.body === host.body) {
          faults.push(glued(joint, expanded));
          break;
        }
        lay(held, host, joint.face, joint.placement.flip);
        const inHost = (frame: Isometry) => fromIsometry(compose(host.placement, frame));
        const inPart = (frame: Isometry) =>
          fromIsometry(compose(held.placement, compose(inverse(joint.placement), frame)));
        if (joint.kind === 'pivot') {
          const frame = turn(0, ...onHost);
          links.push({
            ...plainLink('pivot', host.body, held.body, joint.id),
            inLeft: inHost(frame),
            inRight: inPart(frame),
            stops: joint.stops && [joint.stops.from * RAD, joint.stops.to * RAD],
            drive: joint.drive && { driver: driverOf(joint, joint.drive, 'deg'), offset: 0, factor: RAD },
          });
        } else if (joint.kind === 'slide') {
          const frame = turn(joint.directionDeg * RAD, ...onHost);
          links.push({
            ...plainLink('slide', host.body, held.body, joint.id),
            inLeft: inHost(frame),
            inRight: inPart(frame),
            stops: [joint.stops.from, joint.stops.to],
            drive: joint.drive && { driver: driverOf(joint, joint.drive, 'mm'), offset: 0, factor: 1 },
          });
        } else {
          const slit = alongLine(joint.slit);
          const between = bodyCount++;
          const pin = compose(inverse(joint.placement), turn(slit.angleRad, ...onHost));
          links.push({
            ...plainLink('slide', host.body, between, joint.id),
            inLeft: inHost(slit),
            seed: distance(onHost, joint.slit[0]),
            stops: [0, distance(...joint.slit)],
          });
          links.push({
            ...plainLink('pivot', between, held.body, joint.id),
            inRight: fromIsometry(compose(held.placement, pin)),
          });
        }
        break;
      }
      case 'tongue':
      case 'cross':
      case 'rest':
      case 'wrap': {
        const held = panelOf(joint, joint.partId, joint.within);
        const host = held && panelOf(joint, joint.hostPartId, middle(...joint.slot));
        if (!held || !host) break;
        if (held.body === host.body) {
          faults.push(glued(joint, expanded));
          break;
        }
        if (joint.kind === 'wrap') {
          wrapped.set(held.body, host.body);
          raised.push({
            body: held.body,
            host: host.body,
            mm: joint.heightMm * (host.placement.flip ? -1 : 1),
          });
        } else if (joint.kind !== 'rest') excuse(held, host);
        const slot = compose(host.placement, alongLine(joint.slot));
        const on = compose(held.placement, alongLine(joint.on));
        if (joint.kind === 'wrap') {
          links.push({
            ...plainLink('wrap', host.body, held.body, joint.id),
            inLeft: fromIsometry(slot),
            inRight: fromIsometry(on),
            bandMm: joint.bandMm,
            drive: { driver: wrapDriver(joint), offset: -joint.startMm, factor: 1 },
          });
          laid.push({
            panel: held.panel,
            host: host.panel,
            onFront: true,
            turned: false,
            layers: joint.layers,
          });
          break;
        }
        const lean = {
          sign: Math.sign(joint.leanDeg) as 1 | -1 | 0,
          seed: joint.leanDeg * RAD,
          halfMm: distance(...joint.on) / 2,
        };
        const drive = joint.drive && {
          driver: driverOf(joint, joint.drive, joint.kind === 'cross' ? 'deg' : 'mm'),
          offset: 0,
          factor: joint.kind === 'cross' ? RAD : 1,
        };
        if (joint.kind === 'cross') {
          links.push({
            ...plainLink('fold', host.body, held.body, joint.id),
            ...lean,
            // In their slots pieces lie flat either way: open to one plane, or one on the other.
            unbent: Math.abs(joint.leanDeg) > 90 ? lean.sign * Math.PI : 0,
            inLeft: fromIsometry(slot),
            inRight: fromIsometry(on),
            drive,
          });
          break;
        }
        // Across the line: the slide's x is the line's y.
        const across = turn(Math.PI / 2);
        const stops = joint.stops && ([joint.stops.from, joint.stops.to] as const);
        const between = bodyCount++;
        if (joint.kind === 'tongue') {
          links.push({
            ...plainLink('fold', host.body, between, joint.id),
            ...lean,
            inLeft: fromIsometry(slot),
          });
          links.push({
            ...plainLink('slide', between, held.body, joint.id),
            inLeft: fromIsometry(across),
            inRight: fromIsometry(compose(on, across)),
            stops,
            drive,
          });
        } else {
          links.push({
            ...plainLink('slide', host.body, between, joint.id),
            inLeft: fromIsometry(compose(slot, across)),
            inRight: fromIsometry(across),
            stops,
            drive,
          });
          links.push({
            ...plainLink('fold', between, held.body, joint.id),
            ...lean,
            inRight: fromIsometry(on),
          });
        }
        break;
      }
    }
  }
  // Bands are shown as plates while they bend: among themselves and with their host that is no catch.
  bodies.forEach((one, i) => {
    for (let j = i + 1; j < bodies.length && wrapped.size > 0; j++) {
      const [a, b] = [wrapped.get(one), wrapped.get(bodies[j])];
      if (a === bodies[j] || b === one || (a !== undefined && a === b)) excused.push([i, j]);
    }
  });
  return { links, drivers, bodyCount, laid, excused, raised, faults };
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

/** A joint that should move between two panels that glue makes one. */
const glued = (joint: Joint, expanded: Expanded): LinkageFault => ({
  kind: 'jointNowhere',
  jointId: joint.id,
  partId: joint.partId,
  at: 'at' in joint ? joint.at : [0, 0],
  message: `The ${words[joint.kind]} of ${expanded.parts.find((p) => p.id === joint.partId)?.name ?? joint.partId} cannot move: glue makes it one with what it should move on. Take that glue away.`,
});
