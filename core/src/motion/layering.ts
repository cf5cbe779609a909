/**
 * Sheets that lie on each other, drawn apart: the motion has no thickness, so layers of a closed card, a plate on its pivot
 * or a glued strip share one plane in it. Here every plate of paper is moved along its normal, by as little as keeps a sheet's
 * thickness between those that overlap and are nearly parallel, in the order in which they really lie.
 *
 * The order of two plates is what joints say of them (glued or laid on this face); else the side on which the one is of the
 * other at this place of the travel; where they share a plane here, at the nearest place where they do not. The shifts are
 * found by pushing each pair apart by half of what it lacks, over and over (Gauss-Seidel on the constraints
 * (d_j - d_i) n >= wanted - gap), which ends near the smallest shifts that satisfy them all.
 */
import { stockOf } from '../dieline/part.ts';
import { boxCentre, boxOf } from '../geometry/path.ts';
import { distance, type Point } from '../geometry/point.ts';
import { insideRegion, type Region } from '../geometry/polygon.ts';
import { invert, move, RIGID_SIZE, type Vec3 } from '../geometry/rigid.ts';
import { dot3 } from '../geometry/vector.ts';
import { flatPanelsOf } from './flatPanels.ts';
import type { Linkage } from './linkage.ts';
import { bodyAt } from './pose.ts';
import type { Sweep } from './swept.ts';
import { POSES } from './places.ts';

/** Air between two sheets that are drawn on each other, mm. */
export const AIR_MM = 0.06;
/** Planes that meet at less than the first angle are kept wholly apart, at more than the second not at all. */
const NEAR_RAD = (5 * Math.PI) / 180;
const FAR_RAD = (24 * Math.PI) / 180;
/** Further apart than this they do not concern each other, and what runs so deep into another is a catch: left as it is. */
const REACH_MM = 4;
const CAUGHT_MM = 1.2;
/** Being on one side by less says nothing of the order. */
const SURE_MM = 0.06;
/** How far along the travel is looked for an order: what is folded up step by step may rest over most of it. */
const LOOK = [2, 4, 8, 14, 22, 34, 50, 70, 95, 125, 160] as const;
const ROUNDS = 400;
/** Places of a panel that are looked at, and how far inside its outline the outermost are. */
const SAMPLES = 40;
const INSIDE_MM = 0.4;

/** A panel for comparing: its region in the plane of its body, and places on it. */
interface Sampled {
  readonly region: Region;
  readonly places: readonly Point[];
  readonly thicknessMm: number;
}

/** Two panels that overlap, nearly parallel: the upper one lies over the lower one along `normal`, too near to it. */
interface Contact {
  readonly lower: number;
  readonly upper: number;
  readonly normal: Vec3;
  readonly lacksMm: number;
  /** How sure their order is: the higher the surer. */
  readonly sure: number;
}

const sampled = new WeakMap<Linkage, readonly Sampled[]>();

/** Places all over a panel: a grid, and its corners drawn in a little. */
function placesOn(region: Region): Point[] {
  const box = boxOf(region.outer);
  const { minX, minY, maxX, maxY } = box;
  const [w, h] = [maxX - minX, maxY - minY];
  const step = Math.sqrt((w * h) / SAMPLES) || 1;
  const columns = Math.min(SAMPLES, Math.max(2, Math.round(w / step)));
  const rows = Math.min(SAMPLES, Math.max(2, Math.round(h / step)));
  const middle = boxCentre(box);
  const grid = Array.from({ length: columns * rows }, (_, i): Point => [
    minX + (((i % columns) + 0.5) / columns) * w,
    minY + ((Math.floor(i / columns) + 0.5) / rows) * h,
  ]);
  const corners = region.outer.map((p): Point => {
    const far = distance(p, middle) || 1;
    const k = Math.min(0.2, INSIDE_MM / far);
    return [p[0] + k * (middle[0] - p[0]), p[1] + k * (middle[1] - p[1])];
  });
  return [...grid, ...corners.slice(0, SAMPLES)].filter((p) => insideRegion(p, region));
}

function sampledOf(linkage: Linkage): readonly Sampled[] {
  const known = sampled.get(linkage);
  if (known) return known;
  const flat = flatPanelsOf(linkage);
  const made = linkage.panels.map(({ part }, i): Sampled => {
    const [outer, ...holes] = flat[i].rings;
    const region = { outer, holes };
    return {
      region,
      places: placesOn(region),
      thicknessMm: stockOf(part).thicknessMm,
    };
  });
  sampled.set(linkage, made);
  return made;
}

/** Panels that move as one sheet: those of one part in one layer of one body. */
function platesOf({ panels }: Linkage): number[] {
  const numbers = new Map<string, number>();
  return panels.map(({ body, partIndex, liftLayers }) => {
    const key = `${body}/${partIndex}/${liftLayers}`;
    if (!numbers.has(key)) numbers.set(key, numbers.size);
    return numbers.get(key)!;
  });
}

/**
 * What joints say of who lies on whom: +1 when the second panel lies over the first along the first one's body's normal. A
 * band that goes round an edge lies behind its host when it is turned over.
 */
