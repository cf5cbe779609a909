/**
 * Lengths. Inside the program a length is a number of millimetres; people type it in mixed units
 * ('4 3/8in - 2mm', '12.5 cm', '(3 7/16" + 1mm) / 2') and read it in millimetres or in inches with fractions.
 */

export type LengthUnit = 'mm' | 'in';

export type ParsedLength =
  | { readonly ok: true; readonly mm: number }
  | { readonly ok: false; readonly message: string; readonly at: number };

export const MM_PER_INCH = 25.4;

const MM_PER_UNIT: Readonly<Record<string, number>> = {
  mm: 1,
  millimetre: 1,
  millimetres: 1,
  cm: 10,
  m: 1000,
  in: MM_PER_INCH,
  inch: MM_PER_INCH,
  inches: MM_PER_INCH,
  '"': MM_PER_INCH,
  '″': MM_PER_INCH,
  '”': MM_PER_INCH,
  ft: 12 * MM_PER_INCH,
  "'": 12 * MM_PER_INCH,
  '′': 12 * MM_PER_INCH,
  pt: MM_PER_INCH / 72,
};

const VULGAR: Readonly<Record<string, number>> = {
  '¼': 1 / 4,
  '½': 1 / 2,
  '¾': 3 / 4,
  '⅛': 1 / 8,
  '⅜': 3 / 8,
  '⅝': 5 / 8,
  '⅞': 7 / 8,
  '⅓': 1 / 3,
  '⅔': 2 / 3,
};

type Token =
  | { readonly kind: 'number'; readonly value: number; readonly at: number }
  | { readonly kind: 'unit'; readonly mm: number; readonly name: string; readonly at: number }
  | { readonly kind: 'sign'; readonly sign: string; readonly at: number };

/** A value under evaluation: `dimension` 1 is a length in mm, 0 a plain number. */
interface Value {
  readonly value: number;
  readonly dimension: 0 | 1;
}

class LengthFault extends Error {
  constructor(
    message: string,
    readonly at: number,
  ) {
    super(message);
  }
}

const MAX_TEXT = 200;
const MAX_DEPTH = 40;

