/** What exercises are about and how they are marked: light enough for a page. */
import { cross, distance, subtract, type Point } from '../geometry/point.ts';

/** Rules that belong together for who learns to inspect. */
export const GROUPS = {
  lines: { title: 'Lines', rules: ['openOutline', 'doubledLine', 'wholePieces', 'foldFaults', 'leftWhole'] },
  movement: {
    title: 'Movement',
    rules: ['motionFaults', 'closing', 'catching', 'heldPull', 'stops', 'standsUp'],
  },
  fits: {
    title: 'Fits and sizes',
    rules: ['slotFit', 'pivotFit', 'closedOverhang', 'measures', 'bandFit', 'envelopeFit'],
  },
  glue: {
    title: 'Glue and tabs',
    rules: ['glueZones', 'glueLanding', 'glueInTheWay', 'tabsColliding', 'matingEdges', 'showThrough'],
  },
  paper: { title: 'Paper and sheets', rules: ['thinWeb', 'smallParts', 'sheetFaults'] },
} as const satisfies Record<string, { title: string; rules: readonly string[] }>;
export type Group = keyof typeof GROUPS;
export type Difficulty = 1 | 2 | 3;

/** How far off a guess of the reach may be, mm. */
export const REACH_RIGHT_MM: Readonly<Record<Difficulty, number>> = { 1: 12, 2: 7, 3: 4 };

/** How many sheets a guess may be off. */
export const SHEETS_RIGHT: Readonly<Record<Difficulty, number>> = { 1: 1, 2: 1, 3: 0 };

/** The distance of a place from the line through a fold. */
export const fromFold = ([a, b]: readonly [Point, Point], p: Point): number =>
  Math.abs(cross(subtract(b, a), subtract(p, a))) / distance(a, b);
