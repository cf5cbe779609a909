/**
 * Spinner. A plate lies across the gutter, its left and right triangles glued to the halves; diagonal folds from the
 * centre let the upper and lower triangles invert as the card closes. Each carries an arm that swings with it.
 *
 * The folds through the centre are two V-folds (vfold.ts) back to back with all four angles alpha. Closed-form limits:
 * - Flat when open, for foot and panel angles are equal.
 * - Closed, a point at distance r from the centre and angle g from the middle crease (towards the diagonal) lies
 *   r sin(2 alpha - g) from the gutter and r cos(2 alpha - g) along it from the centre. Upper and lower triangles share the
 *   half between them: 2 alpha <= 90 deg.
 * - Where the folds meet a hole of radius r takes the point out; each end of two has a key that fills the other's notch.
 * - At 45 deg the middle creases swing by a right angle: from along the gutter to straight across it.
 */
import { workOf, type DieLine } from '../dieline/part.ts';
import type { Gutter } from '../design/frames.ts';
import { shift } from '../geometry/isometry.ts';
import { polyline, straight, type Path, type Segment } from '../geometry/path.ts';
import { cross, dot, lengthOf, scale, type Point } from '../geometry/point.ts';
import { USUAL_WEB_MM } from '../stock/stock.ts';
import { HOST_PART, type Constraint, type Contribution, type Family, type Params } from './family.ts';
import { ALONG_FOLD, handlesOf } from './handles.ts';
import { Making } from './making.ts';
import { round } from './pieces.ts';
import { angle, length, measures, pick, since } from './specs.ts';

const SIZES = measures({
  form: pick('Form', 'One piece cannot be glued crooked; two ends spare paper.', {
    onePiece: 'One plate',
    twoEnds: 'Two ends',
  }),
  alongMm: length(
    'Centre',
    'From the lower end of the fold to the centre of the plate.',
    ({ tall }) => Math.round(tall / 2),
    -200,
    1000,
  ),
  plateMm: length(
    'Plate',
    'Height of the plate along the fold.',
    ({ tall, gutter }) => Math.round(Math.min(tall * 0.36, gutter.reachMm * 0.7)),
    8,
  ),
  diagonalDeg: angle('Diagonal', 'Between the fold and the diagonals; 45° at most.', 45, 15, 60),
  armMm: length(
    'Arm',
    'How far the arms reach beyond the plate.',
    (_, { plateMm }) => Math.round(plateMm * 0.5),
    1,
  ),
  armWidthMm: length('Arm width', 'Across an arm.', (_, { plateMm }) => Math.round(plateMm * 0.22), 2),
  holeMm: since(
    length(
      'Centre hole',
      'Across: where all folds meet the paper crumples. 0 is none.',
      ({ tall }) => (tall >= 60 ? 3 : 0),
      0,
      60,
    ),
    () => 0,
  ),
  keyMm: since(
    length(
      'Key',
      'So far each end reaches into a notch of the other, which holds them in line. 0 is none.',
      3,
      0,
      60,
      (p) => p.form === 'twoEnds',
    ),
    () => 0,
  ),
});

const RAD = Math.PI / 180;

/** The measures of a spinner in mm and radians. */
export function spinnerMeasures(params: Params) {
  const sizes = SIZES.read(params);
  return {
    alpha: sizes.diagonalDeg * RAD,
    half: sizes.plateMm / 2,
    arm: sizes.armMm,
    armWidth: sizes.armWidthMm,
    along: sizes.alongMm,
    twoEnds: sizes.form === 'twoEnds',
    hole: sizes.holeMm / 2,
    key: sizes.form === 'twoEnds' ? sizes.keyMm : 0,
  };
}

type Measures = ReturnType<typeof spinnerMeasures>;

/** Half the plate's width: where the diagonals meet its upper and lower edges, and room for the glued triangles. */
const halfWidth = (m: Measures): number => m.half * Math.tan(m.alpha);

/** Corners of the upper right triangle with its arm, by which reach is judged. */
const swinging = (m: Measures): Point[] => [
  [0, m.half],
  [halfWidth(m), m.half],
  [0, m.half + m.arm],
  [m.armWidth, m.half + m.arm],
];

