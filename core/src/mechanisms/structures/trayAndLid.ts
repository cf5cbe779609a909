/**
 * Tray and lid, scored from one sheet each: a floor, four walls, corners closed by tabs inside the walls.
 *
 * Inside = S - t - 2 t of the tabs, outside = S + t (fitting.ts). A lid goes over the outside with a clearance c: its scores
 * lie 2 (t + c) further apart. From a blank A x B with walls w high: S = A - 2 w and B - 2 w.
 */
import type { Params, Family } from '../family.ts';
import { Making } from '../making.ts';
import { rectangle } from '../pieces.ts';
import { length, measures, onlyWhere, pick } from '../specs.ts';
import type { Point } from '../../geometry/point.ts';
import { glueTabs, sheetPart } from './assembling.ts';
import {
  contents,
  hasLid,
  LID_AIR,
  mm,
  paperMm,
  sheetRules,
  size,
  tabOutside,
  USUAL_PAPER_MM,
  WITH_LID,
} from './fitting.ts';
import { FoldedSheet, type Glued } from './foldedSheet.ts';

const fromBlank = (params: Params): boolean => params.by === 'blank';
const fromContents = (params: Params): boolean => !fromBlank(params);
const inHand = contents();

const SIZES = measures({
  by: pick('Sized from', 'What is given: what goes in, or the sheet at hand.', {
    contents: 'Contents',
    blank: 'Blank',
  }),
  longMm: onlyWhere(inHand.longMm, fromContents),
  wideMm: onlyWhere(inHand.wideMm, fromContents),
  highMm: onlyWhere(inHand.highMm, fromContents),
  airMm: onlyWhere(inHand.airMm, fromContents),
  blankLongMm: length('Blank, long', 'The sheet at hand.', 210, 20, 1000, fromBlank),
  blankWideMm: length('Blank, wide', 'The sheet at hand.', 148, 20, 1000, fromBlank),
  wallMm: length('Walls', 'Scored so far from each edge.', 30, 5, 300, fromBlank),
  corners: pick('Corners', 'Tapered tabs, or the whole corner cut free along one score.', {
    tapered: 'Tapered tabs',
    whole: 'Whole corners',
  }),
  withLid: WITH_LID,
  lidMm: length('Lid, deep', 'Inside.', 18, 4, 300, hasLid),
  lidAirMm: onlyWhere(LID_AIR, hasLid),
});

/** Sizes from score to score, and what is free inside, for paper so thick. */
export function trayMeasures(params: Params, t: number) {
  const s = SIZES.read(params);
  const [a, b, wall] =
    s.by === 'blank'
      ? [s.blankLongMm - 2 * s.wallMm, s.blankWideMm - 2 * s.wallMm, s.wallMm]
      : [s.longMm + 2 * s.airMm + 3 * t, s.wideMm + 2 * s.airMm + 3 * t, s.highMm + s.airMm + t / 2];
  const more = 2 * (t + (s.withLid ? s.lidAirMm : 0));
  const lid = s.withLid ? Math.min(s.lidMm, wall) + t / 2 : 0;
  return {
    a,
    b,
    wall,
    more,
    lid,
    whole: s.corners === 'whole',
    inside: [a - 3 * t, b - 3 * t, wall - t / 2] as const,
    outside: s.withLid
      ? ([a + more + t, b + more + t, wall + t + t / 2] as const)
      : ([a + t, b + t, wall + t / 2] as const),
  };
}

/** A floor with walls all round, and its glue. */
export function tray(
  a: number,
  b: number,
  wall: number,
  whole: boolean,
): { sheet: FoldedSheet; glued: Glued[] } {
  const sheet = new FoldedSheet();
  const floor = rectangle(0, 0, a, b);
  sheet.panel('floor', floor);
  sheet.panel('front wall', rectangle(0, -wall, a, wall), { on: 'floor', deg: -90, stage: 1 });
  sheet.panel('back wall', rectangle(0, b, a, wall), { on: 'floor', deg: -90, stage: 1 });
  sheet.panel('left wall', rectangle(-wall, 0, wall, b), { on: 'floor', deg: -90, stage: 1 });
  sheet.panel('right wall', rectangle(a, 0, wall, b), { on: 'floor', deg: -90, stage: 1 });
  const taper = whole ? 0 : Math.min(wall / 3, 6);
  const depth = whole ? wall - 0.4 : Math.min(wall, 0.45 * a, 16);
  const tabs: readonly (readonly [string, Point, Point, string])[] = [
    ['1', [-wall, 0], [0, 0], 'front wall'],
    ['2', [a, 0], [a + wall, 0], 'front wall'],
    ['3', [0, b], [-wall, b], 'back wall'],
    ['4', [a + wall, b], [a, b], 'back wall'],
  ];
  const glued = tabs.map(([n, p, q, onto], i) => {
    sheet.tab(`tab ${n}`, tabOutside(p, q, depth, taper, taper), {
      on: i % 2 === 0 ? 'left wall' : 'right wall',
      deg: -90,
      stage: 0,
    });
    return [`tab ${n}`, onto] as const;
  });
  return { sheet, glued: glued.map(([tab, onto]) => sheet.glue(tab, onto, 'front')) };
}

export const trayAndLid: Family = {
  id: 'tray',
  on: 'table',
  title: 'Tray with lid',
  purpose: 'A box scored from one sheet, sized from what goes in or from the blank; a lid goes over it.',
  specs: SIZES.specs,
  defaults: SIZES.defaults,
  constraints(params) {
    const { a, b, wall, lid, more } = trayMeasures(params, USUAL_PAPER_MM);
    return sheetRules(
      { 'The floor': Math.min(a, b), 'A wall': wall, ...(lid ? { 'The lid’s wall': lid } : {}) },
      [a + 2 * wall + more, b + 2 * wall + more],
    );
  },
  build(params, context) {
    const m = trayMeasures(params, context.stock.thicknessMm);
    const made = new Making(context);
    const add = (id: string, { sheet, glued }: ReturnType<typeof tray>) => {
      const part = sheetPart(made, id, sheet);
      glueTabs(made, id, part, glued);
    };
    add('tray', tray(m.a, m.b, m.wall, m.whole));
    if (m.lid) add('lid', tray(m.a + m.more, m.b + m.more, m.lid, m.whole));
    return made.standing(['Turn in the tabs', 'Raise the walls, glue the corners']);
  },
  handles: () => [],
  advice(params, _gutter, _margin, _fits, stock) {
    const t = paperMm(stock);
    const m = trayMeasures(params, t);
    return [
      `Inside ${size(...m.inside)}; outside ${size(...m.outside)}.`,
      `Scored from a blank of ${size(m.a + 2 * m.wall, m.b + 2 * m.wall)}: ${mm(m.wall)} from each edge.`,
      `Folds take ${mm(t)} from the inside, half the paper on each side; tabs inside the walls ${mm(2 * t)} each way.`,
      ...(m.lid ? [`The lid is ${mm(m.more)} wider than the tray: its paper and the air on each side.`] : []),
    ];
  },
};
