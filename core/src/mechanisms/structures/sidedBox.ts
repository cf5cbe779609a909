/**
 * A box with n sides and a lid: a floor, n walls, each with a tab inside the next.
 *
 * Across its sides (twice the distance of a side from the middle): S = diameter + 2 air + t + 2 t of the tabs. The lid's walls
 * lie t + c further out, so that its sides are 2 (t + c) tan(pi / n) longer.
 */
import type { Params, Family } from '../family.ts';
import { Making } from '../making.ts';
import { length, measures, onlyWhere } from '../specs.ts';
import { glueTabs, sheetPart } from './assembling.ts';
import {
  hasLid,
  LID_AIR,
  mm,
  paperMm,
  sheetRules,
  SIDES,
  size,
  tabOutside,
  USUAL_PAPER_MM,
  WITH_LID,
} from './fitting.ts';
import { FoldedSheet, type Glued } from './foldedSheet.ts';
import type { Point } from '../../geometry/point.ts';

const SIZES = measures({
  sides: SIDES,
  acrossMm: length('Contents, across', 'Diameter of what goes in.', 60, 8, 400),
  highMm: length('Contents, high', 'What goes in, upright.', 35, 1, 400),
  airMm: length('Air', 'Between the contents and the inside, on each side.', 1, 0, 30),
  withLid: WITH_LID,
  lidMm: length('Lid, deep', 'Inside.', 15, 4, 300, hasLid),
  lidAirMm: onlyWhere(LID_AIR, hasLid),
});

/** Sizes across from score to score, and what is free inside, for paper so thick. */
export function sidedBoxMeasures(params: Params, t: number) {
  const s = SIZES.read(params);
  const across = s.acrossMm + 2 * s.airMm + 3 * t;
  const wall = s.highMm + s.airMm + t / 2;
  const more = s.withLid ? 2 * (t + s.lidAirMm) : 0;
  return {
    sides: s.sides,
    across,
    wall,
    more,
    lid: s.withLid ? Math.min(s.lidMm, wall) + t / 2 : 0,
    inside: across - 3 * t,
    insideHigh: wall - t / 2,
    outside: across + more + t,
    outsideHigh: wall + t / 2 + (s.withLid ? t : 0),
  };
}

/** A floor of n sides with walls. */
function sided(n: number, across: number, wall: number): { sheet: FoldedSheet; glued: Glued[] } {
  const sheet = new FoldedSheet();
  const r = across / 2 / Math.cos(Math.PI / n);
  const corner = (i: number): Point => {
    const a = (2 * Math.PI * (i + 0.5)) / n - Math.PI / 2;
    return [r * Math.cos(a), r * Math.sin(a)];
  };
  sheet.panel(
    'floor',
    Array.from({ length: n }, (_, i) => corner(i)),
  );
  const side = 2 * r * Math.sin(Math.PI / n);
  const names: [string, string][] = [];
  for (let i = 0; i < n; i++) {
    const [p, q] = [corner(i), corner((i + 1) % n)];
    const [ox, oy] = [(wall * (q[1] - p[1])) / side, (-wall * (q[0] - p[0])) / side];
    const [far, near]: [Point, Point] = [
      [p[0] + ox, p[1] + oy],
      [q[0] + ox, q[1] + oy],
    ];
    sheet.panel(`wall ${i + 1}`, [q, p, far, near], { on: 'floor', deg: -90, stage: 1 });
    // Tabs of neighbours must not meet in the plane: between walls there is 360 / n.
    const open = (2 * Math.PI) / n;
    const depth = Math.min(14, 0.45 * side, wall * Math.sin(open) * 0.9);
    sheet.tab(`tab ${i + 1}`, tabOutside(near, q, depth, depth * 0.3, depth / Math.tan(open) + depth * 0.1), {
      on: `wall ${i + 1}`,
      deg: -360 / n,
      stage: 0,
    });
    names.push([`tab ${i + 1}`, `wall ${((i + 1) % n) + 1}`]);
  }
  return { sheet, glued: names.map(([tab, onto]) => sheet.glue(tab, onto, 'front')) };
}

export const sidedBox: Family = {
  id: 'sidedBox',
  on: 'table',
  title: 'Box with n sides',
  purpose: 'A hexagonal box, or one with more or fewer sides, for round contents; a lid goes over it.',
  specs: SIZES.specs,
  defaults: SIZES.defaults,
  constraints(params) {
    const m = sidedBoxMeasures(params, USUAL_PAPER_MM);
    const blank = m.across + 2 * m.wall + m.more;
    return sheetRules(
      {
        'A wall': Math.min(m.across * Math.tan(Math.PI / m.sides), m.wall),
        ...(m.lid ? { 'The lid’s wall': m.lid } : {}),
      },
      [blank, blank],
    );
  },
  build(params, context) {
    const m = sidedBoxMeasures(params, context.stock.thicknessMm);
    const made = new Making(context);
    const add = (id: string, { sheet, glued }: ReturnType<typeof sided>) => {
      const part = sheetPart(made, id, sheet);
      glueTabs(made, id, part, glued);
    };
    add('box', sided(m.sides, m.across, m.wall));
    if (m.lid) add('lid', sided(m.sides, m.across + m.more, m.lid));
    return made.standing(['Turn in the tabs', 'Raise the walls, glue the corners']);
  },
  handles: () => [],
  advice(params, _gutter, _margin, _fits, stock) {
    const t = paperMm(stock);
    const m = sidedBoxMeasures(params, t);
    return [
      `Inside ${mm(m.inside)} across and ${mm(m.insideHigh)} high; outside ${size(m.outside, m.outsideHigh)}.`,
      `Folds take ${mm(t)} from the inside, tabs inside the walls ${mm(2 * t)}.`,
      ...(m.lid
        ? [
            `The lid is ${mm(m.more)} wider: each of its sides is ${mm(m.more * Math.tan(Math.PI / m.sides))} longer.`,
          ]
        : []),
    ];
  },
};
