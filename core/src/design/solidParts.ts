/** The net of a solid as drafted parts: outline, folds that keep their angle, tabs with their glue, numbers of mates. */
import { strokesOf } from '../dieline/markWords.ts';
import { workOf, type DieLine } from '../dieline/part.ts';
import { star } from '../drafting/shapes.ts';
import { alignSegment, placing, turn, type Isometry } from '../geometry/isometry.ts';
import { boxOf, circle, placePath, polyline, straight, type Path } from '../geometry/path.ts';
import { distance, type Point } from '../geometry/point.ts';
import { distanceToRing, insideRing, withoutDoubled } from '../geometry/polygon.ts';
import type { Move } from '../solids/flatFaces.ts';
import type { Net, NetPiece, NetTab } from '../solids/net.ts';
import type { Design, DraftedPart, GlueJoint } from './design.ts';
import { freshId, freshName } from './ids.ts';

/** Less than this a fold does not bend, rad. */
const FLAT_RAD = 0.008;
/** Glue stays so far from the rim of a tab, mm. */
const INSET_MM = 0.4;
/** The most tabs of a part whose glue is marked, and folds up to which tabs are glued on screen. */
const MOST_ZONES = 190;
export const MOST_GLUED_FOLDS = 110;
/** Numbers are so high at most, and left out when they would be smaller than this, mm. */
const HIGHEST_MM = 3.2;
const LOWEST_MM = 1.1;

export interface SolidOptions {
  readonly name: string;
  readonly stockId: string;
  readonly withNumbers: boolean;
  /** Tabs are glued to the faces that they meet, so that the net closes on screen. */
  readonly glued: boolean;
  /** Cut out of every face but the first, on which it stands. */
  readonly openings?: Openings;
  /** What is cut out of faces besides: rings in a plane in which the face's first two corners are told. */
  readonly counters?: readonly Counter[];
}

/** What is cut out of faces. */
export type FaceOpening = 'star' | 'round';

export interface Openings {
  readonly shape: FaceOpening;
  readonly acrossMm: number;
  /** What stays between an opening and the edges of its face: the tabs that are glued there, and a web. */
  readonly keepMm: number;
}

/** A hole of a face, as of a letter, told in a plane of its own. */
export interface Counter {
  readonly face: number;
  readonly first: readonly [Point, Point];
  readonly ring: readonly Point[];
}

/** Openings narrower than this are left out, mm. */
const LEAST_OPENING_MM = 3;
/** The inner corners of a star, as a share of the outer ones. */
const STAR_SHARE = 0.45;

/** The opening in the middle of a face, as wide as it may be; none where there is no room. */
function openingIn(ring: readonly Point[], { shape, acrossMm, keepMm }: Openings): Path | undefined {
  const middle = innermost(ring);
  const radius = Math.min(acrossMm / 2, distanceToRing(middle, ring) - keepMm);
  if (2 * radius < LEAST_OPENING_MM) return undefined;
  if (shape === 'round') return circle(middle, radius);
  // A point looks to the face's first corner: upright on every face alike.
  const first = Math.atan2(ring[0][1] - middle[1], ring[0][0] - middle[0]);
  return star(middle, radius, STAR_SHARE * radius, 5, first);
}

/** The place in a ring that is farthest from its edges: by halving a grid round the best one so far. */
function innermost(ring: readonly Point[]): Point {
  const box = boxOf(ring);
  let best: Point = [(box.minX + box.maxX) / 2, (box.minY + box.maxY) / 2];
  const roomAt = (p: Point): number => (insideRing(p, ring) ? 1 : -1) * distanceToRing(p, ring);
  let most = roomAt(best);
  for (let step = Math.max(box.maxX - box.minX, box.maxY - box.minY) / 4; step > 1e-4; step /= 2) {
    const [x, y] = best;
    for (let i = -4; i <= 4; i++)
      for (let j = -4; j <= 4; j++) {
        const p: Point = [x + (i * step) / 2, y + (j * step) / 2];
        const room = roomAt(p);
        if (room > most + 1e-9) [best, most] = [p, room];
      }
  }
  return best;
}

export interface SolidParts {
  readonly parts: readonly DraftedPart[];
  readonly joints: readonly GlueJoint[];
}

const isometryOf = ([c, s, dx, dy]: Move): Isometry => turn(Math.atan2(s, c), dx, dy);

/** Corners of a ring that are corners: doubled ones and those on a straight run are left out. */
function cornersOnly(ring: readonly Point[]): Point[] {
  const apart = withoutDoubled(ring, 1e-7);
  return apart.filter((q, i) => {
    const [p, r] = [apart[(i + apart.length - 1) % apart.length], apart[(i + 1) % apart.length]];
    const [u, v] = [
      [q[0] - p[0], q[1] - p[1]],
      [r[0] - q[0], r[1] - q[1]],
    ];
    const long = Math.hypot(...u) * Math.hypot(...v);
    return Math.abs(u[0] * v[1] - u[1] * v[0]) > 1e-9 * long || u[0] * v[0] + u[1] * v[1] < 0;
  });
}