function constraints(params: Params, gutter: Gutter, marginMm: number): Constraint[] {
  const m = spinnerMeasures(params);
  const rules: Constraint[] = [
    {
      overMm: m.alpha / RAD - 45,
      unit: 'deg',
      reason: 'With diagonals of more than 45° the upper and the lower triangles would run into each other.',
    },
    {
      overMm: m.armWidth - halfWidth(m),
      reason: 'The arm would be wider than the triangle that carries it.',
    },
    {
      overMm: m.hole > 0 ? m.hole + USUAL_WEB_MM - Math.min(m.half, halfWidth(m)) : 0,
      reason: 'The hole in the centre would leave nothing of the plate.',
    },
    {
      overMm: m.key > 0 ? m.key + USUAL_WEB_MM - 0.35 * m.half : 0,
      reason: 'The notches would run into the diagonal folds.',
    },
    {
      overMm: halfWidth(m) - Math.min(gutter.left.depthMm, gutter.right.depthMm),
      reason: 'The plate would stick out of the open edge.',
      shownBy: 'landing',
    },
    {
      overMm: -(m.along - m.half),
      reason: 'The plate would stick out below the end of the fold.',
      shownBy: 'landing',
    },
    {
      overMm: m.along + m.half - gutter.lengthMm,
      reason: 'The plate would stick out beyond the end of the fold.',
      shownBy: 'landing',
    },
  ];
  for (const [x, y] of swinging(m)) {
    const [r, g] = [Math.hypot(x, y), Math.atan2(x, y)];
    const from = r * Math.sin(2 * m.alpha - g);
    const up = r * Math.cos(2 * m.alpha - g);
    rules.push(
      {
        overMm: from - (gutter.reachMm - marginMm),
        reason: `Closed, an arm would reach past the open edge (${round(gutter.reachMm)} mm deep, ${marginMm} mm margin).`,
        shownBy: 'overhang',
      },
      { overMm: -from, reason: 'Closed, an arm would swing across the gutter.', shownBy: 'overhang' },
      // The lower arm lies the other way round.
      {
        overMm: Math.max(m.along + up - (gutter.highMm - marginMm), gutter.lowMm + marginMm - (m.along + up)),
        reason: 'Closed, the upper arm would stick out at an end of the card.',
        shownBy: 'overhang',
      },
      {
        overMm: Math.max(m.along - up - (gutter.highMm - marginMm), gutter.lowMm + marginMm - (m.along - up)),
        reason: 'Closed, the lower arm would stick out at an end of the card.',
        shownBy: 'overhang',
      },
    );
  }
  return rules;
}

/** Where the way from the centre to a point leaves the hole. */
const rim = ({ hole }: Measures, to: Point): Point => scale(to, hole / lengthOf(to));

/** Arcs about the origin from one point through others, each by the shorter way: the bulge is tan of a quarter of the sweep. */
function arcsThrough(from: Point, through: readonly Point[]): Segment[] {
  return through.map((to, i) => {
    const p = i === 0 ? from : through[i - 1];
    return { kind: 'arc', to, bulge: Math.tan(Math.atan2(cross(p, to), dot(p, to)) / 4) };
  });
}

/** The hole in the centre of a plate: its arcs meet where the folds end on it. */
function holeOf(m: Measures): Path {
  const [w, h] = [halfWidth(m), m.half];
  const ends = (
    [
      [w, h],
      [0, h],
      [-w, h],
      [-w, -h],
      [0, -h],
      [w, -h],
    ] as Point[]
  ).map((to) => rim(m, to));
  return { start: ends[0], segments: arcsThrough(ends[0], [...ends.slice(1), ends[0]]) };
}

/** The corner of a glued triangle at the centre, clear of the hole: two points on a line that touches the hole. */
function apex(m: Measures, to: Point, other: Point): Point[] {
  if (m.hole === 0) return [[0, 0]];
  const cos = dot(to, other) / (lengthOf(to) * lengthOf(other));
  const far = m.hole / Math.sqrt((1 + Math.max(-0.99, cos)) / 2) + 0.2;
  return [to, other].map((p) => scale(p, far / lengthOf(p)));
}

/** Lines, zones and marks of the upper (sign 1) or lower (-1) end; both wings when it is a part of its own. */
function end(m: Measures, sign: 1 | -1) {
  const [w, h] = [halfWidth(m), sign * m.half];
  const tip = sign * (m.half + m.arm);
  const name = sign > 0 ? 'upper' : 'lower';
  // The folds begin at the rim of the hole in the centre.
  const from = (to: Point): Path => straight(rim(m, to), to);
  const lines: DieLine[] = [
    { id: `${name}-left`, ...workOf('valley'), path: from([-w, h]) },
    { id: `${name}-crease`, ...workOf('mountain'), path: from([0, h]) },
    { id: `${name}-right`, ...workOf('valley'), path: from([w, h]) },
  ];
  // The upper arm is on the right triangle, the lower one on the left: they never meet.
  const x = sign * m.armWidth;
  const arm: Point[] = [
    [x, h],
    [x, tip],
    [0, tip],
    [0, h],
  ];
  const panels = [
    [`${name}-left`, `${name} left triangle`, [-w * 0.25, h * 0.75]],
    [`${name}-right`, `${name} right triangle`, [w * 0.25, h * 0.75]],
  ] as const;
  return { lines, arm, panels };
}

/**
 * The outline of one end: along the other end from left to right (seen with its own tip upwards), where a key of it reaches
 * into the other and a notch takes the other's, round half the hole, then round the rest.
 */
