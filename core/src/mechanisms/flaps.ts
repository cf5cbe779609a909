/**
 * Flaps that a person turns on one fold: the lift-the-flap and the door with a catch. Both come cut into the panel itself,
 * or as a separate part glued on by a strip along the hinge.
 *
 * Closed-form limits: a flap of height h turns about its hinge; its free edge is h sin(psi) over the panel when lifted by
 * psi. A door's catch is a tongue on the free edge that goes into a slit: the slit is as long as the tongue and a clearance,
 * and lies within the tongue's length from the edge.
 */
import type { DieLine } from '../dieline/part.ts';
import type { Gutter } from '../design/frames.ts';
import { compose, shift, turn, type Isometry } from '../geometry/isometry.ts';
import { placePath, polyline, straight } from '../geometry/path.ts';
import type { Point } from '../geometry/point.ts';
import {
  choice,
  HOST_PART,
  num,
  type Constraint,
  type Contribution,
  type Family,
  type Params,
  type ParamSpec,
} from './family.ts';
import { placeHandle } from './handles.ts';
import { glueOn, hostLine, NOTHING, onPanelRules, rectangle, round, strip } from './pieces.ts';
import { angle, length, pick } from './specs.ts';

/** How much longer than the tongue a slit is, mm. */
const SLIT_CLEARANCE_MM = 0.5;
/** How far the slit is from the free edge of the door, mm. */
const SLIT_GAP_MM = 2;

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

const shared = (params: Params): Omit<Measures, 'tongue' | 'tongueWidth'> => ({
  cutIn: choice(params, 'form') === 'cutIn',
  across: num(params, 'acrossMm'),
  along: num(params, 'alongMm'),
  width: num(params, 'widthMm'),
  height: num(params, 'heightMm'),
  liftDeg: num(params, 'liftDeg'),
  land: num(params, 'landMm'),
});

/** The measures of a lift-the-flap in mm and degrees. */
export const liftFlapMeasures = (params: Params): Measures => ({
  ...shared(params),
  tongue: 0,
  tongueWidth: 0,
});

/** The measures of a door in mm and degrees. */
export const doorMeasures = (params: Params): Measures => ({
  ...shared(params),
  tongue: num(params, 'tongueMm'),
  tongueWidth: num(params, 'tongueWidthMm'),
});

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

function build(m: Measures, hangs: 'down' | 'right', context: Parameters<Family['build']>[1]): Contribution {
  const { instanceId, gutter } = context;
  const frame = flapFrame(m, hangs);
  const [t0, t1] = [(m.width - m.tongueWidth) / 2, (m.width + m.tongueWidth) / 2];
  const free: Point[] =
    m.tongue > 0
      ? [
          [m.height, 0],
          [m.height, t0],
          [m.height + m.tongue, t0 + 1.5],
          [m.height + m.tongue, t1 - 1.5],
          [m.height, t1],
          [m.height, m.width],
        ]
      : [
          [m.height, 0],
          [m.height, m.width],
        ];
  const drive = { name: context.name, from: 0, to: m.liftDeg, rest: 0, atOpeningDeg: 180 };
  const onHost = (id: string, layer: DieLine['layer'], path: ReturnType<typeof straight>) =>
    hostLine('left', `${instanceId}/${id}`, layer, placePath(frame, path));
  const slitX = m.height + SLIT_GAP_MM;
  const slit =
    m.tongue > 0
      ? [
          onHost(
            'slit',
            'cut',
            straight([slitX, t0 - SLIT_CLEARANCE_MM / 2], [slitX, t1 + SLIT_CLEARANCE_MM / 2]),
          ),
        ]
      : [];
  if (m.cutIn) {
    const id = `${instanceId}/flap`;
    return {
      ...NOTHING,
      joints: [
        {
          id: `${instanceId}/lift`,
          kind: 'hand',
          partId: gutter.left.partId,
          hostPartId: gutter.left.partId,
          folds: [{ lineId: `${instanceId}/hinge`, factor: 1 }],
          drive,
        },
      ],
      hostLines: [
        onHost('edge', 'cut', polyline([[0, 0], ...free, [0, m.width]])),
        onHost('hinge', 'valley', straight([0, 0], [0, m.width])),
        // The tongue's paper comes out of the jamb: no slit where it is cut away.
      ],
      hostMarks: [
        {
          side: 'left',
          mark: {
            id,
            name: context.name.toLowerCase(),
            at: hangs === 'down' ? [m.across, m.along - 0.6] : [m.across + 0.6, m.along],
          },
        },
      ],
      panelFrames: { [gutter.left.partId]: { [id]: compose(gutter.left.frame, frame) } },
    };
  }
  const made = strip({
    id: `${instanceId}/flap`,
    name: context.name,
    stockId: context.stockId,
    widthMm: m.width,
    tabMm: m.land,
    taperMm: 1,
    panels: [{ id: 'flap', name: 'flap', lengthMm: m.height }],
    folds: [],
    first: { id: 'hinge', name: 'hinge strip', foldId: 'hinge', layer: 'valley', face: 'back' },
  });
  const outline = polyline([[0, 0], ...free, [0, m.width], [-m.land, m.width - 1], [-m.land, 1]], true);
  const part = {
    ...made.part,
    lines: [{ ...made.part.lines[0], path: outline }, ...made.part.lines.slice(1)],
    glueZones: [
      ...made.part.glueZones,
      {
        id: 'keep-out',
        outline: rectangle(0, 0, m.height, m.width),
        face: 'back' as const,
        kind: 'keepOut' as const,
      },
    ],
  };
  return {
    ...NOTHING,
    parts: [part],
    joints: [
      glueOn(context, 'glue-hinge', part.id, 'glue-hinge', 'left', frame, {
        lineId: 'hinge',
        hostLineId: `${instanceId}/landing`,
      }),
      {
        id: `${instanceId}/lift`,
        kind: 'hand',
        partId: part.id,
        hostPartId: gutter.left.partId,
        folds: [{ lineId: 'hinge', factor: 1 }],
        drive,
      },
    ],
    hostLines: [onHost('landing', 'guide', straight([0, 0], [0, m.width])), ...slit],
    panelFrames: { [part.id]: { flap: shift(0, 0) } },
  };
}

