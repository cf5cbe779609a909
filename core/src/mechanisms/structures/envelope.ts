/**
 * Envelope for a flat thing, its flaps folded behind the front and glued: straight seams (two side flaps under the back) or
 * diagonal ones (four pointed flaps). Inside, width and height are those of the contents, their thickness and the air: a flat
 * envelope round something T thick must be T wider, since it goes round its edges.
 */
import { compose, shift, TURNED_ABOUT_Y } from '../../geometry/isometry.ts';
import type { Point } from '../../geometry/point.ts';
import type { Family, Params } from '../family.ts';
import { Making } from '../making.ts';
import { rectangle } from '../pieces.ts';
import { length, measures, pick, stock, yesNo } from '../specs.ts';
import { glueAll, sheetPart } from './assembling.ts';
import { mm, sheetRules, size } from './fitting.ts';
import { FoldedSheet, type Glued } from './foldedSheet.ts';

const SIZES = measures({
  wideMm: length('Card, wide', 'What goes in.', ({ wide }) => Math.round(wide), 20, 500),
  tallMm: length('Card, tall', 'What goes in.', ({ tall }) => Math.round(tall), 20, 500),
  thickMm: length('Card, thick', 'Closed, where it is thickest.', 1, 0, 12),
  airMm: length('Air in all', 'What the inside is larger, each way.', 3, 0, 20),
  seams: pick('Seams', 'Two flaps under a straight back, or four pointed flaps.', {
    straight: 'Straight',
    diagonal: 'Diagonal',
  }),
  flapMm: length('Closing flap', 'How deep it is.', ({ tall }) => Math.round(tall * 0.45), 12, 300),
  withLiner: yesNo('With a liner', 'A second paper inside front and flap.', false),
  linerStockId: stock('Paper of the liner', 'The stock that it is cut from.', (p) => p.withLiner === true),
});

/** Size of the front, and of its flaps. */
export function envelopeMeasures(params: Params) {
  const s = SIZES.read(params);
  const [w, h] = [s.wideMm, s.tallMm].map((mm) => mm + s.airMm + s.thickMm);
  return { w, h, flap: s.flapMm, diagonal: s.seams === 'diagonal', liner: s.withLiner };
}

/** How much wider than half diagonal flaps lie over each other, rad. */
const WEDGE = 0.11;
/** The liner keeps so far from what is glued, mm. */
const LINER_MM = 4;

/** A pointed flap outside the edge from p to q, its sides leaving the edge at an angle; cut off square so deep. */
function pointed([px, py]: Point, [qx, qy]: Point, angle: number, deepest: number): Point[] {
  const long = Math.hypot(qx - px, qy - py);
  const [ux, uy] = [(qx - px) / long, (qy - py) / long];
  const at = (x: number, y: number): Point => [px + ux * x + uy * y, py + uy * x - ux * y];
  const apex = (long / 2) * Math.tan(angle);
  const depth = Math.min(deepest, apex * 0.94);
  const cut = depth / Math.tan(angle);
  return [[qx, qy], [px, py], at(cut, depth), at(long - cut, depth)];
}

