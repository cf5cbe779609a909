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
import type { Joint } from '../design/design.ts';
import { shift } from '../geometry/isometry.ts';
import { placePath, polyline, straight } from '../geometry/path.ts';
import type { DieLine, Part } from '../dieline/part.ts';
import { num, type Constraint, type Family, type Params } from './family.ts';
import { onPart, placeHandle } from './handles.ts';
import { framesOf, glueOn, hostLine, NOTHING, onPanelRules, rectangle, round, landing } from './pieces.ts';
import { length } from './specs.ts';

/** The least web between the picture and the strip's edges, mm. */
const WEB_MM = 4;

/** The measures of a flip panel in mm. */
export const flipPanelMeasures = (params: Params) => ({
  across: num(params, 'acrossMm'),
  along: num(params, 'alongMm'),
  a: num(params, 'baseMm'),
  b: num(params, 'middleMm'),
  c: num(params, 'sideMm'),
  height: num(params, 'heightMm'),
  e: num(params, 'overMm'),
  picture: num(params, 'pictureMm'),
});

/** How much of the width of the picture's back is seen when the side is folded over it, mm: of `of` mm. */
export function flipSeen({ b, c, e }: Pick<ReturnType<typeof flipPanelMeasures>, 'b' | 'c' | 'e'>) {
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
  specs: [
    length('acrossMm', 'Across', 'Middle of the strip from the middle of the panel.', -600, 600),
    length('alongMm', 'Up', 'From the lower edge of the panel to the strip.', 0, 1000),
    length('baseMm', 'Glued panel', 'Width of the panel that is glued.', 8),
    length('middleMm', 'Middle', 'Width between the two folds.', 6),
    length('sideMm', 'Side', 'Width of the panel that is folded.', 8),
    length('heightMm', 'Height', 'Of the strip.', 16),
    length('overMm', 'Picture over', 'How far the picture reaches over each fold.', 2),
    length('pictureMm', 'Picture height', 'Of the piece that turns over.', 6),
  ],
  defaults(gutter) {
    const wide = 2 * gutter.left.depthMm - 8;
    const height = Math.round(gutter.lengthMm * 0.6);
    return {
      acrossMm: 0,
      alongMm: Math.round((gutter.lengthMm - height) / 2),
      baseMm: Math.floor(wide * 0.38),
      middleMm: Math.floor(wide * 0.22),
      sideMm: Math.floor(wide * 0.38),
      heightMm: height,
      overMm: Math.round(wide * 0.14),
      pictureMm: Math.round(height * 0.6),
    };
  },
  constraints,
  build(params, context) {
    const m = flipPanelMeasures(params);
    const { instanceId, gutter } = context;
    const [x1, x2, far] = [m.a, m.a + m.b, m.a + m.b + m.c];
    const [y1, y2] = [(m.height - m.picture) / 2, (m.height + m.picture) / 2];
    const fold = (id: string, layer: DieLine['layer'], x: number): DieLine[] => [
      { id: `${id}-low`, layer, path: straight([x, 0], [x, y1]) },
      { id: `${id}-high`, layer, path: straight([x, y2], [x, m.height]) },
    ];
    const part: Part = {
      id: `${instanceId}/strip`,
      name: `${context.name} strip`,
      stockId: context.stockId,
      grainRad: Math.PI / 2,
      quantity: 1,
      lines: [
        { id: 'outline', layer: 'cut', path: polyline(rectangle(0, 0, far, m.height), true) },
        ...fold('first', 'valley', x1),
        ...fold('second', 'mountain', x2),
        {
          id: 'picture-left',
          layer: 'cut',
          path: polyline([
            [x1, y1],
            [x1 - m.e, y1],
            [x1 - m.e, y2],
            [x1, y2],
          ]),
        },
        {
          id: 'picture-right',
          layer: 'cut',
          path: polyline([
            [x2, y1],
            [x2 + m.e, y1],
            [x2 + m.e, y2],
            [x2, y2],
          ]),
        },
      ],
      glueZones: [
        {
          id: 'glue',
          outline: rectangle(0, 0, m.a - m.e - 1, m.height),
          face: 'back',
          kind: 'glue',
        },
        {
          id: 'keep-out',
          outline: rectangle(x1 - m.e, 0, far - x1 + m.e, m.height),
          face: 'back',
          kind: 'keepOut',
        },
      ],
      marks: [
        { id: 'base', name: 'glued panel', at: [1, m.height / 2] },
        { id: 'picture', name: 'picture', at: [m.a + m.b / 2, m.height / 2] },
        { id: 'side', name: 'side', at: [far - 1, m.height / 2] },
      ],
    };
    const folding: Joint = {
      id: `${instanceId}/flip`,
      kind: 'hand',
      partId: part.id,
      hostPartId: gutter.left.partId,
      folds: [
        { lineId: 'first-low', factor: 1 },
        { lineId: 'second-low', factor: -1 },
      ],
      drive: { name: context.name, from: 0, to: 180, rest: 0, atOpeningDeg: 180 },
    };
    const corner = shift(m.across - m.a - m.b / 2, m.along);
    const window = rectangle(x1 - m.e - 1, y1 - 1, m.e + 2, m.picture + 2);
    return {
      ...NOTHING,
      parts: [part],
      joints: [glueOn(context, 'glue', part.id, 'glue', 'left', corner), folding],
      hostLines: [
        hostLine('left', `${instanceId}/window`, 'cut', placePath(corner, polyline(window, true))),
        landing(instanceId, rectangle(corner.dx, corner.dy, m.a - m.e - 1, m.height)),
      ],
      panelFrames: framesOf([part]),
    };
  },
  handles(params, { instanceId }) {
    const m = flipPanelMeasures(params);
    return [
      placeHandle(instanceId, 'strip', [m.across, m.along]),
      onPart(
        instanceId,
        'strip',
        'picture',
        'picture size',
        [m.a + m.b + m.e, (m.height + m.picture) / 2],
        null,
        (to) => ({ overMm: to[0] - m.a - m.b, pictureMm: 2 * to[1] - m.height }),
      ),
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
