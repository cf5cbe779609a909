/**
 * Pieces that lie on each other pushed apart. All may overlap; again and again one that does is moved to the place, of all places
 * and ways to lie, where the sum of its depths in others is least. Depths count more, pair by pair, the longer they last, so that
 * no knot holds for ever. When little is left pieces are pushed along the shortest ways out until nothing overlaps.
 */
import type { Box } from '../geometry/path.ts';
import type { PackPiece } from './pieces.ts';
import type { Bound, Course, Lying, Still } from './firstFit.ts';
import { LANES } from './kernel.ts';
import { noReading, type Between } from './between.ts';
import { Neighbours } from './neighbours.ts';
import { pushedApart } from './pushing.ts';
import { boxesOff, isOff, type Unmet, type Way, type Ways } from './ways.ts';

/** Places are first looked through at every second sample. */
const COARSE = 2;
/** Columns of as many places are looked over by their least cost first. */
const LEAST_ROWS = 4;
/** So many of the best places are refined. */
const BEST_PLACES = 5;
/** A place is hopeless whose cost is more than so many times that of staying, and so many coarse steps. */
const HOPELESS = { times: 1.2, steps: 2 } as const;
/**
 * Where so many others lie on a sheet, only a part of it is looked over for a place: as large as so many of them take up, and so many
 * times the size of the piece at least.
 */
const LOOKED_AT = { most: 60, pieces: 40, sizes: 2 } as const;
/** Besides its own sheet a piece is tried on so many others. */
const OTHER_SHEETS = 2;
/** Steps of refining: from this share of the coarse lattice down to these, mm. */
const FIRST_STEP = 0.6;
const ROUGH_STEP_MM = 0.12;
const FINE_STEP_MM = 0.02;
/** Of a piece that may lie at very many angles so many are looked through at once. */
const MOST_WAYS = 8;
/** Rounds without a better total before the search gives up: of many pieces, each of which is moved in a round, fewer. */
const PATIENCE = { most: 80, least: 24, pieces: 1600 } as const;
/** Weights of pairs that overlap grow by this, and by as much again for the deepest; those of others shrink. */
const GROWTH = 1.2;
const GROWTH_DEEPEST = 0.8;
const DECAY = 0.95;
/** When no pair is deeper than this, pieces are pushed apart exactly, mm. */
const PUSHED_FROM_MM = 0.6;

const EVERYWHERE: Box = { minX: -Infinity, minY: -Infinity, maxX: Infinity, maxY: Infinity };

/** A part of a sheet, and which pieces lie there or reach into it. */
interface View {
  readonly box: Box;
  readonly there: readonly number[];
}

interface Place {
  way: Way;
  sheet: number;
  x: number;
  y: number;
  cost: number;
}

export class Crowd {
  readonly way: Way[];
  readonly sheet: Int32Array;
  readonly x: Float64Array;
  readonly y: Float64Array;
  private readonly weight: Float32Array;
  /** What the depth of a pair counts at least: it may be more the larger both are, for the small find room sooner. */
  private readonly leastWeight: Float32Array;
  /** Pieces that are moved come first; after them what stays where it is. */
  private readonly n: number;
  readonly movable: number;
  private readonly course: Course;
  private readonly bound: Bound;
  private readonly within: Box;
  private readonly patience: number;
  private readonly read = noReading();
  private readonly near = new Neighbours();
  /** How many pieces were moved, or tried to be. */
  moves = 0;
  /** How deep pieces lie in others at the most in the best that the last search found, mm. */
  deepestMm = 0;

