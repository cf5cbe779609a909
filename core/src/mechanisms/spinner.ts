/**
 * Spinner. A plate lies across the gutter, its left and right triangles glued to the halves; diagonal folds from the
 * centre let the upper and lower triangles invert as the card closes. Each carries an arm that swings with it.
 *
 * The folds through the centre are two V-folds (vfold.ts) back to back with all four angles alpha. Closed-form limits:
 * - Flat when open, for foot and panel angles are equal.
 * - Closed, a point at distance r from the centre and angle g from the middle crease (towards the diagonal) lies
 *   r sin(2 alpha - g) from the gutter and r cos(2 alpha - g) along it from the centre. Upper and lower triangles share the
 *   half between them: 2 alpha <= 90 deg.
 * - At 45 deg the middle creases swing by a right angle: from along the gutter to straight across it.
 */
import type { DieLine, GlueZone, PanelMark, Part } from '../dieline/part.ts';
import type { Gutter } from '../design/frames.ts';
import { shift } from '../geometry/isometry.ts';
import { polyline, straight } from '../geometry/path.ts';
import type { Point } from '../geometry/point.ts';
import { choice, num, type Constraint, type Contribution, type Family, type Params } from './family.ts';
import { alongHandle, onHost, onPart } from './handles.ts';
import { framesOf, glueOn, hostLine, NOTHING, round } from './pieces.ts';
import { angle, length, pick } from './specs.ts';

const RAD = Math.PI / 180;

