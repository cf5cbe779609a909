/**
 * A thin cutting plate: the cut lines of some parts as ridges (rules) of metal, each with a land on both sides. What is cut out
 * inside a part hangs on metal bridges, where its rule has a gap; separate shapes are joined by connectors that are broken off.
 *
 * The metal of a rule is everything within the land of it: the rule grown by the land (its Minkowski sum with a disc). A plate
 * is paid for by the box round it, since it is etched from a sheet.
 */
import type { Part } from '../dieline/part.ts';
import { panelPlan } from '../dieline/panels.ts';
import { boxOf, polyline, type Box, type Path } from '../geometry/path.ts';
import {
  coarsened,
  counterClockwise,
  insideRegion,
  regionArea,
  stripBetween,
  type Region,
  type Ring,
} from '../geometry/polygon.ts';
import {
  add,
  between,
  cross,
  distance,
  lengthOf,
  scale,
  segmentGap,
  subtract,
  type Point,
} from '../geometry/point.ts';
import { solid, union } from '../geometry/regions.ts';
import { isWithin, metalOf, rulesOf, type Rule } from './plateRules.ts';

export interface PlateOptions {
  /** Metal on either side of a rule, mm. */
  readonly landMm: number;
  /** Rules nearer to each other than this cannot be made, mm. */
  readonly bladeGapMm: number;
  /** Metal bridges: how wide, and how many hold an inner rule. */
  readonly bridgeMm: number;
  readonly bridges: number;
  readonly connectorMm: number;
  /** Rectangles are left to the guillotine, and only marked. */
  readonly leaveRectangles: boolean;
  /** Parts smaller than this are twice on the plate, mm2; 0: none. */
  readonly doubleBelowMm2: number;
  /** Each part goes along as its mirror image, too. */
  readonly twins: boolean;
}

export const USUAL_PLATE: PlateOptions = {
  landMm: 2,
  bladeGapMm: 2,
  bridgeMm: 1,
  bridges: 2,
  connectorMm: 3,
  leaveRectangles: false,
  doubleBelowMm2: 0,
  twins: false,
};

/** Beds of usual rolling machines, by how wide a plate goes through (made-up examples). */
export const PLATE_BEDS = [
  { name: 'Hand roller', widthMm: 76 },
  { name: 'Table roller', widthMm: 152 },
  { name: 'Wide roller', widthMm: 216 },
  { name: 'Studio press', widthMm: 330 },
] as const;

export interface PlateFault {
  readonly kind: 'tooNear' | 'notHeld';
  readonly words: string;
  readonly at: Point;
  /** How near two rules are, mm. */
  readonly measuredMm: number | null;
}

export interface Plate {
  /** Cut rules, with their gaps; score rules that mark what is left to the guillotine. */
  readonly rules: readonly Path[];
  readonly scores: readonly Path[];
  readonly metal: readonly Region[];
  readonly bridges: readonly Ring[];
  readonly connectors: readonly Ring[];
  readonly box: Box;
  /** Of the box, mm2: what is paid for; and of the metal itself. */
  readonly areaMm2: number;
  readonly metalMm2: number;
  readonly faults: readonly PlateFault[];
  /** How often each part is on it; parts that are wholly left to the guillotine are on it 0 times. */
  readonly counts: ReadonlyMap<string, number>;
}

const COARSE_MM = 0.1;
/** Shapes lie so far from each other, beside their lands, mm. */
const APART_MM = 5;

/** The shortest link between two lots of rings: where it begins and ends. */
function link(a: readonly Ring[], b: readonly Ring[]): { from: Point; to: Point; mm: number } {
  let best = { from: a[0][0], to: b[0][0], mm: Infinity };
  for (const one of a)
    for (const other of b)
      for (let i = 0; i < one.length; i++)
        for (let k = 0; k < other.length; k++) {
          const gap = segmentGap(one[i], one[(i + 1) % one.length], other[k], other[(k + 1) % other.length]);
          if (gap.distance < best.mm) best = { from: gap.onFirst, to: gap.onSecond, mm: gap.distance };
        }
  return best;
}

