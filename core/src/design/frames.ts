import { TYPED_SLACK } from '../geometry/tolerances.ts';
import type { Design } from './design.ts';
import { compose, IDENTITY, shift, turn, TURNED_ABOUT_Y, type Isometry } from '../geometry/isometry.ts';
import { boxCentre, type Box } from '../geometry/path.ts';

/** The id of the card base part and of its main fold (of a gatefold, the left one). */
export const CARD_ID = 'card';
export const GUTTER_ID = 'gutter';
/** The second fold of a gatefold, between its back and its right door; and the pair of doors as something to stand on. */
export const RIGHT_GUTTER_ID = 'gutter-right';
export const DOORS_ID = 'doors';

/** One side of a fold that mechanisms stand on: the part that lies there, and mechanism coordinates in its plane. */
export interface GutterSide {
  readonly partId: string;
  readonly frame: Isometry;
  /** How far there is paper to glue to, from the fold. */
  readonly depthMm: number;
}

/**
 * A fold that mechanisms stand on: the card's own, or one between a mechanism and what it is glued to, where the two sides
 * are different parts. In mechanism coordinates the fold runs along +y from the origin, the left side is x < 0, the right
 * side x > 0; each side's `frame` carries them into the plane of its part.
 */
export interface Gutter {
  /**
   * What it is: a fold; or the middle line of a panel, for families that lie on one panel. Then both sides are that
   * panel, x runs from -depth to +depth across it and y from 0 to length along it. Or the two doors of a gatefold: a pair of
   * folds, each the edge of its side, with the back between them. Or the table, for what stands by itself: it is as large as
   * the closed card.
   */
  readonly kind: 'fold' | 'panel' | 'doors' | 'table';
  readonly partId: string;
  readonly lineId: string;
  readonly name: string;
  readonly lengthMm: number;
  readonly left: GutterSide;
  readonly right: GutterSide;
  /**
   * For a half of the card: the other half, in the coordinates that lie on it when the card is closed; and on which side,
   * x < 0 or x > 0, the half has its open edge (0: at one of its ends).
   */
  readonly facing?: GutterSide & { readonly openAt: 1 | -1 | 0; readonly openEnd?: 1 | -1 };
  /** How far from the fold things may lie when the card is closed, and between which places along it. */
  readonly reachMm: number;
  readonly lowMm: number;
  readonly highMm: number;
  /** Between the two folds of a pair of doors. */
  readonly spanMm?: number;
}

/** Whether one sheet runs across the fold, so that a mechanism can be cut into it from one side to the other. */
export function isOneSheet({ left, right }: Gutter): boolean {
  const near = (p: number, q: number) => Math.abs(p - q) < TYPED_SLACK;
  const [f, g] = [left.frame, right.frame];
  return (
    left.partId === right.partId &&
    f.flip === g.flip &&
    near(f.dx, g.dx) &&
    near(f.dy, g.dy) &&
    near(Math.cos(f.angleRad - g.angleRad), 1)
  );
}

/** Depth of the closed card across its folds, and length of the folds, by the way the card opens. */
export function cardMeasures(brief: Design['brief']): { depthMm: number; gutterLengthMm: number } {
  return brief.opening === 'top'
    ? { depthMm: brief.closedHeightMm, gutterLengthMm: brief.closedWidthMm }
    : { depthMm: brief.closedWidthMm, gutterLengthMm: brief.closedHeightMm };
}

/** The table, on which stands what stands on nothing of the design. */
export const TABLE_ID = '@table';

/** The table as something to stand on; what is made for the card is made for its closed size. */
export function tableGutter({ brief }: Pick<Design, 'brief'>): Gutter {
  const depthMm = brief.closedWidthMm / 2;
  const side: GutterSide = { partId: TABLE_ID, frame: IDENTITY, depthMm };
  return {
    kind: 'table',
    partId: TABLE_ID,
    lineId: TABLE_ID,
    name: 'by itself',
    lengthMm: brief.closedHeightMm,
    left: side,
    right: side,
    reachMm: depthMm,
    lowMm: 0,
    highMm: brief.closedHeightMm,
  };
}

/** The id under which the front of a panel of a part is stood on. */
export const panelHostId = (panelId: string): string => `panel:${panelId}`;

/**
 * A panel as something to stand on: its box in the panel's frame, the middle line along y as gutter.
 *
 * @param frame from the panel's coordinates into the part's plane
 * @param box of the panel, in those coordinates
 * @param behind its back: seen from there, x runs the other way
 */
export function panelGutter(
  partId: string,
  panelId: string,
  name: string,
  frame: Isometry,
  box: Box,
  behind = false,
): Gutter {
  const depthMm = (box.maxX - box.minX) / 2;
  const lengthMm = box.maxY - box.minY;
  const side: GutterSide = {
    partId,
    frame: compose(frame, compose(shift(boxCentre(box)[0], box.minY), behind ? TURNED_ABOUT_Y : IDENTITY)),
    depthMm,
  };
  return {
    kind: 'panel',
    partId,
    lineId: behind ? backHostId(panelId) : panelHostId(panelId),
    name,
    lengthMm,
    left: side,
    right: side,
    reachMm: depthMm,
    lowMm: 0,
    highMm: lengthMm,
  };
}

