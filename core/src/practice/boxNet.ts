/** An open box in one piece, for tests of what folds up and closes. */
import type { DraftedPart, GlueJoint } from '../design/design.ts';
import { workOf, type DieLine } from '../dieline/part.ts';
import { polyline, straight } from '../geometry/path.ts';
import type { Point } from '../geometry/point.ts';
import { rectangle } from '../mechanisms/pieces.ts';
import { sheetOf } from './drafts.ts';

/** An open box: its floor a by b in the middle, walls h high, four tabs on the short walls. */
export function boxNet(a: number, b: number, h: number, restDeg: number, tabMm = 8): DraftedPart {
  const line = (id: string, from: Point, to: Point): DieLine => ({
    id,
    process: 'score',
    fold: { sense: 'valley', restDeg },
    path: straight(from, to),
  });
  const outline: Point[] = [
    [0, -h],
    [a, -h],
    [a, 0],
    [a + h, 0],
    [a + h, b],
    [a, b],
    [a, b + h],
    [0, b + h],
    [0, b],
    [-h, b],
    [-h, 0],
    [0, 0],
  ];
  const part = sheetOf('net', 1, 1);
  // One wall with a tab at its right end, glued behind the next wall.
  const withTab = outline.flatMap((p, i): Point[] => (i === 1 ? [p, [a + tabMm, -h], [a + tabMm, 0]] : [p]));
  const folds = [
    line('south', [0, 0], [a, 0]),
    line('north', [0, b], [a, b]),
    line('west', [0, 0], [0, b]),
    line('east', [a, 0], [a, b]),
    line('tab', [a, -h], [a, 0]),
  ];
  const slit: DieLine = { id: 'slit', ...workOf('cut'), path: straight([a, 0], [a + tabMm, 0]) };
  return {
    ...part,
    lines: Object.fromEntries(
      [{ id: 'outline', ...workOf('cut'), path: polyline(withTab, true) } as DieLine, slit, ...folds].map(
        (each) => [each.id, each],
      ),
    ),
    glueZones: {
      z: {
        id: 'z',
        face: 'back' as const,
        kind: 'glue' as const,
        outline: rectangle(a + 0.5, -h + 1, tabMm - 1, h - 2),
      },
    },
  };
}

/** The tab's glue lies on the east wall: its column x = a + t is the wall's y = t, its y = -s the wall's x = a + s. */
export const closes = (a: number): GlueJoint => ({
  id: 'close',
  kind: 'glue',
  partId: 'net',
  hostPartId: 'net',
  zoneId: 'z',
  placement: { angleRad: Math.PI / 2, flip: false, dx: a, dy: -a },
  mate: null,
});