/** What is left of a line where bars leave gaps in it. */
function withGaps(line: readonly Point[], bars: readonly Ring[]): (readonly Point[])[] {
  const cut = bars.map(solid);
  const pieces: Point[][] = [];
  let now: Point[] = [];
  const flush = () => {
    if (now.length > 1) pieces.push(now);
    now = [];
  };
  for (let i = 0; i + 1 < line.length; i++) {
    const [a, b] = [line[i], line[i + 1]];
    // Finely enough that a gap is as wide as its bar to a hundredth.
    const steps = Math.max(1, cut.length === 0 ? 1 : Math.ceil(distance(a, b) / 0.01));
    for (let k = 0; k <= steps; k++) {
      const p = between(a, b, k / steps);
      if (cut.some((region) => insideRegion(p, region))) flush();
      else if (k === 0 && now.length > 0) continue;
      else now.push(p);
    }
  }
  flush();
  return pieces.map((piece) => straightened(piece));
}

/** The same line without points on a straight run. */
const straightened = (line: readonly Point[]): Point[] =>
  line.filter((p, i) => {
    if (i === 0 || i === line.length - 1) return true;
    const [a, b] = [subtract(p, line[i - 1]), subtract(line[i + 1], p)];
    return Math.abs(cross(a, b)) > 1e-9 * lengthOf(a) * lengthOf(b) || lengthOf(a) === 0;
  });

const moveRing = (ring: readonly Point[], by: Point): Point[] => ring.map((p) => add(p, by));
const mirrorRing = (ring: readonly Point[]): Point[] => ring.map(([x, y]): Point => [-x, y]).reverse();

/** Where a ray first meets a rule, beyond where it begins. */
function firstHit(
  from: Point,
  way: Point,
  rules: readonly Rule[],
): { rule: Rule; at: Point; mm: number } | undefined {
  let best: { rule: Rule; at: Point; mm: number } | undefined;
  for (const rule of rules)
    rule.ring.forEach((a, i) => {
      const edge = subtract(rule.ring[(i + 1) % rule.ring.length], a);
      const det = way[0] * -edge[1] + way[1] * edge[0];
      if (Math.abs(det) < 1e-12) return;
      const [x, y] = subtract(a, from);
      const mm = (x * -edge[1] + y * edge[0]) / det;
      const share = (way[0] * y - way[1] * x) / det;
      if (mm < 0.05 || share < 0 || share > 1 || (best && mm >= best.mm)) return;
      best = { rule, at: add(from, scale(way, mm)), mm };
    });
  return best;
}

/** The bars that hold inner rules: each on its nearest neighbour first, then as far round as can be. */
function bridgesOf(
  rules: readonly Rule[],
  { landMm, bridgeMm, bridges }: PlateOptions,
): { bars: Ring[]; of: number[] } {
  const bars: Ring[] = [];
  const of: number[] = [];
  const holding = rules.filter(({ kind }) => kind === 'outer');
  rules.forEach((rule, r) => {
    // Without an outline round them they are joined by connectors instead.
    if (!isWithin(rule) || holding.length === 0) return;
    const taken: Point[] = [];
    // Straight out of the inner rule, from the middle of each of its edges, to the outline, past no other rule.
    const out = counterClockwise(rule.ring);
    const places = out.flatMap((p, i) => {
      const way = subtract(out[(i + 1) % out.length], p);
      const long = lengthOf(way);
      if (long < 1e-9) return [];
      const middle = add(p, scale(way, 0.5));
      const hit = firstHit(middle, [way[1] / long, -way[0] / long], rules);
      return hit?.rule.kind === 'outer' ? [{ middle, to: hit.at, mm: hit.mm }] : [];
    });
    if (places.length === 0) return;
    const far = Math.max(1, ...places.map(({ mm }) => mm));
    for (let k = 0; k < bridges; k++) {
      const apart = ({ middle }: { middle: Point }) =>
        Math.min(Infinity, ...taken.map((t) => distance(t, middle)));
      const best = places.reduce((a, b) => {
        const worth = (x: (typeof places)[number]) =>
          taken.length === 0 ? -x.mm : apart(x) - 0.25 * Math.min(x.mm, far);
        return worth(b) > worth(a) ? b : a;
      });
      taken.push(best.middle);
      if (best.mm < 2 * landMm) continue;
      bars.push(stripBetween(best.middle, best.to, bridgeMm, landMm * 0.9));
      of.push(r);
    }
  });
  return { bars, of };
}

