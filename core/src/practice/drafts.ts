/** Drafted designs for tests in a few words: rectangles with upright folds and glue zones, and joints onto the card. */
import {
  newDesign,
  type Brief,
  type Design,
  type DraftedPart,
  type Drive,
  type GlueJoint,
  type Joint,
} from '../design/design.ts';
import { CARD_ID } from '../design/frames.ts';
import { workOf, type DieLine, type Layer } from '../dieline/part.ts';
import { polyline, straight, type Path } from '../geometry/path.ts';
import { shift, type Isometry } from '../geometry/isometry.ts';
import type { Point } from '../geometry/point.ts';
import { rectangle } from '../mechanisms/pieces.ts';

export type Box = readonly [x: number, y: number, width: number, height: number];

/** What a drafted rectangle has on it: folds at x from bottom to top, zones by id (on the back unless told), more lines. */
export interface Drawn {
  readonly folds?: readonly (readonly [x: number, layer: 'valley' | 'mountain'])[];
  readonly zones?: Readonly<Record<string, Box>>;
  readonly front?: readonly string[];
  readonly lines?: readonly (readonly [layer: Layer, path: Path])[];
  readonly stockId?: string;
}

const ring = ([x, y, w, h]: Box): Point[] => rectangle(x, y, w, h);

/** A part w by h mm with its lower left corner at the origin; folds are called f0, f1 ..., more lines l0, l1 ... */
export const sheetOf = (id: string, w: number, h: number, drawn: Drawn = {}): DraftedPart => {
  const lines: DieLine[] = [
    { id: 'outline', ...workOf('cut'), path: polyline(rectangle(0, 0, w, h), true) },
    ...(drawn.folds ?? []).map(([x, layer], i): DieLine => ({
      id: `f${i}`,
      ...workOf(layer),
      path: straight([x, 0], [x, h]),
    })),
    ...(drawn.lines ?? []).map(([layer, path], i): DieLine => ({ id: `l${i}`, ...workOf(layer), path })),
  ];
  return {
    id,
    name: id,
    stockId: drawn.stockId ?? 'slate-240',
    grainRad: null,
    quantity: 1,
    lines: Object.fromEntries(lines.map((line) => [line.id, line])),
    marks: {},
    glueZones: Object.fromEntries(
      Object.entries(drawn.zones ?? {}).map(([zone, box]) => [
        zone,
        {
          id: zone,
          outline: ring(box),
          face: drawn.front?.includes(zone) ? ('front' as const) : ('back' as const),
          kind: 'glue' as const,
        },
      ]),
    ),
  };
};

/** Glue of a part's zone, onto the card unless told otherwise. */
export const glueAt = (
  partId: string,
  zoneId: string,
  placement: Isometry | Point,
  hostPartId = CARD_ID,
): GlueJoint => ({
  id: `glue-${partId}-${zoneId}`,
  kind: 'glue',
  partId,
  zoneId,
  hostPartId,
  placement: 'angleRad' in placement ? placement : shift(...placement),
  mate: null,
});

/** A drive from 0, resting there, with the card open flat. */
export const driveTo = (to: number, name = 'Pull'): Drive => ({
  name,
  from: 0,
  to,
  rest: 0,
  atOpeningDeg: 180,
});

/** A pivot or channel of a part on the card. */
export const hangAt = (
  kind: 'pivot' | 'slide',
  id: string,
  partId: string,
  at: Point,
  placement: Isometry | Point,
  rest: { readonly drive?: Drive | null; readonly directionDeg?: number; readonly hostPartId?: string } = {},
): Joint => {
  const base = {
    id,
    partId,
    hostPartId: rest.hostPartId ?? CARD_ID,
    placement: 'angleRad' in placement ? placement : shift(...placement),
    at,
    face: 'front' as const,
    drive: rest.drive ?? null,
  };
  return kind === 'pivot'
    ? { ...base, kind, stops: null }
    : {
        ...base,
        kind,
        directionDeg: rest.directionDeg ?? 0,
        stops: { from: Math.min(0, rest.drive?.to ?? 0), to: Math.max(0, rest.drive?.to ?? 100) },
      };
};

/** A card 148 by 150 with drafted parts and joints on it. */
export function drafted(
  parts: readonly DraftedPart[],
  joints: readonly Joint[] = [],
  brief: Partial<Brief> = {},
): Design {
  return {
    ...newDesign('Drafted', { closedWidthMm: 148, closedHeightMm: 150, ...brief }),
    parts: Object.fromEntries(parts.map((part) => [part.id, part])),
    joints: Object.fromEntries(joints.map((joint) => [joint.id, joint])),
  };
}

/**
 * A strip over the fold: it leaves the left half at a and the right half at b, with panels p and q; feet turned outwards.
 *
 * @param layers its folds from left to right
 */
export function stripOver(
  [a, b, p, q]: readonly [number, number, number, number],
  layers: readonly ('valley' | 'mountain')[] = ['valley', 'mountain', 'valley'],
  width = 40,
): Design {
  const tab = 10;
  const folds = [tab, tab + p, tab + p + q].map((x, i) => [x, layers[i]] as const);
  const strip = sheetOf('Strip', 2 * tab + p + q, width, {
    folds,
    zones: { left: [0, 0, tab, width], right: [tab + p + q, 0, tab, width] },
  });
  return drafted(
    [strip],
    [glueAt('Strip', 'left', [-a - tab, 20]), glueAt('Strip', 'right', [b - tab - p - q, 20])],
  );
}

/** A sheet of size x size parallelogram panels between zigzag folds, which folds flat in one go; glued by a corner (z). */
export function zigzagSheet(
  id: string,
  size: number,
  sideMm = 6,
  slantRad = (70 * Math.PI) / 180,
): DraftedPart {
  const corner = (i: number, j: number): Point => [
    i * sideMm + (j % 2 === 1 ? sideMm * Math.cos(slantRad) : 0),
    j * sideMm * Math.sin(slantRad),
  ];
  const range = Array.from({ length: size }, (_, i) => i);
  const folds = range.flatMap((i) =>
    range.flatMap((j): (readonly [Layer, Path])[] => [
      ...(j > 0
        ? [[(i + j) % 2 ? 'mountain' : 'valley', straight(corner(i, j), corner(i + 1, j))] as const]
        : []),
      ...(i > 0 ? [[i % 2 ? 'mountain' : 'valley', straight(corner(i, j), corner(i, j + 1))] as const] : []),
    ]),
  );
  const outline = [
    ...range.map((i) => corner(i, 0)),
    ...range.map((j) => corner(size, j)),
    ...range.map((i) => corner(size - i, size)),
    ...range.map((j) => corner(0, size - j)),
  ];
  const lines: DieLine[] = [
    { id: 'outline', ...workOf('cut'), path: polyline(outline, true) },
    ...folds.map(([layer, path], i): DieLine => ({ id: `f${i}`, ...workOf(layer), path })),
  ];
  const sheet = sheetOf(id, 1, 1, { zones: { z: [sideMm / 2, 1, sideMm / 4, 1] } });
  return { ...sheet, lines: Object.fromEntries(lines.map((line) => [line.id, line])) };
}
