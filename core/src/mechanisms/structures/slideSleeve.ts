/**
 * Slide sleeve: a tube open at both ends that goes over a tray, or round anything with square ends.
 *
 * From score to score = what goes in + 2 air + t, and t more where its tab lies inside; a tray is as large outside as from
 * score to score + t.
 */
import type { Family, Params } from '../family.ts';
import { Making } from '../making.ts';
import { rectangle } from '../pieces.ts';
import { length, measures, yesNo } from '../specs.ts';
import { glueAll, sheetPart } from './assembling.ts';
import { mm, paperMm, sheetRules, size, tabDepth, tabOutside, USUAL_PAPER_MM } from './fitting.ts';
import { FoldedSheet } from './foldedSheet.ts';
import type { Corner } from './sheetEdges.ts';

const SIZES = measures({
  wideMm: length('Inside goes, wide', 'The outside of the tray.', 70, 8, 400),
  highMm: length('Inside goes, high', 'The outside of the tray.', 25, 2, 300),
  longMm: length('Long', 'Along the slide.', 100, 10, 500),
  airMm: length('Air', 'On each side, so that it slides.', 0.4, 0, 5),
  notch: yesNo('Notch for a thumb', 'In the front, at one end.', true),
  tabMm: tabDepth(12),
});

/** Sizes from score to score for paper so thick. */
export function slideSleeveMeasures(params: Params, t: number) {
  const s = SIZES.read(params);
  const [w, h] = [s.wideMm + 2 * s.airMm + t, s.highMm + 2 * s.airMm + 2 * t];
  return {
    w,
    h,
    long: s.longMm,
    notch: s.notch,
    tab: s.tabMm,
    inside: [w - t, h - 2 * t] as const,
    outside: [w + t, h + t] as const,
  };
}

export const slideSleeve: Family = {
  id: 'slideSleeve',
  on: 'table',
  title: 'Slide sleeve',
  purpose: 'A tube open at both ends that slides over a tray.',
  specs: SIZES.specs,
  defaults: SIZES.defaults,
  constraints(params) {
    const m = slideSleeveMeasures(params, USUAL_PAPER_MM);
    return [
      ...sheetRules({ 'A wall': m.h }, [2 * (m.w + m.h) + m.tab, m.long]),
      { overMm: m.tab - m.w / 2, reason: 'The glue tab would be wider than half the back.' },
    ];
  },
  build(params, context) {
    const m = slideSleeveMeasures(params, context.stock.thicknessMm);
    const { w, h, long, tab } = m;
    const made = new Making(context);
    const sheet = new FoldedSheet();
    const r = Math.min(10, w / 5, long / 5);
    const notch: Corner[] = m.notch
      ? [
          [w / 2 + r, long, -1],
          [w / 2 - r, long],
        ]
      : [];
    sheet.panel('front', [[0, 0], [w, 0], [w, long], ...notch, [0, long]]);
    sheet.panel('right', rectangle(w, 0, h, long), { on: 'front', deg: -90, stage: 0 });
    sheet.panel('back', rectangle(w + h, 0, w, long), { on: 'right', deg: -90, stage: 0 });
    sheet.panel('left', rectangle(-h, 0, h, long), { on: 'front', deg: -90, stage: 0 });
    sheet.tab('glue tab', tabOutside([-h, long], [-h, 0], tab, Math.min(4, tab)), {
      on: 'left',
      deg: -90,
      stage: 0,
    });
    const glue = sheet.glue('glue tab', 'back', 'front');
    const part = sheetPart(made, 'sleeve', sheet);
    glueAll(made, { tab: [part, glue, part] });
    return made.standing(['Close the tube, glue the tab inside']);
  },
  handles: () => [],
  advice(params, _gutter, _margin, _fits, stock) {
    const t = paperMm(stock);
    const m = slideSleeveMeasures(params, t);
    return [
      `Inside ${size(...m.inside)}; outside ${size(...m.outside)}.`,
      `Folds take ${mm(t)}, the tab ${mm(t)} more from the height.`,
      'Grain along the slide, so that its walls stay flat.',
    ];
  },
};
