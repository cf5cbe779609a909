/**
 * Cross-slotted pieces. Two pieces stand on the two halves and cross each other in half slots over the gutter; they open to
 * an X and close flat. A third piece may stand in the same crossing, held by the slots alone: it swings between the two,
 * and paper shares the bend, so that it halves the angle between them.
 *
 * In the plane across the gutter they are a step (step.ts) whose panels run on beyond the ridge: feet a and b, the crossing
 * p along the left piece and q along the right one. Closed-form limits:
 * - Flat when closed: a + p = b + q. Open flat: p + q >= a + b, so p >= b.
 * - Closed, the left piece lies from a to a + its length, the right one from b to b + its length.
 * - Slots: as wide as the paper is thick and a little more, each half the width of the pieces and a little more, one from
 *   below and one from above. With three pieces each is whole on a third of the width: two slots of two thirds, and two of
 *   one third, from below and from above, in the third piece.
 * - The third piece runs inwards along the line that halves the angle between the others, and must not reach the card.
 */
import { stockById } from '../stock/stock.ts';
import type { Gutter } from '../design/frames.ts';
import type { Joint } from '../design/design.ts';
import type { Part } from '../dieline/part.ts';
import { polyline } from '../geometry/path.ts';
import type { Point } from '../geometry/point.ts';
import { choice, num, type BuildContext, type Constraint, type Family, type Params } from './family.ts';
import { alongHandle, onHost, onPart } from './handles.ts';
import { alongRules, foot, framesOf, NOTHING, plate, rectangle, round, strip } from './pieces.ts';
import { ALONG, length, pick, WIDTH } from './specs.ts';
import { tabSpecs } from './tabSpecs.ts';

/** What half slots need beside half the width, mm. */
const SLOT_DEPTH_CLEARANCE_MM = 0.5;

const three = (params: Params): boolean => choice(params, 'pieces') === 'three';

/** The measures of crossed pieces in mm. */
export function crossedMeasures(params: Params) {
  const [a, b, p] = [num(params, 'leftMm'), num(params, 'rightMm'), num(params, 'crossingMm')];
  const q = a + p - b;
  return {
    a,
    b,
    p,
    q,
    /** The third piece runs so far from the crossing towards the gutter; 0 when there is none. */
    inner: three(params) ? num(params, 'innerMm') : 0,
    /** How far the third piece may run inwards from the crossing before it meets the card, anywhere on the way. */
    lowest: three(params) ? roomInwards(a, b, p, q) : Infinity,
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
      shownBy: 'overhang',
    },
    { overMm: m.b - m.p, reason: 'The crossing is too near to the feet to let the card open flat.' },
    { overMm: 4 - m.q, reason: 'The right piece would cross at its foot.' },
    {
      overMm: m.inner - m.lowest,
      reason: `The third piece would run into the card on the way (it has ${round(m.lowest)} mm inwards from the crossing).`,
    },
    {
      overMm: m.a + m.tab - gutter.left.depthMm,
      reason: 'The left tab would stick out of the open edge.',
      shownBy: 'landing',
    },
    {
      overMm: m.b + m.tab - gutter.right.depthMm,
      reason: 'The right tab would stick out of the open edge.',
      shownBy: 'landing',
    },
    { overMm: 2 * m.taper - (m.width - 4), reason: 'The tapered tab would end in less than 4 mm.' },
    ...alongRules(gutter, m.along, m.width),
  ];
}

/** Openings at which the room is looked at, degrees. */
const ROOM_EVERY_DEG = 2;

/**
 * The least way from the crossing, along the line that halves the angle between the pieces, to either half of the card. In
 * the plane across the gutter, the right half along +x: feet A = a (cos t, sin t) and B = (b, 0), the crossing where
 * circles of radius p about A and q about B meet. With feet equally far out it is least when the card lies open flat: by
 * Stewart's theorem the root of (b p^2 + a q^2) / (a + b) - a b. With unequal feet the third piece leans, and has less.
 */
