/**
 * Tuck box: a tube of four walls closed by a tab, floor and top each a flap with a tongue that tucks in, over two dust flaps.
 *
 * From score to score S = contents + 2 air + t, and t more across the tab's wall. Flaps that tuck in are narrower than their
 * wall by 2 t + 2 c, so that they enter (c the air in all fits), and their tongues lie t inside the front.
 */
import type { Point } from '../../geometry/point.ts';
import type { Family, Params } from '../family.ts';
import { Making } from '../making.ts';
import { rectangle } from '../pieces.ts';
import { length, measures } from '../specs.ts';
import { tuckCourse } from './angles.ts';
import { glueAll, sheetPart } from './assembling.ts';
import { contents, mm, paperMm, sheetRules, size, tabDepth, tabOutside, USUAL_PAPER_MM } from './fitting.ts';
import { FoldedSheet } from './foldedSheet.ts';

const SIZES = measures({
  ...contents(60, 25, 90),
  tongueMm: length('Tongue', 'How far the flaps tuck in.', 14, 5, 60),
  tabMm: tabDepth(11),
});

/** Sizes from score to score for paper so thick. */
export function tuckBoxMeasures(params: Params, t: number) {
  const s = SIZES.read(params);
  const w = s.longMm + 2 * s.airMm + t;
  const d = s.wideMm + 2 * s.airMm + 2 * t;
  const h = s.highMm + 2 * s.airMm + t;
  return {
    w,
    d,
    h,
    tongue: s.tongueMm,
    tab: s.tabMm,
    enter: 2 * t + 0.4,
    inside: [w - t, d - 2 * t, h - t] as const,
    outside: [w + t, d + t, h + t] as const,
  };
}

export const tuckBox: Family = {
  id: 'tuckBox',
  on: 'table',
  title: 'Tuck box',
  purpose: 'A tube with a floor and a top that tuck in, sized from what goes in.',
  specs: SIZES.specs,
  defaults: SIZES.defaults,
  constraints(params) {
    const m = tuckBoxMeasures(params, USUAL_PAPER_MM);
    return [
      ...sheetRules({ 'A wall': Math.min(m.w, m.d) - 2, 'Its height': m.h - 4 }, [
        2 * (m.w + m.d) + m.tab,
        m.h + 2 * (m.d + m.tongue),
      ]),
      { overMm: m.tab - 0.9 * m.d, reason: 'The glue tab would be wider than the wall that it is glued to.' },
      { overMm: m.tongue - 0.45 * m.h, reason: 'The tongues would meet inside.' },
      {
        overMm: m.tongue - 0.9 * m.d,
        reason: 'The tongues would be longer than their ends are deep: they would not go in.',
      },
    ];
  },
  build(params, context) {
    const t = context.stock.thicknessMm;
    const m = tuckBoxMeasures(params, t);
    const { w, d, h, tongue, tab, enter } = m;
    const made = new Making(context);
    const sheet = new FoldedSheet();
    sheet.panel('front', rectangle(0, 0, w, h));
    const x = [w, w + d, 2 * w + d];
    sheet.panel('right', rectangle(x[0], 0, d, h), { on: 'front', deg: -90, stage: 0 });
    sheet.panel('back', rectangle(x[1], 0, w, h), { on: 'right', deg: -90, stage: 0 });
    sheet.panel('left', rectangle(x[2], 0, d, h), { on: 'back', deg: -90, stage: 0 });
    sheet.tab('glue tab', tabOutside([0, h], [0, 0], tab, Math.min(tab, 5)), {
      on: 'front',
      deg: -90,
      stage: 0,
    });
    const dust = Math.min(d - t, 0.46 * w);
    // The tongue goes in beside the dust flaps, leaning away from the wall a little.
    const slim = Math.max(0.5, 0.06 * d);
    const ends = [
      { which: 'lower', y: 0, out: -1, stage: 1 },
      { which: 'upper', y: h, out: 1, stage: 3 },
    ] as const;
    for (const { which, y, out, stage } of ends) {
      /** Turned left, whichever end it is. */
      const ring = (points: Point[]): Point[] => (out > 0 ? points : [...points].reverse());
      for (const [name, x0] of [
        ['right', x[0]],
        ['left', x[2]],
      ] as const)
        sheet.panel(
          `${which} ${name} flap`,
          ring([
            [x0 + slim, y],
            [x0 + d - slim, y],
            [x0 + d - slim - 2.5, y + out * dust],
            [x0 + slim + 2.5, y + out * dust],
          ]),
          { on: name, deg: -90, stage },
          { behind: `${which} end` },
        );
      const [a, b] = [x[1] + enter / 2, x[1] + w - enter / 2];
      const deep = d - t;
      sheet.panel(
        `${which} end`,
        ring([
          [a, y],
          [b, y],
          [b, y + out * deep],
          [a, y + out * deep],
        ]),
        { on: 'back', deg: -90, stage: stage + 1 },
      );
      const round = Math.min(0.7 * tongue, w / 5);
      sheet.panel(
        `${which} tongue`,
        ring([
          [a, y + out * deep],
          [b, y + out * deep],
          [b - 0.3 * round, y + out * (deep + tongue - round)],
          [b - round, y + out * (deep + tongue)],
          [a + round, y + out * (deep + tongue)],
          [a + 0.3 * round, y + out * (deep + tongue - round)],
        ]),
        { on: `${which} end`, deg: -90, stage: stage + 1, course: tuckCourse(deep, tongue) },
        { behind: 'front' },
      );
    }
    const glue = sheet.glue('glue tab', 'left', 'front');
    const part = sheetPart(made, 'box', sheet);
    glueAll(made, { tab: [part, glue, part] });
    return made.standing([
      'Close the tube, glue the tab inside',
      'Lower dust flaps in',
      'Tuck in the floor',
      'Upper dust flaps in',
      'Tuck in the top',
    ]);
  },
  handles: () => [],
  advice(params, _gutter, _margin, _fits, stock) {
    const t = paperMm(stock);
    const m = tuckBoxMeasures(params, t);
    return [
      `Inside ${size(...m.inside)}; outside ${size(...m.outside)}.`,
      `Folds take ${mm(t)}, the tab ${mm(t)} more across its wall.`,
      `What tucks in is ${mm(m.enter)} narrower than its wall and lies ${mm(t)} inside the front.`,
    ];
  },
};