function laidOn({ panels, laid, glued }: Linkage): Map<string, 1 | -1> {
  const said = new Map<string, 1 | -1>();
  const say = (panel: number, host: number, onFront: boolean) => {
    const up = onFront !== panels[host].placement.flip ? 1 : -1;
    said.set(`${host}/${panel}`, up);
  };
  for (const { panel, host, onHostFront } of glued) say(panel, host, onHostFront);
  for (const { panel, host, onFront } of laid) say(panel, host, onFront);
  return said;
}

const normalOf = (body: Float64Array): Vec3 => [body[2], body[6], body[10]];

/** A pair of points that lie over each other: of the one panel and of the other, each in the plane of its body. */
interface Over {
  readonly p: Point;
  readonly q: Point;
  /** How far q's panel is over p's, along the normal of the first panel's body, mm. */
  readonly offMm: number;
}

/** A panel at a place of the travel: its body there and back, and the box of what it takes up. */
interface Where {
  readonly body: Float64Array;
  readonly back: Float64Array;
  readonly low: Vec3;
  readonly high: Vec3;
}

function whereAt(sweep: Sweep, at: number): Where[] {
  const { panels } = sweep.linkage;
  const flat = flatPanelsOf(sweep.linkage);
  const known = new Map<number, Float64Array>();
  return panels.map((panel, i) => {
    const body = known.get(panel.body) ?? bodyAt(sweep, panel.body, at, new Float64Array(RIGID_SIZE));
    known.set(panel.body, body);
    const corners = flat[i].corners.map(([x, y]) => move(body, [x, y, 0]));
    const end = (k: number, pick: (...of: number[]) => number) => pick(...corners.map((c) => c[k]));
    return {
      body,
      back: invert(body),
      low: [end(0, Math.min), end(1, Math.min), end(2, Math.min)],
      high: [end(0, Math.max), end(1, Math.max), end(2, Math.max)],
    };
  });
}

const apart = (p: Where, q: Where): boolean =>
  [0, 1, 2].some((k) => p.low[k] > q.high[k] + REACH_MM || q.low[k] > p.high[k] + REACH_MM);

/** Places at which two panels overlap, looked at along the first one's normal. */
function overlaps(a: Sampled, inA: Where, b: Sampled, inB: Where, sense: number): Over[] {
  const found: Over[] = [];
  const look = (from: Sampled, { body }: Where, onto: Sampled, { back }: Where, turned: boolean) => {
    for (const p of from.places) {
      const [x, y, z] = move(back, move(body, [p[0], p[1], 0]));
      if (Math.abs(z) > REACH_MM || !insideRegion([x, y], onto.region)) continue;
      found.push(turned ? { p: [x, y], q: p, offMm: z } : { p, q: [x, y], offMm: -z * sense });
    }
  };
  look(a, inA, b, inB, false);
  look(b, inB, a, inA, true);
  return found;
}

/** An order of two panels: +1 when the second lies over the first along the first one's normal, and how sure that is. */
interface Order {
  readonly up: number;
  readonly sure: number;
}

/** Which of two panels lies over the other. */
function orderOf(
  sweep: Sweep,
  at: number,
  said: ReadonlyMap<string, 1 | -1>,
  [a, b]: readonly [number, number],
  met: readonly Over[],
  sense: number,
): Order {
  const { panels, wrapped } = sweep.linkage;
  const [onA, onB] = [said.get(`${a}/${b}`), said.get(`${b}/${a}`)];
  if (onA !== undefined) return { up: wrapped.has(panels[b].body) ? onA * sense : onA, sure: 4 };
  if (onB !== undefined) return { up: wrapped.has(panels[a].body) ? -onB : -onB * sense, sure: 4 };
  const lift = panels[b].liftLayers * sense - panels[a].liftLayers;
  if (panels[a].body === panels[b].body) return { up: Math.sign(lift), sure: 5 };
  const mean = met.reduce((sum, { offMm }) => sum + offMm / met.length, 0);
  if (Math.abs(mean) > SURE_MM) return { up: Math.sign(mean), sure: 3 };
  for (const by of LOOK)
    for (const there of [at < POSES / 2 ? at + by : at - by, at < POSES / 2 ? at - by : at + by]) {
      if (there < 0 || there > POSES - 1) continue;
      const [inA, inB] = [panels[a], panels[b]].map(({ body }) =>
        bodyAt(sweep, body, there, new Float64Array(RIGID_SIZE)),
      );
      const normal = normalOf(inA);
      const far = met.reduce((sum, { p, q }) => {
        const [u, v] = [move(inA, [p[0], p[1], 0]), move(inB, [q[0], q[1], 0])];
        return sum + dot3(normal, [v[0] - u[0], v[1] - u[1], v[2] - u[2]]) / met.length;
      }, 0);
      if (Math.abs(far) > SURE_MM) return { up: Math.sign(far), sure: 2 };
    }
  return lift === 0 ? { up: Math.sign(b - a), sure: 0 } : { up: Math.sign(lift), sure: 1 };
}

