/** The folded card as a person looks at it: placed on the table, and as a flat picture for small drawings. */
import { stockOf } from '../dieline/part.ts';
import type { Opening } from '../design/frames.ts';
import { IDENTITY, inverse, place, shift, type Isometry } from '../geometry/isometry.ts';
import { fromIsometry, move, multiply, RIGID_SIZE, type Rigid, type Vec3 } from '../geometry/rigid.ts';
import type { Point } from '../geometry/point.ts';
import { dot3 } from '../geometry/vector.ts';
import { farthestFirst, type SeenFace as Seen } from './paintOrder.ts';
import { layerShifts } from './layering.ts';
import { bodyAt } from './pose.ts';
import { besideCard } from './besideCard.ts';
import { isCover, type PanelRef } from './panelRef.ts';
import type { Sweep } from './sweep.ts';

export type { Opening } from '../design/frames.ts';

/**
 * From the planes of the solved bodies onto the table (z up, the card's own x and y). A side fold stands on its gutter
 * with both halves equally steep; a top fold keeps its lower half on the table, a gatefold its back.
 */
export function tablePlacement(sweep: Sweep, opening: Opening, deg: number): Rigid {
  const toCard = fromIsometry(inverse(sweep.linkage.still?.placement ?? IDENTITY));
  if (opening !== 'side') return toCard;
  // Turn about the gutter (the y axis) by half of what is folded: the right half rises. A pull moves at one opening.
  const openDeg = sweep.driver === 0 ? deg : sweep.linkage.drivers[sweep.driver].atOpeningDeg;
  const half = ((180 - openDeg) / 2) * (Math.PI / 180);
  const [c, s] = [Math.cos(half), Math.sin(half)];
  const tilt = Float64Array.of(c, 0, -s, 0, 0, 1, 0, 0, s, 0, c, 0);
  return multiply(new Float64Array(RIGID_SIZE), tilt, toCard);
}

/**
 * The place of the travel that is drawn: at the very ends layers lie in one plane and have no order, a little way in they
 * have.
 */
export const drawnPlace = (at: number): number => Math.min(179.4, Math.max(0.6, at));

/** Whether a panel is to be seen: it hangs together with the card, and is not taken out at this opening. */
export const isThere = (sweep: Sweep, panel: PanelRef, deg: number): boolean =>
  sweep.linkage.attached[panel.body] && !(panel.takenOut && sweep.driver === 0 && deg < PUT_IN_DEG);

/** What is taken out before closing is put in at this opening. */
const PUT_IN_DEG = 170;