/** Rules that are nearer to each other than a blade's gap; and one that comes too near to itself. */
function tooNear(rules: readonly Rule[], gapMm: number): PlateFault[] {
  const faults: PlateFault[] = [];
  const fault = (mm: number, at: Point) =>
    faults.push({
      kind: 'tooNear',
      words: `Two rules are ${mm.toFixed(2)} mm from each other; the blade needs ${gapMm} mm: move them apart, or cut one of them otherwise.`,
      at,
      measuredMm: mm,
    });
  for (let i = 0; i < rules.length; i++) {
    for (let k = i + 1; k < rules.length; k++) {
      const { mm, from } = link([rules[i].ring], [rules[k].ring]);
      if (mm < gapMm - 1e-6) fault(mm, from);
    }
    const own = nearestToItself(rules[i], gapMm);
    if (own && own.mm < gapMm - 1e-6) fault(own.mm, own.at);
  }
  return faults;
}

/** Where a closed rule comes nearest to itself, apart from along its own way. */
function nearestToItself({ ring, kind }: Rule, gapMm: number): { mm: number; at: Point } | null {
  if (kind === 'slit' || kind === 'mark') return null;
  const ends = ring.map((p, i) => [p, ring[(i + 1) % ring.length]] as const);
  const lengths = ends.map(([a, b]) => distance(a, b));
  const whole = lengths.reduce((sum, mm) => sum + mm, 0);
  const begins = lengths.map((_, i) => lengths.slice(0, i).reduce((sum, mm) => sum + mm, 0));
  let best: { mm: number; at: Point } | null = null;
  for (let i = 0; i < ends.length; i++)
    for (let k = i + 2; k < ends.length; k++) {
      const gap = segmentGap(...ends[i], ...ends[k]);
      if (gap.distance >= gapMm || (best && gap.distance >= best.mm)) continue;
      const at = begins[i] + distance(ends[i][0], gap.onFirst);
      const to = begins[k] + distance(ends[k][0], gap.onSecond);
      const along = Math.min(to - at, whole - (to - at));
      // Round a corner the way is about as short as the gap: that is no neck.
      if (along > 3 * gapMm) best = { mm: gap.distance, at: gap.onFirst };
    }
  return best;
}

/** The pieces of metal that hang together, joined by connectors: always the nearest two lots next. */
function connected(metal: readonly Region[], widthMm: number): Ring[] {
  // Rounded corners have many points: a connector need not know all of them.
  const lots = metal.map(({ outer }) => [coarsened(outer, COARSE_MM)]);
  const bars: Ring[] = [];
  while (lots.length > 1) {
    let best = { i: 0, k: 1, ...link(lots[0], lots[1]) };
    for (let k = 1; k < lots.length; k++) {
      const found = link(lots[0], lots[k]);
      if (found.mm < best.mm) best = { i: 0, k, ...found };
    }
    bars.push(stripBetween(best.from, best.to, widthMm, 0.5));
    lots[0] = [...lots[0], ...lots[best.k]];
    lots.splice(best.k, 1);
  }
  return bars;
}

/**
 * The plate of some parts.
 *
 * @param widestMm shapes are laid in rows no wider than this
 * @returns null where everything is left to the guillotine
 */