/** How much of a sheet's thickness is kept between planes that meet at an angle: all when nearly parallel, then less. */
function keptAt(cosine: number): number {
  const angle = Math.acos(Math.min(1, Math.abs(cosine)));
  const t = Math.min(1, Math.max(0, (FAR_RAD - angle) / (FAR_RAD - NEAR_RAD)));
  return t * t * (3 - 2 * t);
}

/** All pairs of panels that lie nearer to each other than their paper is thick. */
function contactsAt(sweep: Sweep, at: number, plates: readonly number[]): Contact[] {
  const { linkage } = sweep;
  const { panels, attached } = linkage;
  const shapes = sampledOf(linkage);
  const said = laidOn(linkage);
  const pads = new Map(linkage.glued.map(({ panel, host, padMm }) => [`${panel}/${host}`, padMm]));
  const where = whereAt(sweep, at);
  const contacts: Contact[] = [];
  for (let a = 0; a < panels.length; a++) {
    if (!attached[panels[a].body]) continue;
    const inA = where[a];
    const normal = normalOf(inA.body);
    for (let b = a + 1; b < panels.length; b++) {
      if (plates[a] === plates[b] || !attached[panels[b].body]) continue;
      const inB = where[b];
      if (apart(inA, inB)) continue;
      const cosine = dot3(normal, normalOf(inB.body));
      const kept = keptAt(cosine);
      if (kept === 0) continue;
      const sense = Math.sign(cosine) || 1;
      const met = overlaps(shapes[a], inA, shapes[b], inB, sense);
      if (met.length === 0) continue;
      const { up: order, sure } = orderOf(sweep, at, said, [a, b], met, sense);
      const gap = met.reduce((least, { offMm }) => Math.min(least, order * offMm), Infinity);
      const padMm = pads.get(`${a}/${b}`) ?? pads.get(`${b}/${a}`) ?? 0;
      const wanted = kept * ((shapes[a].thicknessMm + shapes[b].thicknessMm) / 2 + AIR_MM + padMm);
      if (gap >= wanted || gap < -CAUGHT_MM) continue;
      const [lower, upper] = order > 0 ? [a, b] : [b, a];
      contacts.push({ lower, upper, normal, lacksMm: wanted - gap, sure });
    }
  }
  return contacts;
}

/** Any direction that planes are hardly ever parallel to: tells the two sides of all planes of a pile alike. */
const ACROSS: Vec3 = [0.137, 0.271, 0.953];

/** The contacts without those that run in a circle with surer ones: a pile must have a top. */
function withoutCircles(contacts: readonly Contact[], plates: readonly number[], count: number): Contact[] {
  const over = Array.from({ length: count }, () => new Set<number>());
  const reaches = (from: number, to: number): boolean => {
    const open = [from];
    const seen = new Set(open);
    for (let at = open.pop(); at !== undefined; at = open.pop()) {
      if (at === to) return true;
      for (const next of over[at])
        if (!seen.has(next)) {
          seen.add(next);
          open.push(next);
        }
    }
    return false;
  };
  return [...contacts]
    .sort((p, q) => q.sure - p.sure)
    .filter(({ lower, upper, normal }) => {
      const [p, q] = [plates[lower], plates[upper]];
      const [from, to] = dot3(normal, ACROSS) >= 0 ? [p, q] : [q, p];
      if (reaches(to, from)) return false;
      over[from].add(to);
      return true;
    });
}

/**
 * How far each panel is to be drawn from where the motion has it, so that sheets that lie on each other show as sheets.
 *
 * @param at a place of the travel, whole or between
 * @returns three numbers a panel, mm, in the same space as the sweep's bodies; the card's still half stays where it is
 */
export function layerShifts(sweep: Sweep, at: number): Float64Array {
  const { linkage } = sweep;
  const plates = platesOf(linkage);
  const count = Math.max(0, ...plates) + 1;
  const contacts = withoutCircles(contactsAt(sweep, at, plates), plates, count);
  const shifts = new Float64Array(3 * count);
  const push = (plate: number, n: Vec3, by: number) => {
    for (let k = 0; k < 3; k++) shifts[3 * plate + k] += by * n[k];
  };
  for (let round = 0; round < ROUNDS; round++) {
    let worst = 0;
    for (const { lower, upper, normal, lacksMm } of contacts) {
      const [p, q] = [plates[lower], plates[upper]];
      let apart = 0;
      for (let k = 0; k < 3; k++) apart += (shifts[3 * q + k] - shifts[3 * p + k]) * normal[k];
      const lacks = lacksMm - apart;
      if (lacks <= 0) continue;
      worst = Math.max(worst, lacks);
      push(p, normal, -lacks / 2);
      push(q, normal, lacks / 2);
    }
    if (worst < 1e-3) break;
  }
  const still = linkage.panels.findIndex((panel) => panel.body === linkage.root && panel.liftLayers === 0);
  const base = still < 0 ? [0, 0, 0] : [0, 1, 2].map((k) => shifts[3 * plates[still] + k]);
  return Float64Array.from(
    { length: 3 * linkage.panels.length },
    (_, i) => shifts[3 * plates[Math.floor(i / 3)] + (i % 3)] - base[i % 3],
  );
}
