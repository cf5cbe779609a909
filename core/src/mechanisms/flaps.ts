/**
 * Flaps that a person turns on one fold: the lift-the-flap and the door with a catch. Both come cut into the panel itself,
 * or as a separate part glued on by a strip along the hinge.
 *
 * Closed-form limits: a flap of height h turns about its hinge; its free edge is h sin(psi) over the panel when lifted by
 * psi. A door's catch is a tongue on the free edge that goes into a slit: the slit is as long as the tongue and a clearance,
 * and lies within the tongue's length from the edge.
 */
import type { Gutter } from '../design/frames.ts';
import { compose, turn, type Isometry } from '../geometry/isometry.ts';
import { placePath, polyline, straight, type Path } from '../geometry/path.ts';
import { workOf, type Layer } from '../dieline/part.ts';
import type { Point } from '../geometry/point.ts';
import { fit, type Fits } from '../stock/stock.ts';
import {
  HOST_PART,
  type BuildContext,
  type Constraint,
  type Contribution,
  type Family,
  type Params,
} from './family.ts';
import { handlesOf, OVER_PANEL } from './handles.ts';
import { Making, zonesOf } from './making.ts';
import { onPanelRules, rectangle, round } from './pieces.ts';
import { across, angle, length, measures, pick, shareOf, up, type Values } from './specs.ts';

/** How far the slit is from the free edge of the door, mm. */
const SLIT_GAP_MM = 2;
/** What a slit is longer than the tongue that is put through it, mm. */
const slitPlay = (fits?: Fits): number => fit({ thicknessMm: 0 }, 'close', fits).playMm;

const form = pick('Form', 'A separate part glued on, or cut from the panel itself.', {
  glued: 'Glued on',
  cutIn: 'Cut in',
});
const landMm = length('Hinge strip', 'Glued strip beside the hinge.', 8, 4, 60, (p) => p.form !== 'cutIn');

const FLAP = {
  form,
  acrossMm: across('Across', 'Middle of the hinge from the middle of the panel.'),
  alongMm: up('Hinge', 'From the lower edge of the panel up to the hinge.', shareOf('tall', 0.75)),
  widthMm: length('Width', 'Along the hinge.', shareOf('half', 1), 8),
  heightMm: length('Height', 'From the hinge down to the free edge.', shareOf('tall', 0.45), 6),
  liftDeg: angle('Lifts by', 'How far it is turned.', 150, 30, 180),
  landMm,
};
const FLAP_SIZES = measures(FLAP);

const DOOR_SIZES = measures({
  form,
  acrossMm: across('Hinge', 'From the middle of the panel.', ({ half }) => -Math.round(half * 0.4)),
  alongMm: up('Up', 'Middle of the door from the lower edge of the panel.', shareOf('tall', 0.5)),
  widthMm: length('Height', 'Along the hinge.', shareOf('tall', 0.5), 8),
  heightMm: length('Width', 'From the hinge to the free edge.', shareOf('half', 0.8), 6),
  liftDeg: angle('Opens by', 'How far it is turned.', 120, 30, 180),
  tongueMm: length('Tongue', 'How far the catch reaches beyond the free edge.', 8, 4, 40),
  tongueWidthMm: length('Tongue width', 'Along the free edge.', 14, 4, 100),
  landMm,
});

interface Measures {
  readonly cutIn: boolean;
  readonly across: number;
  readonly along: number;
  readonly width: number;
  readonly height: number;
  readonly liftDeg: number;
  readonly land: number;
  /** Length and width of the catch's tongue; 0 without one. */
  readonly tongue: number;
  readonly tongueWidth: number;
}

const shared = (sizes: Values<typeof FLAP>): Omit<Measures, 'tongue' | 'tongueWidth'> => ({
  cutIn: sizes.form === 'cutIn',
  across: sizes.acrossMm,
  along: sizes.alongMm,
  width: sizes.widthMm,
  height: sizes.heightMm,
  liftDeg: sizes.liftDeg,
  land: sizes.landMm,
});

/** The measures of a lift-the-flap in mm and degrees. */
export const liftFlapMeasures = (params: Params): Measures => ({
  ...shared(FLAP_SIZES.read(params)),
  tongue: 0,
  tongueWidth: 0,
});

/** The measures of a door in mm and degrees. */
export function doorMeasures(params: Params): Measures {
  const sizes = DOOR_SIZES.read(params);
  return { ...shared(sizes), tongue: sizes.tongueMm, tongueWidth: sizes.tongueWidthMm };
}

/**
 * Flap coordinates into mechanism coordinates: the hinge lies on local x = 0 from y = 0 to width, the flap on x from 0 to
 * height. A flap hangs from its upper edge; a door hangs on its left edge.
 */
const flapFrame = (m: Measures, hangs: 'down' | 'right'): Isometry =>
  hangs === 'down'
    ? turn(-Math.PI / 2, m.across - m.width / 2, m.along)
    : turn(0, m.across, m.along - m.width / 2);

function rules(m: Measures, gutter: Gutter, marginMm: number, hangs: 'down' | 'right'): Constraint[] {
  const beyond = m.height + (m.tongue > 0 ? m.tongue : 0);
  const before = m.cutIn ? 0 : m.land;
  const box =
    hangs === 'down'
      ? {
          minX: m.across - m.width / 2,
          maxX: m.across + m.width / 2,
          minY: m.along - beyond,
          maxY: m.along + before,
        }
      : {
          minX: m.across - before,
          maxX: m.across + beyond,
          minY: m.along - m.width / 2,
          maxY: m.along + m.width / 2,
        };
  return [
    ...onPanelRules(gutter, 'It', box, marginMm),
    {
      overMm: m.tongue > 0 ? m.tongueWidth + 4 - m.width : 0,
      reason: 'The tongue would be wider than the door.',
    },
    {
      overMm: m.tongue > 0 ? SLIT_GAP_MM + 2 - m.tongue : 0,
      reason: 'The tongue would not reach through its slit.',
    },
  ];
}

