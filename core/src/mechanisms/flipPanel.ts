/**
 * Flip panel. A strip of three panels with two folds; the middle one is cut free into its neighbours, so that it carries a
 * picture wider than itself. Folding the side twice (a Z) turns the middle over and shows its back.
 *
 * Closed-form limits: with panels a, b, c the folded strip is shorter by 2 b, and the far panel lies over the middle one.
 * Folded, the far panel lies over the picture's back, all but what reaches over the first fold and what shows through its
 * own opening: 2 e of the picture's b + 2 e, and what is beyond the far panel's end where that is shorter.
 * The picture reaches e into each neighbour: e < a and e < c, and it needs a web above and below that holds. While it turns,
 * its inner edge dips e below the panel: a window in the panel lets it pass.
 */
import type { Gutter } from '../design/frames.ts';
import { shift } from '../geometry/isometry.ts';
import { polyline, straight } from '../geometry/path.ts';
import { workOf, type DieLine, type Layer } from '../dieline/part.ts';
import { HOST_PART, type Constraint, type Family, type Params } from './family.ts';
import { handlesOf, OVER_PANEL } from './handles.ts';
import { Making } from './making.ts';
import { onPanelRules, rectangle, round } from './pieces.ts';
import { across, length, measures, up, type Usual, shareOf } from './specs.ts';

/** A share of the panel's width less its margins. */
const share =
  (of: number): Usual<number> =>
  ({ wide }) =>
    Math.floor((wide - 8) * of);

const SIZES = measures({
  acrossMm: across('Across', 'Middle of the strip from the middle of the panel.'),
  alongMm: up('Up', 'From the lower edge of the panel to the strip.', ({ tall }, { heightMm }) =>
    Math.round((tall - heightMm) / 2),
  ),
  baseMm: length('Glued panel', 'Width of the panel that is glued.', share(0.38), 8),
  middleMm: length('Middle', 'Width between the two folds.', share(0.22), 6),
  sideMm: length('Side', 'Width of the panel that is folded.', share(0.38), 8),
  heightMm: length('Height', 'Of the strip.', shareOf('tall', 0.6), 16),
  overMm: length(
    'Picture over',
    'How far the picture reaches over each fold.',
    ({ wide }) => Math.round((wide - 8) * 0.14),
    2,
  ),
  pictureMm: length(
    'Picture height',
    'Of the piece that turns over.',
    (_, { heightMm }) => Math.round(heightMm * 0.6),
    6,
  ),
});

/** The least web between the picture and the strip's edges, mm. */
const WEB_MM = 4;

/** The measures of a flip panel in mm. */
export function flipPanelMeasures(params: Params) {
  const sizes = SIZES.read(params);
  return {
    across: sizes.acrossMm,
    along: sizes.alongMm,
    a: sizes.baseMm,
    b: sizes.middleMm,
    c: sizes.sideMm,
    height: sizes.heightMm,
    e: sizes.overMm,
    picture: sizes.pictureMm,
  };
}

/** How much of the width of the picture's back is seen when the side is folded over it, mm: of `of` mm. */
function flipSeen({ b, c, e }: Pick<ReturnType<typeof flipPanelMeasures>, 'b' | 'c' | 'e'>) {
  const of = b + 2 * e;
  // From the second fold on: its own opening first, then the side panel up to its end; e before it lies free.
  const covered = Math.max(0, Math.min(c, b + e) - Math.min(e, b + e));
  return { seen: of - covered, of };
}

function constraints(params: Params, gutter: Gutter, marginMm: number): Constraint[] {
  const m = flipPanelMeasures(params);
  const box = {
    // Turned over, the middle and the picture beyond it lie on the other side of the first fold.
    minX: m.across - m.b / 2 - Math.max(m.a, m.b + m.e),
    maxX: m.across + m.b / 2 + m.c,
    minY: m.along,
    maxY: m.along + m.height,
  };
  return [
    ...onPanelRules(gutter, 'The strip', box, marginMm),
    { overMm: m.e + WEB_MM - m.a, reason: 'The picture would reach through the glued panel.' },
    { overMm: m.e + WEB_MM - m.c, reason: 'The picture would reach through the side panel.' },
    {
      overMm: flipSeen(m).of / 2 - flipSeen(m).seen,
      reason:
        'Folded over, the side would cover more than half of the picture’s back: let the picture reach further over, or make the middle narrower.',
    },
    {
      overMm: m.picture + 2 * WEB_MM - m.height,
      reason: 'Above and below the picture too little paper would be left.',
    },
  ];
}

export const flipPanel: Family = {
  id: 'flipPanel',
  on: 'panel',
  title: 'Flip panel',
  purpose: 'Folding the side twice turns the middle picture over.',
  specs: SIZES.specs,
  defaults: SIZES.defaults,
  constraints,
  build(params, context) {
    const m = flipPanelMeasures(params);
    const made = new Making(context);
    const [x1, x2, far] = [m.a, m.a + m.b, m.a + m.b + m.c];
    const [y1, y2] = [(m.height - m.picture) / 2, (m.height + m.picture) / 2];
    const fold = (id: string, layer: Layer, x: number): DieLine[] => [
      { id: `${id}-low`, ...workOf(layer), path: straight([x, 0], [x, y1]) },
      { id: `${id}-high`, ...workOf(layer), path: straight([x, y2], [x, m.height]) },
    ];
    /** A side of the picture: from a fold out to x and back. */
    const side = (x0: number, x: number) =>
      polyline([
        [x0, y1],
        [x, y1],
        [x, y2],
        [x0, y2],
      ]);
    const glued = rectangle(0, 0, m.a - m.e - 1, m.height);
    const part = made.part('strip', rectangle(0, 0, far, m.height), {
      grainRad: Math.PI / 2,
      lines: [...fold('first', 'valley', x1), ...fold('second', 'mountain', x2)],
      cuts: { 'picture-left': side(x1, x1 - m.e), 'picture-right': side(x2, x2 + m.e) },
      glue: { glue: glued },
      keepOut: rectangle(x1 - m.e, 0, far - x1 + m.e, m.height),
      panels: [
        ['base', 'glued panel', [1, m.height / 2]],
        ['picture', 'picture', [m.a + m.b / 2, m.height / 2]],
        ['side', 'side', [far - 1, m.height / 2]],
      ],
    });
    const corner = shift(m.across - m.a - m.b / 2, m.along);
    made.glue(part, corner);
    made.hand('flip', part, { 'first-low': 1, 'second-low': -1 }, made.drive(0, 180));
    made.cut('window', rectangle(x1 - m.e - 1, y1 - 1, m.e + 2, m.picture + 2), corner);
    made.landing(glued, corner);
    return made.done();
  },
  handles(params, context) {
    const m = flipPanelMeasures(params);
    const handle = handlesOf(context, params);
    return [
      handle(HOST_PART, 'place', 'strip', [m.across, m.along], OVER_PANEL),
      handle('strip', 'picture', 'picture size', [m.a + m.b + m.e, (m.height + m.picture) / 2], {
        overMm: [1, 0],
        pictureMm: [0, 2],
      }),
    ];
  },
  advice(params) {
    const m = flipPanelMeasures(params);
    return [
      `Folded, the strip is ${round(2 * m.b)} mm shorter, and the picture (${round(m.b + 2 * m.e)} mm wide) shows its back.`,
      `Folded, ${round(flipSeen(m).seen)} of the ${round(flipSeen(m).of)} mm of the picture’s back are seen: the side lies over the rest.`,
      `The picture may reach ${round(Math.min(m.a, m.c) - WEB_MM)} mm over each fold at most.`,
    ];
  },
};
