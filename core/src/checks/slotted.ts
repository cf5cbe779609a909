/** What goes through a slot of its own part when everything is folded up. */
import type { PanelMark, Part } from '../dieline/part.ts';
import { inverse, place, placing, turn } from '../geometry/isometry.ts';
import { flatten } from '../geometry/path.ts';
import { distance, middle, subtract, type Point } from '../geometry/point.ts';
import { insidePoint, insideRegion, type Region } from '../geometry/polygon.ts';
import type { Stretch } from '../geometry/stretch.ts';
import { foldedOver } from '../motion/foldingUp.ts';
import type { Sweep } from '../motion/swept.ts';
import { alongLine, sectionOf } from './slotFit.ts';

/** Outlines of slots are taken so finely, mm. */
const FINE_MM = 0.02;
/** Beyond its slot a tongue is measured in so many places. */
const PLACES = 24;

/** A panel that goes through a slot, where both lie folded up. Lengths are along the slot, from its one end. */
export interface Slotted {
  readonly part: Part;
  readonly mark: PanelMark;
  /** The outline of the slot in the part's plane; undefined where there is no such cut any more. */
  readonly ring?: readonly Point[];
  readonly slotMm: number;
  /** How far from the plane of the slot the panel passes it, mm. */
  readonly highMm: number;
  /** What of the panel lies over the middle of the slot. */
  readonly stretches: readonly Stretch[];
  /** How far it reaches beyond the slot, and how wide it is there at most, mm. */
  readonly beyondMm: number;
  readonly widestMm: number;
  /** Where the panel bends through the slot; undefined where it does not come to lie over it. */
  readonly bent?: BentThrough;
}

/** A panel that bends through a slot: what of it is on one side of a line goes to the other face of the host. */
export interface BentThrough {
  /** Both as indices into the linkage's panels. */
  readonly panel: number;
  readonly host: number;
  /** The middle of the slot in the plane of the panel's part: what goes through lies on the left of it. */
  readonly line: readonly [Point, Point];
  /** The middle of the line, and the place farthest beyond it. */
  readonly from: Point;
  readonly tip: Point;
  /** The middle of the slot in the plane of the host's part. */
  readonly slot: Point;
}

/** The middle line of a slot: along its longest edge, as long as it is, through its middle. */
function middleLine(ring: readonly Point[]): readonly [Point, Point] {
  let angle = 0;
  let longest = 0;
  ring.forEach(([x, y], i) => {
    const [u, v] = ring[(i + 1) % ring.length];
    const long = Math.hypot(u - x, v - y);
    if (long > longest) [longest, angle] = [long, Math.atan2(v - y, u - x)];
  });
  const along = turn(angle);
  const own = ring.map(placing(inverse(along)));
  const [xs, ys] = [own.map(([x]) => x), own.map(([, y]) => y)];
  const y = (Math.min(...ys) + Math.max(...ys)) / 2;
  return [place(along, [Math.min(...xs), y]), place(along, [Math.max(...xs), y])];
}

/** How far the plane of a panel lies from a place of the host, mm, by three places of it as they lie over the host. */
function heightOver(lies: ReturnType<typeof foldedOver>, [mx, my]: Point, p: Point): number {
  const [o, u, v] = [lies([mx, my]), lies([mx + 1, my]), lies([mx, my + 1])];
  const [a, b] = [subtract(u.over, o.over), subtract(v.over, o.over)];
  const [x, y] = subtract(p, o.over);
  const det = a[0] * b[1] - a[1] * b[0];
  const [s, t] = [(x * b[1] - y * b[0]) / det, (a[0] * y - a[1] * x) / det];
  return Math.abs(o.high + s * (u.high - o.high) + t * (v.high - o.high));
}