export function plateOf(parts: readonly Part[], options: PlateOptions, widestMm = 300): Plate | null {
  const counts = new Map<string, number>();
  const shapes = parts.flatMap((part) => {
    const own = rulesOf(part, options.leaveRectangles);
    const areaMm2 = panelPlan(part).panels.reduce((sum, panel) => sum + panel.areaMm2, 0);
    const times = areaMm2 < options.doubleBelowMm2 ? 2 : 1;
    const all = [
      ...Array.from({ length: times }, () => own),
      ...(options.twins
        ? [own.map((rule) => ({ ...rule, ring: mirrorRing(rule.ring), line: mirrorRing(rule.line) }))]
        : []),
    ].filter((rules) => rules.length > 0);
    counts.set(part.id, all.length);
    return all;
  });
  if (shapes.length === 0) return null;
  // In rows, the tallest of a row telling its height.
  let [x, y, high] = [0, 0, 0];
  const laid = shapes.map((rules) => {
    const box = boxOf(rules.flatMap(({ ring }) => ring));
    const [w, h] = [box.maxX - box.minX, box.maxY - box.minY];
    const step = 2 * options.landMm + APART_MM;
    if (x > 0 && x + w > widestMm) {
      [x, y, high] = [0, y + high + step, 0];
    }
    const by: Point = [x - box.minX, y - box.minY];
    x += w + step;
    high = Math.max(high, h);
    return rules.map((rule): Rule => ({
      ...rule,
      ring: moveRing(rule.ring, by),
      line: moveRing(rule.line, by),
    }));
  });
  const held = laid.map((rules) => {
    const { bars, of } = bridgesOf(rules, options);
    const metal = union([...rules.flatMap((rule) => metalOf(rule, options.landMm)), ...bars.map(solid)]);
    return { rules, bars, of, metal };
  });
  const bridges = held.flatMap(({ bars }) => bars);
  const joined = union(held.flatMap(({ metal }) => metal));
  const faults = [
    ...laid.flatMap((rules) => tooNear(rules, options.bladeGapMm)),
    ...held.flatMap(({ rules, metal }) => notHeld(rules, metal)),
  ];
  const connectors = connected(joined, options.connectorMm);
  const metal = union([...joined, ...connectors.map(solid)]);
  const box = boxOf(metal.flatMap(({ outer }) => outer));
  const lines = held.flatMap(({ rules, bars, of }) =>
    rules.flatMap((rule, r) =>
      withGaps(
        rule.line,
        bars.filter((_, k) => of[k] === r),
      ).map((line) => ({ line, mark: rule.kind === 'mark' })),
    ),
  );
  const drawn = (mark: boolean) =>
    lines.filter((each) => each.mark === mark).map(({ line }) => polyline(line));
  return {
    rules: drawn(false),
    scores: drawn(true),
    metal,
    bridges,
    connectors,
    box,
    areaMm2: (box.maxX - box.minX) * (box.maxY - box.minY),
    metalMm2: metal.reduce((sum, region) => sum + regionArea(region), 0),
    faults,
    counts,
  };
}

/** Inner rules whose metal hangs together with nothing that holds it. */
function notHeld(rules: readonly Rule[], metal: readonly Region[]): PlateFault[] {
  const holding = rules.filter(({ kind }) => kind === 'outer');
  if (holding.length === 0) return [];
  return rules.filter(isWithin).flatMap(({ ring }): PlateFault[] => {
    const lot = metal.find((region) => insideRegion(ring[0], region));
    const isHeld = lot && holding.some((rule) => rule.ring.some((p) => insideRegion(p, lot)));
    return isHeld
      ? []
      : [
          {
            kind: 'notHeld',
            words: 'An inner rule hangs on no bridge: take more bridges, or wider ones.',
            at: ring[0],
            measuredMm: null,
          },
        ];
  });
}

/** The price of a plate: so much for each, and by its area. */
export const platePrice = (areaMm2: number, perCm2: number, each: number): number =>
  each + (areaMm2 / 100) * perCm2;

/** The beds through which a plate goes, either way round. */
export const bedsFor = ({ box }: Pick<Plate, 'box'>): readonly string[] => {
  const narrow = Math.min(box.maxX - box.minX, box.maxY - box.minY);
  return PLATE_BEDS.filter(({ widthMm }) => narrow <= widthMm).map(({ name }) => name);
};