  /**
   * @param start where the pieces lie
   * @param course the kinds of the sheets
   * @param still what lies on each of them and stays
   * @param bound the only sheet on which a piece may lie
   * @param within the box of each sheet in which pieces are to lie; all of it unless told
   * @param bySize whether pairs count more the larger both are
   * @param patience how many rounds without a better total there are before the search gives up; as many as usual unless told
   */
  constructor(
    private readonly ways: Ways,
    readonly pieces: readonly PackPiece[],
    start: readonly Lying[],
    private readonly random: () => number,
    {
      course = () => 0,
      still = () => [],
      bound = () => undefined,
      within = EVERYWHERE,
      bySize = true,
      patience = Math.min(PATIENCE.most, Math.max(PATIENCE.least, PATIENCE.pieces / pieces.length)),
    }: {
      course?: Course;
      still?: Still;
      bound?: Bound;
      within?: Box;
      bySize?: boolean;
      patience?: number;
    } = {},
  ) {
    this.course = course;
    this.bound = bound;
    this.within = within;
    this.patience = patience;
    const sheets = start.reduce((most, { sheet }) => Math.max(most, sheet + 1), 1);
    const kept = Array.from({ length: sheets }, (_, sheet) => still(sheet)).flat();
    this.movable = pieces.length;
    this.n = pieces.length + kept.length;
    this.way = [];
    this.sheet = new Int32Array(this.n);
    this.x = new Float64Array(this.n);
    this.y = new Float64Array(this.n);
    this.from(start);
    kept.forEach(({ way, sheet, x, y }, k) => {
      const i = this.movable + k;
      this.way[i] = way;
      this.sheet[i] = sheet;
      this.x[i] = x;
      this.y[i] = y;
    });
    const size = this.way.map(({ box }) => Math.sqrt((box.maxX - box.minX) * (box.maxY - box.minY)));
    const mean = size.reduce((sum, mm) => sum + mm, 0) / this.n;
    this.leastWeight = Float32Array.from({ length: this.n * this.n }, (_, k) =>
      bySize ? Math.sqrt(size[Math.floor(k / this.n)] * size[k % this.n]) / mean : 1,
    );
    this.weight = this.leastWeight.slice();
  }

  /** The ways of a piece on a sheet. */
  private waysOn(i: number, sheet: number): readonly Way[] {
    const kind = this.course(sheet);
    return kind === undefined ? [] : this.ways.of(this.pieces[i], kind);
  }

  /** Sheets that are used, and how far along the last one pieces may reach, mm. */
  sheets = 1;
  limitMm = Infinity;

  /** The farthest place to the right of a way on a sheet; less than its first where it has no room. */
  private right(way: Way, sheet: number): number {
    const most = Math.min(this.within.maxX, sheet === this.sheets - 1 ? this.limitMm : Infinity);
    return Math.min(way.room.maxX, most - way.box.maxX);
  }
  private left = ({ room, box }: Way): number => Math.max(room.minX, this.within.minX - box.minX);
  private low = ({ room, box }: Way): number => Math.max(room.minY, this.within.minY - box.minY);
  private high = ({ room, box }: Way): number => Math.min(room.maxY, this.within.maxY - box.maxY);

  private hasRoom(way: Way, sheet: number): boolean {
    return this.right(way, sheet) >= this.left(way) - 1e-9 && this.high(way) >= this.low(way) - 1e-9;
  }

  /** Puts a piece where it may lie, as near as that is; false where there is no room for it. */
  clamp(i: number): boolean {
    const way = this.way[i];
    if (!this.hasRoom(way, this.sheet[i])) return false;
    const [left, low] = [this.left(way), this.low(way)];
    this.x[i] = Math.min(Math.max(this.right(way, this.sheet[i]), left), Math.max(left, this.x[i]));
    this.y[i] = Math.min(Math.max(this.high(way), low), Math.max(low, this.y[i]));
    return true;
  }

  /** Puts a piece anywhere on one of some sheets where it has room; those that lie together with it on the same. */
  private throwAnywhere(i: number, sheets: readonly number[], which?: number): boolean {
    const places = sheets.flatMap((sheet) =>
      this.waysOn(i, sheet)
        .filter((way) => this.hasRoom(way, sheet))
        .map((way) => ({ way, sheet })),
    );
    if (places.length === 0) return false;
    const { way, sheet } = places[(which ?? Math.floor(this.random() * places.length)) % places.length];
    this.way[i] = way;
    this.sheet[i] = sheet;
    this.x[i] = this.left(way) + this.random() * (this.right(way, sheet) - this.left(way));
    this.y[i] = this.low(way) + this.random() * (this.high(way) - this.low(way));
    return this.clamp(i);
  }

