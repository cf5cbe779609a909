/**
 * Slots against what passes through them. In coordinates along the slot: what both pieces have of material there, less what
 * is cut in them, would have to go through itself; and a slot must be as wide as the paper is thick.
 */
import type { Joint } from '../design/design.ts';
import { panelAt, panelPlan } from '../dieline/panels.ts';
import { isCut, stockOf, type Part } from '../dieline/part.ts';
import { inverse, place, placing, turn } from '../geometry/isometry.ts';
import { flatten } from '../geometry/path.ts';
import { distance, middle, subtract, type Point } from '../geometry/point.ts';
import type { Region } from '../geometry/polygon.ts';
import { less, type Stretch } from '../geometry/stretch.ts';
import { CATCH_TOLERANCE_MM, EDGE_TOLERANCE_MM } from '../geometry/tolerances.ts';
import { cutAlong } from '../motion/passages.ts';
import { findingOf, mm, type Finding, type Rule } from './finding.ts';
import { partName } from './motionWords.ts';

const RULE = 'slotFit';
/** Sections are taken so far to either side of a line: edges that only lie on it are not passed through. */
const BESIDE_MM = 0.05;
/** A side of a slot is looked for so far from its line. */
const SIDE_MM = 3;

type Line = readonly [Point, Point];
type Through = Extract<Joint, { kind: 'tongue' | 'cross' | 'rest' }>;

/** Coordinates along a line: x along it from its start. */
export const alongLine = ([a, b]: Line) => {
  const d = subtract(b, a);
  return inverse(turn(Math.atan2(d[1], d[0]), a[0], a[1]));
};

/** What a region has of a line shifted sideways, as stretches along it. */
export function sectionOf(region: Region, line: Line, sideMm: number): Stretch[] {
  const to = alongLine(line);
  const marks: number[] = [];
  for (const ring of [region.outer, ...region.holes]) {
    const points = ring.map(placing(to));
    points.forEach(([x, y], i) => {
      const [u, v] = points[(i + 1) % points.length];
      if (y > sideMm !== v > sideMm) marks.push(x + ((u - x) * (sideMm - y)) / (v - y));
    });
  }
  marks.sort((p, q) => p - q);
  return marks.flatMap((from, i): Stretch[] => (i % 2 === 0 ? [[from, marks[i + 1]]] : []));
}

const common = (a: readonly Stretch[], b: readonly Stretch[]): Stretch[] =>
  a.flatMap(([p, q]) =>
    b.flatMap(([s, t]): Stretch[] =>
      Math.min(q, t) > Math.max(p, s) ? [[Math.max(p, s), Math.min(q, t)]] : [],
    ),
  );

/** The material of a part at a line, on both its sides: of the panel at a point, or of all. */
function materialAt(part: Part, line: Line, within: Point | null): Stretch[] {
  const plan = panelPlan(part);
  const panels = within ? plan.panels.filter((_, i) => i === panelAt(plan, within)) : plan.panels;
  return panels.flatMap(({ region }) =>
    common(sectionOf(region, line, BESIDE_MM), sectionOf(region, line, -BESIDE_MM)),
  );
}

/** The whole line, made longer both ways, so that slots that run on are seen. */
const longer = ([a, b]: Line, byMm: number): Line => {
  const length = distance(a, b) || 1;
  const [ux, uy] = [(b[0] - a[0]) / length, (b[1] - a[1]) / length];
  return [
    [a[0] - byMm * ux, a[1] - byMm * uy],
    [b[0] + byMm * ux, b[1] + byMm * uy],
  ];
};

/** What is cut along a line in a part, in coordinates from the line's start. */
const cutsOn = (part: Part, line: Line): Stretch[] =>
  cutAlong(part, longer(line, 50)).map(([from, to]) => [from - 50, to - 50] as const);

/** How wide a slot is at its middle: between the nearest cuts on its two sides, 0 for a mere slit; undefined without sides. */
function widthOf(part: Part, line: Line, [from, to]: Stretch): number | undefined {
  const frame = alongLine(line);
  const at = (from + to) / 2;
  let [above, below] = [Infinity, Infinity];
  for (const line of part.lines) {
    if (!isCut(line)) continue;
    const points = flatten(line.path).map(placing(frame));
    for (let i = 1; i < points.length; i++) {
      const [[x, y], [u, v]] = [points[i - 1], points[i]];
      if (x > at === u > at) continue;
      const side = y + ((v - y) * (at - x)) / (u - x);
      if (side >= 0) above = Math.min(above, side);
      if (side <= 0) below = Math.min(below, -side);
    }
  }
  if (above + below > SIDE_MM) return undefined;
  // The edge of a piece on which another one rests is no slot: paper lies on one side only.
  const back = inverse(frame);
  const paper = (y: number) => panelPlan(part).panelContaining(place(back, [at, y])) >= 0;
  return above + below > BESIDE_MM || (paper(BESIDE_MM) && paper(-BESIDE_MM)) ? above + below : undefined;
}

