/** The folded card as a person looks at it: placed on the table, and as a flat picture for small drawings. */
import { CARD_ID } from '../design/frames.ts';
import { inverse } from '../geometry/isometry.ts';
import { fromIsometry, move, multiply, RIGID_SIZE, type Rigid, type Vec3 } from '../geometry/rigid.ts';
import { place } from '../geometry/isometry.ts';
import type { Point } from '../geometry/point.ts';
import { farthestFirst, type SeenFace as Seen } from './paintOrder.ts';
import { bodyAt } from './pose.ts';
import type { Sweep } from './sweep.ts';

/**
 * From the planes of the solved bodies onto the table (z up, the card's own x and y). A side fold stands on its gutter
 * with both halves equally steep; a top fold keeps its lower half on the table.
 */
export function tablePlacement(sweep: Sweep, opening: 'side' | 'top', deg: number): Rigid {
  const right = sweep.linkage.panels.find((panel) => panel.part.id === CARD_ID && panel.id === 'right');
  const toCard = fromIsometry(inverse(right?.placement ?? { angleRad: 0, flip: false, dx: 0, dy: 0 }));
  if (opening === 'top') return toCard;
  // Turn about the gutter (the y axis) by half of what is folded: the right half rises.
  const half = ((180 - deg) / 2) * (Math.PI / 180);
  const [c, s] = [Math.cos(half), Math.sin(half)];
  const tilt = Float64Array.of(c, 0, -s, 0, 0, 1, 0, 0, s, 0, c, 0);
  return multiply(new Float64Array(RIGID_SIZE), tilt, toCard);
}

export interface PictureFace {
  readonly partId: string;
  readonly stockId: string;
  readonly rings: readonly (readonly Point[])[];
  /** Light on the face, 0 (edge on, away) to 1. */
  readonly light: number;
  /** Whether the part's front face is seen. */
  readonly front: boolean;
}

interface SeenFace extends Seen {
  readonly face: PictureFace;
}

const LIGHT: Vec3 = [-0.35, -0.5, 0.79];

/**
 * A flat picture of the folded card: outlines of all panels seen from the front and above, farthest first, x right and
 * y up in mm. Orthographic.
 */
export function foldedPicture(
  sweep: Sweep,
  opening: 'side' | 'top',
  deg: number,
  { turnDeg = 28, riseDeg = 34 }: { turnDeg?: number; riseDeg?: number } = {},
): PictureFace[] {
  const [turn, rise] = [(turnDeg * Math.PI) / 180, (riseDeg * Math.PI) / 180];
  const right: Vec3 = [Math.cos(turn), Math.sin(turn), 0];
  // Looking from the front (low y), from above: up on the picture, and towards the eye.
  const up: Vec3 = [-Math.sin(turn) * Math.sin(rise), Math.cos(turn) * Math.sin(rise), Math.cos(rise)];
  const eye: Vec3 = [Math.sin(turn) * Math.cos(rise), -Math.cos(turn) * Math.cos(rise), Math.sin(rise)];
  const dot = (a: Vec3, b: Vec3) => a[0] * b[0] + a[1] * b[1] + a[2] * b[2];
  const table = tablePlacement(sweep, opening, deg);
  const [body, placed] = [new Float64Array(RIGID_SIZE), new Float64Array(RIGID_SIZE)];
  const faces = sweep.linkage.panels
    .filter((panel) => sweep.linkage.attached[panel.body])
    .map((panel): SeenFace => {
      multiply(placed, table, bodyAt(sweep, panel.body, deg, body));
      const seen = (p: Point): Vec3 => {
        const [x, y] = place(panel.placement, p);
        const q = move(placed, [x, y, 0]);
        return [dot(q, right), dot(q, up), dot(q, eye)];
      };
      const rings = [panel.region.outer, ...panel.region.holes].map((ring) => ring.map(seen));
      const normal: Vec3 = [placed[2], placed[6], placed[10]];
      const seenFrom = dot(normal, eye) >= 0 ? 1 : -1;
      const towards: Vec3 = [normal[0] * seenFrom, normal[1] * seenFrom, normal[2] * seenFrom];
      return {
        points: rings[0],
        normal: [dot(towards, right), dot(towards, up), dot(towards, eye)],
        body: panel.body,
        // Layers of one body are painted in order; seen from behind, the other way round.
        layer: panel.liftLayers * seenFrom,
        face: {
          partId: panel.part.id,
          stockId: panel.part.stockId,
          rings: rings.map((ring) => ring.map(([x, y]): Point => [x, y])),
          light: Math.max(0, dot(towards, LIGHT)),
          front: seenFrom > 0 !== panel.placement.flip,
        },
      };
    });
  return farthestFirst(faces).map(({ face }) => face);
}