function build(m: Measures, hangs: 'down' | 'right', context: BuildContext): Contribution {
  const made = new Making(context);
  const { left: host } = context.gutter;
  const frame = flapFrame(m, hangs);
  const [t0, t1] = [(m.width - m.tongueWidth) / 2, (m.width + m.tongueWidth) / 2];
  const tongue: Point[] =
    m.tongue > 0
      ? [
          [m.height, t0],
          [m.height + m.tongue, t0 + 1.5],
          [m.height + m.tongue, t1 - 1.5],
          [m.height, t1],
        ]
      : [];
  const free: Point[] = [[m.height, 0], ...tongue, [m.height, m.width]];
  const drive = made.drive(0, m.liftDeg);
  const onHost = (id: string, layer: Layer, path: Path) => made.line(id, layer, placePath(frame, path));
  const hinge = straight([0, 0], [0, m.width]);
  if (m.cutIn) {
    // The tongue's paper comes out of the jamb: no slit where it is cut away.
    onHost('edge', 'cut', polyline([[0, 0], ...free, [0, m.width]]));
    onHost('hinge', 'valley', hinge);
    made.hand('lift', host.partId, { [made.id('hinge')]: 1 }, drive);
    const id = made.id('flap');
    const at: Point = hangs === 'down' ? [m.across, m.along - 0.6] : [m.across + 0.6, m.along];
    return made.done({
      hostMarks: [{ side: 'left', mark: { id, name: context.name.toLowerCase(), at } }],
      panelFrames: { [host.partId]: { [id]: compose(host.frame, frame) } },
    });
  }
  const part = made.strip(
    'flap',
    {
      title: '',
      widthMm: m.width,
      tabMm: m.land,
      taperMm: 1,
      panels: [{ id: 'flap', name: 'flap', lengthMm: m.height }],
      folds: [],
      first: { id: 'hinge', name: 'hinge strip', foldId: 'hinge', ...workOf('valley'), face: 'back' },
    },
    ({ part: plain }) => {
      const [outline, ...folds] = plain.lines;
      const ring: Point[] = [[0, 0], ...free, [0, m.width], [-m.land, m.width - 1], [-m.land, 1]];
      return {
        ...plain,
        lines: [{ ...outline, path: polyline(ring, true) }, ...folds],
        glueZones: [...plain.glueZones, ...zonesOf({ keepOut: rectangle(0, 0, m.height, m.width) })],
      };
    },
  );
  made.glue(part, frame, { zone: 'glue-hinge', mate: { lineId: 'hinge', hostLineId: made.id('landing') } });
  made.hand('lift', part, { hinge: 1 }, drive);
  onHost('landing', 'mark', hinge);
  const slitX = m.height + SLIT_GAP_MM;
  const over = slitPlay(context.fits) / 2;
  if (m.tongue > 0) onHost('slit', 'cut', straight([slitX, t0 - over], [slitX, t1 + over]));
  return made.done();
}

const handles =
  (measured: (params: Params) => Measures, hangs: 'down' | 'right'): Family['handles'] =>
  (params, context) => {
    const m = measured(params);
    const handle = handlesOf(context, params);
    return [
      handle(HOST_PART, 'place', 'hinge', [m.across, m.along], OVER_PANEL),
      hangs === 'down'
        ? handle(HOST_PART, 'size', 'size', [m.across + m.width / 2, m.along - m.height], {
            widthMm: [2, 0],
            heightMm: [0, -1],
          })
        : handle(HOST_PART, 'size', 'size', [m.across + m.height, m.along + m.width / 2], {
            heightMm: [1, 0],
            widthMm: [0, 2],
          }),
    ];
  };

export const liftFlap: Family = {
  id: 'liftFlap',
  on: 'panel',
  title: 'Lift-the-flap',
  purpose: 'A flap to lift, with something under it.',
  specs: FLAP_SIZES.specs,
  defaults: FLAP_SIZES.defaults,
  constraints: (params, gutter, marginMm) => rules(liftFlapMeasures(params), gutter, marginMm, 'down'),
  build: (params, context) => build(liftFlapMeasures(params), 'down', context),
  handles: handles(liftFlapMeasures, 'down'),
  advice(params) {
    const m = liftFlapMeasures(params);
    return [
      `Lifted upright it stands ${round(m.height)} mm over the panel.`,
      'Glue the hinge strip only: glue under the flap locks it.',
    ];
  },
};

export const door: Family = {
  id: 'door',
  on: 'panel',
  title: 'Door with a catch',
  purpose: 'A door that opens on its hinge and shuts with a tongue.',
  specs: DOOR_SIZES.specs,
  defaults: DOOR_SIZES.defaults,
  constraints: (params, gutter, marginMm) => rules(doorMeasures(params), gutter, marginMm, 'right'),
  build: (params, context) => build(doorMeasures(params), 'right', context),
  handles: handles(doorMeasures, 'right'),
  advice(params, _gutter, _marginMm, fits) {
    const m = doorMeasures(params);
    return [
      m.cutIn
        ? 'Cut in, the tongue rests in the jamb it was cut from; bend it a little under the edge to shut.'
        : `The slit is ${round(m.tongueWidth + slitPlay(fits))} mm long, ${SLIT_GAP_MM} mm from the free edge.`,
      'Glue the hinge strip only: glue under the door locks it.',
    ];
  },
};