function roomInwards(a: number, b: number, p: number, q: number): number {
  let least = Infinity;
  for (let deg = ROOM_EVERY_DEG; deg <= 180; deg += ROOM_EVERY_DEG) {
    const t = (deg * Math.PI) / 180;
    const A = [a * Math.cos(t), a * Math.sin(t)];
    const d = Math.hypot(b - A[0], A[1]);
    const [ux, uz] = [(b - A[0]) / d, -A[1] / d];
    const s = (p * p - q * q + d * d) / (2 * d);
    const h = Math.sqrt(Math.max(0, p * p - s * s));
    const [x, z] = [A[0] + s * ux - h * uz, A[1] + s * uz + h * ux];
    const unit = (vx: number, vz: number) => [vx / Math.hypot(vx, vz), vz / Math.hypot(vx, vz)];
    const [l, r] = [unit(x - A[0], z - A[1]), unit(x - b, z)];
    const [mx, mz] = [-l[0] - r[0], -l[1] - r[1]];
    const size = Math.hypot(mx, mz);
    if (size < 1e-9) continue;
    // Where the ray from the crossing along m meets the right half (z = 0) or the left one (x sin t = z cos t).
    const meets = [
      -z / (mz / size),
      (z * Math.cos(t) - x * Math.sin(t)) / ((mx * Math.sin(t) - mz * Math.cos(t)) / size),
    ];
    for (const far of meets) if (far > 1e-9) least = Math.min(least, far);
  }
  return least;
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

/** The third piece, the crossing at x = 0: across it, slotted from below and from above, whole in the middle third. */
function thirdPiece(params: Params, { instanceId, name, stockId }: BuildContext, slotWidthMm: number): Part {
  const m = crossedMeasures(params);
  const outline = polyline(rectangle(-m.inner, 0, m.inner + m.beyond, m.width), true);
  const blank = plate(`${instanceId}/third`, `${name} third piece`, stockId, outline, {
    id: 'piece',
    name: 'piece',
    at: [1 - m.inner, m.width / 2],
  });
  const depth = m.width / 3 + SLOT_DEPTH_CLEARANCE_MM;
  return (['low', 'high'] as const).reduce(
    (part, from) => withSlot(part, 0, slotWidthMm, depth, m.width, from),
    blank,
  );
}

export const crossed: Family = {
  id: 'crossed',
  on: 'fold',
  title: 'Cross-slotted pieces',
  purpose: 'Two or three pieces cross in half slots and open to an X or a star over the fold.',
  specs: [
    length('leftMm', 'Left foot', 'From the gutter to the fold on the left half.'),
    length('rightMm', 'Right foot', 'From the gutter to the fold on the right half.'),
    length('crossingMm', 'Crossing', 'From the left foot along the left piece; at least the right foot.'),
    length('beyondMm', 'Beyond', 'How far the pieces run on beyond the crossing.', 2),
    pick('pieces', 'Pieces', 'Two stand on the halves; a third swings in the crossing.', {
      two: 'two',
      three: 'three',
    }),
    length(
      'innerMm',
      'Third, inwards',
      'How far the third piece runs from the crossing towards the gutter.',
      3,
      600,
      three,
    ),
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
      pieces: 'two',
      innerMm: Math.round(depth * 0.15),
      alongMm: Math.round((gutter.lengthMm - width) / 2),
      widthMm: width,
      tabMm: Math.min(10, Math.max(5, Math.round(depth * 0.08))),
      taperMm: 2,
    };
  },
  constraints,
  build(params, context) {
    const m = crossedMeasures(params);
    const { instanceId } = context;
    const slotWidth = stockById(context.stockId).thicknessMm * 1.2 + 0.1;
    const thirds = three(params);
    const depth = (thirds ? (2 * m.width) / 3 : m.width / 2) + SLOT_DEPTH_CLEARANCE_MM;
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
    const up = (x: number): [Point, Point] => [
      [x, 0],
      [x, m.width],
    ];
    // The right piece is turned by half a turn: its lower edge is the upper one.
    const down = (x: number): [Point, Point] => [
      [x, m.width],
      [x, 0],
    ];
    const crossing = (
      id: string,
      [host, slot]: [Part, [Point, Point]],
      [part, on, within]: [Part, [Point, Point], Point],
      leanDeg: number,
    ): Joint => ({
      id: `${instanceId}/${id}`,
      kind: 'cross',
      partId: part.id,
      hostPartId: host.id,
      slot,
      on,
      within,
      leanDeg,
      stops: null,
      drive: null,
    });
    const inRight: Point = [m.q - 2, m.width - 1];
    const made = {
      ...NOTHING,
      parts: pieces.map((piece) => piece.part),
      joints: [
        ...pieces.map((piece) => piece.footing.joint),
        crossing('cross', [left.part, up(m.p)], [right.part, down(m.q), inRight], -90),
      ],
      hostLines: pieces.map((piece) => piece.footing.line),
      panelFrames: Object.fromEntries(pieces.map((piece) => [piece.part.id, piece.frames])),
    };
    if (!thirds) return made;
    const third = thirdPiece(params, context, slotWidth);
    return {
      ...made,
      parts: [...made.parts, third],
      joints: [
        ...made.joints,
        crossing('cross-left', [left.part, up(m.p)], [third, up(0), [1 - m.inner, m.width / 2]], 45),
        crossing('cross-right', [third, up(0)], [right.part, down(m.q), inRight], -135),
      ],
      panelFrames: { ...made.panelFrames, ...framesOf([third]) },
      // The slots leave the third one free: paper spreads it.
      loose: [...made.parts, third].map((part) => part.id),
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
      ...(three(params)
        ? [
            onPart(
              instanceId,
              'third',
              'inner',
              'third piece inwards',
              [-m.inner, m.width / 2],
              [1, 0],
              (to) => ({
                innerMm: -to[0],
              }),
            ),
          ]
        : []),
    ];
  },
  advice(params, gutter, marginMm) {
    const m = crossedMeasures(params);
    return [
      `The pieces may run ${round(gutter.reachMm - marginMm - m.a - m.p)} mm beyond the crossing at most.`,
      three(params)
        ? `The third piece may run ${round(m.lowest)} mm inwards at most. Slide all three together before gluing, and glue only the feet: the third swings in its slots.`
        : 'One slot opens below and one above: slide them together before gluing, and glue only the feet.',
    ];
  },
};
