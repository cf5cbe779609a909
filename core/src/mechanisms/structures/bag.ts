/**
 * Gusseted bag: front, back and two gussets closed by a tab, a floor of four flaps, handles, and a clasp if wanted.
 *
 * The gusset g has a fold in its middle down to a V at g / 2 above the floor, at 45 degrees; the front and the front halves of the
 * gussets have a score at g / 2. Open it stands as a box, and folded flat it lies flat, its floor turned up on its front; between the
 * two rigid panels are locked (at the front corner four right angles meet), and paper must give (bagFlat.ts). What is inside stands on
 * a floor of W x g.
 */
import { fit } from '../../stock/stock.ts';
import { shift } from '../../geometry/isometry.ts';
import { polyline, type Path } from '../../geometry/path.ts';
import type { Point } from '../../geometry/point.ts';
import type { Family, Params } from '../family.ts';
import { Making } from '../making.ts';
import { rectangle } from '../pieces.ts';
import { length, measures, pick, yesNo } from '../specs.ts';
import { unbroken } from './angles.ts';
import { glueAll, sheetPart } from './assembling.ts';
import { bagAt, bagTurns, type BagTurns } from './bagFlat.ts';
import { mm, sheetRules, size, tabDepth, tabOutside } from './fitting.ts';
import { FoldedSheet } from './foldedSheet.ts';
import { ringPath } from './sheetEdges.ts';

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
  flat: yesNo(
    'Lay it flat',
    'Fold up until it lies flat again, not only until it stands.',
    false,
    // Closed it stays as it stands.
    ({ clasp }) => clasp !== true,
  ),
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
    flat: s.flat && !s.clasp,
    tab: s.tabMm,
  };
}

/** The floor turns up so far, degrees, where paper must give the most; and by how much, as a share of the gusset. */
const WORST_DEG = 18;
const WORST = bagAt(1, (WORST_DEG * Math.PI) / 180).offMm;
/** How far the clasp comes down over the front, and its tongue goes in, mm. */
const CLASP_MM = 30;
const TONGUE_MM = 10;

/** The straps' outer and inner radius, and the length of their feet, which lie on the hem where there is one, mm. */
const strapOf = (w: number, hem: number) => {
  const outer = Math.min(34, 0.34 * w);
  return { outer, inner: outer - Math.min(10, outer / 2.6), foot: hem > 0 ? Math.min(22, hem - 2) : 22 };
};
/** The clasp's slot lies so far below the upper edge with its whole width, mm. */
const SLOT_MM = CLASP_MM - TONGUE_MM + 4;

/** Holes for a hand: their size, how high they begin, below the hem and, where there is one, the clasp's slot, mm. */
const handHole = ({ w, h, hem, clasp }: ReturnType<typeof bagMeasures>) => {
  const tall = Math.min(22, h / 5);
  return { wide: Math.min(76, 0.6 * w), tall, y: h - Math.max(hem + 10, clasp ? SLOT_MM + 8 : 0) - tall };
};
/** So much is left below them, mm. */
const BELOW_HOLE_MM = 8;
/** A strap whose feet are shorter tears off, mm. */
const LEAST_FOOT_MM = 10;

/** Moments of each step at which the angles of folds are told. */
const MOMENTS = 36;
/** So many of them after its beginning the last step has clearly begun. */
const BEGUN = 4;

/** How the folds of a bag turn over all its steps: closed in one of them, and turned on in the last where it is laid flat. */
function bagFolds(g: number, steps: number, flat: boolean) {
  const laid = Array.from({ length: MOMENTS + 1 }, (_, i) => (Math.PI / 2) * (i / MOMENTS));
  const turns = laid.map((beta) => bagTurns(g, beta));
  const strainMm = [
    ...Array.from({ length: (steps - 1) * MOMENTS }, () => 0),
    ...laid.map((beta) => bagAt(g, beta).offMm),
  ];
  /** @param step in which it is closed; unsaid: it is flat until the bag is laid flat */
  const fold = (key: keyof BagTurns, step?: number) => {
    const [stands] = turns.map((turn) => turn[key]);
    // Where it has just begun: half a turn would do with either sign.
    const sense = turns[BEGUN][key] < 0 ? ('mountain' as const) : ('valley' as const);
    if (!flat) return step === undefined ? { deg: 0, sense } : { deg: stands, stage: step, sense };
    const standing = Array.from({ length: (steps - 1) * MOMENTS }, (_, i) =>
      step === undefined ? 0 : stands * Math.min(1, Math.max(0, i / MOMENTS - step)),
    );
    const course = unbroken([...standing, ...turns.map((turn) => turn[key])]);
    return { deg: course[course.length - 1], course, sense };
  };
  return { fold, strainMm };
}

