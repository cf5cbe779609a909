/** Lengths, view boxes and transforms of an SVG drawing, and how large its page is. */
import { after, UNMOVED, type Affine } from '../../geometry/affine.ts';
import { isPlainMap, type SizeOffer } from './drawing.ts';
import type { Element } from './xml.ts';

const MM_PER_IN = 25.4;
/** Units of paper, in mm. */
const PAPER_UNITS: Readonly<Record<string, number>> = {
  mm: 1,
  cm: 10,
  in: MM_PER_IN,
  pt: MM_PER_IN / 72,
  pc: MM_PER_IN / 6,
  q: 0.25,
};
/** Units within a drawing, in user units: an inch is 96 of them. */
export const USER_UNITS: Readonly<Record<string, number>> = {
  '': 1,
  px: 1,
  in: 96,
  cm: 96 / 2.54,
  mm: 96 / MM_PER_IN,
  pt: 96 / 72,
  pc: 16,
  q: 96 / MM_PER_IN / 4,
  em: 16,
  ex: 8,
};

const LENGTH = /^\s*([-+]?(?:\d+\.?\d*|\.\d+)(?:e[-+]?\d+)?)\s*([a-z]*|%)\s*$/i;

/** A length as number and unit, small letters; undefined where it is none. */
export function lengthOf(text: string | undefined): { value: number; unit: string } | undefined {
  const read = text === undefined ? null : LENGTH.exec(text);
  return read ? { value: Number(read[1]), unit: read[2].toLowerCase() } : undefined;
}

interface ViewBox {
  readonly x: number;
  readonly y: number;
  readonly width: number;
  readonly height: number;
}

export function viewBoxOf(element: Element): ViewBox | undefined {
  const [x, y, width, height] = (element.attributes.get('viewBox') ?? '')
    .trim()
    .split(/[\s,]+/)
    .map(Number);
  return [x, y, width, height].every(Number.isFinite) && width > 0 && height > 0
    ? { x, y, width, height }
    : undefined;
}

/** The map that fits a view box into a room, as it asks: evenly and in the middle, unless it says otherwise. */
export function fitting(box: ViewBox, width: number, height: number, how: string | undefined): Affine {
  const words = (how ?? 'xMidYMid meet')
    .trim()
    .split(/\s+/)
    .filter((word) => word !== 'defer');
  const [sx, sy] = [width / box.width, height / box.height];
  if (words[0] === 'none') return { a: sx, b: 0, c: 0, d: sy, e: -box.x * sx, f: -box.y * sy };
  const scale = words[1] === 'slice' ? Math.max(sx, sy) : Math.min(sx, sy);
  const share = (word: string) => (word === 'Min' ? 0 : word === 'Max' ? 1 : 0.5);
  const align = /^x(Min|Mid|Max)Y(Min|Mid|Max)$/.exec(words[0] ?? '');
  const [px, py] = align ? [share(align[1]), share(align[2])] : [0.5, 0.5];
  return {
    a: scale,
    b: 0,
    c: 0,
    d: scale,
    e: -box.x * scale + px * (width - box.width * scale),
    f: -box.y * scale + py * (height - box.height * scale),
  };
}

const ANGLES: Readonly<Record<string, number>> = {
  '': Math.PI / 180,
  deg: Math.PI / 180,
  rad: 1,
  grad: Math.PI / 200,
  turn: 2 * Math.PI,
};

