/**
 * Exploding box: crosses of a floor and four free walls, each smaller than the one round it and glued into it floor on floor;
 * a lid holds the walls up, and when it is lifted they all fall open.
 *
 * Cross j (0 outside): side a - 2 j (t + c), walls h - j t; walls are narrower than their side by 2 i = t so that they close
 * up; the lid's side a + 2 (t + c).
 */
import type { Point } from '../../geometry/point.ts';
import type { Family, Params } from '../family.ts';
import { Making } from '../making.ts';
import { rectangle } from '../pieces.ts';
import { count, length, measures } from '../specs.ts';
import { glueAll, glueTabs, sheetPart } from './assembling.ts';
import { LID_AIR, mm, paperMm, sheetRules, size, USUAL_PAPER_MM } from './fitting.ts';
import { FoldedSheet } from './foldedSheet.ts';
import { tray } from './trayAndLid.ts';
import { shift } from '../../geometry/isometry.ts';

const SIZES = measures({
  sideMm: length('Side', 'Of the outer floor, from score to score.', 100, 25, 300),
  wallMm: length('Walls', 'Height of the outer walls.', 100, 10, 300),
  crosses: count('Crosses', 'One inside another.', 3, 1, 5),
  gapMm: length('Gap', 'Between one cross and the next, on each side; their pieces need room.', 3, 0.5, 20),
  lidMm: length('Lid, deep', 'Inside.', 25, 6, 200),
  lidAirMm: LID_AIR,
});

/** Sizes of the crosses, outermost first, and of the lid, for paper so thick. */
export function explodingBoxMeasures(params: Params, t: number) {
  const s = SIZES.read(params);
  const crosses = Array.from({ length: s.crosses }, (_, j) => ({
    side: s.sideMm - 2 * j * (t + s.gapMm),
    wall: s.wallMm - j * t,
  }));
  return { crosses, narrower: t, lidSide: s.sideMm + 2 * (t + s.lidAirMm), lid: Math.min(s.lidMm, s.wallMm) };
}

export const explodingBox: Family = {
  id: 'explodingBox',
  on: 'table',
  title: 'Exploding box',
  purpose: 'Crosses one inside another whose walls fall open when the lid is lifted.',
  specs: SIZES.specs,
  defaults: SIZES.defaults,
  constraints(params) {
    const m = explodingBoxMeasures(params, USUAL_PAPER_MM);
    const outer = m.crosses[0];
    const inner = m.crosses.at(-1)!;
    return sheetRules({ 'The inner floor': inner.side - 10, 'The inner wall': inner.wall }, [
      outer.side + 2 * outer.wall,
      m.lidSide + 2 * m.lid,
    ]);
  },
  build(params, context) {
    const m = explodingBoxMeasures(params, context.stock.thicknessMm);
    const made = new Making(context);
    const steps = m.crosses.length;
    const parts = m.crosses.map(({ side, wall }, j) => {
      const sheet = new FoldedSheet();
      const half = m.narrower / 2;
      sheet.panel('floor', rectangle(0, 0, side, side));
      const walls: Readonly<Record<string, Point[]>> = {
        'front wall': rectangle(half, -wall, side - 2 * half, wall),
        'back wall': rectangle(half, side, side - 2 * half, wall),
        'left wall': rectangle(-wall, half, wall, side - 2 * half),
        'right wall': rectangle(side, half, wall, side - 2 * half),
      };
      // Decorated inside: walls are raised towards the reader, the innermost first.
      for (const [name, ring] of Object.entries(walls))
        sheet.panel(name, ring, { on: 'floor', deg: 90, stage: steps - 1 - j });
      const { zone } = sheet.glue('floor', 'floor', 'back');
      if (j === 0) sheet.zones.length = 0;
      return { part: sheetPart(made, `cross-${j + 1}`, sheet, { title: `cross ${j + 1}` }), zone, side };
    });
    for (const [j, { part, zone, side }] of parts.entries()) {
      if (j === 0) continue;
      const outer = parts[j - 1];
      const by = (outer.side - side) / 2;
      glueAll(made, { [`cross-${j + 1}`]: [part, { zone, placement: shift(by, by) }, outer.part] });
    }
    const lid = tray(m.lidSide, m.lidSide, m.lid, false);
    const lidPart = sheetPart(made, 'lid', lid.sheet);
    glueTabs(made, 'lid', lidPart, lid.glued);
    return made.standing([
      ...Array.from({ length: steps }, (_, k) => `Raise the walls of cross ${steps - k}`),
      'Put the lid over it',
    ]);
  },
  handles: () => [],
  advice(params, _gutter, _margin, _fits, stock) {
    const t = paperMm(stock);
    const m = explodingBoxMeasures(params, t);
    return [
      `Floors ${m.crosses.map(({ side }) => mm(side)).join(', ')}; walls ${m.crosses.map(({ wall }) => mm(wall)).join(', ')}.`,
      `Laid open it measures ${size(m.crosses[0].side + 2 * m.crosses[0].wall, m.crosses[0].side + 2 * m.crosses[0].wall)}.`,
      `Walls are ${mm(t)} narrower than their floor so that they close up; the lid is ${mm(m.lidSide - m.crosses[0].side)} wider.`,
    ];
  },
};