function tokenize(text: string): Token[] {
  const tokens: Token[] = [];
  let at = 0;
  while (at < text.length) {
    const rest = text.slice(at);
    const space = /^\s+/.exec(rest);
    if (space) {
      at += space[0].length;
      continue;
    }
    const number = readNumber(rest);
    if (number) {
      if (Number.isNaN(number.value)) throw new LengthFault('A fraction cannot be divided by 0.', at);
      tokens.push({ kind: 'number', value: number.value, at });
      at += number.length;
      continue;
    }
    const word = /^(?:[a-zA-Z]+|["″”'′])/.exec(rest);
    if (word) {
      const name = word[0].toLowerCase();
      if (name === 'x') tokens.push({ kind: 'sign', sign: '*', at });
      else {
        const mm = MM_PER_UNIT[name];
        if (mm === undefined)
          throw new LengthFault(`"${word[0]}" is not a unit known here; use mm, cm, in, ft or pt.`, at);
        tokens.push({ kind: 'unit', mm, name, at });
      }
      at += word[0].length;
      continue;
    }
    const sign = /^[-+*/()×÷−–]/.exec(rest);
    if (!sign) throw new LengthFault(`"${rest[0]}" cannot be read as part of a length.`, at);
    const plain = { '×': '*', '÷': '/', '−': '-', '–': '-' }[sign[0]] ?? sign[0];
    tokens.push({ kind: 'sign', sign: plain, at });
    at += 1;
  }
  return tokens;
}

/** A mixed number '4 3/8' or '4½', a fraction '3/8', or a decimal with point or comma; undefined when none starts here. */
function readNumber(rest: string): { value: number; length: number } | undefined {
  const mixed = /^(\d+)\s+(\d+)\/(\d+)(?![\d.,])/.exec(rest);
  if (mixed) {
    const below = Number(mixed[3]);
    return {
      value: below === 0 ? NaN : Number(mixed[1]) + Number(mixed[2]) / below,
      length: mixed[0].length,
    };
  }
  const vulgar = /^(\d*)\s?([¼½¾⅛⅜⅝⅞⅓⅔])/.exec(rest);
  if (vulgar) return { value: Number(vulgar[1] || 0) + VULGAR[vulgar[2]], length: vulgar[0].length };
  const fraction = /^(\d+)\/(\d+)(?![\d.,])/.exec(rest);
  if (fraction) {
    const below = Number(fraction[2]);
    return { value: below === 0 ? NaN : Number(fraction[1]) / below, length: fraction[0].length };
  }
  const decimal = /^(?:\d+(?:[.,]\d*)?|[.,]\d+)/.exec(rest);
  if (decimal) return { value: Number(decimal[0].replace(',', '.')), length: decimal[0].length };
  return undefined;
}

class Reader {
  private next = 0;
  private depth = 0;

  constructor(
    private readonly tokens: readonly Token[],
    private readonly end: number,
    private readonly bareUnitMm: number,
  ) {}

  whole(): number {
    const value = this.sum();
    const left = this.tokens[this.next];
    if (left)
      throw new LengthFault('There is something left over here; put + or - between lengths.', left.at);
    return this.asLength(value).value;
  }

  private sign(...signs: string[]): string | undefined {
    const token = this.tokens[this.next];
    if (token?.kind === 'sign' && signs.includes(token.sign)) {
      this.next += 1;
      return token.sign;
    }
    return undefined;
  }

  private asLength(value: Value): Value {
    return value.dimension === 1 ? value : { value: value.value * this.bareUnitMm, dimension: 1 };
  }

  private sum(): Value {
    let left = this.product();
    for (let sign = this.sign('+', '-'); sign; sign = this.sign('+', '-')) {
      const right = this.product();
      const [a, b] =
        left.dimension === right.dimension ? [left, right] : [this.asLength(left), this.asLength(right)];
      left = { value: sign === '+' ? a.value + b.value : a.value - b.value, dimension: a.dimension };
    }
    return left;
  }

  private product(): Value {
    let left = this.factor();
    for (let sign = this.sign('*', '/'); sign; sign = this.sign('*', '/')) {
      const at = this.tokens[this.next]?.at ?? this.end;
      const right = this.factor();
      if (sign === '*') {
        if (left.dimension + right.dimension > 1)
          throw new LengthFault('Two lengths multiplied are an area; multiply by a plain number.', at);
        left = { value: left.value * right.value, dimension: (left.dimension + right.dimension) as 0 | 1 };
      } else {
        if (right.dimension === 1) throw new LengthFault('Divide by a plain number, not by a length.', at);
        if (right.value === 0) throw new LengthFault('A length cannot be divided by 0.', at);
        left = { value: left.value / right.value, dimension: left.dimension };
      }
    }
    return left;
  }

  private factor(): Value {
    if (++this.depth > MAX_DEPTH)
      throw new LengthFault('Too many signs or brackets inside each other.', this.end);
    try {
      const sign = this.sign('-', '+');
      if (sign) {
        const value = this.factor();
        return sign === '-' ? { ...value, value: -value.value } : value;
      }
      if (this.sign('(')) {
        const value = this.sum();
        if (!this.sign(')'))
          throw new LengthFault('A bracket is not closed.', this.tokens[this.next]?.at ?? this.end);
        return this.withUnit(value);
      }
      const token = this.tokens[this.next];
      if (token?.kind !== 'number')
        throw new LengthFault(
          token ? 'A number should stand here.' : 'The length ends too soon.',
          token?.at ?? this.end,
        );
      this.next += 1;
      return this.withUnit({ value: token.value, dimension: 0 });
    } finally {
      this.depth -= 1;
    }
  }

  private withUnit(value: Value): Value {
    const token = this.tokens[this.next];
    if (token?.kind !== 'unit') return value;
    if (value.dimension === 1) throw new LengthFault('This length has a unit already.', token.at);
    this.next += 1;
    return { value: value.value * token.mm, dimension: 1 };
  }
}

/**
 * Reads a length as a person types it.
 *
 * @param text sums, differences, multiples and brackets of numbers with or without units: `4 3/8in - 2mm`
 * @param bareUnit the unit of numbers that carry none
 * @returns the length in millimetres, or a sentence saying what is wrong and at which character
 */
export function parseLength(text: string, bareUnit: LengthUnit = 'mm'): ParsedLength {
  if (text.trim() === '')
    return { ok: false, message: 'Type a length, such as 12.5 or 4 3/8in - 2mm.', at: 0 };
  if (text.length > MAX_TEXT)
    return { ok: false, message: `A length may have ${MAX_TEXT} characters at most.`, at: MAX_TEXT };
  try {
    const mm = new Reader(tokenize(text), text.length, MM_PER_UNIT[bareUnit]).whole();
    if (!Number.isFinite(mm)) return { ok: false, message: 'This length is too large.', at: 0 };
    return { ok: true, mm };
  } catch (fault) {
    if (fault instanceof LengthFault) return { ok: false, message: fault.message, at: fault.at };
    throw fault;
  }
}

/**
 * Rounds a length to what a ruler shows.
 *
 * @param mm the exact length
 * @param unit millimetres (steps of `stepMm`) or inches (steps of 1/`denominator` in)
 * @returns the rounded length and the error that rounding made, both in mm (error = rounded - exact)
 */
export function roundToRuler(
  mm: number,
  unit: LengthUnit,
  { stepMm = 0.5, denominator = 16 }: { stepMm?: number; denominator?: number } = {},
): { mm: number; errorMm: number } {
  const step = unit === 'mm' ? stepMm : MM_PER_INCH / denominator;
  const rounded = Math.round(mm / step) * step;
  return { mm: rounded, errorMm: rounded - mm };
}

/**
 * Prints a length for reading: `12.5 mm`, or inches as the nearest fraction with a `~` when it is not exact: `~3 7/16 in`.
 * What is shorter than a sixteenth, and no fraction, is said in thousandths: `0.002 in`.
 *
 * @param mm the length in millimetres
 * @param unit the reader's unit
 * @param options decimals of millimetres (trailing zeros dropped), the finest fraction of an inch, whether to print the unit
 */
export function formatLength(
  mm: number,
  unit: LengthUnit,
  {
    decimals = 2,
    denominator = 64,
    withUnit = true,
  }: { decimals?: number; denominator?: number; withUnit?: boolean } = {},
): string {
  if (unit === 'mm') {
    const text = trimZeros(mm.toFixed(decimals));
    return withUnit ? `${text} mm` : text;
  }
  const { text, exact } = fractionOf(mm, denominator);
  const small = !exact && Math.abs(mm) < MM_PER_INCH / 16;
  const said = small ? thousandths(mm / MM_PER_INCH) : `${exact ? '' : '~'}${text}`;
  return withUnit ? `${said} in` : said;
}

/** From so many on, lengths are said in metres, or in feet, mm. */
const LONG_MM = 2000;
const MM_PER_FOOT = 12 * MM_PER_INCH;

/** A length that is a sum, of tape or of glue: what is long in metres, `74.1 m`, or in feet, `243.1 ft`; else to a tenth as it is. */
export function formatLong(mm: number, unit: LengthUnit): string {
  if (Math.abs(mm) < LONG_MM) return formatLength(mm, unit, { decimals: 1 });
  return unit === 'mm' ? `${(mm / 1000).toFixed(1)} m` : `${(mm / MM_PER_FOOT).toFixed(1)} ft`;
}

/** An area in square centimetres, or in square inches, as short as is exact enough for paper. */
export function formatArea(mm2: number, unit: LengthUnit): string {
  if (unit === 'mm') return `${(mm2 / 100).toFixed(1)} cm²`;
  return `${(mm2 / (MM_PER_INCH * MM_PER_INCH)).toFixed(2)} in²`;
}

/** Small inches: to a thousandth, or to the first figure that is not 0. */
const thousandths = (inches: number): string =>
  trimZeros(Math.abs(inches) < 0.0005 ? inches.toFixed(4) : inches.toFixed(3));

/** Inches as the nearest fraction, and whether that is the same to half a micrometre. */
function fractionOf(mm: number, denominator: number): { text: string; exact: boolean } {
  const parts = Math.round((Math.abs(mm) / MM_PER_INCH) * denominator);
  const whole = Math.floor(parts / denominator);
  const top = parts - whole * denominator;
  const shared = top === 0 ? 1 : greatestCommonDivisor(top, denominator);
  const fraction = top === 0 ? '' : `${top / shared}/${denominator / shared}`;
  const sign = mm < 0 && parts > 0 ? '-' : '';
  return {
    text: `${sign}${[whole > 0 || fraction === '' ? String(whole) : '', fraction].filter(Boolean).join(' ')}`,
    exact: Math.abs((parts / denominator) * MM_PER_INCH - Math.abs(mm)) < 0.0005,
  };
}

/**
 * Prints a length so that typing the text back gives the same length to a micrometre: what an edit field starts with.
 * Inches become a fraction where one is exact, else decimals.
 */
export function editableLength(mm: number, unit: LengthUnit): string {
  if (unit === 'mm') return trimZeros(mm.toFixed(3));
  const { text, exact } = fractionOf(mm, 64);
  return exact ? text : trimZeros((mm / MM_PER_INCH).toFixed(5));
}

/** Lengths in a sentence: a number with its unit, and numbers that share it (`12 of the 30 mm`). */
const LENGTHS = /(\d+(?:\.\d+)?)((?:(?:,| and| or| to| of| of the| x) \d+(?:\.\d+)?)*) mm(?![\w²])/g;

/** A place in a part's plane: `(35.0, -24.5)`. */
const PLACE = /\((-?\d+\.\d), (-?\d+\.\d)\)/g;

/**
 * A sentence of the core, which are all in millimetres, with its lengths in the reader's unit. Areas and other figures stay.
 *
 * @param sentence text with figures such as `12.5 mm`, `3 and 4 mm`
 */
export function sentenceIn(sentence: string, unit: LengthUnit): string {
  if (unit === 'mm') return sentence;
  const inches = (figure: string) => formatLength(Number(figure), unit, { withUnit: false });
  const placed = sentence.replace(
    PLACE,
    (_, x: string, y: string) => `(${[x, y].map((v) => (Number(v) / MM_PER_INCH).toFixed(2)).join(', ')})`,
  );
  return placed.replace(
    LENGTHS,
    (_, first: string, more: string) => `${inches(first)}${more.replace(/\d+(?:\.\d+)?/g, inches)} in`,
  );
}

function trimZeros(text: string): string {
  const trimmed = text.includes('.') ? text.replace(/\.?0+$/, '') : text;
  return trimmed === '-0' ? '0' : trimmed;
}

function greatestCommonDivisor(a: number, b: number): number {
  return b === 0 ? a : greatestCommonDivisor(b, a % b);
}
