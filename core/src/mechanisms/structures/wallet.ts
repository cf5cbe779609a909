/**
 * Wallet: a flat sleeve for passes, photos and letters, closed at one side and at the bottom by tabs inside. Open at the top
 * with a notch for a thumb, or closed by a flap whose tongue goes into a slot (and locks behind it), or held by a band that goes round it.
 *
 * A flat sleeve round something T thick is T wider than it, since it goes round its edges; its fold and its tab take the paper
 * twice. The band is longer by its own paper and by that of the sleeve.
 */
import { fit } from '../../stock/stock.ts';
import { polyline } from '../../geometry/path.ts';
import type { Point } from '../../geometry/point.ts';
import type { Family, Params } from '../family.ts';
import { Making } from '../making.ts';
import { rectangle } from '../pieces.ts';
import { count, length, measures, pick } from '../specs.ts';
import { glueAll, sheetPart } from './assembling.ts';
import { mm, paperMm, sheetRules, size, tabDepth, tabOutside, USUAL_PAPER_MM } from './fitting.ts';
import { FoldedSheet } from './foldedSheet.ts';

const hasTongue = (closing: unknown): boolean => closing === 'tongue' || closing === 'lock';

const SIZES = measures({
  wideMm: length('Contents, wide', 'An ID-1 pass is 85.6 mm.', 85.6, 10, 400),
  tallMm: length('Contents, tall', 'An ID-1 pass is 53.98 mm.', 53.98, 10, 400),
  thickMm: length('Contents, thick', 'Each; an ID-1 pass is 0.76 mm.', 0.76, 0.05, 10),
  pieces: count('How many', 'Of them in one wallet.', 1, 1, 20),
  airMm: length('Air', 'On each side.', 0.75, 0, 10),
  closing: pick('Closed by', 'What keeps the contents in.', {
    notch: 'Nothing',
    tongue: 'Tongue',
    lock: 'Tongue that locks',
    band: 'Band',
  }),
  flapMm: length('Flap', 'How far it comes down over the front.', 32, 15, 200, (p) => hasTongue(p.closing)),
  bandMm: length('Band', 'How wide it is.', 22, 8, 100, (p) => p.closing === 'band'),
  tabMm: tabDepth(9),
});

/** Sizes from fold to fold for paper so thick. */
export function walletMeasures(params: Params, t: number) {
  const s = SIZES.read(params);
  const thick = s.thickMm * s.pieces;
  const w = s.wideMm + thick + 2 * s.airMm + 2 * t;
  const h = s.tallMm + thick / 2 + 2 * s.airMm + t;
  return {
    closing: s.closing,
    flap: s.flapMm,
    band: s.bandMm,
    tab: s.tabMm,
    w,
    h,
    thick,
    inside: [w - 2 * t, h - t] as const,
    around: w + thick + 3 * t,
  };
}

/** How far the tongue goes into its slot, and how much of the flap is tongue. */
const TONGUE_MM = 11;
const TONGUE_SHARE = 0.42;
/** One that locks is so much wider on each side beyond its root, as a share of the slot. */
const BARB_SHARE = 0.09;

