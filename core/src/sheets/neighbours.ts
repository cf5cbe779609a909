/**
 * What lies near a piece that is moved: what its places cost is asked for more often than anything else, so that how the fields are read
 * is worked out once for all places, as numbers that lie close together.
 */
import type { Between } from './between.ts';

/** So many numbers each: how a place becomes a column and a row of its field, the ends of these, its rows, and its weight. */
const SIZE = 10;

export class Neighbours {
  private count = 0;
  private numbers = new Float64Array(32 * SIZE);
  private readonly depths: Float32Array[] = [];

  clear(): void {
    this.count = 0;
  }

  /**
   * One more neighbour.
   *
   * @param between the field of the neighbour and the piece that is moved
   * @param x, y where the neighbour lies
   * @param weight what each millimetre of depth costs
   */
  add(between: Between, x: number, y: number, weight: number): void {
    const { field } = between;
    const at = this.count * SIZE;
    if (at === this.numbers.length) {
      const more = new Float64Array(2 * at);
      more.set(this.numbers);
      this.numbers = more;
    }
    const { numbers } = this;
    // Columns and rows are linear in the shift.
    const each = 1 / field.h;
    numbers[at] = between.across(1, 0) * each;
    numbers[at + 1] = between.across(0, 1) * each;
    numbers[at + 2] = -between.across(x, y) * each - field.i0;
    numbers[at + 3] = between.along(1, 0) * each;
    numbers[at + 4] = between.along(0, 1) * each;
    numbers[at + 5] = -between.along(x, y) * each - field.k0;
    numbers[at + 6] = field.columns - 1;
    numbers[at + 7] = field.rows - 1;
    numbers[at + 8] = field.rows;
    numbers[at + 9] = weight;
    this.depths[this.count++] = field.depth;
  }

  /**
   * The sum of how deep the piece lies in its neighbours at a place, by their weights, between samples as they tell it.
   *
   * @param most once it is more than this, no more is added
   */
  cost(x: number, y: number, most: number): number {
    const { numbers, depths, count } = this;
    let sum = 0;
    for (let k = 0, at = 0; k < count; k++, at += SIZE) {
      const column = numbers[at] * x + numbers[at + 1] * y + numbers[at + 2];
      const row = numbers[at + 3] * x + numbers[at + 4] * y + numbers[at + 5];
      if (!(column >= 0 && row >= 0 && column < numbers[at + 6] && row < numbers[at + 7])) continue;
      const i = column | 0;
      const j = row | 0;
      const rows = numbers[at + 8];
      const s = column - i;
      const t = row - j;
      const d = depths[k];
      const cell = i * rows + j;
      const told =
        (1 - s) * ((1 - t) * d[cell] + t * d[cell + 1]) +
        s * ((1 - t) * d[cell + rows] + t * d[cell + rows + 1]);
      if (told <= 0) continue;
      sum += numbers[at + 9] * told;
      if (sum > most) return sum;
    }
    return sum;
  }
}