  /** Those that must lie on the same sheet as a piece, with it. */
  private mates(i: number): number[] {
    const { together } = this.pieces[i];
    if (together === undefined) return [i];
    return this.pieces.flatMap((piece, j) => (piece.together === together ? [j] : []));
  }

  /** Sets how much room there is; pieces that lose theirs are moved in at random. */
  confine(sheets: number, limitMm: number): boolean {
    this.sheets = sheets;
    this.limitMm = limitMm;
    const all = Array.from({ length: sheets }, (_, sheet) => sheet);
    for (let i = 0; i < this.movable; i++) {
      if (this.sheet[i] < sheets && this.clamp(i)) continue;
      const [first, ...others] = this.mates(i);
      const own = this.bound(this.pieces[first]);
      if (!this.throwAnywhere(first, own === undefined ? all : [own])) return false;
      if (!others.every((j) => this.throwAnywhere(j, [this.sheet[first]]))) return false;
    }
    return true;
  }

  private apart(i: number, j: number): boolean {
    return (
      this.sheet[i] !== this.sheet[j] ||
      boxesOff(this.way[i], this.way[j], this.x[j] - this.x[i], this.y[j] - this.y[i])
    );
  }

  private depthOf(i: number, j: number): number {
    if (this.apart(i, j)) return 0;
    return this.ways.between(this.way[i], this.way[j]).rough(this.x[j] - this.x[i], this.y[j] - this.y[i]);
  }

  /**
   * What may lie where a piece is thought of, near a box of its origins on a sheet, as its neighbours; the two ways whose depth must be
   * worked out first where such are met.
   */
  private beside(
    i: number,
    way: Way,
    sheet: number,
    x0: number,
    x1: number,
    y0: number,
    y1: number,
  ): Unmet | undefined {
    this.near.clear();
    for (let j = 0; j < this.n; j++) {
      if (j === i || this.sheet[j] !== sheet) continue;
      const other = this.way[j].grown;
      const [x, y] = [this.x[j], this.y[j]];
      if (
        x1 + way.grown.maxX <= x + other.minX ||
        x0 + way.grown.minX >= x + other.maxX ||
        y1 + way.grown.maxY <= y + other.minY ||
        y0 + way.grown.minY >= y + other.maxY
      )
        continue;
      const between = this.ways.deep(this.way[j], way);
      if (!between) return [this.way[j], way];
      this.near.add(between, x, y, this.weight[i * this.n + j]);
    }
    return undefined;
  }

  /**
   * Makes a place better step by step, down to a step; the two ways whose depth must be worked out first where such are met: it is to be
   * asked again then.
   */
  private refine(i: number, place: Place, firstMm: number, leastMm: number): Unmet | undefined {
    const { way, sheet } = place;
    const [left, low, high] = [this.left(way), this.low(way), this.high(way)];
    const right = Math.max(left, this.right(way, sheet));
    const reach = 3 * firstMm;
    const { near } = this;
    const unmet = this.beside(
      i,
      way,
      sheet,
      place.x - reach,
      place.x + reach,
      place.y - reach,
      place.y + reach,
    );
    if (unmet) return unmet;
    place.cost = near.cost(place.x, place.y, Infinity);
    const [fromX, fromY] = [place.x, place.y];
    for (let step = firstMm; step >= leastMm && place.cost > 0;) {
      let moved = false;
      for (let d = 0; d < 8 && place.cost > 0; d++) {
        const x = Math.min(right, Math.max(left, place.x + STEPS[d][0] * step));
        const y = Math.min(high, Math.max(low, place.y + STEPS[d][1] * step));
        if (Math.abs(x - fromX) > reach || Math.abs(y - fromY) > reach) continue;
        const cost = near.cost(x, y, place.cost);
        if (cost >= place.cost) continue;
        [place.x, place.y, place.cost] = [x, y, cost];
        moved = true;
      }
      if (!moved) step /= 2;
    }
    return undefined;
  }

