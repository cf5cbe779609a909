/**
 * Words that stand on a fold, in every face: the sheet with them has two panels and no loose flap, its area is what the letters'
 * own areas say, and every letter belongs to the panel in whose plane it stands.
 */
import { describe, expect, it } from 'vitest';
import { standingWord } from '@hollow-finch/core/drafting/standing';
import { panelAt, panelPlan } from '@hollow-finch/core/dieline/panels';
import { workOf, type Part } from '@hollow-finch/core/dieline/part';
import { boxCentre, boxOfPaths, endOf, flatten, polyline, type Path } from '@hollow-finch/core/geometry/path';
import { shift } from '@hollow-finch/core/geometry/isometry';
import { placePath } from '@hollow-finch/core/geometry/path';
import { distance } from '@hollow-finch/core/geometry/point';
import { ringArea } from '@hollow-finch/core/geometry/polygon';
import { seededRandom } from '@hollow-finch/core/geometry/random';
import { wordOutline } from '@hollow-finch/core/words/outline';
import { FACES, font } from './testing/fonts.ts';

const SHEET = { halfMm: 150, lowMm: -60, highMm: 80 };
const outline = polyline(
  [
    [-SHEET.halfMm, SHEET.lowMm],
    [SHEET.halfMm, SHEET.lowMm],
    [SHEET.halfMm, SHEET.highMm],
    [-SHEET.halfMm, SHEET.highMm],
  ],
  true,
);

function centredWord(face: string, text: string, sizeMm: number): Path[] {
  const { paths, box } = wordOutline([font(face)], text, { sizeMm });
  const [cx] = boxCentre(box);
  return paths.map((path) => placePath(shift(-cx, 0), path));
}

function partOf(made: { readonly cuts: readonly Path[]; readonly folds: readonly Path[] }): Part {
  return {
    id: 'p',
    name: 'Ridge',
    stockId: 'ember-160',
    grainRad: null,
    quantity: 1,
    lines: [
      { id: 'o', ...workOf('cut'), path: outline },
      ...made.cuts.map((path, i) => ({ id: `c${i}`, ...workOf('cut'), path })),
      ...made.folds.map((path, i) => ({ id: `f${i}`, ...workOf('mountain'), path })),
    ],
    glueZones: [],
    marks: [],
  };
}

describe.each(FACES)('words standing on a fold in %s', (face) => {
  it('hang on their own panel; nothing else is left hanging', () => {
    const random = seededRandom(21);
    const letters = 'abcdefghijkmnopqrstuvwxyzABCDEFGHIKLMNOPRSTUVWXYZ0123456789';
    // The arms of two Y touch in a point in some faces.
    const words = ['Hill', 'AMBER', 'moon', 'iiji', 'Öde', 'OVQW8', 'pygmy', 'YY5', 'TTVVWW'];
    for (let k = 0; k < 14; k++)
      words.push(
        Array.from(
          { length: 2 + Math.floor(5 * random()) },
          () => letters[Math.floor(letters.length * random())],
        ).join(''),
      );
    let made = 0;
    for (const word of words) {
      const paths = centredWord(face, word, 24);
      const standing = standingWord(paths, [-SHEET.halfMm, SHEET.halfMm], 1.2, 1.5);
      if ('refused' in standing) {
        expect(standing.refused, word).toMatch(/\w+:|another face/);
        continue;
      }
      made += 1;
      const part = partOf(standing);
      const plan = panelPlan(part);
      expect(plan.panels, `${face} ${word}`).toHaveLength(2);
      const low = panelAt(plan, [-SHEET.halfMm + 1, SHEET.lowMm + 1]);
      const high = panelAt(plan, [-SHEET.halfMm + 1, SHEET.highMm - 1]);
      expect(low, word).not.toBe(high);
      // All stretches of the fold turn the same two panels.
      for (const { left, right } of plan.hinges) expect([left, right].sort()).toEqual([low, high].sort());
      // The fold and the feet together are as long as the fold was, but for what falls out under letters.
      const folds = standing.folds.reduce((sum, path) => sum + distance(path.start, endOf(path)), 0);
      const feet = standing.feetMm.reduce((sum, mm) => sum + mm, 0);
      const under = standing.cuts
        .filter(
          (path) =>
            path.start[1] === 0 &&
            endOf(path)[1] === 0 &&
            path.segments.length === 1 &&
            boxOfPaths([path]).maxY === 0,
        )
        .reduce((sum, path) => sum + distance(path.start, endOf(path)), 0);
      expect(folds + feet + under).toBeCloseTo(2 * SHEET.halfMm, 4);
      // Letters stand: the panel below reaches as high as they do.
      const top = boxOfPaths([polyline(plan.panels[low].region.outer, true)]).maxY;
      expect(top).toBeCloseTo(standing.highMm, 2);
      // Counters and what is closed in fall out, and nothing else does.
      const paper = plan.panels.reduce((sum, { areaMm2 }) => sum + areaMm2, 0);
      const whole = Math.abs(ringArea(flatten(outline).slice(0, -1)));
      expect(paper).toBeLessThanOrEqual(whole + 1e-6);
      expect(whole - paper).toBeLessThan(0.5 * word.length * 24 * 24);
    }
    expect(made).toBeGreaterThan(0.8 * words.length);
  });
});

it('is refused where no letter reaches the fold, and where the word is longer than it', () => {
  const paths = centredWord('alegreya', 'moon', 24);
  const raised = paths.map((path) => placePath(shift(0, 20), path));
  expect(standingWord(raised, [-150, 150], 1, 1.5)).toMatchObject({
    refused: expect.stringMatching(/deeper/),
  });
  expect(standingWord(paths, [-20, 20], 1, 1.5)).toMatchObject({ refused: expect.stringMatching(/longer/) });
});

it('holds the dots of an i by bars, and lets an O stand on a foot as wide as its chord', () => {
  const dots = standingWord(centredWord('noto-sans', 'iii', 24), [-150, 150], 1.2, 1.5);
  if ('refused' in dots) throw new Error(dots.refused);
  expect(dots.bars).toBe(3);
  expect(dots.feetMm).toHaveLength(3);
  const round = (sink: number) => {
    const made = standingWord(centredWord('noto-sans', 'O', 24), [-150, 150], sink, 1.5);
    if ('refused' in made) throw new Error(made.refused);
    return made.feetMm[0];
  };
  expect(round(0.8)).toBeGreaterThan(round(0.4));
});