export interface PictureFace {
  readonly partId: string;
  readonly panelId: string;
  /** One of the card's own panels, not one that a mechanism cuts into it. */
  readonly cover: boolean;
  /** Of its stock, #rrggbb. */
  readonly colour: string;
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

/** A view: turned about the upright axis from the reader's side (0) to the right, and raised over the table, degrees. */
export interface Viewpoint {
  readonly turnDeg: number;
  readonly riseDeg: number;
}

/** The view of small pictures, unless another is asked for. */
const USUAL: Viewpoint = { turnDeg: 28, riseDeg: 34 };

/** A view's axes, unit vectors on the table: to the right and up on the picture, and towards the eye. */
export function axesOf({ turnDeg, riseDeg }: Viewpoint): { right: Vec3; up: Vec3; eye: Vec3 } {
  const [turn, rise] = [(turnDeg * Math.PI) / 180, (riseDeg * Math.PI) / 180];
  // Looking from the front (low y), from above.
  return {
    right: [Math.cos(turn), Math.sin(turn), 0],
    up: [-Math.sin(turn) * Math.sin(rise), Math.cos(turn) * Math.sin(rise), Math.cos(rise)],
    eye: [Math.sin(turn) * Math.cos(rise), -Math.cos(turn) * Math.cos(rise), Math.sin(rise)],
  };
}

/** Openings that together show how much room a card takes wherever it is moved to, degrees. */
export const FRAMED: readonly number[] = [180, 140, 105, 60, 5];

/** From the plane of each panel's body onto the table, as it is drawn: layers apart. One array of its own a panel. */
export function drawnPanels(sweep: Sweep, opening: Opening, deg: number): Rigid[] {
  const drawn = drawnPlace(deg);
  const table = tablePlacement(sweep, opening, drawn);
  const shifts = layerShifts(sweep, drawn);
  const body = new Float64Array(RIGID_SIZE);
  return sweep.linkage.panels.map((panel, i) => {
    bodyAt(sweep, panel.body, drawn, body);
    for (let k = 0; k < 3; k++) body[4 * k + 3] += shifts[3 * i + k];
    return multiply(new Float64Array(RIGID_SIZE), table, body);
  });
}

/** Where the corners of all panels that are there are on the table, layers together: what a view needs room for; mm. */
export function cornersOnTable(sweep: Sweep, opening: Opening, deg: number): Vec3[] {
  const drawn = drawnPlace(deg);
  const table = tablePlacement(sweep, opening, drawn);
  const [body, placed] = [new Float64Array(RIGID_SIZE), new Float64Array(RIGID_SIZE)];
  return sweep.linkage.panels.flatMap((panel) => {
    if (!isThere(sweep, panel, deg)) return [];
    multiply(placed, table, bodyAt(sweep, panel.body, drawn, body));
    return panel.region.outer.map((p) => move(placed, [...place(panel.placement, p), 0]));
  });
}

/**
 * A flat picture of the folded card: outlines of all panels seen from the front and above, farthest first, x right and
 * y up in mm. Orthographic.
 */
export function foldedPicture(
  sweep: Sweep,
  opening: Opening,
  deg: number,
  view: Viewpoint = USUAL,
): PictureFace[] {
  const drawn = drawnPanels(sweep, opening, deg);
  const faces = sweep.linkage.panels.flatMap((panel, i): SeenFace[] =>
    isThere(sweep, panel, deg) ? [seenFace(panel, drawn[i], panel.placement, view)] : [],
  );
  return farthestFirst(faces).map(({ face }) => face);
}

/** A panel as it is seen, its body placed on the table by `placed`, and itself in its body by `inBody`. */
function seenFace(panel: PanelRef, placed: Rigid, inBody: Isometry, view: Viewpoint): SeenFace {
  const { right, up, eye } = axesOf(view);
  const seen = (p: Point): Vec3 => {
    const [x, y] = place(inBody, p);
    const q = move(placed, [x, y, 0]);
    return [dot3(q, right), dot3(q, up), dot3(q, eye)];
  };
  const rings = [panel.region.outer, ...panel.region.holes].map((ring) => ring.map(seen));
  const normal: Vec3 = [placed[2], placed[6], placed[10]];
  const seenFrom = dot3(normal, eye) >= 0 ? 1 : -1;
  const towards: Vec3 = [normal[0] * seenFrom, normal[1] * seenFrom, normal[2] * seenFrom];
  return {
    points: rings[0],
    normal: [dot3(towards, right), dot3(towards, up), dot3(towards, eye)],
    body: panel.body,
    // Layers of one body are painted in order; seen from behind, the other way round.
    layer: panel.liftLayers * seenFrom,
    face: {
      partId: panel.part.id,
      panelId: panel.id,
      cover: isCover(panel),
      colour: stockOf(panel.part).colour,
      rings: rings.map((ring) => ring.map(([x, y]): Point => [x, y])),
      light: Math.max(0, dot3(towards, LIGHT)),
      front: seenFrom > 0 !== inBody.flip,
    },
  };
}

/**
 * Parts that hang together with nothing, flat on the table to the right of the card: their outlines as the same view shows
 * them, and the corners of what they take up on the table, mm.
 */
export function loosePicture(
  sweep: Sweep,
  opening: Opening,
  view: Viewpoint = USUAL,
): { faces: PictureFace[]; corners: readonly Vec3[] } {
  const taken = FRAMED.flatMap((deg) => cornersOnTable(sweep, opening, deg));
  const tableZ = taken.reduce((low, p) => Math.min(low, p[2]), taken.length > 0 ? Infinity : 0);
  const { places, points } = besideCard(sweep.linkage, taken, tableZ);
  const faces = sweep.linkage.panels.flatMap((panel): PictureFace[] => {
    const at = places.get(panel.part.id);
    if (!at) return [];
    const onTable = fromIsometry(shift(at.dx, at.dy));
    onTable[11] = at.z;
    return [seenFace(panel, onTable, IDENTITY, view).face];
  });
  return { faces, corners: points };
}