function sheetOf(params: Params): { sheet: FoldedSheet; glued: Glued[] } {
  const { w, h, flap, diagonal } = envelopeMeasures(params);
  const sheet = new FoldedSheet();
  sheet.panel('front', rectangle(0, 0, w, h));
  const folded = (stage: number) => ({ on: 'front', deg: -180, stage });
  // It lies over the back, whose paper it cannot pass.
  const closing = { on: 'front', deg: -176, stage: 2 };
  if (diagonal) {
    const half = Math.atan2(h, w);
    // The sides reach nearly to the middle; bottom and closing flap lie over them.
    const low = half + WEDGE;
    sheet.panel('left flap', pointed([0, h], [0, 0], Math.PI / 2 - half + WEDGE, w / 2 - 1), folded(0));
    sheet.panel('right flap', pointed([w, 0], [w, h], Math.PI / 2 - half + WEDGE, w / 2 - 1), folded(0));
    sheet.panel('back', pointed([0, 0], [w, 0], low, 0.62 * h), folded(1));
    sheet.panel('flap', pointed([w, h], [0, h], Math.max(low, Math.atan2(2.2 * flap, w)), flap), closing);
  } else {
    const side = Math.min(22, w / 3);
    const taper = Math.min(8, h / 8);
    sheet.panel(
      'left flap',
      [
        [0, h],
        [-side, h - taper],
        [-side, taper],
        [0, 0],
      ],
      folded(0),
    );
    sheet.panel(
      'right flap',
      [
        [w, 0],
        [w + side, taper],
        [w + side, h - taper],
        [w, h],
      ],
      folded(0),
    );
    const deep = h - Math.min(12, h / 5);
    sheet.panel(
      'back',
      [
        [w, 0],
        [0, 0],
        [1, -deep],
        [w - 1, -deep],
      ],
      folded(1),
    );
    const slope = Math.min(flap * 0.5, w / 4);
    sheet.panel(
      'flap',
      [
        [0, h],
        [w, h],
        [w - slope, h + flap],
        [slope, h + flap],
      ],
      closing,
    );
  }
  const glued = [sheet.glue('left flap', 'back', 'front'), sheet.glue('right flap', 'back', 'front')];
  return { sheet, glued };
}

export const envelope: Family = {
  id: 'envelope',
  on: 'table',
  title: 'Envelope',
  purpose:
    'An envelope for the card as it is when closed, its seams straight or diagonal, with a liner if wanted.',
  specs: SIZES.specs,
  defaults: SIZES.defaults,
  constraints(params) {
    const { w, h, flap } = envelopeMeasures(params);
    return [
      ...sheetRules({}, [w + 44, 2 * h + flap]),
      { overMm: flap - 0.9 * h, reason: 'The closing flap would be as deep as the envelope is tall.' },
      {
        overMm: w - 3.2 * h,
        reason: 'It is so long and low that its seams would not hold: use straight seams and fold it across.',
      },
      { overMm: h - 3.2 * w, reason: 'It is so tall and narrow that its flaps would not meet.' },
    ];
  },
  build(params, context) {
    const { w, h, liner } = envelopeMeasures(params);
    const made = new Making(context);
    const { sheet, glued } = sheetOf(params);
    const part = sheetPart(made, 'envelope', sheet);
    glueAll(made, { left: [part, glued[0], part], right: [part, glued[1], part] });
    if (liner) {
      const lining = new FoldedSheet();
      const flap = sheet.ringOf('flap');
      const inset = rectangle(LINER_MM, 1, w - 2 * LINER_MM, h - 1);
      lining.panel('lining', inset);
      // The flap drawn in towards the middle of the envelope's upper edge.
      const far = Math.max(...flap.map((p) => p[1])) - h;
      const shrink = (x: number) => LINER_MM + (x * (w - 2 * LINER_MM)) / w;
      lining.panel(
        'flap lining',
        flap.map(([x, y]): Point => [shrink(x), h + (y - h) * Math.max(0.4, 1 - LINER_MM / far)]),
        { on: 'lining', deg: 176, stage: 2 },
      );
      const { linerStockId } = SIZES.read(params);
      const zone = lining.glue('flap lining', 'flap lining', 'back').zone;
      const second = sheetPart(made, 'liner', lining, linerStockId ? { stockId: linerStockId } : {});
      // Seen from inside: turned over about the upright middle line.
      const inside = compose(shift(w, 0), TURNED_ABOUT_Y);
      glueAll(made, { liner: [second, { zone, placement: inside }, part] });
    }
    return made.standing(['Side flaps in', 'Back up, glue it to them', 'Close the flap']);
  },
  handles: () => [],
  advice(params) {
    const s = SIZES.read(params);
    const { w, h } = envelopeMeasures(params);
    return [
      `Inside ${size(w, h)}: ${mm(s.airMm)} of air and ${mm(s.thickMm)} for the thickness each way.`,
      ...(s.thickMm > 4 ? ['For something so thick an envelope box holds its shape better.'] : []),
      'Ask your own postal service which sizes and thicknesses go as letters.',
    ];
  },
};
