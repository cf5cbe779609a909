/**
 * Gusseted bag: front, back and two gussets closed by a tab, a floor of four flaps, handles, and a clasp if wanted.
 *
 * The gusset g has a fold in its middle down to a V at g / 2 above the floor, at 45 degrees; front and gussets have a score at
 * g / 2. Open it stands as a box, and folded flat it lies flat; between the two rigid panels are locked (at the front corner four
 * right angles meet), and paper bows by about 0.047 g. What is inside stands on a floor of W x g.
 */
import { workOf, type DieLine } from '../../dieline/part.ts';
import { fit } from '../../stock/stock.ts';
import { shift } from '../../geometry/isometry.ts';
import { polyline, straight, type Path } from '../../geometry/path.ts';
import type { Point } from '../../geometry/point.ts';
import type { Family, Params } from '../family.ts';
import { Making } from '../making.ts';
import { rectangle } from '../pieces.ts';
import { length, measures, pick, yesNo } from '../specs.ts';
import { glueAll, sheetPart } from './assembling.ts';
import { mm, sheetRules, size, tabDepth, tabOutside } from './fitting.ts';
import { FoldedSheet, ringPath } from './foldedSheet.ts';

const SIZES = measures({
  wideMm: length('Wide', 'Of the front, from score to score.', 90, 20, 400),
  deepMm: length('Deep', 'Of the gussets; never more than the front is wide.', 40, 10, 200),
  tallMm: length('Tall', 'From the floor to the rim.', 130, 20, 500),
  hemMm: length('Hem', 'Turned in at the rim; 0 without.', 18, 0, 60),
  handles: pick('Handles', 'Holes for a hand, or straps glued inside.', {
    straps: 'Straps',
    holes: 'Holes',
    none: 'None',
  }),
  clasp: yesNo('Clasp', 'A flap of the back comes over the top, its tongue into a slot of the front.', false),
  tabMm: tabDepth(12),
});

export function bagMeasures(params: Params) {
  const s = SIZES.read(params);
  return {
    w: s.wideMm,
    g: s.deepMm,
    h: s.tallMm,
    hem: s.hemMm,
    handles: s.handles,
    clasp: s.clasp,
    tab: s.tabMm,
  };
}

/** What the paper bows between standing and lying flat, as a share of the gusset. */
const BOW = 0.047;
/** How far the clasp comes down over the front, and its tongue goes in, mm. */
const CLASP_MM = 30;
const TONGUE_MM = 10;

/** The straps' outer and inner radius, and the length of their feet, which lie on the hem where there is one, mm. */
const strapOf = (w: number, hem: number) => {
  const outer = Math.min(34, 0.34 * w);
  return { outer, inner: outer - Math.min(10, outer / 2.6), foot: hem > 0 ? Math.min(22, hem - 2) : 22 };
};
/** A strap whose feet are shorter tears off, mm. */
const LEAST_FOOT_MM = 10;