  /** As `refine`, giving way while outlines that are met for the first time are worked out. */
  private *refining(i: number, place: Place, firstMm: number, leastMm: number): Generator<void, void> {
    let unmet = this.refine(i, place, firstMm, leastMm);
    for (; unmet; unmet = this.refine(i, place, firstMm, leastMm)) yield* this.ways.deepening(...unmet);
  }

  /** What lying in another piece costs, added for all places of a way against it from a first one on. */
  private addCosts(
    i: number,
    j: number,
    between: Between,
    x0: number,
    y0: number,
    columns: number,
    rows: number,
  ): void {
    const { read, x, y } = this;
    const { kernel } = this.ways;
    between.readCoarse(kernel, x0 - x[j], y0 - y[j], columns, rows, read);
    const { i0, i1, k0, k1, si, sk } = read;
    if (i1 < i0 || k1 < k0) return;
    const stride = rows + LANES;
    const add = sk > 0 ? kernel.loops.add : kernel.loops.addBack;
    add(
      kernel.costsAt + 4 * (i0 * stride + k0),
      4 * stride,
      i1 - i0 + 1,
      read.start + i0 * si + k0 * sk,
      si,
      k1 - k0 + 1,
      this.weight[i * this.n + j] * between.field.unitMm,
    );
  }

  /**
   * The part of a sheet in which a piece is looked a place for, and what lies there: of a sheet with many pieces a part somewhere, as
   * large as so many of them take up.
   */
  private look(i: number, sheet: number): View {
    const { x, y, way, random, within } = this;
    const all: number[] = [];
    for (let j = 0; j < this.n; j++) if (j !== i && this.sheet[j] === sheet) all.push(j);
    if (all.length < LOOKED_AT.most) return { box: EVERYWHERE, there: all };
    const { widthMm, heightMm, marginMm, gapMm } = this.ways.kinds[this.course(sheet)!];
    const end = sheet === this.sheets - 1 ? this.limitMm : Infinity;
    const [left, low] = [Math.max(marginMm, within.minX), Math.max(marginMm, within.minY)];
    const right = Math.min(widthMm - marginMm, within.maxX, end);
    const high = Math.min(heightMm - marginMm, within.maxY);
    const own = way[i].box;
    const sideMm = Math.max(
      Math.sqrt(((right - left) * (high - low) * LOOKED_AT.pieces) / all.length),
      LOOKED_AT.sizes * Math.max(own.maxX - own.minX, own.maxY - own.minY),
    );
    const minX = left + random() * Math.max(0, right - left - sideMm);
    const minY = low + random() * Math.max(0, high - low - sideMm);
    const box = { minX, minY, maxX: minX + sideMm, maxY: minY + sideMm };
    return { box, there: all.filter((j) => !isOff(way[j], x[j], y[j], box, gapMm)) };
  }

