/**
 * Easel. A strut hinged to a panel carries a display panel at its middle; the display's lower edge stands against a stop.
 *
 * Closed-form limits, with a display of length L, a strut of L / 2, and the stop at distance s from the strut's fold: fold,
 * middle and lower edge make an isosceles triangle, so the display leans acos(s / L) from the panel and its upper edge
 * stands over the fold, at the height sqrt(L^2 - s^2). Lying flat, the lower edge is L from the fold.
 */
import type { Gutter } from '../design/frames.ts';
import type { Joint } from '../design/design.ts';
import { compose, place, shift, turn, type Isometry } from '../geometry/isometry.ts';
import { polyline } from '../geometry/path.ts';
import type { Point } from '../geometry/point.ts';
import { num, type Constraint, type Family, type Params } from './family.ts';
import { onHost, onPart, placeHandle } from './handles.ts';
import {
  foot,
  framesOf,
  glueOn,
  hostLine,
  NOTHING,
  onPanelRules,
  plate,
  rectangle,
  round,
  strip,
} from './pieces.ts';
import { length } from './specs.ts';
import { tabSpecs } from './tabSpecs.ts';

const RAD = Math.PI / 180;
/** Width of the stop, mm. */
const STOP_MM = 6;

/** The measures of an easel in mm and radians. */
export function easelMeasures(params: Params) {
  const [L, s] = [num(params, 'displayMm'), num(params, 'stopMm')];
  return {
    across: num(params, 'acrossMm'),
    along: num(params, 'alongMm'),
    L,
    s,
    width: num(params, 'widthMm'),
    tab: num(params, 'tabMm'),
    taper: num(params, 'taperMm'),
    tilt: Math.acos(Math.min(1, Math.max(0, s / L))),
  };
}

type Measures = ReturnType<typeof easelMeasures>;

/** Local coordinates (x away from the strut's fold, y across) into those of the panel: x goes down, towards the reader. */
const frameOf = (m: Measures): Isometry => turn(-Math.PI / 2, m.across - m.width / 2, m.along);

function constraints(params: Params, gutter: Gutter, marginMm: number): Constraint[] {
  const m = easelMeasures(params);
  const box = {
    minX: m.across - m.width / 2,
    maxX: m.across + m.width / 2,
    minY: m.along - m.L,
    maxY: m.along + m.tab,
  };
  return [
    ...onPanelRules(gutter, 'The easel, lying flat,', box, marginMm),
    {
      overMm: m.s - 0.96 * m.L,
      reason: 'The stop is so far out that the display would lie nearly flat and slip.',
    },
    {
      overMm: 0.1 * m.L - m.s,
      reason: 'The stop is so near to the fold that the display would stand upright and fall over.',
    },
    {
      overMm: STOP_MM + 2 + m.s - m.L,
      reason: 'The stop would lie under the display’s lower edge when it is flat.',
    },
    { overMm: 2 * m.taper - (m.width - 4), reason: 'The tapered tab would end in less than 4 mm.' },
  ];
}

