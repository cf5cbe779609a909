/** Path data of SVG: every command, its flags and its shortest spellings. What precedes an error is kept, and the error told. */
import type { Point } from '../../geometry/point.ts';
import type { Pen } from './pen.ts';

const SPACE = new Set([' ', '\t', '\n', '\r', '\f', ',']);
const isDigit = (c: string | undefined): boolean => c !== undefined && c >= '0' && c <= '9';

/** Reads numbers and flags one after the other, without looking back. */
class Numbers {
  at = 0;

  constructor(readonly text: string) {}

  skip(): void {
    while (SPACE.has(this.text[this.at])) this.at += 1;
  }

  /** The next number; undefined where there is none. */
  number(): number | undefined {
    this.skip();
    const { text } = this;
    let i = this.at;
    if (text[i] === '+' || text[i] === '-') i += 1;
    const whole = i;
    while (isDigit(text[i])) i += 1;
    let digits = i - whole;
    if (text[i] === '.') {
      i += 1;
      const part = i;
      while (isDigit(text[i])) i += 1;
      digits += i - part;
    }
    if (digits === 0) return undefined;
    if (text[i] === 'e' || text[i] === 'E') {
      let j = i + 1;
      if (text[j] === '+' || text[j] === '-') j += 1;
      if (isDigit(text[j])) {
        while (isDigit(text[j])) j += 1;
        i = j;
      }
    }
    const value = Number(text.slice(this.at, i));
    this.at = i;
    return value;
  }

  /** A flag is one figure, 0 or 1: what follows it may stand right beside it. */
  flag(): boolean | undefined {
    this.skip();
    const c = this.text[this.at];
    if (c !== '0' && c !== '1') return undefined;
    this.at += 1;
    return c === '1';
  }
}

/** How many figures each command takes. */
const TAKES: Readonly<Record<string, number>> = {
  m: 2,
  l: 2,
  h: 1,
  v: 1,
  c: 6,
  s: 4,
  q: 4,
  t: 2,
  a: 7,
  z: 0,
};

/**
 * Draws path data.
 *
 * @returns where and why it breaks off, in words; undefined when all of it was read
 */
export function drawPathData(text: string, pen: Pen): string | undefined {
  const read = new Numbers(text);
  let command = '';
  /** The last handle, for curves that go on smoothly: of a cubic and of a quadratic. */
  let [cubic, quadratic]: (Point | undefined)[] = [undefined, undefined];
  let drawn = false;
  for (;;) {
    read.skip();
    const c = text[read.at];
    if (c === undefined) break;
    if (/[a-z]/i.test(c) && c !== 'e' && c !== 'E') {
      if (TAKES[c.toLowerCase()] === undefined)
        return `its path breaks off at “${c}”, place ${read.at + 1}: there is no such command`;
      command = c;
      read.at += 1;
    } else if (command === '' || command === 'z' || command === 'Z')
      return `its path breaks off at place ${read.at + 1}: a command was expected`;
    if (!drawn && command !== 'm' && command !== 'M')
      return 'its path does not begin with a move, so it draws nothing';
    const kind = command.toLowerCase();
    const relative = command === kind;
    const [x0, y0] = pen.at;
    const figures: number[] = [];
    for (let i = 0; i < TAKES[kind]; i++) {
      const value = kind === 'a' && (i === 3 || i === 4) ? read.flag() : read.number();
      if (value === undefined)
        return `its path breaks off at place ${read.at + 1}: “${command}” wants ${TAKES[kind]} figures`;
      figures.push(Number(value));
    }
    const point = (i: number): Point =>
      relative ? [x0 + figures[i], y0 + figures[i + 1]] : [figures[i], figures[i + 1]];
    const mirrored = (handle: Point | undefined): Point =>
      handle ? [2 * x0 - handle[0], 2 * y0 - handle[1]] : [x0, y0];
    let [nextCubic, nextQuadratic]: (Point | undefined)[] = [undefined, undefined];
    switch (kind) {
      case 'm':
        pen.move(point(0));
        drawn = true;
        // Further pairs are lines.
        command = relative ? 'l' : 'L';
        break;
      case 'l':
        pen.line(point(0));
        break;
      case 'h':
        pen.line([relative ? x0 + figures[0] : figures[0], y0]);
        break;
      case 'v':
        pen.line([x0, relative ? y0 + figures[0] : figures[0]]);
        break;
      case 'c':
        nextCubic = point(2);
        pen.cubic(point(0), nextCubic, point(4));
        break;
      case 's':
        nextCubic = point(0);
        pen.cubic(mirrored(cubic), nextCubic, point(2));
        break;
      case 'q':
        nextQuadratic = point(0);
        pen.quadratic(nextQuadratic, point(2));
        break;
      case 't':
        nextQuadratic = mirrored(quadratic);
        pen.quadratic(nextQuadratic, point(0));
        break;
      case 'a':
        pen.arcTo(figures[0], figures[1], figures[2], figures[3] === 1, figures[4] === 1, point(5));
        break;
      default:
        pen.close();
    }
    [cubic, quadratic] = [nextCubic, nextQuadratic];
  }
  pen.end();
  return undefined;
}