/** The measures of a spinner in mm and radians. */
export function spinnerMeasures(params: Params) {
  return {
    alpha: num(params, 'diagonalDeg') * RAD,
    half: num(params, 'plateMm') / 2,
    arm: num(params, 'armMm'),
    armWidth: num(params, 'armWidthMm'),
    along: num(params, 'alongMm'),
    twoEnds: choice(params, 'form') === 'twoEnds',
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
      reason: 'With diagonals of more than 45° the upper and the lower triangles would run into each other.',
    },
    {
      overMm: m.armWidth - halfWidth(m),
      reason: 'The arm would be wider than the triangle that carries it.',
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

/** Lines, zones and marks of the upper (sign 1) or lower (-1) end; both wings when it is a part of its own. */
function end(m: Measures, sign: 1 | -1) {
  const [w, h] = [halfWidth(m), sign * m.half];
  const tip = sign * (m.half + m.arm);
  const name = sign > 0 ? 'upper' : 'lower';
  const lines: DieLine[] = [
    { id: `${name}-left`, layer: 'valley', path: straight([0, 0], [-w, h]) },
    { id: `${name}-crease`, layer: 'mountain', path: straight([0, 0], [0, h]) },
    { id: `${name}-right`, layer: 'valley', path: straight([0, 0], [w, h]) },
  ];
  // The upper arm is on the right triangle, the lower one on the left: they never meet.
  const x = sign * m.armWidth;
  const arm: Point[] = [
    [x, h],
    [x, tip],
    [0, tip],
    [0, h],
  ];
  const marks: PanelMark[] = [
    { id: `${name}-left`, name: `${name} left triangle`, at: [-w * 0.25, h * 0.75] },
    { id: `${name}-right`, name: `${name} right triangle`, at: [w * 0.25, h * 0.75] },
  ];
  return { lines, arm, marks };
}

function build(params: Params, context: Parameters<Family['build']>[1]): Contribution {
  const m = spinnerMeasures(params);
  const { instanceId } = context;
  const [w, h] = [halfWidth(m), m.half];
  const [up, down] = [end(m, 1), end(m, -1)];
  const base = (
    id: string,
    name: string,
  ): Pick<Part, 'id' | 'name' | 'stockId' | 'grainRad' | 'quantity'> => ({
    id: `${instanceId}/${id}`,
    name: `${context.name} ${name}`,
    stockId: context.stockId,
    grainRad: Math.PI / 2,
    quantity: 1,
  });
  const parts: Part[] = [];
  const joints = [];
  // The arm's inner edge runs on from the middle crease: there the outline steps in to the fold's end.
  if (!m.twoEnds) {
    const wing = (side: -1 | 1): Point[] => [
      [0, 0],
      [side * w, -h],
      [side * w, h],
    ];
    const zone = (id: string, side: -1 | 1): GlueZone => ({
      id,
      outline: side > 0 ? wing(1) : wing(-1).reverse(),
      face: 'back',
      kind: 'glue',
    });
    parts.push({
      ...base('plate', 'plate'),
      lines: [
        {
          id: 'outline',
          layer: 'cut',
          path: polyline([[-w, -h], ...down.arm, [w, -h], [w, h], ...up.arm, [-w, h]], true),
        },
        ...up.lines,
        ...down.lines,
      ],
      glueZones: [zone('glue-left', -1), zone('glue-right', 1)],
      marks: [
        { id: 'left', name: 'left wing', at: [-w * 0.6, 0] },
        { id: 'right', name: 'right wing', at: [w * 0.6, 0] },
        ...up.marks,
        ...down.marks,
      ],
    });
    for (const side of ['left', 'right'] as const)
      joints.push(
        glueOn(context, `glue-${side}`, `${instanceId}/plate`, `glue-${side}`, side, shift(0, m.along)),
      );
  } else
    for (const [name, sign, half] of [
      ['upper', 1, up],
      ['lower', -1, down],
    ] as const) {
      const wing = (side: -1 | 1): Point[] => {
        const ring: Point[] = [
          [0, 0],
          [side * w, 0],
          [side * w, sign * h],
        ];
        return side * sign > 0 ? ring : ring.reverse();
      };
      parts.push({
        ...base(name, `${name} end`),
        lines: [
          {
            id: 'outline',
            layer: 'cut',
            path: polyline(
              sign > 0
                ? [[-w, 0], [w, 0], [w, h], ...half.arm, [-w, h]]
                : [[w, 0], [-w, 0], [-w, -h], ...half.arm, [w, -h]],
              true,
            ),
          },
          ...half.lines,
        ],
        glueZones: [
          { id: 'glue-left', outline: wing(-1), face: 'back', kind: 'glue' },
          { id: 'glue-right', outline: wing(1), face: 'back', kind: 'glue' },
        ],
        marks: [
          { id: 'left', name: 'left wing', at: [-w * 0.7, sign * h * 0.2] },
          { id: 'right', name: 'right wing', at: [w * 0.7, sign * h * 0.2] },
          ...half.marks,
        ],
      });
      for (const side of ['left', 'right'] as const)
        joints.push(
          glueOn(
            context,
            `glue-${name}-${side}`,
            `${instanceId}/${name}`,
            `glue-${side}`,
            side,
            shift(0, m.along),
          ),
        );
    }
  return {
    ...NOTHING,
    parts,
    joints,
    hostLines: (['left', 'right'] as const).map((side) => {
      const x = side === 'left' ? -w : w;
      return hostLine(
        side,
        `${instanceId}/landing-${side}`,
        'guide',
        polyline([
          [0, m.along],
          [x, m.along + h],
          [x, m.along - h],
          [0, m.along],
        ]),
      );
    }),
    panelFrames: framesOf(parts),
  };
}

export const spinner: Family = {
  id: 'spinner',
  on: 'fold',
  title: 'Spinner',
  purpose: 'A plate whose diagonal folds invert; its two arms swing round as the card opens.',
  specs: [
    pick('form', 'Form', 'One piece cannot be glued crooked; two ends spare paper.', {
      onePiece: 'One plate',
      twoEnds: 'Two ends',
    }),
    length('alongMm', 'Centre', 'From the lower end of the fold to the centre of the plate.', -200, 1000),
    length('plateMm', 'Plate', 'Height of the plate along the fold.', 8),
    angle('diagonalDeg', 'Diagonal', 'Between the fold and the diagonals; 45° at most.', 15, 60),
    length('armMm', 'Arm', 'How far the arms reach beyond the plate.', 1),
    length('armWidthMm', 'Arm width', 'Across an arm.', 2),
  ],
  defaults(gutter) {
    const plate = Math.round(Math.min(gutter.lengthMm * 0.36, gutter.reachMm * 0.7));
    return {
      form: 'onePiece',
      alongMm: Math.round(gutter.lengthMm / 2),
      plateMm: plate,
      diagonalDeg: 45,
      armMm: Math.round(plate * 0.5),
      armWidthMm: Math.round(plate * 0.22),
    };
  },
  constraints,
  build,
  handles(params, { instanceId }) {
    const m = spinnerMeasures(params);
    return [
      alongHandle(instanceId, m.along, 'centre on the fold'),
      onHost(instanceId, 'plate', 'plate height', [halfWidth(m), m.along + m.half], [0, 1], (to) => ({
        plateMm: 2 * (to[1] - m.along),
      })),
      onPart(
        instanceId,
        `${m.twoEnds ? 'upper' : 'plate'}`,
        'arm',
        'arm length',
        [m.armWidth, m.half + m.arm],
        null,
        (to) => ({ armMm: to[1] - m.half, armWidthMm: to[0] }),
      ),
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