export const wallet: Family = {
  id: 'wallet',
  on: 'table',
  title: 'Wallet',
  purpose: 'A sleeve sized from a pass, a photo or a letter, open or closed by a tongue or a band.',
  specs: SIZES.specs,
  defaults: SIZES.defaults,
  constraints(params) {
    const m = walletMeasures(params, USUAL_PAPER_MM);
    return [
      ...sheetRules({}, [2 * m.w + m.tab, m.h + 2 * m.flap]),
      { overMm: m.tab - m.w / 2, reason: 'The tabs would meet in the middle.' },
      ...(hasTongue(m.closing)
        ? [
            { overMm: m.flap - 0.85 * m.h, reason: 'The flap would reach past the bottom of the wallet.' },
            { overMm: TONGUE_MM + 4 - m.flap, reason: 'The flap would be all tongue.' },
          ]
        : []),
      ...(m.closing === 'band'
        ? [{ overMm: m.band - m.h, reason: 'The band would be wider than the wallet is tall.' }]
        : []),
    ];
  },
  build(params, context) {
    const t = context.stock.thicknessMm;
    const m = walletMeasures(params, t);
    const { w, h, flap, tab } = m;
    const made = new Making(context);
    const sheet = new FoldedSheet();
    const notch = Math.min(10, w / 6, h / 4);
    const top: (readonly [number, number, number] | Point)[] =
      m.closing === 'notch'
        ? [
            [w / 2 + notch, h, -1],
            [w / 2 - notch, h],
          ]
        : [];
    sheet.panel('front', [[0, 0], [w, 0], [w, h], ...top, [0, h]]);
    sheet.tab(
      'bottom tab',
      tabOutside([0, 0], [w, 0], tab, tab + 1, Math.min(4, tab)),
      { on: 'front', deg: -180, stage: 0 },
      'bottom tab',
    );
    sheet.tab(
      'side tab',
      tabOutside([0, h], [0, 0], tab, Math.min(6, tab), tab + 1),
      { on: 'front', deg: -180, stage: 0 },
      'side tab',
    );
    sheet.panel('back', rectangle(w, 0, w, h), { on: 'front', deg: -180, stage: 1 });
    let cuts = {};
    if (hasTongue(m.closing)) {
      const [x0, tongue] = [w, w * TONGUE_SHARE];
      const [a, b] = [x0 + (w - tongue) / 2, x0 + (w + tongue) / 2];
      const root = h + flap - TONGUE_MM;
      // Behind the slot a locking tongue is wider than it, so that it is bent to go in, and not drawn out by accident.
      const barb = m.closing === 'lock' ? BARB_SHARE * tongue : 0;
      const held: Point[] = barb > 0 ? [[b + barb, root + 3]] : [];
      sheet.panel(
        'flap',
        [
          [x0, h],
          [x0 + w, h],
          [x0 + w - 3, h + 0.6 * (root - h)],
          [b + 2, root],
          [b, root],
          [b, root + 1.5],
          ...held,
          [b - 2, h + flap],
          [a + 2, h + flap],
          ...held.map(([x, y]): Point => [a + b - x, y]),
          [a, root + 1.5],
          [a, root],
          [a - 2, root],
          [x0 + 3, h + 0.6 * (root - h)],
        ],
        { on: 'back', deg: -176, stage: 2 },
        { through: 'slot' },
      );
      const { slotMm, playMm } = fit(context.stock, 'close', context.fits);
      // Closed, the root of the tongue lies so far below the upper fold.
      const y = h - (root - h) - slotMm;
      cuts = { slot: polyline(rectangle((w - tongue - playMm) / 2, y, tongue + playMm, slotMm), true) };
    }
    const glued = [sheet.glue('bottom tab', 'back', 'front'), sheet.glue('side tab', 'back', 'front')];
    const part = sheetPart(made, 'wallet', sheet, { cuts });
    glueAll(made, { bottom: [part, glued[0], part], side: [part, glued[1], part] });
    if (m.closing === 'band') {
      const band = new FoldedSheet();
      band.panel('band front', rectangle(0, 0, m.around, m.band));
      band.panel('band back', rectangle(m.around, 0, m.around, m.band), {
        on: 'band front',
        deg: -180,
        stage: 1,
      });
      band.tab('band tab', tabOutside([0, m.band], [0, 0], Math.max(tab, 8), 1), {
        on: 'band front',
        deg: -180,
        stage: 0,
      });
      const glue = band.glue('band tab', 'band back', 'front');
      const added = sheetPart(made, 'band', band);
      glueAll(made, { band: [added, glue, added] });
    }
    return made.standing([
      'Tabs in',
      'Fold it over, glue the tabs inside',
      ...(hasTongue(m.closing) ? ['Close the flap, its tongue into the slot'] : []),
    ]);
  },
  handles: () => [],
  advice(params, _gutter, _margin, _fits, stock) {
    const t = paperMm(stock);
    const m = walletMeasures(params, t);
    return [
      `Inside ${size(...m.inside)} for ${mm(m.thick)} of contents; outside ${size(m.w, m.h)}.`,
      `It is ${mm(m.thick)} wider than what goes in, since it goes round its edges, and ${mm(2 * t)} for its paper.`,
      ...(m.closing === 'band'
        ? [`The band is ${mm(m.around)} from fold to fold: the wallet, its contents and three papers.`]
        : []),
    ];
  },
};
