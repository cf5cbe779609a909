/**
 * Pillow box: a flat tube whose ends are pushed in along arcs (arcTube.ts). Closed, both flaps of an end lie on one upright
 * cylinder, the box is 2 s thick, s the arc's height in the middle. For an arc of a circle it closes where s <= 0.2071 w.
 */
import type { Family } from '../family.ts';
import { Making } from '../making.ts';
import { round } from '../pieces.ts';
import { length, measures } from '../specs.ts';
import { arcOver, chordMm, stripsOf, tubePart } from './arcTube.ts';
import { mm, sheetRules, tabDepth } from './fitting.ts';

const SIZES = measures({
  wideMm: length('Face, wide', 'Flat, from fold to fold.', 80, 20, 400),
  longMm: length('Long', 'From corner to corner of the ends.', 130, 20, 600),
  bulgeMm: length('Arc', 'Height of the arcs in the middle; closed, the box is twice as thick.', 14, 2, 120),
  tabMm: tabDepth(9),
});

export const pillowBox: Family = {
  id: 'pillowBox',
  on: 'table',
  title: 'Pillow box',
  purpose: 'A flat tube whose ends are pushed in along arcs: the faces bulge.',
  specs: SIZES.specs,
  defaults: SIZES.defaults,
  constraints(params) {
    const { wideMm: w, longMm: l, bulgeMm: s, tabMm } = SIZES.read(params);
    const most = (Math.SQRT2 - 1) / 2;
    const jam = Math.min(90, (2 * Math.atan(1 / arcOver(w, Math.min(s, 0.49 * w)).steepest) * 180) / Math.PI);
    return [
      ...sheetRules({}, [2 * w + tabMm, l + 2 * s]),
      {
        overMm: s - most * w,
        reason: `The arcs are so steep that the ends jam when their flaps have turned ${round(jam)}°: at most ${round(most * w)} mm high.`,
      },
      { overMm: 2 * s + 20 - l, reason: 'Its ends would meet in the middle: make it longer.' },
    ];
  },
  build(params, context) {
    const { wideMm: w, longMm: l, bulgeMm: s, tabMm } = SIZES.read(params);
    const made = new Making(context);
    const { height } = arcOver(w, s);
    tubePart(made, 'pillow', {
      faces: 2,
      w,
      l,
      s,
      tab: tabMm,
      strips: stripsOf(w),
      reach: (u) => 2 * height(u),
    });
    return made.standing(['Close the tube, glue the tab inside', 'Push in the ends']);
  },
  handles: () => [],
  advice(params) {
    const { wideMm: w, bulgeMm: s } = SIZES.read(params);
    const widthMm = chordMm(w, s, Math.PI / 2);
    const steep = arcOver(w, s).steepest;
    return [
      `Closed it is ${mm(2 * s)} thick and ${mm(widthMm)} wide: ${mm(w - widthMm)} less than flat.`,
      `Its corners stay open by ${round((180 / Math.PI) * 2 * Math.asin(Math.min(1, steep)))}°. Grain along the box, so that the faces bend.`,
      'The ends are scored as one arc each, never as facets.',
    ];
  },
};
