/** The loops of packing over many numbers at once, against sums of one number after another, and against each other. */
import { describe, expect, it } from 'vitest';
import { seededRandom } from '../geometry/random.ts';
import { Kernel, LANES } from './kernel.ts';

/** A kernel with random costs, and bytes in columns of some height; both in its memory. */
function filled(kernel: Kernel, seed: number, columns: number, rows: number, wide: number, tall: number) {
  const random = seededRandom(seed);
  const stride = tall + LANES;
  const costs = kernel.room(4 * columns * (rows + LANES));
  const units = kernel.room(wide * stride);
  const least = kernel.room(4 * columns);
  const floats = kernel.floats();
  for (let k = 0; k < columns * (rows + LANES); k++) floats[costs / 4 + k] = 100 * random();
  const bytes = kernel.bytes();
  for (let c = 0; c < wide; c++)
    for (let k = 0; k < tall; k++) bytes[units + c * stride + k] = Math.floor(256 * random());
  return { costs, units, least, stride, random };
}

const all = (kernel: Kernel, from: number, count: number) => [
  ...kernel.floats().subarray(from / 4, from / 4 + count),
];

describe.each([
  { name: 'with vectors', plain: false },
  { name: 'with plain loops', plain: true },
])('the loops $name', ({ plain }) => {
  it('add bytes to the columns that are told, forwards and backwards, and to nothing else', () => {
    for (let seed = 1; seed <= 300; seed++) {
      const kernel = new Kernel(plain);
      const size = seededRandom(seed);
      const [columns, rows] = [1 + Math.floor(12 * size()), 1 + Math.floor(40 * size())];
      const [wide, tall] = [1 + Math.floor(12 * size()), 1 + Math.floor(40 * size())];
      const { costs, units, stride, random } = filled(kernel, seed, columns, rows, wide, tall);
      // Columns of bytes from either end, and the bytes of each; to the end of the bytes, or of the places.
      const [i0, k0] = [Math.floor(columns * random()), Math.floor(rows * random())];
      const [across, count] = [Math.min(columns - i0, wide), Math.min(rows - k0, tall)];
      const [back, mirrored] = [random() < 0.5, random() < 0.5];
      const each = 3 * random();
      const high = rows + LANES;
      const before = all(kernel, costs, columns * high);
      (back ? kernel.loops.addBack : kernel.loops.add)(
        costs + 4 * (i0 * high + k0),
        4 * high,
        across,
        units + (mirrored ? (across - 1) * stride : 0) + (back ? tall - 1 : 0),
        mirrored ? -stride : stride,
        count,
        each,
      );
      const bytes = kernel.bytes();
      const after = all(kernel, costs, columns * high);
      for (let c = 0; c < columns; c++)
        for (let k = 0; k < rows; k++) {
          const cell = c * high + k;
          const [i, j] = [c - i0, k - k0];
          const inside = i >= 0 && i < across && j >= 0 && j < count;
          const byte = inside
            ? bytes[units + (mirrored ? across - 1 - i : i) * stride + (back ? tall - 1 - j : j)]
            : 0;
          expect(after[cell]).toBeCloseTo(before[cell] + each * byte, 3);
          if (!inside) expect(after[cell]).toBe(before[cell]);
        }
    }
  });

  it('tell the least of each column', () => {
    for (let seed = 1; seed <= 200; seed++) {
      const kernel = new Kernel(plain);
      const size = seededRandom(seed);
      const [columns, rows] = [1 + Math.floor(12 * size()), 4 + Math.floor(40 * size())];
      const { costs, least } = filled(kernel, seed, columns, rows, 1, 1);
      const high = rows + LANES;
      kernel.loops.least(costs, 4 * high, columns, rows, least);
      const cells = all(kernel, costs, columns * high);
      expect(all(kernel, least, columns)).toEqual(
        Array.from({ length: columns }, (_, c) => Math.min(...cells.slice(c * high, c * high + rows))),
      );
    }
  });

  it('keep what is in their memory when it grows, and give out what is 0', () => {
    const kernel = new Kernel(plain);
    const first = kernel.room(10);
    kernel.bytes()[first + 9] = 77;
    const second = kernel.room(5_000_000);
    expect(kernel.bytes()[first + 9]).toBe(77);
    expect(second % 16).toBe(0);
    expect(second - first).toBeGreaterThanOrEqual(10 + LANES);
    const bytes = kernel.bytes();
    expect(bytes.subarray(second - LANES, second + 5_000_000 + LANES).every((byte) => byte === 0)).toBe(true);
  });
});

it('the room for costs is the same again and again, and there is little of what was given up', () => {
  const kernel = new Kernel();
  const places = new Set<number>();
  for (let k = 1; k <= 3_000; k++) {
    kernel.makeScratch(k * 7, k);
    places.add(kernel.costsAt);
    expect(kernel.leastAt % 16).toBe(0);
  }
  expect(places.size).toBeLessThan(25);
  expect(kernel.bytes().length).toBeLessThan(1_200_000);
});

it('both kinds of loops give the same numbers to the last bit', () => {
  for (let seed = 1; seed <= 100; seed++) {
    const [vectors, plain] = [false, true].map((which) => {
      const kernel = new Kernel(which);
      const { costs, units, stride, least, random } = filled(kernel, seed, 9, 33, 9, 33);
      const high = 33 + LANES;
      kernel.loops.add(costs, 4 * high, 9, units, stride, 33, random());
      kernel.loops.addBack(costs, 4 * high, 9, units + 32, stride, 33, random());
      kernel.loops.least(costs, 4 * high, 9, 33, least);
      const cells = all(kernel, costs, 9 * high).filter((_, cell) => cell % high < 33);
      return [cells, all(kernel, least, 9)];
    });
    expect(vectors).toEqual(plain);
  }
});
