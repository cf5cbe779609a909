/**
 * Cross-slotted pieces. Two pieces stand on the two halves and cross each other in half slots over the gutter; they open to
 * an X and close flat.
 *
 * In the plane across the gutter they are a step (step.ts) whose panels run on beyond the ridge: feet a and b, the crossing
 * p along the left piece and q along the right one. Closed-form limits:
 * - Flat when closed: a + p = b + q. Open flat: p + q >= a + b, so p >= b.
 * - Closed, the left piece lies from a to a + its length, the right one from b to b + its length.
 * - Slots: as wide as the paper is thick and a little more, each half the width of the pieces and a little more, one from
 *   below and one from above.
 */
import { stockById } from '../stock/stock.ts';
import type { Gutter } from '../design/frames.ts';
import type { Joint } from '../design/design.ts';
import type { Part } from '../dieline/part.ts';
import { polyline } from '../geometry/path.ts';
import type { Point } from '../geometry/point.ts';
import { num, type Constraint, type Family, type Params } from './family.ts';
import { alongHandle, onHost, onPart } from './handles.ts';
import { alongRules, foot, NOTHING, round, strip } from './pieces.ts';
import { ALONG, length, WIDTH } from './specs.ts';
import { tabSpecs } from './tabSpecs.ts';

/** What half slots need beside half the width, mm. */
const SLOT_DEPTH_CLEARANCE_MM = 0.5;

/** The measures of crossed pieces in mm. */
export function crossedMeasures(params: Params) {
  const [a, b, p] = [num(params, 'leftMm'), num(params, 'rightMm'), num(params, 'crossingMm')];
  return {
    a,
    b,
    p,
    q: a + p - b,
    beyond: num(params, 'beyondMm'),
    along: num(params, 'alongMm'),
    width: num(params, 'widthMm'),
    tab: num(params, 'tabMm'),
    taper: num(params, 'taperMm'),
  };
}

function constraints(params: Params, gutter: Gutter, marginMm: number): Constraint[] {
  const m = crossedMeasures(params);
  return [
    {
      overMm: m.a + m.p + m.beyond - (gutter.reachMm - marginMm),
      reason: `Closed, the pieces would reach past the open edge (${round(gutter.reachMm)} mm deep, ${marginMm} mm margin).`,
    },
    { overMm: m.b - m.p, reason: 'The crossing is too near to the feet to let the card open flat.' },
    { overMm: 4 - m.q, reason: 'The right piece would cross at its foot.' },
    { overMm: m.a + m.tab - gutter.left.depthMm, reason: 'The left tab would stick out of the open edge.' },
    { overMm: m.b + m.tab - gutter.right.depthMm, reason: 'The right tab would stick out of the open edge.' },
    { overMm: 2 * m.taper - (m.width - 4), reason: 'The tapered tab would end in less than 4 mm.' },
    ...alongRules(gutter, m.along, m.width),
  ];
}

/** A piece whose outline has a half slot cut into its lower or upper edge at x. */
function withSlot(
  part: Part,
  x: number,
  slotWidthMm: number,
  depthMm: number,
  widthMm: number,
  from: 'low' | 'high',
): Part {
  const [left, right] = [x - slotWidthMm / 2, x + slotWidthMm / 2];
  const outline = part.lines[0];
  const points: Point[] = [outline.path.start, ...outline.path.segments.slice(0, -1).map((s) => s.to)];
  const edge = from === 'low' ? 0 : widthMm;
  const inner = from === 'low' ? depthMm : widthMm - depthMm;
  // The ring turns left: along the lower edge towards +x, along the upper one back.
  const notch: Point[] =
    from === 'low'
      ? [
          [left, edge],
          [left, inner],
          [right, inner],
          [right, edge],
        ]
      : [
          [right, edge],
          [right, inner],
          [left, inner],
          [left, edge],
        ];
  const after = points.findIndex((p, i) => {
    const q = points[(i + 1) % points.length];
    return p[1] === edge && q[1] === edge && Math.min(p[0], q[0]) < left && Math.max(p[0], q[0]) > right;
  });
  const cut = [...points.slice(0, after + 1), ...notch, ...points.slice(after + 1)];
  return { ...part, lines: [{ ...outline, path: polyline(cut, true) }, ...part.lines.slice(1)] };
}

