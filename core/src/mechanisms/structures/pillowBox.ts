/**
 * Pillow box: a flat tube whose ends are pushed in along arcs.
 *
 * Exact, with one freedom (docs/curved.md). The body's rulings run along the tube, so it is a prism; y(u) is the height of the
 * arc over its chord, u across the face. When the flaps have turned by tau, m = 1 / tan(tau / 2), the face bulges to
 * z = y / m; each strip between two rulings keeps its width: sin(a) = dy / (m du). Closed, m = 1: both flaps of an end lie on
 * one upright cylinder, the box is 2 s thick, s the arc's height in the middle. It closes only where |y'| <= 1, for an arc of a
 * circle s <= 0.2071 w; a steeper one jams. Straight strips with corners on the arc bulge exactly as far; rulings are for
 * drawing only, the score is one true arc.
 */
import { workOf, type DieLine } from '../../dieline/part.ts';
import type { Point } from '../../geometry/point.ts';
import type { Vec3 } from '../../geometry/rigid.ts';
import { cross3 } from '../../geometry/vector.ts';
import type { Family } from '../family.ts';
import { Making } from '../making.ts';
import { round } from '../pieces.ts';
import { length, measures } from '../specs.ts';
import { evenly, foldDeg, unbroken } from './angles.ts';
import { glueAll, sheetPart } from './assembling.ts';
import { mm, sheetRules, tabDepth, tabOutside } from './fitting.ts';
import { FoldedSheet, type Corner } from './foldedSheet.ts';

const SIZES = measures({
  wideMm: length('Face, wide', 'Flat, from fold to fold.', 80, 20, 400),
  longMm: length('Long', 'From corner to corner of the ends.', 130, 20, 600),
  bulgeMm: length('Arc', 'Height of the arcs in the middle; closed, the box is twice as thick.', 14, 2, 120),
  tabMm: tabDepth(9),
});

/** An arc of a circle over a chord w, s high in the middle: its height at u, and its steepness at the ends. */
export function arcOver(w: number, s: number) {
  const radius = (w * w) / (8 * s) + s / 2;
  return {
    radius,
    bulge: (2 * s) / w,
    height: (u: number): number => Math.sqrt(Math.max(0, radius ** 2 - (u - w / 2) ** 2)) - (radius - s),
    steepest: w / 2 / Math.sqrt(radius ** 2 - (w / 2) ** 2),
  };
}

/** Places across a face at which its strips meet, so many strips. */
export const stripsOf = (w: number): number => Math.min(24, Math.max(8, 2 * Math.round(w / 18)));

/** Width of the face from edge to edge when the flaps have turned by `tau`, and its greatest height, in n strips. */
export function pillowSection(
  w: number,
  s: number,
  tau: number,
  n = 256,
): { widthMm: number; heightMm: number } {
  const { height } = arcOver(w, s);
  const slope = Math.tan(tau / 2);
  let widthMm = 0;
  for (let k = 0; k < n; k++) {
    const dz = (height((w * (k + 1)) / n) - height((w * k) / n)) * slope;
    widthMm += Math.sqrt(Math.max(0, (w / n) ** 2 - dz ** 2));
  }
  return { widthMm, heightMm: s * slope };
}

/** Moments at which the angles of one step are told: half of all places of the travel. */
const MOMENTS = 91;

/** The turns of all folds while the flaps turn from 0 to a right angle: those of one end of one face, and of its edges. */
function courses(w: number, s: number, n: number) {
  const { height } = arcOver(w, s);
  const du = w / n;
  const dy = Array.from({ length: n }, (_, k) => height((k + 1) * du) - height(k * du));
  const body: number[][] = Array.from({ length: n - 1 }, () => []);
  const flap: number[][] = Array.from({ length: n - 1 }, () => []);
  const score: number[][] = Array.from({ length: n }, () => []);
  const edge: number[] = [];
  for (let i = 0; i < MOMENTS; i++) {
    const tau = (Math.PI / 2) * (i / (MOMENTS - 1));
    const slope = Math.tan(tau / 2);
    const ahead: Vec3 = [0, 1, 0];
    const ruling: Vec3 = [0, Math.cos(tau), -Math.sin(tau)];
    const strips = dy.map((rise) => {
      const dz = rise * slope;
      const along: Vec3 = [Math.sqrt(Math.max(0, du ** 2 - dz ** 2)), -rise, dz];
      return { along, body: cross3(along, ahead), flap: cross3(along, ruling), slant: Math.asin(dz / du) };
    });
    strips.forEach((strip, k) => {
      // The flap lies on the left of the score as it runs along the face.
      score[k].push(foldDeg(strip.flap, strip.body, strip.along));
      if (k === 0) return;
      body[k - 1].push(foldDeg(strips[k - 1].body, strip.body, ahead));
      flap[k - 1].push(foldDeg(strips[k - 1].flap, strip.flap, ruling));
    });
    edge.push(-180 + (2 * strips[0].slant * 180) / Math.PI);
  }
  const from = (course: number[]) => unbroken(course);
  return { body: body.map(from), flap: flap.map(from), score: score.map(from), edge };
}