function endOutline(m: Measures, sign: 1 | -1, rest: readonly Point[]): Path {
  const w = halfWidth(m);
  const at = (x: number, y: number): Point => [sign * x, sign * y];
  const [near, far, k] = [0.4 * w, 0.7 * w, m.key];
  const before: Point[] = k > 0 ? [at(-far, 0), at(-far, -k), at(-near, -k), at(-near, 0)] : [];
  const after: Point[] = k > 0 ? [at(near, 0), at(near, k), at(far, k), at(far, 0)] : [];
  const line = (to: Point): Segment => ({ kind: 'line', to });
  const start = at(-w, 0);
  return {
    start,
    segments: [
      ...before.map(line),
      // Half round the hole, over it: turning right as seen from this end.
      ...(m.hole > 0
        ? [
            line(at(-m.hole, 0)),
            ...arcsThrough(at(-m.hole, 0), [
              ...[at(-w, m.half), at(0, m.half), at(w, m.half)].map((to) => rim(m, to)),
              at(m.hole, 0),
            ]),
          ]
        : []),
      ...after.map(line),
      line(at(w, 0)),
      ...rest.map(line),
      line(start),
    ],
  };
}

function build(params: Params, context: Parameters<Family['build']>[1]): Contribution {
  const m = spinnerMeasures(params);
  const made = new Making(context);
  const [w, h] = [halfWidth(m), m.half];
  const [upper, lower] = [end(m, 1), end(m, -1)];
  const sides = ['left', 'right'] as const;
  // The arm's inner edge runs on from the middle crease: there the outline steps in to the fold's end.
  if (!m.twoEnds) {
    const plate = made.part('plate', [[-w, -h], ...lower.arm, [w, -h], [w, h], ...upper.arm, [-w, h]], {
      grainRad: Math.PI / 2,
      lines: [...upper.lines, ...lower.lines],
      glue: {
        'glue-left': [[-w, h], [-w, -h], ...apex(m, [-w, -h], [-w, h])],
        'glue-right': [[w, -h], [w, h], ...apex(m, [w, h], [w, -h])],
      },
      cuts: m.hole > 0 ? { hole: holeOf(m) } : {},
      panels: [
        ['left', 'left wing', [-w * 0.6, 0]],
        ['right', 'right wing', [w * 0.6, 0]],
        ...upper.panels,
        ...lower.panels,
      ],
    });
    for (const side of sides) made.glue(plate, shift(0, m.along), { zone: `glue-${side}`, side });
  } else
    for (const [name, sign, half] of [
      ['upper', 1, upper],
      ['lower', -1, lower],
    ] as const) {
      const wing = (side: -1 | 1): Point[] => {
        // A wing with a notch is glued beyond it, one with a key on the whole of the rest.
        const low = sign * (m.key > 0 && side * sign > 0 ? m.key + 0.3 : 0);
        const tip = apex(m, [side * w, 0], [side * w, sign * h]);
        const ring: Point[] =
          low === 0
            ? [...tip.slice().reverse(), [side * w, 0], [side * w, sign * h]]
            : [
                [(side * Math.abs(low) * w) / h, low],
                [side * w, low],
                [side * w, sign * h],
              ];
        return side * sign > 0 ? ring : ring.reverse();
      };
      const part = made.part(
        name,
        endOutline(m, sign, [[sign * w, sign * h], ...half.arm, [-sign * w, sign * h]]),
        {
          title: `${name} end`,
          grainRad: Math.PI / 2,
          lines: half.lines,
          glue: { 'glue-left': wing(-1), 'glue-right': wing(1) },
          panels: [
            ['left', 'left wing', [-w * 0.7, sign * h * 0.2]],
            ['right', 'right wing', [w * 0.7, sign * h * 0.2]],
            ...half.panels,
          ],
        },
      );
      for (const side of sides)
        made.glue(part, shift(0, m.along), { zone: `glue-${side}`, id: `glue-${name}-${side}`, side });
    }
  for (const side of sides) {
    const x = side === 'left' ? -w : w;
    const ring: Point[] = [
      [0, m.along],
      [x, m.along + h],
      [x, m.along - h],
      [0, m.along],
    ];
    made.line(`landing-${side}`, 'mark', polyline(ring), side);
  }
  return made.done();
}

export const spinner: Family = {
  id: 'spinner',
  on: 'fold',
  title: 'Spinner',
  purpose: 'A plate whose diagonal folds invert; its two arms swing round as the card opens.',
  specs: SIZES.specs,
  defaults: SIZES.defaults,
  constraints,
  build,
  handles(params, context) {
    const m = spinnerMeasures(params);
    const handle = handlesOf(context, params);
    return [
      handle(HOST_PART, 'along', 'centre on the fold', [0, m.along], ALONG_FOLD),
      handle(HOST_PART, 'plate', 'plate height', [halfWidth(m), m.along + m.half], { plateMm: [0, 2] }),
      handle(m.twoEnds ? 'upper' : 'plate', 'arm', 'arm length', [m.armWidth, m.half + m.arm], {
        armMm: [0, 1],
        armWidthMm: [1, 0],
      }),
    ];
  },
  advice(params, gutter, marginMm) {
    const m = spinnerMeasures(params);
    const most = (gutter.reachMm - marginMm) / Math.sin(Math.min(Math.PI / 2, 2 * m.alpha));
    return [
      `From open to closed each arm swings by ${round((2 * m.alpha) / RAD)}°.`,
      `An arm’s tip may be about ${round(most)} mm from the centre at most, or it pokes out when the card is closed.`,
      'Pieces on the arms are where catches happen: look at the strip after each one.',
    ];
  },
};
