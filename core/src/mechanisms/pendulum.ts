/**
 * Pendulum. A bob on a rod swings on a loose pivot between two wings; a cover with an aperture shows the bob and hides the
 * pivot.
 *
 * Closed-form limits, with rod length l from pivot to bob, bob radius c, and wings whose inner edges are g to either side:
 * - The bob meets a wing at the swing phi with l sin(phi) + c = g: phi = asin((g - c) / l).
 * - The aperture of radius h round the bob at rest hides the pivot's head: l - h >= its radius; it shows the bob: h > c.
 */
import type { Joint } from '../design/design.ts';
import type { Gutter } from '../design/frames.ts';
import { BRAD, fit, USUAL_TAB_MM } from '../stock/stock.ts';
import { compose, shift } from '../geometry/isometry.ts';
import { circle, placePath, polyline } from '../geometry/path.ts';
import { add, type Point } from '../geometry/point.ts';
import { num, type Constraint, type Family, type Params } from './family.ts';
import { onHost, onPart, placeHandle } from './handles.ts';
import {
  framesOf,
  glueOn,
  hostLine,
  NOTHING,
  onPanelRules,
  plate,
  rectangle,
  round,
  landing,
} from './pieces.ts';
import { length } from './specs.ts';

const RAD = Math.PI / 180;
const PIVOT_RADIUS_MM = fit({ thicknessMm: 0 }).pivotMm;
/** Half the width of the rod, and how far it runs on above the pivot, mm. */
const ROD_MM = 4;
const HEAD_MM = 7;
/** Room under the bob inside the cover, mm. */
const FLOOR_MM = 6;

/** The measures of a pendulum in mm and radians. */
export function pendulumMeasures(params: Params) {
  const [l, c, g] = [num(params, 'rodMm'), num(params, 'bobMm') / 2, num(params, 'wingsMm') / 2];
  return {
    across: num(params, 'acrossMm'),
    along: num(params, 'alongMm'),
    l,
    c,
    g,
    h: num(params, 'apertureMm') / 2,
    wing: num(params, 'wingMm'),
    swing: Math.asin(Math.min(1, Math.max(0, (g - c) / l))),
    low: -l - c - FLOOR_MM,
    high: HEAD_MM + FLOOR_MM,
  };
}

function constraints(params: Params, gutter: Gutter, marginMm: number): Constraint[] {
  const m = pendulumMeasures(params);
  const reach = m.g + m.wing;
  const box = {
    minX: m.across - reach,
    maxX: m.across + reach,
    minY: m.along + m.low,
    maxY: m.along + m.high,
  };
  return [
    ...onPanelRules(gutter, 'The pendulum’s cover', box, marginMm),
    { overMm: m.c + 1 - m.g, reason: 'The bob has no room to swing between the wings.' },
    {
      overMm: m.g - m.c - m.l * Math.sin(80 * RAD),
      reason: 'The wings are so far apart that the bob would swing over.',
    },
    { overMm: BRAD.radiusMm + m.h - m.l, reason: 'The aperture would show the head of the pivot.' },
    { overMm: m.c + 1 - m.h, reason: 'The aperture would hide the bob’s edge.' },
    { overMm: ROD_MM + 1 - m.c, reason: 'The bob would be narrower than its rod.' },
    { overMm: USUAL_TAB_MM - m.wing, reason: `The wings would be glued by less than ${USUAL_TAB_MM} mm.` },
    { overMm: m.h + 2 - reach, reason: 'The aperture would cut through the cover’s sides.' },
    { overMm: m.h - m.c - FLOOR_MM + 2, reason: 'The aperture would cut through the cover’s lower edge.' },
  ];
}

