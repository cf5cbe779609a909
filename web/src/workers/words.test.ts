/** Words from font files: areas against the font's own contours, kerning, faces that lack a letter, pieces that hang together. */
import { describe, expect, it } from 'vitest';
import { boxOf, flatten, type Path } from '@hollow-finch/core/geometry/path';
import { areaOfRegions, ringArea } from '@hollow-finch/core/geometry/polygon';
import { seededRandom } from '@hollow-finch/core/geometry/random';
import { LONGEST_TEXT, readFont, wordOutline } from '@hollow-finch/core/words/outline';
import { wordPiece } from '@hollow-finch/core/words/piece';
import { FACES, font } from './testing/fonts.ts';

const area = (paths: readonly Path[]): number =>
  paths.reduce((sum, path) => sum + ringArea(flatten(path, 0.001)), 0);

describe.each(FACES)('words in %s', (face) => {
  const own = font(face);

  it('have the area of their contours, true curves, and grow with the square of their size', () => {
    const small = wordOutline([own], 'Hmo', { sizeMm: 10 });
    const large = wordOutline([own], 'Hmo', { sizeMm: 30 });
    expect(small.missing).toEqual([]);
    expect(areaOfRegions(large.regions) / areaOfRegions(small.regions)).toBeCloseTo(9, 1);
    expect(Math.abs(Math.abs(area(large.paths)) / areaOfRegions(large.regions) - 1)).toBeLessThan(0.003);
  });

  it('as one piece hang together, on a bar as well as on a plate', () => {
    const random = seededRandom(6);
    const letters = 'abcdefghijklmnopqrstuvwxyzABCDEFGHIJKLMNOPQRSTUVWXYZ0123456789&!?';
    for (let k = 0; k < 8; k++) {
      const text = Array.from(
        { length: 1 + Math.floor(8 * random()) },
        () => letters[Math.floor(letters.length * random())],
      ).join('');
      const { regions } = wordOutline([own], text, { sizeMm: 20 });
      for (const joined of ['bar', 'plate'] as const) {
        const [outer, ...holes] = wordPiece(regions, joined, 1.5);
        // One outline round all, about the origin, with at least the paper of the letters.
        const box = boxOf(flatten(outer));
        expect(box.minX + box.maxX).toBeCloseTo(0, 6);
        const paper = Math.abs(area([outer])) - holes.reduce((sum, hole) => sum + Math.abs(area([hole])), 0);
        expect(paper).toBeGreaterThan(areaOfRegions(regions) * 0.999);
        expect(box.maxX - box.minX).toBeGreaterThan(
          0.99 * (boxOf(regions.flatMap((r) => r.outer)).maxX - boxOf(regions.flatMap((r) => r.outer)).minX),
        );
      }
    }
  });
});

describe('setting words', () => {
  const serif = font('alegreya');

  it('kerns: AV is narrower than A and V side by side', () => {
    const width = (text: string) => {
      const { box } = wordOutline([font('noto-sans')], text, { sizeMm: 50 });
      return box.maxX - box.minX;
    };
    // Half of what two pairs gain is what one gains: nothing else differs between the words.
    const pairs = width('AVAV') - width('AV');
    expect(pairs).toBeLessThan(width('AHAH') - width('AH') + width('V') - width('H') - 0.5);
  });

  it('sets lines one under the other, aligned as asked', () => {
    const set = (align: 'left' | 'centre' | 'right') =>
      wordOutline([serif], 'IIIII\nI', { sizeMm: 10, align });
    const [left, centre, right] = (['left', 'centre', 'right'] as const).map((align) => {
      const { regions } = set(align);
      const low = regions.reduce((a, b) => (boxOf(b.outer).minY < boxOf(a.outer).minY ? b : a));
      return (boxOf(low.outer).minX + boxOf(low.outer).maxX) / 2;
    });
    expect(left).toBeLessThan(centre);
    expect(centre).toBeLessThan(right);
    expect(centre - left).toBeCloseTo(right - centre, 3);
  });

  it('asks the next face for what one lacks, and names what none has', () => {
    const [latin, cyrillic] = [font('source-sans-3'), font('source-sans-3', 'cyrillic')];
    const alone = wordOutline([latin], 'AДB', { sizeMm: 10 });
    expect(alone.missing).toEqual(['Д']);
    expect(alone.regions).toHaveLength(2);
    const both = wordOutline([latin, cyrillic], 'AДB', { sizeMm: 10 });
    expect(both.missing).toEqual([]);
    expect(both.regions).toHaveLength(3);
  });

  it('makes one outline of script letters that overlap', () => {
    const script = wordOutline([font('pacifico')], 'moon', { sizeMm: 20 });
    expect(script.regions).toHaveLength(1);
  });

  it('refuses what is no font, no size, or no word, in words', () => {
    expect(() => readFont(new ArrayBuffer(40))).toThrow(/no font that can be read/);
    expect(() => wordOutline([serif], 'x'.repeat(LONGEST_TEXT + 1), { sizeMm: 10 })).toThrow(/up to 200/);
    expect(() => wordOutline([serif], 'x', { sizeMm: 0 })).toThrow(/0.5 to 2000/);
    expect(() => wordOutline([], 'x', { sizeMm: 10 })).toThrow(/Choose a face/);
    expect(() => wordPiece([], 'bar', 1)).toThrow(/no letters/);
  });
});