export const easel: Family = {
  id: 'easel',
  on: 'panel',
  title: 'Easel',
  purpose: 'A display panel that stands up at a chosen tilt against a stop.',
  specs: [
    length('acrossMm', 'Across', 'Middle of the display from the middle of the panel.', -600, 600),
    length('alongMm', 'Fold', 'From the lower edge of the panel up to the strut’s fold.', 0, 1000),
    length('displayMm', 'Display', 'Length of the display; the strut is half of it.', 12),
    length('widthMm', 'Width', 'Of display and strut.', 8),
    length('stopMm', 'Stop', 'From the strut’s fold: it sets the tilt.', 4),
    ...tabSpecs(),
  ],
  defaults(gutter) {
    const L = Math.round(gutter.lengthMm * 0.75);
    return {
      acrossMm: 0,
      alongMm: Math.round(gutter.lengthMm * 0.86),
      displayMm: L,
      widthMm: Math.round(gutter.left.depthMm * 1.4),
      stopMm: Math.round(L * 0.6),
      tabMm: 10,
      taperMm: 3,
    };
  },
  constraints,
  build(params, context) {
    const m = easelMeasures(params);
    const { instanceId, gutter, stockId } = context;
    const local = frameOf(m);
    const onHost = (p: Point): Point => place(compose(gutter.left.frame, local), p);
    const flap = m.L / 2 - 1;
    const strut = strip({
      id: `${instanceId}/strut`,
      name: `${context.name} strut`,
      stockId,
      widthMm: m.width,
      tabMm: m.tab,
      taperMm: m.taper,
      panels: [
        { id: 'strut', name: 'strut', lengthMm: m.L / 2 },
        { id: 'flap', name: 'flap', lengthMm: flap },
      ],
      folds: [{ id: 'middle', layer: 'valley' }],
      first: { id: 'foot', name: 'foot tab', foldId: 'foot', layer: 'valley', face: 'back' },
    });
    const display = plate(
      `${instanceId}/display`,
      `${context.name} display`,
      stockId,
      polyline(rectangle(-m.L / 2, 0, m.L, m.width), true),
      { id: 'display', name: 'display', at: [1, m.width / 2] },
      {
        glueZones: [
          { id: 'glue', outline: rectangle(-flap, 0, flap, m.width), face: 'back', kind: 'glue' },
          { id: 'keep-out', outline: rectangle(0, 0, m.L / 2, m.width), face: 'back', kind: 'keepOut' },
        ],
      },
    );
    const stop = plate(
      `${instanceId}/stop`,
      `${context.name} stop`,
      stockId,
      polyline(rectangle(m.s, 0, STOP_MM, m.width), true),
      { id: 'stop', name: 'stop', at: [m.s + STOP_MM / 2, m.width / 2] },
      {
        glueZones: [{ id: 'glue', outline: rectangle(m.s, 0, STOP_MM, m.width), face: 'back', kind: 'glue' }],
      },
    );
    const footing = foot(
      {
        ...context,
        gutter: { ...gutter, left: { ...gutter.left, frame: compose(gutter.left.frame, local) } },
      },
      {
        partId: strut.part.id,
        zoneId: 'glue-foot',
        foldId: 'foot',
        side: 'left',
        foldX: 0,
        x: 0,
        along: 0,
        widthMm: m.width,
        under: false,
        landing: 'foot',
      },
    );
    const resting: Joint = {
      id: `${instanceId}/rest`,
      kind: 'rest',
      partId: display.id,
      hostPartId: gutter.left.partId,
      slot: [onHost([m.L, m.width]), onHost([m.L, 0])],
      on: [
        [m.L / 2, m.width],
        [m.L / 2, 0],
      ],
      within: [m.L / 2 - 1, m.width / 2],
      leanDeg: 45,
      stops: { from: m.s - m.L - 1e-6, to: 1e-6 },
      drive: { name: context.name, from: 0, to: m.s - m.L, rest: 0, atOpeningDeg: 180 },
    };
    const guide = (id: string, ring: Point[]) =>
      hostLine(
        'left',
        `${instanceId}/${id}`,
        'guide',
        polyline(
          ring.map((p) => place(local, p)),
          true,
        ),
      );
    return {
      ...NOTHING,
      parts: [strut.part, display, stop],
      joints: [
        footing.joint,
        {
          // Lying flat the flap is folded back over the strut, and the display lies on the flap's back.
          id: `${instanceId}/glue-display`,
          kind: 'glue',
          partId: display.id,
          zoneId: 'glue',
          hostPartId: strut.part.id,
          placement: { angleRad: Math.PI, flip: true, dx: m.L / 2, dy: 0 },
          mate: null,
        },
        glueOn(context, 'glue-stop', stop.id, 'glue', 'left', local),
        resting,
      ],
      hostLines: [
        hostLine(
          'left',
          `${instanceId}/landing-foot`,
          'guide',
          polyline([place(local, [0, 0]), place(local, [0, m.width])]),
        ),
        guide('landing-stop', rectangle(m.s, 0, STOP_MM, m.width)),
      ],
      panelFrames: {
        [strut.part.id]: strut.frames,
        ...framesOf([display, stop]),
        [stop.id]: { stop: shift(0, 0) },
      },
    };
  },
  handles(params, { instanceId }) {
    const m = easelMeasures(params);
    return [
      placeHandle(instanceId, 'strut’s fold', [m.across, m.along]),
      onHost(instanceId, 'stop', 'stop', [m.across, m.along - m.s], [0, 1], (to) => ({
        stopMm: m.along - to[1],
      })),
      onPart(instanceId, 'display', 'display', 'display length', [m.L / 2, m.width / 2], [1, 0], (to) => ({
        displayMm: 2 * to[0],
      })),
    ];
  },
  advice(params, _gutter, marginMm) {
    const m = easelMeasures(params);
    return [
      `With the stop ${round(m.s)} mm from the fold the display leans ${round(m.tilt / RAD)}° and stands ${round(Math.sqrt(m.L * m.L - m.s * m.s))} mm high.`,
      `The display may be ${round(m.along - marginMm)} mm long at most.`,
      'Glue the upper half of the display only.',
    ];
  },
};