/** How much of two pieces would have to go through each other along a slot, and the stretches, from the slot's start. */
function uncut(part: Part, host: Part, joint: Through): Stretch[] {
  const wide = longer(joint.slot, 300);
  const onPart = longer(joint.on, 300);
  const shifted = (list: readonly Stretch[]) => list.map(([p, q]) => [p - 300, q - 300] as const);
  const both = common(shifted(materialAt(host, wide, null)), shifted(materialAt(part, onPart, joint.within)));
  const open = [...cutsOn(host, joint.slot), ...(joint.kind === 'cross' ? cutsOn(part, joint.on) : [])];
  return less(both, open).filter(([p, q]) => q - p > CATCH_TOLERANCE_MM);
}

const along = ([a, b]: Line, s: number): Point => {
  const length = distance(a, b) || 1;
  return [a[0] + ((b[0] - a[0]) * s) / length, a[1] + ((b[1] - a[1]) * s) / length];
};

/** Findings of one slot: its length, and its width against the paper that goes through it. */
function throughFindings(part: Part, host: Part, joint: Through): Finding[] {
  const lacking = uncut(part, host, joint);
  const lackMm = lacking.reduce((sum, [p, q]) => sum + q - p, 0);
  const cuts = cutsOn(host, joint.slot);
  const what =
    joint.kind === 'tongue'
      ? `slot in ${host.name} for ${part.name}`
      : `half slots of ${part.name} and ${host.name}`;
  if (lackMm > EDGE_TOLERANCE_MM)
    return [
      findingOf(
        RULE,
        `short:${joint.id}`,
        cuts.length === 0 && joint.kind === 'tongue'
          ? `No slot is cut in ${host.name} where ${part.name} goes through it (${mm(lackMm)} long).`
          : `The ${what} ${joint.kind === 'tongue' ? 'is' : 'are'} ${mm(lackMm)} too short: ${joint.kind === 'tongue' ? 'it cannot be put through' : 'the pieces do not go together'}.`,
        [
          {
            partId: host.id,
            at: along(joint.slot, (lacking[0][0] + lacking[0][1]) / 2),
            points: lacking.flatMap(([p, q]) => [along(joint.slot, p), along(joint.slot, q)]),
          },
        ],
        { measured: lackMm, limit: 0, limitFrom: 'what goes through, as wide as it is there' },
      ),
    ];
  const pairs = [
    { owner: host, line: joint.slot, cuts, other: part },
    ...(joint.kind === 'cross'
      ? [{ owner: part, line: joint.on, cuts: cutsOn(part, joint.on), other: host }]
      : []),
  ];
  return pairs.flatMap(({ owner, line, cuts: open, other }): Finding[] => {
    const thick = stockOf(other).thicknessMm;
    const widths = open.flatMap((stretch) => widthOf(owner, line, stretch) ?? []);
    const width = Math.min(...widths);
    // A mere slit lets a tongue through; half slots stay in each other.
    if (
      widths.length === 0 ||
      width >= thick - 1e-6 ||
      (width < CATCH_TOLERANCE_MM && joint.kind === 'tongue')
    )
      return [];
    return [
      findingOf(
        RULE,
        `narrow:${joint.id}:${owner.id}`,
        `The slot of ${owner.name} is ${mm(width)} wide; ${other.name}, which goes through it, is ${mm(thick)} thick.`,
        [{ partId: owner.id, at: middle(...line), points: line }],
        {
          measured: width,
          limit: thick,
          limitFrom: `the thickness of ${stockOf(other).name}`,
        },
      ),
    ];
  });
}

/** What passes through a slot must find it cut, long and wide enough. */
export const slotFit: Rule = {
  id: RULE,
  title: 'Slots',
  protects:
    'Every tongue, pin and half slot finds its slot cut, long enough and as wide as the paper is thick.',
  needs: ['joints', 'lines'],
  limit: 'what goes through, and how thick it is',
  unit: 'mm',
  run({ expanded }) {
    const byId = new Map(expanded.parts.map((part) => [part.id, part]));
    return expanded.joints.flatMap((joint): Finding[] => {
      const [part, host] = [byId.get(joint.partId), byId.get(joint.hostPartId)];
      if (!part || !host) return [];
      if (joint.kind === 'tongue' || joint.kind === 'cross') return throughFindings(part, host, joint);
      if (joint.kind !== 'pin' || distance(...joint.slit) < EDGE_TOLERANCE_MM) return [];
      const plan = panelPlan(host);
      // Where there is no paper at all, a wider window does as well.
      if (panelAt(plan, middle(...joint.slit)) < 0) return [];
      const length = distance(...joint.slit);
      const lackMm = less([[0, length]], cutAlong(host, joint.slit)).reduce((sum, [p, q]) => sum + q - p, 0);
      if (lackMm <= EDGE_TOLERANCE_MM) return [];
      return [
        findingOf(
          RULE,
          `pin:${joint.id}`,
          `The slit in which the pin of ${partName(expanded, part.id)} runs is not cut in ${host.name} over ${mm(lackMm)}.`,
          [{ partId: host.id, at: middle(...joint.slit), points: joint.slit }],
          { measured: lackMm, limit: 0, limitFrom: 'the way of the pin' },
        ),
      ];
    });
  },
};