/** A transform attribute as one map; undefined where it cannot be read. */
export function transformOf(text: string | undefined): Affine | undefined {
  if (text === undefined || text.trim() === '' || text.trim() === 'none') return UNMOVED;
  let map = UNMOVED;
  let rest = text.trim();
  while (rest !== '') {
    const read = /^([a-zA-Z]+)\s*\(([^()]*)\)[\s,]*/.exec(rest);
    if (!read) return undefined;
    rest = rest.slice(read[0].length);
    const args =
      read[2].trim() === ''
        ? []
        : read[2]
            .trim()
            .split(/[\s,]+/)
            .map(lengthOf);
    if (args.some((arg) => !arg)) return undefined;
    const n = args.map((arg) => arg!.value * (USER_UNITS[arg!.unit] ?? 1));
    const angle = (i: number) => (args[i] ? args[i].value * (ANGLES[args[i].unit] ?? NaN) : 0);
    let one: Affine;
    switch (read[1]) {
      case 'matrix':
        if (n.length !== 6) return undefined;
        one = { a: n[0], b: n[1], c: n[2], d: n[3], e: n[4], f: n[5] };
        break;
      case 'translate':
        one = { ...UNMOVED, e: n[0] ?? 0, f: n[1] ?? 0 };
        break;
      case 'translateX':
        one = { ...UNMOVED, e: n[0] ?? 0 };
        break;
      case 'translateY':
        one = { ...UNMOVED, f: n[0] ?? 0 };
        break;
      case 'scale':
        one = { ...UNMOVED, a: n[0] ?? 1, d: n[1] ?? n[0] ?? 1 };
        break;
      case 'rotate': {
        const [c, s] = [Math.cos(angle(0)), Math.sin(angle(0))];
        const [x, y] = [n[1] ?? 0, n[2] ?? 0];
        one = { a: c, b: s, c: -s, d: c, e: x - c * x + s * y, f: y - s * x - c * y };
        break;
      }
      case 'skewX':
        one = { ...UNMOVED, c: Math.tan(angle(0)) };
        break;
      case 'skewY':
        one = { ...UNMOVED, b: Math.tan(angle(0)) };
        break;
      default:
        return undefined;
    }
    map = after(map, one);
  }
  return isPlainMap(map) ? map : undefined;
}

/** How large the page is said to be, and what a unit of the drawing may be. */
export function sizesOf(root: Element): { page: Affine; sizes: SizeOffer[]; sure: boolean } {
  const box = viewBoxOf(root);
  const [width, height] = [lengthOf(root.attributes.get('width')), lengthOf(root.attributes.get('height'))];
  const aspect = root.attributes.get('preserveAspectRatio');
  const offers = (perInch: readonly number[], also: readonly SizeOffer[] = []): SizeOffer[] => [
    ...perInch.map((n) => ({ label: `${n} units to the inch`, mmPerUnit: MM_PER_IN / n })),
    ...also,
  ];
  const inMm = (length: typeof width) => (length ? PAPER_UNITS[length.unit] : undefined);
  const [wide, high] = [inMm(width), inMm(height)];
  const sized = width && height && width.value > 0 && height.value > 0 ? { width, height } : undefined;
  if (sized && wide !== undefined && high !== undefined) {
    if (box)
      return {
        page: fitting(box, sized.width.value * wide, sized.height.value * high, aspect),
        sizes: [{ label: 'As the file says', mmPerUnit: 1 }],
        sure: true,
      };
    return { page: UNMOVED, sizes: offers([96, 90, 72]), sure: false };
  }
  // One of the two may be said: the other follows from the box.
  const said = width && wide !== undefined ? width.value * wide : undefined;
  if (box && said !== undefined && said > 0 && !height)
    return {
      page: fitting(box, said, (said * box.height) / box.width, aspect),
      sizes: [{ label: 'As the file says', mmPerUnit: 1 }],
      sure: true,
    };
  const inUnits = (length: typeof width) =>
    length && USER_UNITS[length.unit] !== undefined ? length.value * USER_UNITS[length.unit] : undefined;
  const [w, h] = [inUnits(width), inUnits(height)];
  if (w !== undefined && h !== undefined && w > 0 && h > 0)
    return { page: box ? fitting(box, w, h, aspect) : UNMOVED, sizes: offers([96, 72, 90]), sure: false };
  return {
    page: UNMOVED,
    sizes: offers([96, 72, 90], [{ label: '1 unit is 1 mm', mmPerUnit: 1 }]),
    sure: false,
  };
}
