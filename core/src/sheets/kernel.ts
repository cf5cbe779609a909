/**
 * The two loops by which sheets are looked over, over many numbers at once: what lying in another piece costs, added for all places of
 * a piece, and the least of each column of places. They are a small WebAssembly module, put together here from its
 * instructions; where a machine has no vectors, plain loops over the same memory give the same numbers.
 */

/** What is used of WebAssembly: neither a browser nor Node is known to this code. */
interface Memory {
  readonly buffer: ArrayBuffer;
  grow(pages: number): number;
}
interface Loops {
  /**
   * Adds `each` times a byte to a number, for places of a column after each other, and so for some columns. It goes by eights: what
   * stands behind the last of a column is added, too.
   */
  add(
    costs: number,
    nextCost: number,
    columns: number,
    units: number,
    nextUnit: number,
    count: number,
    each: number,
  ): void;
  /** The same, the bytes being read backwards. */
  addBack: Loops['add'];
  /** The least of each column of at least four numbers. */
  least(costs: number, nextCost: number, columns: number, count: number, out: number): void;
}
declare const WebAssembly:
  | {
      Memory: new (wanted: { initial: number; maximum: number }) => Memory;
      Module: new (bytes: Uint8Array) => object;
      Instance: new (module: object, imports: object) => { readonly exports: unknown };
    }
  | undefined;

const PAGE = 65_536;
const FIRST_PAGES = 16;
const MOST_PAGES = 32_768;

/**
 * Bytes are read so many at once: as many stand behind each column, all 0, and before the first one; and as many numbers behind each
 * column of costs.
 */
export const LANES = 8;

// The binary format: numbers of seven bits a byte, the lowest first; sections, each with its length before it.
function unsigned(value: number): number[] {
  const low = value & 0x7f;
  return value < 0x80 ? [low] : [low | 0x80, ...unsigned(value >>> 7)];
}
const sized = (bytes: readonly number[]): number[] => [...unsigned(bytes.length), ...bytes];
const section = (id: number, items: readonly (readonly number[])[]): number[] => [
  id,
  ...sized([...unsigned(items.length), ...items.flat()]),
];
const named = (name: string): number[] => sized([...name].map((letter) => letter.charCodeAt(0)));

const [I32, F32, V128] = [0x7f, 0x7d, 0x7b];
const get = (local: number): number[] => [0x20, local];
const set = (local: number): number[] => [0x21, local];
const tee = (local: number): number[] => [0x22, local];
/** Up to 63: above it the seventh bit would be the sign. */
const constant = (value: number): number[] => [0x41, value & 0x7f];
const [ADD, SUB, LESS] = [[0x6a], [0x6b], [0x49]];
const vector = (code: number, ...rest: number[]): number[] => [0xfd, ...unsigned(code), ...rest];
const loadVector = (offset = 0): number[] => vector(0x00, 2, offset);
const loadEightBytes = (offset = 0): number[] => vector(0x5d, 0, offset);
const storeVector = (offset = 0): number[] => vector(0x0b, 2, offset);
const TO_SHORTS = vector(0x89);
const LOW_TO_LONGS = vector(0xa9);
const HIGH_TO_LONGS = vector(0xaa);
/** Of signed numbers, which machines have an instruction of their own for. */
const TO_FLOATS = vector(0xfa);
const SPREAD = vector(0x13);
const TIMES = vector(0xe6);
const PLUS = vector(0xe4);
const LEAST = vector(0xea);
const shuffled = (lanes: readonly number[]): number[] => vector(0x0d, ...lanes);
const BACKWARDS = shuffled([7, 6, 5, 4, 3, 2, 1, 0, 8, 9, 10, 11, 12, 13, 14, 15]);
const laneOf = (k: number): number[] => vector(0x1f, k);
const LEAST_OF_TWO = [0x96];
const STORE_FLOAT = [0x38, 2, 0];
/** Again while a condition holds that the body leaves. */
const again = (...body: number[][]): number[] => [0x03, 0x40, ...body.flat(), 0x0d, 0, 0x0b];
const raise = (local: number, by: readonly number[]): number[] => [
  ...get(local),
  ...by,
  ...ADD,
  ...set(local),
];

