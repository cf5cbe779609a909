/** Short words and numbers as single strokes: drawn lightly where they will be covered. */
import type { Path } from '../geometry/path.ts';
import { polyline } from '../geometry/path.ts';
import type { Point } from '../geometry/point.ts';

/** Letters in a box 4 wide and 6 high, as strokes of corners "xy". */
const STROKES: Readonly<Record<string, readonly string[]>> = {
  G: ['45 36 16 05 01 10 30 41 43 23'],
  L: ['06 00 40'],
  U: ['06 01 10 30 41 46'],
  E: ['46 06 00 40', '03 33'],
  P: ['00 06 36 45 44 33 03'],
  H: ['00 06', '40 46', '03 43'],
  R: ['00 06 36 45 44 33 03', '23 40'],
  '0': ['00 06 46 40 00'],
  '1': ['05 16 10', '00 20'],
  '2': ['06 46 43 03 00 40'],
  '3': ['06 46 40 00', '13 43'],
  '4': ['06 03 43', '46 40'],
  '5': ['46 06 03 43 40 00'],
  '6': ['46 06 00 40 43 03'],
  '7': ['06 46 10'],
  '8': ['00 06 46 40 00', '03 43'],
  '9': ['43 03 06 46 40 00'],
};
/** From one letter to the next, in the same units. */
const STEP = 5.4;
const HIGH = 6;

/** How wide a word is for its height. */
export const wordWidth = (word: string, heightMm: number): number =>
  (((word.length - 1) * STEP + 4) * heightMm) / HIGH;

/** A word as strokes about the origin, upright; letters that are not known are left out. */
export function strokesOf(word: string, heightMm: number): Path[] {
  const unit = heightMm / HIGH;
  const left = -wordWidth(word, heightMm) / 2;
  return [...word].flatMap((letter, i) =>
    (STROKES[letter] ?? []).map((stroke) =>
      polyline(
        stroke
          .split(' ')
          .map((corner): Point => [
            left + (i * STEP + Number(corner[0])) * unit,
            (Number(corner[1]) - HIGH / 2) * unit,
          ]),
      ),
    ),
  );
}

/** An arrow that points up, about the origin: which end of what lies there is its upper one. */
export const arrowUp = (heightMm: number): Path[] => {
  const [h, head] = [heightMm / 2, heightMm / 4];
  return [
    polyline([
      [0, -h],
      [0, h],
    ]),
    polyline([
      [-head, h - head],
      [0, h],
      [head, h - head],
    ]),
  ];
};