/** A tab's ring drawn in by a little, towards its middle. */
function inset({ ring }: NetTab): [number, number][] {
  const middle = [0, 1].map((k) => ring.reduce((sum, p) => sum + p[k], 0) / ring.length);
  const reach = Math.min(...ring.map((p) => distance(p, middle as unknown as Point)));
  const share = Math.max(0.5, 1 - INSET_MM / Math.max(reach, 0.8));
  return ring.map((p) => [middle[0] + share * (p[0] - middle[0]), middle[1] + share * (p[1] - middle[1])]);
}

function linesOf(
  piece: NetPiece,
  { withNumbers, openings, counters = [] }: Pick<SolidOptions, 'withNumbers' | 'openings' | 'counters'>,
): DieLine[] {
  const lines: DieLine[] = [{ id: 'o', ...workOf('cut'), path: polyline(cornersOnly(piece.outline), true) }];
  for (const { from, to, turnRad } of piece.folds) {
    const restDeg = (Math.abs(turnRad) * 180) / Math.PI;
    if (Math.abs(turnRad) < FLAT_RAD) continue;
    lines.push({
      id: `f${lines.length}`,
      process: 'score',
      fold: { sense: turnRad > 0 ? 'mountain' : 'valley', restDeg },
      path: straight(from, to),
    });
  }
  if (openings)
    for (const { face, ring } of piece.insides) {
      const opening = face === 0 ? undefined : openingIn(ring, openings);
      if (opening) lines.push({ id: `h${lines.length}`, ...workOf('cut'), path: opening });
    }
  for (const { face, first, ring } of counters) {
    const on = piece.insides.find((each) => each.face === face);
    if (!on) continue;
    const laid = alignSegment(...first, on.ring[0], on.ring[1], false);
    lines.push({
      id: `c${lines.length}`,
      ...workOf('cut'),
      path: polyline(ring.map(placing(laid)), true),
    });
  }
  if (withNumbers)
    for (const { number, at, angleRad, roomMm } of piece.numbers) {
      const words = String(number);
      const heightMm = Math.min(HIGHEST_MM, (1.25 * roomMm) / Math.max(1, words.length * 0.62));
      if (heightMm < LOWEST_MM) continue;
      for (const stroke of strokesOf(words, heightMm))
        lines.push({
          id: `n${lines.length}`,
          ...workOf('mark'),
          path: placePath(turn(angleRad, at[0], at[1]), stroke),
        });
    }
  return lines;
}

/** The parts of a net, under ids that are free in a design. */
export function solidParts(design: Design, net: Net, options: SolidOptions): SolidParts {
  const { name, stockId } = options;
  const takenParts: Record<string, unknown> = { ...design.parts };
  const takenJoints: Record<string, unknown> = { ...design.joints };
  const names = new Set(Object.values(design.parts).map((part) => part.name));
  const folds = net.pieces.reduce((sum, piece) => sum + piece.folds.length, 0);
  const glued = options.glued && folds <= MOST_GLUED_FOLDS;
  const parts = net.pieces.map((piece, i): DraftedPart => {
    const id = freshId('p', takenParts);
    takenParts[id] = true;
    const own = freshName(names, net.pieces.length === 1 ? name : `${name}, piece ${i + 1}`);
    names.add(own);
    const tabs = piece.tabs.length <= MOST_ZONES ? piece.tabs : [];
    return {
      id,
      name: own,
      stockId,
      grainRad: null,
      quantity: 1,
      lines: Object.fromEntries(
        linesOf(piece, options).map((line) => [line.id, line]),
      ) as DraftedPart['lines'],
      glueZones: Object.fromEntries(
        tabs.map((tab, k) => [
          `z${k + 1}`,
          { id: `z${k + 1}`, outline: inset(tab), face: 'front' as const, kind: 'glue' as const },
        ]),
      ),
      marks: Object.fromEntries(
        tabs.map(({ ring }, k) => {
          const at = [0, 1].map((j) => ring.reduce((sum, p) => sum + p[j], 0) / ring.length) as [
            number,
            number,
          ];
          return [`t${k + 1}`, { id: `t${k + 1}`, name: 'tab', at, role: 'tab' as const }];
        }),
      ),
    };
  });
  const joints = glued
    ? net.pieces.flatMap((piece, i) =>
        piece.tabs.map((tab, k): GlueJoint => {
          const id = freshId('j', takenJoints);
          takenJoints[id] = true;
          return {
            id,
            kind: 'glue',
            partId: parts[i].id,
            hostPartId: parts[tab.onto].id,
            zoneId: `z${k + 1}`,
            placement: isometryOf(tab.landing),
            mate: null,
          };
        }),
      )
    : [];
  return { parts, joints };
}
