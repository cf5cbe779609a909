/**
 * Envelope box: an envelope that is deep enough for what is in it. Floor, four low walls, a lid on the back wall and its front
 * that tucks in behind the front wall.
 *
 * Depth from score to score = thickness of the card + air + t; width and height as for a tray (fitting.ts). The lid's front
 * lies t within the tray's front wall.
 */
import { rectangle } from '../pieces.ts';
import type { Family, Params } from '../family.ts';
import { Making } from '../making.ts';
import { length, measures } from '../specs.ts';
import { tuckCourse } from './angles.ts';
import { glueTabs, sheetPart } from './assembling.ts';
import { mm, paperMm, sheetRules, size, USUAL_PAPER_MM } from './fitting.ts';
import { tray } from './trayAndLid.ts';

const SIZES = measures({
  wideMm: length('Card, wide', 'What goes in.', ({ wide }) => Math.round(wide), 30, 500),
  tallMm: length('Card, tall', 'What goes in.', ({ tall }) => Math.round(tall), 30, 500),
  thickMm: length('Card, thick', 'Closed, where it is thickest.', 8, 3, 60),
  airMm: length('Air', 'Between the card and the inside, on each side.', 1.5, 0, 20),
});

/** Sizes from score to score for paper so thick. */
export function envelopeBoxMeasures(params: Params, t: number) {
  const s = SIZES.read(params);
  const a = s.wideMm + 2 * s.airMm + 3 * t;
  const b = s.tallMm + 2 * s.airMm + 2 * t;
  const wall = s.thickMm + s.airMm + t;
  return {
    a,
    b,
    wall,
    inside: [a - 3 * t, b - 2 * t, wall - t] as const,
    outside: [a + t, b + t, wall + t] as const,
  };
}

export const envelopeBox: Family = {
  id: 'envelopeBox',
  on: 'table',
  title: 'Envelope box',
  purpose: 'An envelope as deep as its card is thick, with a lid that tucks in.',
  specs: SIZES.specs,
  defaults: SIZES.defaults,
  constraints(params) {
    const m = envelopeBoxMeasures(params, USUAL_PAPER_MM);
    return sheetRules({ 'A wall': m.wall }, [m.a + 2 * m.wall, 2 * m.b + 3 * m.wall]);
  },
  build(params, context) {
    const t = context.stock.thicknessMm;
    const { a, b, wall } = envelopeBoxMeasures(params, t);
    const made = new Making(context);
    const { sheet, glued } = tray(a, b, wall, false);
    sheet.panel('lid', rectangle(t, b + wall, a - 2 * t, b - t), { on: 'back wall', deg: -90, stage: 2 });
    const [x0, x1, y0] = [t + 1, a - t - 1, 2 * b + wall - t];
    sheet.panel(
      'lid front',
      [
        [x0, y0],
        [x1, y0],
        [x1 - 2, y0 + wall - t],
        [x0 + 2, y0 + wall - t],
      ],
      { on: 'lid', deg: -90, stage: 2, course: tuckCourse(b - t, wall - t) },
      { behind: 'front wall' },
    );
    const part = sheetPart(made, 'box', sheet);
    glueTabs(made, 'corner', part, glued);
    return made.standing([
      'Turn in the tabs',
      'Raise the walls, glue the corners',
      'Close the lid, its front tucked in',
    ]);
  },
  handles: () => [],
  advice(params, _gutter, _margin, _fits, stock) {
    const t = paperMm(stock);
    const m = envelopeBoxMeasures(params, t);
    return [
      `Inside ${size(...m.inside)}; outside ${size(...m.outside)}.`,
      `Folds take ${mm(t)}; tabs inside the side walls ${mm(2 * t)}; the lid’s front ${mm(t)}.`,
      'Ask your own postal service whether it goes as a letter or a parcel.',
    ];
  },
};
