/**
 * Label. A tag of doubled paper on a tongue: it is folded over its far edge and glued to itself, so that both of its faces are
 * the good one and it is twice as stiff; the tongue alone is glued to the panel.
 *
 * Its blank is the tongue and twice the label long. Doubled, the label lies two papers over the panel and one over its tongue.
 */
import { workOf } from '../dieline/part.ts';
import type { Gutter } from '../design/frames.ts';
import { alignSegment, shift } from '../geometry/isometry.ts';
import { straight } from '../geometry/path.ts';
import type { Point } from '../geometry/point.ts';
import { USUAL_TAB_MM } from '../stock/stock.ts';
import { HOST_PART, type Constraint, type Family, type Params } from './family.ts';
import { handlesOf, OVER_PANEL } from './handles.ts';
import { Making } from './making.ts';
import { onPanelRules, rectangle, round } from './pieces.ts';
import { across, length, measures, shareOf, up } from './specs.ts';

const SIZES = measures({
  acrossMm: across('Across', 'Middle of the label from the middle of the panel.'),
  alongMm: up('Tongue from', 'From the lower edge of the panel up to the tongue.', shareOf('tall', 0.3)),
  widthMm: length('Width', 'Of the label.', shareOf('half', 0.8), 8),
  heightMm: length('Height', 'Of the label, folded over.', shareOf('tall', 0.25), 8),
  tongueMm: length('Tongue', 'How far the tongue reaches out of the label.', 10, 4, 100),
  shoulderMm: length('Shoulder', 'By so much the label is wider than its tongue, on each side.', 4, 0, 100),
});

/** The measures of a label in mm: its own, and how wide its tongue is. */
export function labelMeasures(params: Params) {
  const sizes = SIZES.read(params);
  return {
    across: sizes.acrossMm,
    along: sizes.alongMm,
    width: sizes.widthMm,
    height: sizes.heightMm,
    tongue: sizes.tongueMm,
    shoulder: sizes.shoulderMm,
    tongueWide: sizes.widthMm - 2 * sizes.shoulderMm,
  };
}

/** So far the glue stays from the edges of the label, mm. */
const INSET_MM = 0.5;

function constraints(params: Params, gutter: Gutter, marginMm: number): Constraint[] {
  const m = labelMeasures(params);
  const half = m.width / 2;
  const box = {
    minX: m.across - half,
    maxX: m.across + half,
    minY: m.along,
    maxY: m.along + m.tongue + m.height,
  };
  return [
    ...onPanelRules(gutter, 'The label', box, marginMm),
    {
      overMm: USUAL_TAB_MM - m.tongueWide,
      reason: `The tongue would be narrower than ${USUAL_TAB_MM} mm.`,
    },
  ];
}

export const label: Family = {
  id: 'label',
  on: 'panel',
  title: 'Label',
  purpose: 'A doubled tag, glued to itself and held by its tongue alone.',
  specs: SIZES.specs,
  defaults: SIZES.defaults,
  constraints,
  build(params, context) {
    const m = labelMeasures(params);
    const made = new Making(context);
    const [low, fold, high] = [m.tongue, m.tongue + m.height, m.tongue + 2 * m.height];
    const [from, to] = [m.shoulder, m.width - m.shoulder];
    const outline: Point[] = [
      [from, 0],
      [to, 0],
      [to, low],
      [m.width, low],
      [m.width, high],
      [0, high],
      [0, low],
      [from, low],
    ];
    const part = made.part('tag', outline, {
      title: 'tag',
      grainRad: 0,
      lines: [{ id: 'over', ...workOf('mountain'), path: straight([0, fold], [m.width, fold]) }],
      glue: {
        'glue-tongue': rectangle(from, 0, m.tongueWide, m.tongue),
        'glue-back': rectangle(INSET_MM, fold + INSET_MM, m.width - 2 * INSET_MM, m.height - 2 * INSET_MM),
      },
      panels: [
        ['front', 'front', [m.width / 2, (low + fold) / 2]],
        ['back', 'back', [m.width / 2, (fold + high) / 2]],
      ],
    });
    // Folded over its far edge the back lies behind the front, between it and the panel.
    made.glue(part, alignSegment([0, fold], [m.width, fold], [0, fold], [m.width, fold], true), {
      zone: 'glue-back',
      onto: part,
    });
    const at = shift(m.across - m.width / 2, m.along);
    made.glue(part, at, { zone: 'glue-tongue', layers: 2 });
    made.landing(rectangle(from, 0, m.tongueWide, m.tongue), at);
    return made.done();
  },
  handles(params, context) {
    const m = labelMeasures(params);
    const handle = handlesOf(context, params);
    return [
      handle(HOST_PART, 'place', 'label', [m.across, m.along], OVER_PANEL),
      handle('tag', 'width', 'width', [m.width, m.tongue + m.height / 2], { widthMm: [1, 0] }),
      handle('tag', 'height', 'height', [m.width / 2, m.tongue + m.height], { heightMm: [0, 1] }),
    ];
  },
  advice(params) {
    const m = labelMeasures(params);
    return [
      `Cut it ${round(m.width)} mm wide and ${round(m.tongue + 2 * m.height)} mm long, and score it ${round(m.tongue + m.height)} mm from the end of its tongue.`,
      'Fold it over and glue it to itself first; then glue the tongue only.',
    ];
  },
};