  /**
   * The best places of one way on a sheet, by all samples at once; gives way after each pair of outlines that is worked out.
   *
   * @param hopeless what costs more is no place
   */
  private *survey(
    i: number,
    way: Way,
    sheet: number,
    { box, there }: View,
    best: Place[],
    hopeless: number,
  ): Generator<void, void> {
    const { ways } = this;
    const step = COARSE * ways.h;
    const x0 = Math.max(this.left(way), box.minX - way.box.minX);
    const y0 = Math.max(this.low(way), box.minY - way.box.minY);
    const x1 = Math.min(this.right(way, sheet), box.maxX - way.box.maxX);
    const y1 = Math.min(this.high(way), box.maxY - way.box.maxY);
    if (x1 < x0 - 1e-9 || y1 < y0 - 1e-9) return;
    const columns = Math.max(1, Math.floor((x1 - x0) / step) + 1);
    const rows = Math.max(1, Math.floor((y1 - y0) / step) + 1);
    // Eight at a time may reach beyond the last row.
    const stride = rows + LANES;
    const { kernel } = ways;
    kernel.makeScratch(columns * stride, columns);
    kernel.floats().fill(0, kernel.costsAt / 4, kernel.costsAt / 4 + columns * stride);
    let { usedBytes } = kernel;
    for (const j of there) {
      const between = ways.deep(this.way[j], way) ?? (yield* ways.deepening(this.way[j], way));
      this.addCosts(i, j, between, x0, y0, columns, rows);
      if (kernel.usedBytes === usedBytes) continue;
      ({ usedBytes } = kernel);
      yield;
    }
    this.leastOf(columns, rows, { way, sheet, x: x0, y: y0, cost: hopeless }, best);
  }

  /**
   * The places of the least costs among their neighbours, put among the best that are known.
   *
   * @param first the first place of all; what costs more than is told of it is no place
   */
  private leastOf(
    columns: number,
    rows: number,
    { way, sheet, x, y, cost: most }: Place,
    best: Place[],
  ): void {
    const { kernel } = this.ways;
    const stride = rows + LANES;
    const byColumn = rows >= LEAST_ROWS;
    if (byColumn) kernel.loops.least(kernel.costsAt, 4 * stride, columns, rows, kernel.leastAt);
    const floats = kernel.floats();
    const costs = floats.subarray(kernel.costsAt / 4, kernel.costsAt / 4 + columns * stride);
    const leasts = floats.subarray(kernel.leastAt / 4, kernel.leastAt / 4 + columns);
    const step = COARSE * this.ways.h;
    let worst = best.length < BEST_PLACES ? most : best[best.length - 1].cost;
    for (let c = 0; c < columns; c++) {
      if (byColumn && leasts[c] > worst) continue;
      for (let k = 0, cell = c * stride; k < rows; k++, cell++) {
        const cost = costs[cell];
        if (cost > worst) continue;
        if (
          (k > 0 && costs[cell - 1] < cost) ||
          (k < rows - 1 && costs[cell + 1] < cost) ||
          (c > 0 && costs[cell - stride] < cost) ||
          (c < columns - 1 && costs[cell + stride] < cost)
        )
          continue;
        if (cost === worst && this.random() < 0.7) continue;
        let where = best.length;
        while (where > 0 && best[where - 1].cost > cost) where--;
        best.splice(where, 0, { way, sheet, x: x + c * step, y: y + k * step, cost });
        if (best.length > BEST_PLACES) best.pop();
        if (best.length === BEST_PLACES) worst = best[BEST_PLACES - 1].cost;
      }
    }
  }

  /** Moves one piece to the best place that is found for it, unless it gets out of all others by a little. */
  private *move(i: number): Generator<void, void> {
    this.moves += 1;
    const firstMm = FIRST_STEP * COARSE * this.ways.h;
    const here: Place = { way: this.way[i], sheet: this.sheet[i], x: this.x[i], y: this.y[i], cost: 0 };
    yield* this.refining(i, here, firstMm, ROUGH_STEP_MM);
    if (here.cost === 0) return this.put(i, here);
    const hopeless = HOPELESS.times * here.cost + HOPELESS.steps * COARSE * this.ways.h;
    const best: Place[] = [];
    const sheets = new Set([this.sheet[i]]);
    const bound = this.pieces[i].together !== undefined;
    for (let k = 0; k < OTHER_SHEETS && this.sheets > 1 && !bound; k++)
      sheets.add(Math.floor(this.random() * this.sheets));
    looked: for (const sheet of sheets) {
      const view = this.look(i, sheet);
      for (const way of this.some(this.waysOn(i, sheet))) {
        yield* this.survey(i, way, sheet, view, best, hopeless);
        if (best.at(0)?.cost === 0) break looked;
      }
    }
    let chosen = here;
    for (const place of best) {
      yield* this.refining(i, place, firstMm, ROUGH_STEP_MM);
      if (place.cost < chosen.cost) chosen = place;
      if (chosen.cost === 0) break;
    }
    if (chosen.cost > 0) yield* this.refining(i, chosen, ROUGH_STEP_MM / 2, FINE_STEP_MM);
    this.put(i, chosen);
  }

