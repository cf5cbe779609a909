/** Where panels may pass through each other: along slots that are really cut there. */
import { flatten } from '../geometry/path.ts';
import { cross, dot, lengthOf, subtract, type Point } from '../geometry/point.ts';
import { inverse, place } from '../geometry/isometry.ts';
import { move, type Vec3 } from '../geometry/rigid.ts';
import { dot3, length3, minus3, scale3 } from '../geometry/vector.ts';
import { isCut, type Part } from '../dieline/part.ts';
import type { Linkage } from './linkage.ts';
import type { Passage } from './links.ts';
import type { PanelRef } from './panelRef.ts';

/** A cut so near to a slot's line, and so nearly along it, is one of the slot's sides. */
const SLOT_BAND_MM = 1.5;
const ALONG_SLOT = 0.97;
/** A slot's line that is further from where two planes meet than this is not what is passed through there, mm. */
const OFF_LINE_MM = 0.5;

/**
 * What of a line is cut in a part, as stretches along it in mm from its start: by slits on it, or by the sides of narrow slots
 * about it.
 *
 * @param bandMm how far off the line a cut may run
 */
export function cutAlong(
  part: Part,
  [a, b]: readonly [Point, Point],
  bandMm = SLOT_BAND_MM,
): [number, number][] {
  const d = subtract(b, a);
  const length = lengthOf(d);
  if (length === 0) return [];
  const along = (p: Point) => dot(d, subtract(p, a)) / length;
  const off = (p: Point) => Math.abs(cross(d, subtract(p, a))) / length;
  const found: [number, number][] = [];
  for (const line of part.lines) {
    if (!isCut(line)) continue;
    const points = flatten(line.path);
    for (let i = 1; i < points.length; i++) {
      const [p, q] = [points[i - 1], points[i]];
      const way = subtract(q, p);
      const size = lengthOf(way);
      if (size === 0 || Math.abs(dot(way, d)) < ALONG_SLOT * size * length) continue;
      if (off(p) > bandMm || off(q) > bandMm) continue;
      const ends = [along(p), along(q)].sort((x, y) => x - y);
      const [from, to] = [Math.max(0, ends[0]), Math.min(length, ends[1])];
      if (to > from) found.push([from, to]);
    }
  }
  return joined(found);
}

/** Stretches that overlap or touch made one. */
function joined(stretches: readonly [number, number][]): [number, number][] {
  const out: [number, number][] = [];
  for (const [from, to] of [...stretches].sort((p, q) => p[0] - q[0])) {
    const last = out[out.length - 1];
    if (last && from <= last[1] + 1e-6) last[1] = Math.max(last[1], to);
    else out.push([from, to]);
  }
  return out;
}

/** A stretch of a slot in the plane of a panel's body, that is cut (or, where nothing is drawn, that the joint names). */
interface Slot {
  readonly panel: number;
  readonly ends: readonly [Point, Point];
}

function slotsOf(panel: PanelRef, index: number, ends: readonly [Point, Point]): Slot[] {
  const back = inverse(panel.placement);
  const inPart: [Point, Point] = [place(back, ends[0]), place(back, ends[1])];
  const cut = cutAlong(panel.part, inPart);
  if (cut.length === 0) return [{ panel: index, ends }];
  const length = lengthOf(subtract(ends[1], ends[0]));
  const at = (s: number): Point => [
    ends[0][0] + ((ends[1][0] - ends[0][0]) * s) / length,
    ends[0][1] + ((ends[1][1] - ends[0][1]) * s) / length,
  ];
  return cut.map(([from, to]) => ({ panel: index, ends: [at(from), at(to)] }));
}

const known = new WeakMap<Linkage, Map<string, Slot[]>>();

/** The slots of a linkage by pair of panels, lower index first; remembered per linkage. */
export function slotsByPair(linkage: Linkage): ReadonlyMap<string, readonly Slot[]> {
  const made = known.get(linkage);
  if (made) return made;
  const slots = new Map<string, Slot[]>();
  const add = ({ panel, host, slot, on }: Passage) => {
    const key = `${Math.min(panel, host)},${Math.max(panel, host)}`;
    const list = slots.get(key) ?? [];
    slots.set(key, list);
    list.push(...slotsOf(linkage.panels[host], host, slot));
    if (on) list.push(...slotsOf(linkage.panels[panel], panel, on));
  };
  linkage.passages.forEach(add);
  known.set(linkage, slots);
  return slots;
}

/**
 * What of the common line of two planes may be passed through, in coordinates along it.
 *
 * @param bodyOf the placement of a panel's body
 * @param on a point of the line
 */
export function allowedOn(
  slots: readonly Slot[],
  bodyOf: (panel: number) => Float64Array,
  along: Vec3,
  on: Vec3,
): [number, number][] {
  return slots.flatMap(({ panel, ends }): [number, number][] => {
    const [p, q] = ends.map(([x, y]) => move(bodyOf(panel), [x, y, 0]));
    const offLine = (v: Vec3) => {
      const d = minus3(v, on);
      return length3(minus3(d, scale3(along, dot3(along, d))));
    };
    if (offLine(p) > OFF_LINE_MM || offLine(q) > OFF_LINE_MM) return [];
    const [a, b] = [dot3(along, p), dot3(along, q)];
    return [[Math.min(a, b), Math.max(a, b)]];
  });
}
