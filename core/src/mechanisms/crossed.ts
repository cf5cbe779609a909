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
import { fit } from '../stock/stock.ts';
import type { Gutter } from '../design/frames.ts';
import { workOf, type Part } from '../dieline/part.ts';
import { polyline, type Path } from '../geometry/path.ts';
import type { Point } from '../geometry/point.ts';
import { HOST_PART, type Constraint, type Family, type Params } from './family.ts';
import { ALONG_FOLD, handlesOf } from './handles.ts';
import { acrossAt, Making } from './making.ts';
import { alongRules, rectangle, round } from './pieces.ts';
import { ALONG, length, measures, pick, tabOf, tabs, widthOf, shareOf } from './specs.ts';

const three = (params: Params): boolean => params.pieces === 'three';

const SIZES = measures({
  leftMm: length('Left foot', 'From the gutter to the fold on the left half.', shareOf('depth', 0.22)),
  rightMm: length('Right foot', 'From the gutter to the fold on the right half.', shareOf('depth', 0.22)),
  crossingMm: length(
    'Crossing',
    'From the left foot along the left piece; at least the right foot.',
    shareOf('depth', 0.3),
  ),
  beyondMm: length('Beyond', 'How far the pieces run on beyond the crossing.', shareOf('depth', 0.35)),
  pieces: pick('Pieces', 'Two stand on the halves; a third swings in the crossing.', {
    two: 'two',
    three: 'three',
  }),
  innerMm: length(
    'Third, inwards',
    'How far the third piece runs from the crossing towards the gutter.',
    shareOf('depth', 0.15),
    3,
    600,
    three,
  ),
  alongMm: ALONG,
  widthMm: widthOf(0.4),
  ...tabs(tabOf(0.08, 10), 2),
});

/** The measures of crossed pieces in mm. */
export function crossedMeasures(params: Params) {
  const sizes = SIZES.read(params);
  const { leftMm: a, rightMm: b, crossingMm: p } = sizes;
  const q = a + p - b;
  return {
    a,
    b,
    p,
    q,
    /** The third piece runs so far from the crossing towards the gutter; 0 when there is none. */
    inner: three(params) ? sizes.innerMm : 0,
    /** How far the third piece may run inwards from the crossing before it meets the card, anywhere on the way. */
    lowest: three(params) ? roomInwards(a, b, p, q) : Infinity,
    beyond: sizes.beyondMm,
    along: sizes.alongMm,
    width: sizes.widthMm,
    tab: sizes.tabMm,
    taper: sizes.taperMm,
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

/** A closed outline with a half slot cut into its lower or upper edge at x. */
function notched(
  outline: Path,
  x: number,
  slotWidthMm: number,
  depthMm: number,
  widthMm: number,
  from: 'low' | 'high',
): Path {
  const points: Point[] = [outline.start, ...outline.segments.slice(0, -1).map((s) => s.to)];
  const low = from === 'low';
  const [edge, inner] = low ? [0, depthMm] : [widthMm, widthMm - depthMm];
  // The ring turns left: along the lower edge towards +x, along the upper one back.
  const way = (low ? 1 : -1) * (slotWidthMm / 2);
  const notch: Point[] = [
    [x - way, edge],
    [x - way, inner],
    [x + way, inner],
    [x + way, edge],
  ];
  const after = points.findIndex((p, i) => {
    const q = points[(i + 1) % points.length];
    return p[1] === edge && q[1] === edge && (p[0] - x) * (q[0] - x) < 0;
  });
  return polyline([...points.slice(0, after + 1), ...notch, ...points.slice(after + 1)], true);
}

/** A piece whose outline has a half slot cut into its lower edge at x. */
const withSlot = (part: Part, x: number, slotWidthMm: number, depthMm: number, widthMm: number): Part => {
  const [outline, ...others] = part.lines;
  const path = notched(outline.path, x, slotWidthMm, depthMm, widthMm, 'low');
  return { ...part, lines: [{ ...outline, path }, ...others] };
};

export const crossed: Family = {
  id: 'crossed',
  on: 'fold',
  title: 'Cross-slotted pieces',
  purpose: 'Two or three pieces cross in half slots and open to an X or a star over the fold.',
  specs: SIZES.specs,
  defaults: SIZES.defaults,
  constraints,
  build(params, context) {
    const m = crossedMeasures(params);
    const made = new Making(context);
    const { slotMm, depthMm } = fit(context.stock, 'close', context.fits);
    const depth = (three(params) ? (2 * m.width) / 3 : m.width / 2) + depthMm;
    const piece = (side: 'left' | 'right', at: number): Part => {
      const left = side === 'left';
      const part = made.strip(
        side,
        {
          title: `${side} piece`,
          widthMm: m.width,
          tabMm: m.tab,
          taperMm: m.taper,
          panels: [{ id: 'piece', name: 'piece', lengthMm: at + m.beyond }],
          folds: [],
          first: { id: 'foot', name: 'foot tab', foldId: 'foot', ...workOf('valley'), face: 'back' },
        },
        ({ part: whole }) => ({
          ...withSlot(whole, at, slotMm, depth, m.width),
          marks: whole.marks.map((k) => (k.id === 'piece' ? { ...k, at: [2, m.width / 2] as const } : k)),
        }),
      );
      made.foot(part, {
        zoneId: 'glue-foot',
        foldId: 'foot',
        side,
        foldX: 0,
        x: left ? -m.a : m.b,
        along: m.along,
        widthMm: m.width,
        under: false,
        // The right piece is the left one turned by half a turn: its lower edge is the upper one.
        down: !left,
        landing: side,
      });
      return part;
    };
    const [left, right] = [piece('left', m.p), piece('right', m.q)];
    const upAt = (x: number) => acrossAt(x, 0, m.width);
    const inRight = [right, acrossAt(m.q, m.width, 0), [m.q - 2, m.width - 1]] as const;
    made.cross('cross', [left, upAt(m.p)], inRight, -90);
    if (!three(params)) return made.done();
    // The third piece, the crossing at x = 0: slotted from below and from above, whole in the middle third.
    const blank = polyline(rectangle(-m.inner, 0, m.inner + m.beyond, m.width), true);
    const outline = (['low', 'high'] as const).reduce(
      (path, from) => notched(path, 0, slotMm, m.width / 3 + depthMm, m.width, from),
      blank,
    );
    const inThird: Point = [1 - m.inner, m.width / 2];
    const third = made.plate('third', outline, { title: 'third piece', panel: 'piece', at: inThird });
    made.cross('cross-left', [left, upAt(m.p)], [third, upAt(0), inThird], 45);
    made.cross('cross-right', [third, upAt(0)], inRight, -135);
    // The slots leave the third one free: paper spreads it.
    return made.done({ loose: [left.id, right.id, third.id] });
  },
  handles(params, context) {
    const m = crossedMeasures(params);
    const middle = m.along + m.width / 2;
    const handle = handlesOf(context, params);
    return [
      handle(HOST_PART, 'left', 'left foot', [-m.a, middle], { leftMm: [-1, 0] }),
      handle(HOST_PART, 'right', 'right foot', [m.b, middle], { rightMm: [1, 0] }),
      handle(HOST_PART, 'along', 'place along the fold', [0, m.along], ALONG_FOLD),
      handle('left', 'beyond', 'beyond the crossing', [m.p + m.beyond, m.width / 2], { beyondMm: [1, 0] }),
      ...(three(params)
        ? [handle('third', 'inner', 'third piece inwards', [-m.inner, m.width / 2], { innerMm: [-1, 0] })]
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