export const crossed: Family = {
  id: 'crossed',
  on: 'fold',
  title: 'Cross-slotted pieces',
  purpose: 'Two pieces cross in half slots and open to an X that stands over the fold.',
  specs: [
    length('leftMm', 'Left foot', 'From the gutter to the fold on the left half.'),
    length('rightMm', 'Right foot', 'From the gutter to the fold on the right half.'),
    length('crossingMm', 'Crossing', 'From the left foot along the left piece; at least the right foot.'),
    length('beyondMm', 'Beyond', 'How far the pieces run on beyond the crossing.', 2),
    ALONG,
    WIDTH,
    ...tabSpecs(),
  ],
  defaults(gutter) {
    const depth = Math.min(gutter.reachMm, gutter.left.depthMm, gutter.right.depthMm);
    const f = Math.round(depth * 0.22);
    const width = Math.round(gutter.lengthMm * 0.4);
    return {
      leftMm: f,
      rightMm: f,
      crossingMm: Math.round(depth * 0.3),
      beyondMm: Math.round(depth * 0.35),
      alongMm: Math.round((gutter.lengthMm - width) / 2),
      widthMm: width,
      tabMm: Math.min(10, Math.max(4, Math.round(depth * 0.08))),
      taperMm: 2,
    };
  },
  constraints,
  build(params, context) {
    const m = crossedMeasures(params);
    const { instanceId } = context;
    const slotWidth = stockById(context.stockId).thicknessMm * 1.2 + 0.1;
    const depth = m.width / 2 + SLOT_DEPTH_CLEARANCE_MM;
    const pieces = (['left', 'right'] as const).map((side) => {
      const left = side === 'left';
      const at = left ? m.p : m.q;
      const made = strip({
        id: `${instanceId}/${side}`,
        name: `${context.name} ${side} piece`,
        stockId: context.stockId,
        widthMm: m.width,
        tabMm: m.tab,
        taperMm: m.taper,
        panels: [{ id: 'piece', name: 'piece', lengthMm: at + m.beyond }],
        folds: [],
        first: { id: 'foot', name: 'foot tab', foldId: 'foot', layer: 'valley', face: 'back' },
      });
      const footing = foot(context, {
        partId: made.part.id,
        zoneId: 'glue-foot',
        foldId: 'foot',
        side,
        foldX: 0,
        x: left ? -m.a : m.b,
        along: m.along,
        widthMm: m.width,
        under: false,
        // The right piece is the left one turned by half a turn.
        down: !left,
        landing: side,
      });
      const slotted = withSlot(made.part, at, slotWidth, depth, m.width, 'low');
      return {
        part: {
          ...slotted,
          marks: made.part.marks.map((k) => (k.id === 'piece' ? { ...k, at: [2, m.width / 2] as const } : k)),
        },
        frames: made.frames,
        footing,
      };
    });
    const [left, right] = pieces;
    const crossing: Joint = {
      id: `${instanceId}/cross`,
      kind: 'cross',
      partId: right.part.id,
      hostPartId: left.part.id,
      slot: [
        [m.p, 0],
        [m.p, m.width],
      ],
      // Turned by half a turn, its lower edge is the upper one.
      on: [
        [m.q, m.width],
        [m.q, 0],
      ],
      within: [m.q - 2, m.width - 1],
      leanDeg: -90,
      stops: null,
      drive: null,
    };
    return {
      ...NOTHING,
      parts: pieces.map((piece) => piece.part),
      joints: [...pieces.map((piece) => piece.footing.joint), crossing],
      hostLines: pieces.map((piece) => piece.footing.line),
      panelFrames: Object.fromEntries(pieces.map((piece) => [piece.part.id, piece.frames])),
    };
  },
  handles(params, { instanceId }) {
    const m = crossedMeasures(params);
    const middle = m.along + m.width / 2;
    return [
      onHost(instanceId, 'left', 'left foot', [-m.a, middle], [1, 0], (to) => ({ leftMm: -to[0] })),
      onHost(instanceId, 'right', 'right foot', [m.b, middle], [1, 0], (to) => ({ rightMm: to[0] })),
      alongHandle(instanceId, m.along),
      onPart(
        instanceId,
        'left',
        'beyond',
        'beyond the crossing',
        [m.p + m.beyond, m.width / 2],
        [1, 0],
        (to) => ({ beyondMm: to[0] - m.p }),
      ),
    ];
  },
  advice(params, gutter, marginMm) {
    const m = crossedMeasures(params);
    return [
      `The pieces may run ${round(gutter.reachMm - marginMm - m.a - m.p)} mm beyond the crossing at most.`,
      'One slot opens below and one above: slide them together before gluing, and glue only the feet.',
    ];
  },
};