/** The bodies of `add` and `addBack`; parameters 0 to 6 as told, then the places of cost and bytes, the end, and vectors. */
function adding(back: boolean): number[] {
  const [costs, nextCost, columns, units, nextUnit, count, each] = [0, 1, 2, 3, 4, 5, 6];
  const [at, from, end, shorts, weight] = [7, 8, 9, 10, 11];
  const four = (offset: number, longs: readonly number[]) => [
    ...get(at),
    ...get(at),
    ...loadVector(offset),
    ...get(shorts),
    ...longs,
    ...TO_FLOATS,
    ...get(weight),
    ...TIMES,
    ...PLUS,
    ...storeVector(offset),
  ];
  return [
    // Locals: three numbers, two vectors.
    ...[2, 3, I32, 2, V128],
    ...get(each),
    ...SPREAD,
    ...set(weight),
    ...again(
      [...get(costs), ...tee(at), ...get(count), ...constant(2), 0x74, ...ADD, ...set(end)],
      [...get(units), ...(back ? [...constant(LANES - 1), ...SUB] : []), ...set(from)],
      again(
        [...get(from), ...loadEightBytes()],
        back ? [...tee(shorts), ...get(shorts), ...BACKWARDS] : [],
        [...TO_SHORTS, ...set(shorts)],
        four(0, LOW_TO_LONGS),
        four(16, HIGH_TO_LONGS),
        back ? [...get(from), ...constant(LANES), ...SUB, ...set(from)] : raise(from, constant(LANES)),
        [...get(at), ...constant(32), ...ADD, ...tee(at), ...get(end), ...LESS],
      ),
      raise(costs, get(nextCost)),
      raise(units, get(nextUnit)),
      [...get(columns), ...constant(1), ...SUB, ...tee(columns)],
    ),
    0x0b,
  ];
}

/** The body of `least`: by fours, the last four once more where they are not all new. */
function leastOfColumns(): number[] {
  const [costs, nextCost, columns, count, out] = [0, 1, 2, 3, 4];
  const [at, end, least] = [5, 6, 7];
  return [
    ...[2, 2, I32, 1, V128],
    ...again(
      [
        ...get(costs),
        ...tee(at),
        ...get(count),
        ...constant(4),
        ...SUB,
        ...constant(2),
        0x74,
        ...ADD,
        ...set(end),
      ],
      [...get(end), ...loadVector(), ...set(least)],
      again(
        [...get(least), ...get(at), ...loadVector(), ...LEAST, ...set(least)],
        [...get(at), ...constant(16), ...ADD, ...tee(at), ...get(end), ...LESS],
      ),
      get(out),
      [...get(least), ...laneOf(0), ...get(least), ...laneOf(1), ...LEAST_OF_TWO],
      [...get(least), ...laneOf(2), ...get(least), ...laneOf(3), ...LEAST_OF_TWO, ...LEAST_OF_TWO],
      STORE_FLOAT,
      raise(out, constant(4)),
      raise(costs, get(nextCost)),
      [...get(columns), ...constant(1), ...SUB, ...tee(columns)],
    ),
    0x0b,
  ];
}

const moduleBytes = (): Uint8Array =>
  Uint8Array.from([
    ...[0x00, 0x61, 0x73, 0x6d, 1, 0, 0, 0],
    ...section(1, [
      [0x60, ...sized([I32, I32, I32, I32, I32, I32, F32]), 0],
      [0x60, ...sized([I32, I32, I32, I32, I32]), 0],
    ]),
    ...section(2, [
      [...named('of'), ...named('memory'), 0x02, 0x01, ...unsigned(FIRST_PAGES), ...unsigned(MOST_PAGES)],
    ]),
    ...section(3, [[0], [0], [1]]),
    ...section(7, [
      [...named('add'), 0x00, 0],
      [...named('addBack'), 0x00, 1],
      [...named('least'), 0x00, 2],
    ]),
    ...section(10, [sized(adding(false)), sized(adding(true)), sized(leastOfColumns())]),
  ]);

/** The same loops as they can run anywhere: numbers are rounded where vectors round them. */
function plainLoops(memory: Memory): Loops {
  const add =
    (step: 1 | -1): Loops['add'] =>
    (costs, nextCost, columns, units, nextUnit, count, each) => {
      const [cost, byte, by] = [
        new Float32Array(memory.buffer),
        new Uint8Array(memory.buffer),
        Math.fround(each),
      ];
      for (let c = 0; c < columns; c++) {
        const at = (costs + c * nextCost) >> 2;
        for (let k = 0, from = units + c * nextUnit; k < count; k++, from += step)
          cost[at + k] += Math.fround(by * byte[from]);
      }
    };
  return {
    add: add(1),
    addBack: add(-1),
    least(costs, nextCost, columns, count, out) {
      const cost = new Float32Array(memory.buffer);
      for (let c = 0; c < columns; c++) {
        const at = (costs + c * nextCost) >> 2;
        cost[(out >> 2) + c] = cost
          .subarray(at, at + count)
          .reduce((least, each) => Math.min(least, each), Infinity);
      }
    },
  };
}