/** How the base lies on the table and opens: as a card does, or not at all. */
export type Opening = Design['brief']['opening'] | 'flat';

/** The way a design opens: what has no card lies flat. */
export const openingOf = ({ base, brief }: Pick<Design, 'base' | 'brief'>): Opening =>
  base.kind === 'card' ? brief.opening : 'flat';

/** The id under which the back of a panel of a part is stood on: of a card, its outside. */
export const backHostId = (panelId: string): string => `${panelHostId(panelId)}@back`;

/** Quarters of a turn to the left, and the sides that they exchange. */
export type Quarters = 0 | 90 | 180 | 270;

/**
 * A panel as a mechanism has it that is turned on it: the same box, its own up pointing elsewhere. Anything but a panel stays
 * as it is.
 */
export function turnedGutter(gutter: Gutter, turnDeg: Quarters): Gutter {
  if (gutter.kind !== 'panel' || turnDeg === 0) return gutter;
  const { left, lengthMm, facing } = gutter;
  const odd = turnDeg % 180 !== 0;
  const depthMm = odd ? lengthMm / 2 : left.depthMm;
  const length = odd ? 2 * left.depthMm : lengthMm;
  // About the middle of the panel, which stays in the middle of the turned one.
  const about = compose(
    shift(0, lengthMm / 2),
    compose(turn((turnDeg * Math.PI) / 180), shift(0, -length / 2)),
  );
  const side: GutterSide = { partId: left.partId, frame: compose(left.frame, about), depthMm };
  const turned: Gutter = {
    ...gutter,
    lengthMm: length,
    left: side,
    right: side,
    reachMm: depthMm,
    highMm: length,
  };
  return facing
    ? {
        ...turned,
        facing: {
          partId: facing.partId,
          depthMm,
          frame: compose(facing.frame, about),
          openAt: openAtOf(facing, turnDeg),
        },
      }
    : turned;
}

/** Where the open edge is after a turn: it was at the side x = openAt, or where that is 0 at an end (`openEnd`). */
function openAtOf({ openAt, openEnd }: NonNullable<Gutter['facing']>, turnDeg: Quarters): 1 | -1 | 0 {
  const angle = (-turnDeg * Math.PI) / 180;
  const x = Math.round(openAt * Math.cos(angle) - (openEnd ?? 0) * Math.sin(angle));
  return x === 0 ? 0 : x > 0 ? 1 : -1;
}

/** The card's own plane in mechanism coordinates: a top-fold card is the side-fold card turned by a quarter. */
export const cardFrame = (brief: Design['brief']): Isometry =>
  turn(brief.opening === 'top' ? -Math.PI / 2 : 0);

/**
 * The folds of the card base: one in the middle (of a top fold the left half is the upper one), or the two of a gatefold,
 * between the left door and the back and between the back and the right door.
 */
export function cardGutters({ brief }: Pick<Design, 'brief'>): [Gutter, ...Gutter[]] {
  const { depthMm, gutterLengthMm } = cardMeasures(brief);
  const fold = (lineId: string, name: string, at: number, left: number, right: number): Gutter => {
    const frame = compose(cardFrame(brief), shift(at, 0));
    return {
      kind: 'fold',
      partId: CARD_ID,
      lineId,
      name,
      lengthMm: gutterLengthMm,
      left: { partId: CARD_ID, frame, depthMm: left },
      right: { partId: CARD_ID, frame, depthMm: right },
      // Closed, everything must lie under its own half or door: beyond it the other door comes down.
      reachMm: Math.min(left, right),
      lowMm: 0,
      highMm: gutterLengthMm,
    };
  };
  const door = depthMm / 2;
  return brief.opening === 'gate'
    ? [
        fold(GUTTER_ID, 'the left fold', -door, door, depthMm),
        fold(RIGHT_GUTTER_ID, 'the right fold', door, depthMm, door),
      ]
    : [fold(GUTTER_ID, 'the card’s fold', 0, depthMm, depthMm)];
}

/** The main fold of the card base: the only one, or the left one of a gatefold. */
export const cardGutter = (design: Pick<Design, 'brief'>): Gutter => cardGutters(design)[0];

/** The two doors of a gatefold, for what goes from one to the other; undefined for other cards. */
export function cardDoors(design: Design): Gutter | undefined {
  const [left, right] = cardGutters(design);
  return (
    right && {
      ...left,
      kind: 'doors',
      lineId: DOORS_ID,
      name: 'from door to door',
      right: right.right,
      reachMm: left.left.depthMm,
      spanMm: left.right.depthMm,
    }
  );
}