/** The middle of the fold that a panel hangs on, carried along; its own middle, carried likewise, where it hangs on none. */
function hangsAt({ linkage }: Sweep, panel: number, onto: (p: Point) => Point): Point {
  const { part, region } = linkage.panels[panel];
  const crease = linkage.creases.find(
    ({ leftPanel, rightPanel }) => leftPanel === panel || rightPanel === panel,
  );
  const line = crease && part.lines.find(({ id }) => crease.lineIds.includes(id));
  return onto(line ? middle(line.path.start, line.path.segments.at(-1)!.to) : insidePoint(region));
}

/** The place of a plane that a placement carries to one of another, by where it carries its origin and its axes. */
function carriedBack(onto: (p: Point) => Point): (p: Point) => Point {
  const o = onto([0, 0]);
  const [a, b] = [subtract(onto([1, 0]), o), subtract(onto([0, 1]), o)];
  const det = a[0] * b[1] - a[1] * b[0];
  return (p) => {
    const [x, y] = subtract(p, o);
    return [(x * b[1] - y * b[0]) / det, (a[0] * y - a[1] * x) / det];
  };
}

/** All that goes through a slot of its own part, of what folds up. */
export function slottedIn(sweep: Sweep): Slotted[] {
  const { panels, attached } = sweep.linkage;
  const parts = [...new Set(panels.map(({ part }) => part))];
  return parts.flatMap((part) =>
    part.marks.flatMap((mark): Slotted[] => {
      if (mark.through === undefined) return [];
      const none = { part, mark, slotMm: 0, highMm: 0, stretches: [], beyondMm: 0, widestMm: 0 };
      const line = part.lines.find(({ id, process }) => id === mark.through && process === 'cut');
      if (!line) return [none];
      const ring = flatten(line.path, FINE_MM);
      const [from, to] = middleLine(ring);
      const slotMm = distance(from, to);
      const centre = middle(from, to);
      const panel = panels.findIndex((each) => each.part === part && each.id === mark.id);
      const host = panels.findIndex(
        (each) => each.part === part && insideRegion(centre, { outer: each.region.outer, holes: [] }),
      );
      if (panel < 0 || host < 0 || panel === host) return [{ ...none, ring, slotMm }];
      if (!attached[panels[panel].body] || !attached[panels[host].body]) return [];
      const lies = foldedOver(sweep, panel, host);
      const onto = (p: Point): Point => lies(p).over;
      const { region } = panels[panel];
      const flat: Region = {
        outer: region.outer.map(onto),
        holes: region.holes.map((hole) => hole.map(onto)),
      };
      const section = (side: number) => sectionOf(flat, [from, to], side);
      const stretches = section(0);
      const toLine = alongLine([from, to]);
      const across = (p: Point): number => place(toLine, p)[1];
      const own = flat.outer.map(across);
      // The tongue is the end away from the fold that the panel hangs on.
      const side = across(hangsAt(sweep, panel, onto)) < 0 ? 1 : -1;
      const beyondMm = Math.max(0, ...own.map((y) => side * y));
      const widths = Array.from({ length: PLACES }, (_, i) => {
        const found = section((side * beyondMm * (i + 0.5)) / PLACES);
        return found.length > 0 ? found.at(-1)![1] - found[0][0] : 0;
      });
      const back = carriedBack(onto);
      const [one, two] = [back(from), back(to)];
      const out = (side * beyondMm) / slotMm;
      const tip = back([centre[0] + out * (from[1] - to[1]), centre[1] + out * (to[0] - from[0])]);
      const onLeft = (two[0] - one[0]) * (tip[1] - one[1]) > (two[1] - one[1]) * (tip[0] - one[0]);
      return [
        {
          part,
          mark,
          ...(stretches.length > 0
            ? {
                bent: {
                  panel,
                  host,
                  line: onLeft ? [one, two] : [two, one],
                  from: middle(one, two),
                  tip,
                  slot: centre,
                },
              }
            : {}),
          ring,
          slotMm,
          highMm: heightOver(lies, mark.at, centre),
          stretches,
          beyondMm,
          widestMm: Math.max(...widths),
        },
      ];
    }),
  );
}