  private put(i: number, { way, sheet, x, y }: Place): void {
    this.way[i] = way;
    this.sheet[i] = sheet;
    this.x[i] = x;
    this.y[i] = y;
  }

  /** Of very many ways only some are looked through at once. */
  private some(ways: readonly Way[]): readonly Way[] {
    if (ways.length <= MOST_WAYS) return ways;
    const from = Math.floor(this.random() * ways.length);
    const step = ways.length / MOST_WAYS;
    return Array.from({ length: MOST_WAYS }, (_, k) => ways[Math.floor(from + k * step) % ways.length]);
  }

  /** Pairs that overlap as the lattice tells it, with their depths; of two that stay nothing is told. */
  private *overlaps(): Generator<
    void,
    { pairs: [number, number, number][]; total: number; deepest: number }
  > {
    const pairs: [number, number, number][] = [];
    let [total, deepest] = [0, 0];
    const { ways } = this;
    for (let i = 0; i < this.movable; i++) {
      for (let j = i + 1; j < this.n; j++) {
        if (this.apart(i, j)) continue;
        const [a, b] = [this.way[i], this.way[j]];
        const between = ways.deep(a, b) ?? (yield* ways.deepening(a, b));
        const depth = between.rough(this.x[j] - this.x[i], this.y[j] - this.y[i]);
        if (depth <= 0) continue;
        pairs.push([i, j, depth]);
        total += depth;
        deepest = Math.max(deepest, depth);
      }
      yield;
    }
    return { pairs, total, deepest };
  }

  private state() {
    return { way: [...this.way], sheet: this.sheet.slice(), x: this.x.slice(), y: this.y.slice() };
  }
  private become({ way, sheet, x, y }: ReturnType<Crowd['state']>): void {
    way.forEach((each, i) => (this.way[i] = each));
    this.sheet.set(sheet);
    this.x.set(x);
    this.y.set(y);
  }

  /**
   * Looks for a place for every piece, until nothing overlaps or nothing gets better.
   *
   * @yields again and again, at most some hundredths of a second apart
   * @returns whether nothing overlaps; what it leaves otherwise is the best that it found
   */
  *separate(): Generator<void, boolean> {
    this.weight.set(this.leastWeight);
    let [least, since] = [Infinity, 0];
    let best = this.state();
    for (;;) {
      this.ways.spare();
      const { pairs, total, deepest } = yield* this.overlaps();
      if (total < least - 1e-6) {
        [least, since] = [total, 0];
        this.deepestMm = deepest;
        best = this.state();
      } else since += 1;
      if (deepest <= PUSHED_FROM_MM) {
        const before = this.state();
        if (yield* pushedApart(this.ways, this)) return true;
        this.become(before);
      }
      if (since > this.patience) {
        this.become(best);
        return false;
      }
      if (deepest > 0) {
        for (let k = 0; k < this.weight.length; k++)
          this.weight[k] = Math.max(this.leastWeight[k], this.weight[k] * DECAY);
        for (const [i, j, depth] of pairs) {
          const grown = Math.max(
            this.leastWeight[i * this.n + j],
            (this.weight[i * this.n + j] / DECAY) * (GROWTH + GROWTH_DEEPEST * (depth / deepest)),
          );
          this.weight[i * this.n + j] = grown;
          this.weight[j * this.n + i] = grown;
        }
      }
      const moving = [...new Set(pairs.flatMap(([i, j]) => (j < this.movable ? [i, j] : [i])))];
      for (let k = moving.length - 1; k > 0; k--) {
        const other = Math.floor(this.random() * (k + 1));
        [moving[k], moving[other]] = [moving[other], moving[k]];
      }
      for (const i of moving) {
        let still = false;
        for (let j = 0; j < this.n && !still; j++) still = j !== i && this.depthOf(i, j) > 0;
        if (!still) continue;
        yield* this.move(i);
        this.ways.spare();
        yield;
      }
      if (moving.length === 0) yield;
    }
  }

