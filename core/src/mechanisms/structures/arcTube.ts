/**
 * A tube of n faces whose ends are closed along arcs: flat strips between rulings, and flaps beyond one true arc on each face.
 *
 * Exact, with one freedom (docs/curved.md). The body's rulings run along the tube, so it is a prism; y(u) is the height of the
 * arc over its chord, u across the face. When the flaps have turned by tau, m = 1 / tan(tau / 2), the face bulges to
 * z = y / m; each strip between two rulings keeps its width: sin(a) = dy / (m du). The crease of a face lies in one plane, and
 * the flap is the face's mirror image in it: its rulings go on inwards by sin(tau), upwards by cos(tau). It closes only where
 * |y'| <= 1; a steeper arc jams. Straight strips with corners on the arc bulge exactly as far; rulings are for drawing only, the
 * score is one true arc.
 */
import { workOf, type DieLine } from '../../dieline/part.ts';
import type { Point } from '../../geometry/point.ts';
import type { Vec3 } from '../../geometry/rigid.ts';
import { cross3 } from '../../geometry/vector.ts';
import type { Making } from '../making.ts';
import { evenly, foldDeg, unbroken } from './angles.ts';
import { glueAll, sheetPart } from './assembling.ts';
import { tabOutside } from './fitting.ts';
import { FoldedSheet } from './foldedSheet.ts';
import type { Corner } from './sheetEdges.ts';

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

/** Strips of a face: the error of its width falls with their square. */
export const stripsOf = (w: number, faces = 2): number =>
  Math.min(2 * Math.floor(24 / faces), Math.max(faces > 2 ? 6 : 8, 2 * Math.round(w / 18)));

/** The faces of a tube, their arcs, and how long the flaps are along their rulings. */
export interface ArcTube {
  readonly faces: number;
  /** Of a face, flat. */
  readonly w: number;
  /** From corner to corner of the ends. */
  readonly l: number;
  /** The arcs' height over their chords. */
  readonly s: number;
  readonly tab: number;
  /** Between rulings, on each face. */
  readonly strips: number;
  /** How far the flap reaches from the score at u. */
  readonly reach: (u: number) => number;
}

/** Places along a face when the flaps have turned by `tau`: how far along its chord, and how far out, each end of n strips lies. */
export function sectionAt(w: number, s: number, tau: number, n: number): readonly Point[] {
  const { height } = arcOver(w, s);
  const slope = Math.tan(tau / 2);
  const section: Point[] = [[0, 0]];
  for (let k = 1; k <= n; k++) {
    const [x, z] = section[k - 1];
    const out = height((w * k) / n) * slope;
    section.push([x + Math.sqrt(Math.max(0, (w / n) ** 2 - (out - z) ** 2)), out]);
  }
  return section;
}

/** Width of the face from edge to edge when the flaps have turned by `tau`, in n strips. */
export const chordMm = (w: number, s: number, tau: number, n = 256): number => sectionAt(w, s, tau, n)[n][0];

/** Moments at which the angles of one step are told: half of all places of the travel. */
const MOMENTS = 91;

/** The turns of all folds while the flaps turn from 0 to a right angle: those of one end of one face, and of its edges. */
function courses({ faces, w, s, strips: n }: ArcTube) {
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
    edge.push(-360 / faces + (2 * strips[0].slant * 180) / Math.PI);
  }
  const from = (course: number[]) => unbroken(course);
  return { body: body.map(from), flap: flap.map(from), score: score.map(from), edge };
}

/** The sheet: faces of strips side by side, each with a flap at both ends, and the tab. */
function sheetOf(tube: ArcTube): FoldedSheet {
  const { faces, w, l, s, tab, reach, strips: n } = tube;
  const du = w / n;
  const { height } = arcOver(w, s);
  const { body, flap, score, edge } = courses(tube);
  const sheet = new FoldedSheet();
  const edgeCourse = [...evenly(-360 / faces, MOMENTS), ...edge.slice(1)];
  const atEnd = (deg: readonly number[]) => deg[deg.length - 1];
  for (let face = 0; face < faces; face++)
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
      else
        sheet.panel(id, ring, { on: `face ${face}, strip ${n}`, deg: atEnd(edgeCourse), course: edgeCourse });
      for (const [end, out] of [
        ['upper', 1],
        ['lower', -1],
      ] as const) {
        const ends: Point[] = [
          [x0, out * y0],
          [x1, out * y1],
          [x1, out * (y1 + reach(u1))],
          [x0, out * (y0 + reach(u0))],
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
  for (let face = 0; face < faces; face++)
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
const arcs = ({ faces, w, l, s }: ArcTube): DieLine[] =>
  Array.from({ length: faces }, (_, face) => face).flatMap((face) =>
    ([1, -1] as const).map((out): DieLine => ({
      id: `arc-${face + 1}-${out > 0 ? 'upper' : 'lower'}`,
      ...workOf('score'),
      path: {
        start: [face * w, (out * l) / 2],
        segments: [{ kind: 'arc', to: [(face + 1) * w, (out * l) / 2], bulge: (out * 2 * s) / w }],
      },
    })),
  );

/** The outline with arcs in place of the strips' straight ends: each through a third place half way, so it is smooth. */
function outlineOf({ faces, w, l, s, reach, strips: n }: ArcTube, tab: readonly Point[]): readonly Corner[] {
  const { height } = arcOver(w, s);
  const places = Array.from({ length: faces * n + 1 }, (_, k) => [Math.floor(k / n) * w, ((k % n) * w) / n]);
  const at = ([x, u]: readonly number[], out: number): Point => [
    x + u,
    out * (u === 0 ? l / 2 : l / 2 - height(u) + reach(u)),
  ];
  // The arc in pieces, so that rulings end at corners of it.
  const run = (way: readonly (readonly number[])[], out: number): Corner[] =>
    way.map((place, i): Corner => {
      const from = at(place, out);
      const next = way[i + 1];
      if (!next) return from;
      const to = at(next, out);
      // Half way between them, on the face that both are of.
      const x = Math.min(place[0], next[0]);
      const middle = at([x, (place[0] + place[1] + next[0] + next[1]) / 2 - x], out);
      return [...from, bulgeThrough(from, middle, to)];
    });
  return [...run(places, -1), ...run([...places].reverse(), 1), ...tab];
}

/** The bulge of the arc from one place to another through a third. */
function bulgeThrough(from: Point, through: Point, to: Point): number {
  const [ax, ay, bx, by] = [
    through[0] - from[0],
    through[1] - from[1],
    to[0] - through[0],
    to[1] - through[1],
  ];
  // At the place between, the two chords turn by half of what the arc turns.
  const turned = Math.atan2(ax * by - ay * bx, ax * bx + ay * by);
  return Math.abs(turned) < 1e-6 ? 0 : Math.tan(turned / 2);
}

/** The tube as a part, its tab glued onto its last face. */
export function tubePart(made: Making, id: string, tube: ArcTube): void {
  const sheet = sheetOf(tube);
  const glue = sheet.glue('glue tab', `face ${tube.faces}, strip ${tube.strips}`, 'front');
  const part = sheetPart(made, id, sheet, {
    outline: outlineOf(tube, sheet.ringOf('glue tab').slice(2)),
    lines: arcs(tube),
    // Along the tube, so that its faces bend easily.
    grainRad: Math.PI / 2,
  });
  glueAll(made, { tab: [part, glue, part] });
}