export const pendulum: Family = {
  id: 'pendulum',
  on: 'panel',
  title: 'Pendulum',
  purpose: 'A bob that swings behind a round aperture; the pivot stays hidden.',
  specs: [
    length('acrossMm', 'Pivot across', 'From the middle of the panel.', -600, 600),
    length('alongMm', 'Pivot up', 'From the lower edge of the panel.', 0, 1000),
    length('rodMm', 'Rod', 'From the pivot to the middle of the bob.', 8),
    length('bobMm', 'Bob', 'Its diameter.', 4),
    length('wingsMm', 'Between the wings', 'Room for the swing.', 6),
    length('wingMm', 'Wing', 'Glued width of each wing.', 4, 60),
    length('apertureMm', 'Aperture', 'Its diameter.', 4),
  ],
  defaults(gutter) {
    const l = Math.round(gutter.lengthMm * 0.5);
    const bob = Math.round(Math.min(26, gutter.lengthMm * 0.2));
    const wing = 10;
    const g = Math.min(Math.round(l * 0.5 + bob / 2), Math.floor(gutter.left.depthMm - 2 - wing));
    return {
      acrossMm: 0,
      alongMm: Math.round(gutter.lengthMm * 0.82),
      rodMm: l,
      bobMm: bob,
      wingsMm: 2 * g,
      wingMm: wing,
      apertureMm: bob + 4,
    };
  },
  constraints,
  build(params, context) {
    const m = pendulumMeasures(params);
    const { instanceId, gutter, stockId } = context;
    const at = shift(m.across, m.along);
    // The rod's sides meet the bob's circle at height -y.
    const y = -m.l + Math.sqrt(m.c * m.c - ROD_MM * ROD_MM);
    // The bob's arc the long way round, from the left side of the rod over the bottom to its right side.
    const sweep = 2 * Math.PI - 2 * Math.asin(ROD_MM / m.c);
    const bob = plate(
      `${instanceId}/bob`,
      `${context.name} bob`,
      stockId,
      {
        start: [ROD_MM, HEAD_MM],
        segments: [
          { kind: 'line', to: [-ROD_MM, HEAD_MM] },
          { kind: 'line', to: [-ROD_MM, y] },
          { kind: 'arc', to: [ROD_MM, y], bulge: Math.tan(sweep / 4) },
          { kind: 'line', to: [ROD_MM, HEAD_MM] },
        ],
      },
      { id: 'bob', name: 'bob', at: [0, -m.l] },
      { lines: [{ id: 'pivot', layer: 'cut', path: circle([0, 0], PIVOT_RADIUS_MM) }] },
    );
    const reach = m.g + m.wing;
    const tall = m.high - m.low;
    const frame = (id: string, x: number): { id: string; outline: Point[]; face: 'back'; kind: 'glue' } => ({
      id,
      outline: rectangle(x, m.low, m.wing, tall),
      face: 'back',
      kind: 'glue',
    });
    // The hanger's wings are strips that keep the cover off the bob and stop it.
    const wings = (['left', 'right'] as const).map((side) => {
      const x = side === 'left' ? -reach : m.g;
      return {
        side,
        part: plate(
          `${instanceId}/wing-${side}`,
          `${context.name} ${side} wing`,
          stockId,
          polyline(rectangle(x, m.low, m.wing, tall), true),
          { id: 'wing', name: `${side} wing`, at: [x + 1, 0] },
          { glueZones: [frame('glue', x)] },
        ),
      };
    });
    const cover = plate(
      `${instanceId}/cover`,
      `${context.name} cover`,
      stockId,
      polyline(rectangle(-reach, m.low, 2 * reach, tall), true),
      { id: 'cover', name: 'cover', at: [-reach + 1, 0] },
      {
        lines: [{ id: 'aperture', layer: 'cut', path: circle([0, -m.l], m.h) }],
        glueZones: [
          frame('glue-left', -reach),
          frame('glue-right', m.g),
          {
            id: 'keep-out',
            outline: rectangle(-m.g, m.low, 2 * m.g, tall),
            face: 'back',
            kind: 'keepOut',
          },
        ],
      },
    );
    const swingDeg = m.swing / RAD;
    const pivot: Joint = {
      id: `${instanceId}/pivot`,
      kind: 'pivot',
      partId: bob.id,
      hostPartId: gutter.left.partId,
      placement: compose(gutter.left.frame, at),
      at: [0, 0],
      face: 'front',
      stops: { from: -swingDeg - 1e-6, to: swingDeg + 1e-6 },
      drive: { name: context.name, from: -swingDeg, to: swingDeg, rest: 0, atOpeningDeg: 180 },
    };
    return {
      ...NOTHING,
      parts: [bob, ...wings.map((wing) => wing.part), cover],
      joints: [
        pivot,
        ...wings.map(({ side, part }) => glueOn(context, `glue-wing-${side}`, part.id, 'glue', 'left', at)),
        ...wings.map(({ side, part }) => ({
          id: `${instanceId}/glue-cover-${side}`,
          kind: 'glue' as const,
          partId: cover.id,
          zoneId: `glue-${side}`,
          hostPartId: part.id,
          placement: shift(0, 0),
          mate: null,
        })),
      ],
      hostLines: [
        hostLine('left', `${instanceId}/pivot-hole`, 'cut', placePath(at, circle([0, 0], PIVOT_RADIUS_MM))),
        landing(
          instanceId,
          rectangle(-reach, m.low, 2 * reach, tall).map((p) => add(p, [m.across, m.along])),
        ),
      ],
      panelFrames: framesOf([bob, cover, ...wings.map((wing) => wing.part)]),
    };
  },
  handles(params, { instanceId }) {
    const m = pendulumMeasures(params);
    return [
      placeHandle(instanceId, 'pivot', [m.across, m.along]),
      onPart(instanceId, 'bob', 'rod', 'rod length', [0, -m.l], [0, 1], (to) => ({ rodMm: -to[1] })),
      onHost(
        instanceId,
        'wings',
        'room between the wings',
        [m.across + m.g, m.along - m.l / 2],
        [1, 0],
        (to) => ({ wingsMm: 2 * (to[0] - m.across) }),
      ),
    ];
  },
  advice(params) {
    const m = pendulumMeasures(params);
    return [
      `The bob swings ${round(m.swing / RAD)}° to either side before it meets a wing.`,
      'Glue the wings only; the pivot must hang loose. Small parts are not for children under three.',
    ];
  },
};