  /** All pieces thrown anywhere on the sheets, all lying alike. */
  scatter(sheets: number): void {
    const which = Math.floor(this.random() * 4);
    this.sheets = sheets;
    this.limitMm = Infinity;
    const thrown = new Set<number>();
    for (let i = 0; i < this.movable; i++) {
      if (thrown.has(i)) continue;
      const sheet = this.bound(this.pieces[i]) ?? Math.floor(this.random() * sheets);
      for (const j of this.mates(i)) {
        thrown.add(j);
        this.throwAnywhere(j, [sheet], which);
      }
    }
  }

  /** Two pieces of like size change places. */
  swap(): void {
    const size = (i: number) => {
      const { grown } = this.way[i];
      return (grown.maxX - grown.minX) * (grown.maxY - grown.minY);
    };
    const i = Math.floor(this.random() * this.movable);
    const free = (j: number) => this.pieces[j].together === undefined || this.sheet[j] === this.sheet[i];
    const others = Array.from({ length: this.movable }, (_, j) => j)
      .filter((j) => this.pieces[j].partId !== this.pieces[i].partId && free(i) && free(j))
      .sort((a, b) => Math.abs(size(a) - size(i)) - Math.abs(size(b) - size(i)))
      .slice(0, 4);
    if (others.length === 0) return;
    const j = others[Math.floor(this.random() * others.length)];
    const middle = (k: number) => {
      const { grown } = this.way[k];
      return [this.x[k] + (grown.minX + grown.maxX) / 2, this.y[k] + (grown.minY + grown.maxY) / 2] as const;
    };
    const [a, b] = [middle(i), middle(j)];
    const turnedTo = (k: number, sheet: number): Way | undefined => {
      const { angleRad, flip } = this.way[k];
      const ways = this.waysOn(k, sheet);
      return ways.find((way) => way.angleRad === angleRad && way.flip === flip) ?? ways.at(0);
    };
    const [onI, onJ] = [turnedTo(j, this.sheet[i]), turnedTo(i, this.sheet[j])];
    if (!onI || !onJ || (this.pieces[i].together !== undefined && this.sheet[i] !== this.sheet[j])) return;
    [this.way[i], this.way[j]] = [onJ, onI];
    [this.sheet[i], this.sheet[j]] = [this.sheet[j], this.sheet[i]];
    this.x[i] += b[0] - a[0];
    this.y[i] += b[1] - a[1];
    this.x[j] += a[0] - b[0];
    this.y[j] += a[1] - b[1];
  }

  lying(): Lying[] {
    return this.pieces.map((piece, i) => ({
      piece,
      way: this.way[i],
      sheet: this.sheet[i],
      x: this.x[i],
      y: this.y[i],
    }));
  }

  /** Begins again from a layout. */
  from(lying: readonly Lying[]): void {
    const of = new Map(lying.map((each) => [each.piece, each]));
    this.pieces.forEach((piece, i) => {
      const { way, sheet, x, y } = of.get(piece)!;
      this.way[i] = way;
      this.sheet[i] = sheet;
      this.x[i] = x;
      this.y[i] = y;
    });
  }
}

const STEPS = [
  [1, 0],
  [-1, 0],
  [0, 1],
  [0, -1],
  [1, 1],
  [1, -1],
  [-1, 1],
  [-1, -1],
] as const;