export const bag: Family = {
  id: 'bag',
  on: 'table',
  title: 'Bag with gussets',
  purpose: 'A bag that stands open as a box and folds flat, with handles and a clasp.',
  specs: SIZES.specs,
  defaults: SIZES.defaults,
  constraints(params) {
    const { w, g, h, hem, tab, clasp, handles } = bagMeasures(params);
    return [
      ...sheetRules({}, [2 * (w + g) + tab, h + 2 * g + hem + (clasp ? CLASP_MM : 0)]),
      { overMm: g - w, reason: 'The gussets would be wider than the front: the floor would not close.' },
      { overMm: g / 2 + hem + 12 - h, reason: 'The hem would reach down to the folds of the floor.' },
      {
        overMm: tab - 0.45 * g,
        reason: 'The glue tab would reach over the middle of the gusset, which folds.',
      },
      ...(handles === 'straps'
        ? [
            {
              overMm: hem > 0 ? LEAST_FOOT_MM - strapOf(w, hem).foot : 0,
              reason: `The straps' feet, which are glued to the hem, would be shorter than ${mm(LEAST_FOOT_MM)}: a deeper hem, or none.`,
            },
            {
              overMm: clasp ? 1 : 0,
              reason: "The clasp's flap would close onto the straps: holes for a hand, or no clasp.",
            },
          ]
        : []),
      { overMm: 3 - hem > 0 && hem > 0 ? 3 - hem : 0, reason: 'The hem would be narrower than 3 mm.' },
    ];
  },
  build(params, context) {
    const { w, g, h, hem, handles, clasp, tab } = bagMeasures(params);
    const made = new Making(context);
    const sheet = new FoldedSheet();
    const x = { front: 0, right: w, back: w + g, left: 2 * w + g };
    const walls = [
      ['front', w],
      ['right', g],
      ['back', w],
      ['left', g],
    ] as const;
    sheet.panel('front', rectangle(0, 0, w, h));
    sheet.panel(
      'right',
      rectangle(x.right, 0, g, h),
      { on: 'front', deg: -90, stage: 1 },
      { name: 'right gusset' },
    );
    sheet.panel('back', rectangle(x.back, 0, w, h), { on: 'right', deg: -90, stage: 1 });
    sheet.panel(
      'left',
      rectangle(x.left, 0, g, h),
      { on: 'back', deg: -90, stage: 1 },
      { name: 'left gusset' },
    );
    sheet.tab('side tab', tabOutside([0, h], [0, 0], tab, Math.min(8, tab)), {
      on: 'front',
      deg: -90,
      stage: 1,
    });
    if (hem > 0)
      for (const [name, wide] of walls) {
        if (clasp && name === 'back') continue;
        const x0 = x[name];
        sheet.panel(
          `hem ${name}`,
          [
            [x0, h],
            [x0 + wide, h],
            [x0 + wide - 2, h + hem],
            [x0 + 2, h + hem],
          ],
          { on: name, deg: -180, stage: 0 },
          { name: 'hem' },
        );
      }
    const side = Math.min(0.45 * w, g);
    for (const name of ['right', 'left'] as const)
      sheet.panel(
        `floor ${name}`,
        [
          [x[name] + g, 0],
          [x[name], 0],
          [x[name] + Math.min(2, g / 8), -side],
          [x[name] + g - Math.min(2, g / 8), -side],
        ],
        { on: name, deg: -90, stage: 2 },
        { name: 'floor flap' },
      );
    for (const [name, deep, stage] of [
      ['back', g - 1, 3],
      ['front', 0.7 * g, 3],
    ] as const)
      sheet.panel(
        `floor ${name}`,
        [
          [x[name] + w, 0],
          [x[name], 0],
          [x[name] + 1, -deep],
          [x[name] + w - 1, -deep],
        ],
        {
          on: name,
          deg: -90,
          stage,
        },
      );
    const cuts: Record<string, Path> = {};
    if (clasp) {
      sheet.panel('cover', rectangle(x.back, h, w, g), { on: 'back', deg: -90, stage: 4 });
      const [a, b] = [x.back + 0.3 * w, x.back + 0.7 * w];
      const y = h + g;
      const root = y + CLASP_MM - TONGUE_MM;
      sheet.panel(
        'clasp',
        [
          [x.back, y],
          [x.back + w, y],
          [b + 3, root],
          [b, root],
          [b - 2, y + CLASP_MM],
          [a + 2, y + CLASP_MM],
          [a, root],
          [a - 3, root],
        ],
        { on: 'cover', deg: -90, stage: 4 },
      );
      const { slotMm, playMm } = fit(context.stock, 'close', context.fits);
      cuts.slot = polyline(
        rectangle(0.3 * w - playMm / 2, h - (root - y) - slotMm, 0.4 * w + playMm, slotMm),
        true,
      );
    }
    if (handles === 'holes') {
      const [wide, tall] = [Math.min(76, 0.6 * w), Math.min(22, h / 5)];
      const y = h - hem - 10 - tall;
      const round = tall / 2;
      for (const name of ['front', 'back'] as const) {
        const x0 = x[name] + (w - wide) / 2;
        cuts[`hole-${name}`] = ringPath([
          [x0 + round, y],
          [x0 + wide - round, y, 1],
          [x0 + wide - round, y + tall],
          [x0 + round, y + tall, 1],
        ]);
      }
    }
    // What folds only when it is laid flat: drawn, and left as it is while it stands.
    const later = (id: string, sense: 'mountain' | 'valley', from: Point, to: Point): DieLine => ({
      id,
      ...workOf(sense),
      fold: { sense, restDeg: 0 },
      path: straight(from, to),
    });
    const gussets = (['right', 'left'] as const).flatMap((name) => {
      const x0 = x[name];
      const v: Point = [x0 + g / 2, g / 2];
      return [
        later(`middle ${name}`, 'valley', v, [x0 + g / 2, h]),
        // Turned in it shows its other side.
        ...(hem > 0 ? [later(`middle hem ${name}`, 'mountain', [x0 + g / 2, h], [x0 + g / 2, h + hem])] : []),
        later(`v ${name} 1`, 'mountain', [x0, 0], v),
        later(`v ${name} 2`, 'mountain', [x0 + g, 0], v),
        later(
          `half ${name}`,
          'mountain',
          name === 'right' ? [x0, g / 2] : v,
          name === 'right' ? v : [x0 + g, g / 2],
        ),
      ];
    });
    const glued = [
      sheet.glue('side tab', 'left', 'front', {
        ring: sheet
          .ringOf('side tab')
          .map(([px, py]): Point => [px > -0.5 ? -0.5 : px + 0.5, Math.min(h - 1, Math.max(g / 2 + 1, py))]),
      }),
      sheet.glue('floor back', 'floor right', 'back'),
      sheet.glue('floor back', 'floor left', 'back'),
      sheet.glue('floor front', 'floor back', 'back'),
    ];
    const part = sheetPart(made, 'bag', sheet, {
      cuts,
      lines: [...gussets, later('half front', 'mountain', [0, g / 2], [w, g / 2])],
    });
    glueAll(made, {
      side: [part, glued[0], part],
      'floor-right': [part, glued[1], part],
      'floor-left': [part, glued[2], part],
      floor: [part, glued[3], part],
    });
    if (handles === 'straps') {
      const { outer, inner, foot } = strapOf(w, hem);
      const ring = ringPath([
        [-outer, -foot],
        [-inner, -foot],
        [-inner, 0, -1],
        [inner, 0],
        [inner, -foot],
        [outer, -foot],
        [outer, 0, 1],
        [-outer, 0],
      ]);
      const feet = {
        'foot-1': rectangle(-outer + 0.5, -foot + 0.5, outer - inner - 1, foot - 2),
        'foot-2': rectangle(inner + 0.5, -foot + 0.5, outer - inner - 1, foot - 2),
      };
      for (const name of ['front', 'back'] as const) {
        const strap = made.plate(`strap-${name}`, ring, {
          title: `${name} strap`,
          panel: 'strap',
          at: [-(outer + inner) / 2, 0],
          zones: Object.entries(feet).map(([id, outline]) => ({
            id,
            outline,
            face: hem > 0 ? 'back' : 'front',
            kind: 'glue',
          })),
        });
        // Inside, under the rim: on the hem, whose outer face comes to lie inside, or without one on the wall itself.
        const at =
          hem > 0
            ? { angleRad: Math.PI, flip: false, dx: x[name] + w / 2, dy: h + 1 }
            : shift(x[name] + w / 2, h - 1);
        for (const zone of Object.keys(feet))
          made.glue(strap, at, { zone, id: `${name}-${zone}`, onto: part });
      }
    }
    return made.standing([
      'Turn in the hem',
      'Close the tube, glue the tab inside',
      'Floor flaps of the gussets in',
      'Floor of back and front over them, glue it',
      ...(clasp ? ['Close the clasp'] : []),
    ]);
  },
  handles: () => [],
  advice(params) {
    const { w, g, h } = bagMeasures(params);
    return [
      `It stands on ${size(w, g)} and holds what is up to ${mm(h)} tall.`,
      `Folded flat it is ${size(w, h + g / 2)}. Between standing and lying flat its panels are locked: the paper bows by about ${mm(BOW * g)}.`,
      'To lay it flat: the gussets in first, the floor last, turned up on the back.',
      'Cords and straps are not for young children.',
    ];
  },
};
