/**
 * Petal box: a tube of three or more sides, closed at both ends by one petal of each side, folded in along an arc (arcTube.ts).
 *
 * The petals of neighbouring sides are mirror images in the plane through their corner and the axis, so a petal that ends in
 * that plane meets its neighbour all along its edge. With the flaps turned by tau the place at u lies x along the chord W and z
 * in front of it, and its ruling goes on inwards by sin(tau) to the plane: it may be
 * (z + (W / 2 - |x - W / 2|) / tan(pi / n)) / sin(tau) long. So that neighbours meet at no moment it is as short as the
 * shortest over all tau, less the air between them; closed, what is missing is a gap.
 */
import type { Family, Params } from '../family.ts';
import { Making } from '../making.ts';
import { round } from '../pieces.ts';
import { count, length, measures } from '../specs.ts';
import { arcOver, chordMm, sectionAt, stripsOf, tubePart, type ArcTube } from './arcTube.ts';
import { mm, paperMm, sheetRules, tabDepth, USUAL_PAPER_MM } from './fitting.ts';

const SIZES = measures({
  sides: count('Sides', 'Of the tube.', 4, 3, 8),
  wideMm: length('Side, wide', 'Flat, from fold to fold.', 60, 15, 250),
  longMm: length('Long', 'From corner to corner of the ends.', 110, 15, 600),
  arcMm: length(
    'Arc',
    'Height of the arcs in the middle: the sides bulge, and the petals dip, by as much.',
    8,
    1,
    80,
  ),
  tabMm: tabDepth(9),
});

/** Moments of the turning at which neighbouring petals are kept apart. */
const MOMENTS = 60;
/** Corners may not be pressed flat by the bulge: so much is left of their turn, degrees. */
const LEFT_DEG = 8;
const RAD = Math.PI / 180;

/** Its measures: how far petals reach at each end of a strip, and the gap between neighbours when closed, mm. */
export function petalMeasures(params: Params, t: number) {
  const { sides: n, wideMm: w, longMm: l, arcMm: s, tabMm } = SIZES.read(params);
  const strips = stripsOf(w, n);
  const apart = t + 0.3;
  const corner = Math.PI / n;
  /** To the plane between neighbours, along the rulings at each end of a strip. */
  const room = (tau: number): number[] =>
    sectionAt(w, s, tau, strips).map(([x, z], _, section) => {
      const wide = section[strips][0];
      return (z + (wide / 2 - Math.abs(x - wide / 2)) / Math.tan(corner)) / Math.sin(tau);
    });
  const closed = room(Math.PI / 2);
  const least = [...closed];
  for (let i = 1; i < MOMENTS; i++)
    room((i / MOMENTS) * (Math.PI / 2)).forEach((mm, k) => (least[k] = Math.min(least[k], mm)));
  const reaches = least.map((mm) => Math.max(0, 0.35 * mm, mm - apart / Math.sin(corner)));
  // Between the ends of strips as a smooth curve through three of them would go, on either side of the tip.
  const reach = (u: number): number => {
    const at = (Math.min(u, w - u) / w) * strips;
    const k = Math.min(strips / 2 - 1, Math.max(1, Math.round(at)));
    const d = at - k;
    const [a, b, c] = [reaches[k - 1], reaches[k], reaches[k + 1]];
    return Math.max(0, b + (d * (c - a)) / 2 + (d * d * (a + c - 2 * b)) / 2);
  };
  const tube: ArcTube = { faces: n, w, l, s, tab: tabMm, strips, reach };
  const chord = chordMm(w, s, Math.PI / 2);
  return {
    n,
    w,
    l,
    s,
    tube,
    reaches,
    chord,
    /** Between sides, and between petals, inside when it is closed. */
    inside: chord / Math.tan(corner) - t,
    insideHigh: l - 2 * s - t,
    /** Between the edges of neighbouring petals, at the widest. */
    gapMm: Math.max(...closed.map((mm, k) => 2 * (mm - reaches[k]) * Math.sin(corner))),
    mostMm: (w / 2) * Math.tan(Math.atan(Math.sin(Math.min(Math.PI / 4, corner - (LEFT_DEG / 2) * RAD))) / 2),
  };
}

export const petalBox: Family = {
  id: 'petalBox',
  on: 'table',
  title: 'Petal box',
  purpose: 'A tube of sides that bulge, closed at both ends by petals folded in along arcs.',
  specs: SIZES.specs,
  defaults: SIZES.defaults,
  constraints(params) {
    const { n, w, l, s, mostMm } = petalMeasures(params, USUAL_PAPER_MM);
    const { tabMm } = SIZES.read(params);
    return [
      ...sheetRules({ 'A side': w }, [n * w + tabMm, l + 2 * w]),
      {
        overMm: s - mostMm,
        reason: `With ${n} sides such steep arcs would press its corners flat: at most ${round(mostMm)} mm high.`,
      },
      { overMm: 2 * s + 10 - l, reason: 'Its petals would meet in the middle: make it longer.' },
    ];
  },
  build(params, context) {
    const made = new Making(context);
    tubePart(made, 'petals', petalMeasures(params, context.stock.thicknessMm).tube);
    return made.standing(['Close the tube, glue the tab inside', 'Push in the petals']);
  },
  handles: () => [],
  advice(params, _gutter, _margin, _fits, stock) {
    const m = petalMeasures(params, paperMm(stock));
    const steep = arcOver(m.w, m.s).steepest;
    return [
      `Closed, its sides are ${mm(m.chord)} from corner to corner, ${mm(m.w - m.chord)} less than flat, and bulge by ${mm(m.s)}; between the petals are ${mm(m.insideHigh)} in the middle.`,
      `Petals of neighbouring sides keep ${mm(m.gapMm)} apart at most when it is closed, and meet at no moment on the way: a ribbon or a round seal holds them.`,
      `Their middles lie ${mm(m.s)} below the corners; its corners stay folded by ${round(360 / m.n - (2 * Math.asin(Math.min(1, steep))) / RAD)}°.`,
      `A flat floor does not fit such a tube: it would want sides of ${mm(m.w)}, and there are ${mm(m.chord)}. Make a loose one ${mm(m.chord - 1)} wide.`,
      'The ends are scored as one arc each, never as facets. Grain along the box.',
    ];
  },
};