/** Memory without WebAssembly: it is copied where it grows. */
class PlainMemory implements Memory {
  buffer = new ArrayBuffer(FIRST_PAGES * PAGE);
  grow(pages: number): number {
    const before = this.buffer.byteLength / PAGE;
    const larger = new Uint8Array(this.buffer.byteLength + pages * PAGE);
    larger.set(new Uint8Array(this.buffer));
    this.buffer = larger.buffer;
    return before;
  }
}

let compiled: object | null | undefined;

/** The module, compiled once; null where it cannot be. */
function moduleOf(): object | null {
  if (compiled !== undefined) return compiled;
  try {
    compiled = typeof WebAssembly === 'undefined' ? null : new WebAssembly.Module(moduleBytes());
  } catch {
    compiled = null;
  }
  return compiled;
}

/** Memory with the module's loops over it; undefined where there is none, or no room in the address space for its reserve. */
function vectorLoops(): { memory: Memory; loops: Loops } | undefined {
  const made = moduleOf();
  if (!made || typeof WebAssembly === 'undefined') return undefined;
  try {
    const memory = new WebAssembly.Memory({ initial: FIRST_PAGES, maximum: MOST_PAGES });
    const { exports } = new WebAssembly.Instance(made, { of: { memory } });
    return { memory, loops: exports as Loops };
  } catch (fault) {
    if (!(fault instanceof RangeError)) throw fault;
    // It is not asked for again: all that could be freed was freed before it was refused, which takes long.
    compiled = null;
    return undefined;
  }
}

export class Kernel {
  private readonly memory: Memory;
  readonly loops: Loops;
  private used = 16;
  private costs = new Float32Array(0);
  private units = new Uint8Array(0);
  /** Where the costs of places are, and of each column the least. */
  costsAt = 0;
  leastAt = 0;
  private readonly scratch = { places: 0, columns: 0 };

  /** @param plain whether plain loops are taken in any case */
  constructor(plain = false) {
    const made = plain ? undefined : vectorLoops();
    this.memory = made?.memory ?? new PlainMemory();
    this.loops = made?.loops ?? plainLoops(this.memory);
  }

  /** How many bytes are taken: more than before where something new was worked out. */
  get usedBytes(): number {
    return this.used;
  }

  /**
   * Room for so many bytes, all 0, with room for a vector before and behind it.
   *
   * @returns where it begins, a multiple of 16
   * @throws RangeError where there is no more memory
   */
  room(bytes: number): number {
    const at = this.used + 16;
    this.used = at + Math.ceil((bytes + 32) / 16) * 16;
    const lacking = this.used - this.memory.buffer.byteLength;
    if (lacking > 0) {
      const pages = this.memory.buffer.byteLength / PAGE;
      this.memory.grow(Math.max(Math.ceil(lacking / PAGE), Math.min(pages, MOST_PAGES - pages)));
    }
    return at;
  }

  /** Makes room for the costs of so many places and the least of so many columns: the same again and again, larger where it must be. */
  makeScratch(places: number, columns: number): void {
    if (this.scratch.places < places) {
      // What was there before is not used again: by half as much more, so that it is little.
      this.scratch.places = Math.ceil(1.5 * places);
      this.costsAt = this.room(4 * this.scratch.places);
    }
    if (this.scratch.columns >= columns) return;
    this.scratch.columns = Math.ceil(1.5 * columns);
    this.leastAt = this.room(4 * this.scratch.columns);
  }

  /** The memory as numbers; to be asked again after room was made. */
  floats(): Float32Array {
    if (this.costs.buffer !== this.memory.buffer) this.costs = new Float32Array(this.memory.buffer);
    return this.costs;
  }

  /** The memory as bytes; to be asked again after room was made. */
  bytes(): Uint8Array {
    if (this.units.buffer !== this.memory.buffer) this.units = new Uint8Array(this.memory.buffer);
    return this.units;
  }
}