const FORM = pick('form', 'Form', 'A separate part glued on, or cut from the panel itself.', {
  glued: 'Glued on',
  cutIn: 'Cut in',
});
/** Labels and hints of the five measures that a flap and a door share, in the order across, along, width, height, lift. */
const measureSpecs = (words: readonly (readonly [string, string])[]): ParamSpec[] => {
  const keys = ['acrossMm', 'alongMm', 'widthMm', 'heightMm'];
  const least = [-600, 0, 8, 6];
  const most = [600, 1000, 600, 600];
  return [
    ...keys.map((key, i) => length(key, ...words[i], least[i], most[i])),
    angle('liftDeg', ...words[4], 30, 180),
  ];
};
const LAND = length(
  'landMm',
  'Hinge strip',
  'Glued strip beside the hinge.',
  4,
  60,
  (p) => p.form !== 'cutIn',
);

const handles =
  (measures: (params: Params) => Measures, hangs: 'down' | 'right'): Family['handles'] =>
  (params, { instanceId }) => {
    const m = measures(params);
    const down = hangs === 'down';
    return [
      placeHandle(instanceId, 'hinge', [m.across, m.along]),
      {
        id: `${instanceId}/size`,
        label: 'size',
        partId: HOST_PART,
        at: down
          ? [m.across + m.width / 2, m.along - m.height]
          : [m.across + m.height, m.along + m.width / 2],
        axis: null,
        drag: (to) =>
          down
            ? { widthMm: 2 * (to[0] - m.across), heightMm: m.along - to[1] }
            : { heightMm: to[0] - m.across, widthMm: 2 * (to[1] - m.along) },
      },
    ];
  };

export const liftFlap: Family = {
  id: 'liftFlap',
  on: 'panel',
  title: 'Lift-the-flap',
  purpose: 'A flap to lift, with something under it.',
  specs: [
    FORM,
    ...measureSpecs([
      ['Across', 'Middle of the hinge from the middle of the panel.'],
      ['Hinge', 'From the lower edge of the panel up to the hinge.'],
      ['Width', 'Along the hinge.'],
      ['Height', 'From the hinge down to the free edge.'],
      ['Lifts by', 'How far it is turned.'],
    ]),
    LAND,
  ],
  defaults(gutter) {
    return {
      form: 'glued',
      acrossMm: 0,
      alongMm: Math.round(gutter.lengthMm * 0.75),
      widthMm: Math.round(gutter.left.depthMm),
      heightMm: Math.round(gutter.lengthMm * 0.45),
      liftDeg: 150,
      landMm: 8,
    };
  },
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
  specs: [
    FORM,
    ...measureSpecs([
      ['Hinge', 'From the middle of the panel.'],
      ['Up', 'Middle of the door from the lower edge of the panel.'],
      ['Height', 'Along the hinge.'],
      ['Width', 'From the hinge to the free edge.'],
      ['Opens by', 'How far it is turned.'],
    ]),
    length('tongueMm', 'Tongue', 'How far the catch reaches beyond the free edge.', 4, 40),
    length('tongueWidthMm', 'Tongue width', 'Along the free edge.', 4, 100),
    LAND,
  ],
  defaults(gutter) {
    return {
      form: 'glued',
      acrossMm: -Math.round(gutter.left.depthMm * 0.4),
      alongMm: Math.round(gutter.lengthMm * 0.5),
      widthMm: Math.round(gutter.lengthMm * 0.5),
      heightMm: Math.round(gutter.left.depthMm * 0.8),
      liftDeg: 120,
      tongueMm: 8,
      tongueWidthMm: 14,
      landMm: 8,
    };
  },
  constraints: (params, gutter, marginMm) => rules(doorMeasures(params), gutter, marginMm, 'right'),
  build: (params, context) => build(doorMeasures(params), 'right', context),
  handles: handles(doorMeasures, 'right'),
  advice(params) {
    const m = doorMeasures(params);
    return [
      m.cutIn
        ? 'Cut in, the tongue rests in the jamb it was cut from; bend it a little under the edge to shut.'
        : `The slit is ${round(m.tongueWidth + SLIT_CLEARANCE_MM)} mm long, ${SLIT_GAP_MM} mm from the free edge.`,
      'Glue the hinge strip only: glue under the door locks it.',
    ];
  },
};