/** The sheet: two faces of strips side by side, each with a flap at both ends, and the tab. */
export function pillowSheet(w: number, l: number, s: number, tab: number): FoldedSheet {
  const n = stripsOf(w);
  const du = w / n;
  const { height } = arcOver(w, s);
  const { body, flap, score, edge } = courses(w, s, n);
  const sheet = new FoldedSheet();
  const edgeCourse = [...evenly(-180, MOMENTS), ...edge.slice(1)];
  const atEnd = (deg: readonly number[]) => deg[deg.length - 1];
  for (let face = 0; face < 2; face++)
    for (let k = 0; k < n; k++) {
      const [u0, u1] = [k * du, (k + 1) * du];
      const [x0, x1] = [face * w + u0, face * w + u1];
      const [y0, y1] = [l / 2 - height(u0), l / 2 - height(u1)];
      const id = `face ${face + 1}, strip ${k + 1}`;
      const ring: Point[] = [
        [x0, -y0],
        [x1, -y1],
        [x1, y1],
        [x0, y0],
      ];
      const bend = (course: readonly number[], on: string) => ({
        on,
        deg: atEnd(course),
        stage: 1,
        course,
        ruling: true,
      });
      if (k > 0) sheet.panel(id, ring, bend(body[k - 1], `face ${face + 1}, strip ${k}`));
      else if (face === 0) sheet.panel(id, ring);
      else sheet.panel(id, ring, { on: `face 1, strip ${n}`, deg: atEnd(edgeCourse), course: edgeCourse });
      for (const [end, out] of [
        ['upper', 1],
        ['lower', -1],
      ] as const) {
        const ends: Point[] = [
          [x0, out * y0],
          [x1, out * y1],
          [x1, out * (l / 2 + height(u1))],
          [x0, out * (l / 2 + height(u0))],
        ];
        // At the corners of the face the flap ends in a point.
        const corners = ends.filter(
          (p, i) => ends.findIndex((q) => Math.hypot(p[0] - q[0], p[1] - q[1]) < 1e-9) === i,
        );
        const name = `face ${face + 1}, ${end} flap ${k + 1}`;
        sheet.panel(name, out > 0 ? corners : [...corners].reverse(), bend(score[k], id));
      }
    }
  // Along rulings the flaps hang together too: they turn as the closed form says, whichever fold they are hung by.
  for (let face = 0; face < 2; face++)
    for (const end of ['upper', 'lower'])
      for (let k = 1; k < n; k++)
        sheet.seam(`face ${face + 1}, ${end} flap ${k}`, `face ${face + 1}, ${end} flap ${k + 1}`, {
          deg: atEnd(flap[k - 1]),
          stage: 1,
          course: flap[k - 1],
          ruling: true,
        });
  const low = l / 2 - height(du);
  const depth = Math.min(tab, 0.96 * du);
  sheet.tab('glue tab', tabOutside([0, l / 2], [0, -l / 2], depth, l / 2 - low + 2), {
    on: 'face 1, strip 1',
    deg: atEnd(edgeCourse),
    course: edgeCourse,
  });
  return sheet;
}

/** The scores of the ends: one true arc for each face and end. */
const arcs = (w: number, l: number, s: number): DieLine[] =>
  [0, 1].flatMap((face) =>
    ([1, -1] as const).map((out): DieLine => ({
      id: `arc-${face + 1}-${out > 0 ? 'upper' : 'lower'}`,
      ...workOf('score'),
      path: {
        start: [face * w, (out * l) / 2],
        segments: [{ kind: 'arc', to: [(face + 1) * w, (out * l) / 2], bulge: (out * 2 * s) / w }],
      },
    })),
  );

/** The outline with true arcs in place of the strips' straight ends. */
function outlineOf(w: number, l: number, s: number, tab: readonly Point[]): readonly Corner[] {
  const n = stripsOf(w);
  const { height, radius } = arcOver(w, s);
  const places = Array.from({ length: 2 * n + 1 }, (_, k) => [Math.floor(k / n) * w, ((k % n) * w) / n]);
  const at = ([x, u]: readonly number[], out: number): Point => [
    x + u,
    out * (l / 2 + (u === 0 ? 0 : height(u))),
  ];
  // The arc in pieces, so that rulings end at corners of it.
  const bulged = (from: Point, to: Point): Corner => {
    const chord = Math.hypot(to[0] - from[0], to[1] - from[1]);
    return [...from, Math.tan(Math.asin(chord / 2 / radius) / 2)];
  };
  const run = (ring: Point[]): Corner[] => [
    ...ring.slice(0, -1).map((from, i) => bulged(from, ring[i + 1])),
    ring[ring.length - 1],
  ];
  const upper = [...places].reverse().map((place) => at(place, 1));
  return [...run(places.map((place) => at(place, -1))), ...run(upper), ...tab];
}

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
    const sheet = pillowSheet(w, l, s, tabMm);
    const glue = sheet.glue('glue tab', `face 2, strip ${stripsOf(w)}`, 'front');
    const tab = sheet.ringOf('glue tab').slice(2);
    const part = sheetPart(made, 'pillow', sheet, {
      outline: outlineOf(w, l, s, tab),
      lines: arcs(w, l, s),
      // Along the box, so that its faces bend easily.
      grainRad: Math.PI / 2,
    });
    glueAll(made, { tab: [part, glue, part] });
    return made.standing(['Close the tube, glue the tab inside', 'Push in the ends']);
  },
  handles: () => [],
  advice(params) {
    const { wideMm: w, bulgeMm: s } = SIZES.read(params);
    const { widthMm } = pillowSection(w, s, Math.PI / 2);
    const steep = arcOver(w, s).steepest;
    return [
      `Closed it is ${mm(2 * s)} thick and ${mm(widthMm)} wide: ${mm(w - widthMm)} less than flat.`,
      `Its corners stay open by ${round((180 / Math.PI) * 2 * Math.asin(Math.min(1, steep)))}°. Grain along the box, so that the faces bend.`,
      'The ends are scored as one arc each, never as facets.',
    ];
  },
};