export const bag: Family = {
  id: 'bag',
  on: 'table',
  title: 'Bag with gussets',
  purpose: 'A bag that stands open as a box and folds flat, with handles and a clasp.',
  specs: SIZES.specs,
  defaults: SIZES.defaults,
  constraints(params) {
    const m = bagMeasures(params);
    const { w, g, h, hem, tab, clasp, handles } = m;
    return [
      ...sheetRules({}, [2 * (w + g) + tab, h + 2 * g + hem + (clasp ? CLASP_MM : 0)]),
      { overMm: g - w, reason: 'The gussets would be wider than the front: the floor would not close.' },
      { overMm: g / 2 + hem + 12 - h, reason: 'The hem would reach down to the folds of the floor.' },
      {
        overMm: tab - 0.45 * g,
        reason: 'The glue tab would reach over the middle of the gusset, which folds.',
      },
      ...(handles === 'holes'
        ? [
            {
              overMm: g / 2 + BELOW_HOLE_MM - handHole(m).y,
              reason:
                'The holes for a hand would reach down to the folds of the floor: make it taller, or without holes.',
            },
          ]
        : []),
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
    const m = bagMeasures(params);
    const { w, g, h, hem, handles, clasp, flat, tab } = m;
    const made = new Making(context);
    const sheet = new FoldedSheet();
    const x = { front: 0, right: w, back: w + g, left: 2 * w + g };
    const steps = [
      'Turn in the hem',
      'Close the tube, glue the tab inside',
      'Floor flaps of the gussets in',
      'Floor of back and front over them, glue it',
      ...(clasp ? ['Close the clasp'] : []),
      ...(flat ? ['Lay it flat: the gussets in, the floor up on the front'] : []),
    ];
    const { fold, strainMm } = bagFolds(g, steps.length, flat);
    const half = g / 2;
    sheet.panel('front', rectangle(0, half, w, h - half));
    sheet.panel(
      'front strip',
      rectangle(0, 0, w, half),
      { on: 'front', ...fold('score') },
      { name: 'strip of the front' },
    );
    // A gusset: its front half and its back one, with what folds below the V.
    const gusset = (name: 'right' | 'left', on: 'front' | 'back'): void => {
      const x0 = x[name];
      const [f, b] = name === 'right' ? [x0, x0 + g] : [x0 + g, x0];
      const v: Point = [x0 + half, half];
      // As the sheet runs, whichever half comes first.
      const ring = (...corners: Point[]): Point[] => (name === 'right' ? corners : [...corners].reverse());
      const frontHalf = () =>
        sheet.panel(
          `${name} front half`,
          ring([f, half], v, [v[0], h], [f, h]),
          name === 'right' ? { on, ...fold('corner', 1) } : { on: `${name} back half`, ...fold('middle') },
          { name: `front half of the ${name} gusset` },
        );
      const backHalf = () =>
        sheet.panel(
          `${name} back half`,
          ring(v, [b, 0], [b, h], [v[0], h]),
          name === 'right'
            ? { on: `${name} front half`, ...fold('middle') }
            : { on, ...fold('backCorner', 1) },
          { name: `back half of the ${name} gusset` },
        );
      if (name === 'right') {
        frontHalf();
        backHalf();
      } else {
        backHalf();
        frontHalf();
      }
      sheet.panel(
        name,
        ring([f, 0], [b, 0], v),
        { on: `${name} back half`, ...fold('backSlant') },
        { name: `${name} gusset’s foot` },
      );
      sheet.panel(
        `${name} front foot`,
        ring([f, 0], v, [f, half]),
        { on: `${name} front half`, ...fold('half') },
        { name: `front of the ${name} gusset’s foot` },
      );
      sheet.seam(`${name} front foot`, name, fold('frontSlant'));
    };
    gusset('right', 'front');
    sheet.seam('front strip', 'right front foot', fold('lowCorner', 1));
    sheet.panel('back', rectangle(x.back, 0, w, h), { on: 'right back half', ...fold('backCorner', 1) });
    gusset('left', 'back');
    sheet.tab('side tab', tabOutside([0, h], [0, half], tab, Math.min(8, tab), Math.min(3, tab)), {
      on: 'front',
      ...fold('corner', 1),
    });
    // Below the score it is a tab of its own, within the triangle that it comes to lie on.
    const low = Math.min(tab, 0.3 * half);
    const lowTab = low >= context.stock.minTabMm + 1;
    if (lowTab)
      sheet.tab(
        'lower side tab',
        tabOutside([0, half], [0, 0], low, 0.3 * low, 1.2 * low),
        { on: 'front strip', ...fold('lowCorner', 1) },
        'lower tab',
      );
    if (hem > 0) {
      const tops = [
        ['front', 0, w],
        ['right front half', x.right, half],
        ['right back half', x.right + half, half],
        ['back', x.back, w],
        ['left back half', x.left, half],
        ['left front half', x.left + half, half],
      ] as const;
      for (const [name, x0, wide] of tops) {
        if (clasp && name === 'back') continue;
        const taper = Math.min(2, wide / 4);
        sheet.panel(
          `hem ${name}`,
          [
            [x0, h],
            [x0 + wide, h],
            [x0 + wide - taper, h + hem],
            [x0 + taper, h + hem],
          ],
          { on: name, deg: -180, stage: 0 },
          { name: 'hem' },
        );
      }
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
        { on: name, ...fold('floorSide', 2) },
        { name: 'floor flap' },
      );
    for (const [name, on, key, deep] of [
      ['back', 'back', 'floorBack', g - 1],
      ['front', 'front strip', 'floorFront', 0.7 * g],
    ] as const)
      sheet.panel(
        `floor ${name}`,
        [
          [x[name] + w, 0],
          [x[name], 0],
          [x[name] + 1, -deep],
          [x[name] + w - 1, -deep],
        ],
        { on, ...fold(key, 3) },
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
        { through: 'slot' },
      );
      const { slotMm, playMm } = fit(context.stock, 'close', context.fits);
      cuts.slot = polyline(
        rectangle(0.3 * w - playMm / 2, h - (root - y) - slotMm, 0.4 * w + playMm, slotMm),
        true,
      );
    }
    if (handles === 'holes') {
      const { wide, tall, y } = handHole(m);
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
    const glued = [
      sheet.glue('side tab', 'left front half', 'front'),
      sheet.glue('floor back', 'floor right', 'back'),
      sheet.glue('floor back', 'floor left', 'back'),
      sheet.glue('floor front', 'floor back', 'back'),
    ];
    // Without room for a tab below the score the gusset's foot is held by the floor alone.
    const lowGlue = lowTab ? sheet.glue('lower side tab', 'left front foot', 'front') : undefined;
    const part = sheetPart(made, 'bag', sheet, { cuts });
    glueAll(made, {
      side: [part, glued[0], part],
      'floor-right': [part, glued[1], part],
      'floor-left': [part, glued[2], part],
      floor: [part, glued[3], part],
      ...(lowGlue ? { 'side-low': [part, lowGlue, part] as const } : {}),
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
    return made.standing(steps, flat ? { strainMm } : {});
  },
  handles: () => [],
  advice(params) {
    const { w, g, h } = bagMeasures(params);
    return [
      `It stands on ${size(w, g)} and holds what is up to ${mm(h)} tall.`,
      `Folded flat it is ${size(w, h)}. Between standing and lying flat its panels are locked: the paper must give by up to ${mm(WORST * g)}, when the floor has turned up by ${WORST_DEG}°.`,
      'To lay it flat: the gussets in first, the floor last, turned up on the front.',
      'Cords and straps are not for young children.',
    ];
  },
};
