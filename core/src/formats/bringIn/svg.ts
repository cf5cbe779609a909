/**
 * Reads the lines of an SVG drawing: paths and shapes with their transforms, groups, styles and units; what is referred to is
 * drawn where it is used. Text, pictures and scripts are counted and said, never run or fetched.
 */
import { after, UNMOVED, type Affine } from '../../geometry/affine.ts';
import type { Point } from '../../geometry/point.ts';
import {
  BEYOND,
  Counted,
  isPlainMap,
  NotReadable,
  Notes,
  READ_LIMITS,
  type Drawing,
  type DrawnLine,
} from './drawing.ts';
import { Pen } from './pen.ts';
import { drawPathData } from './svgPath.ts';
import { fitting, lengthOf, sizesOf, transformOf, USER_UNITS, viewBoxOf } from './svgUnits.ts';
import { colourOf, FIRST_STYLE, Styles, type Style } from './svgStyle.ts';
import { localName, readXml, type Element } from './xml.ts';

/** Elements that are not drawn where they stand. */
const NOT_DRAWN = new Set([
  'defs',
  'symbol',
  'marker',
  'pattern',
  'clipPath',
  'mask',
  'style',
  'metadata',
  'title',
  'desc',
  'linearGradient',
  'radialGradient',
  'filter',
  'font',
  'cursor',
  'view',
]);
/** What is counted and said. */
const SAID: Readonly<Record<string, string>> = {
  text: 'Text was left out: make it outlines first, or set it here as words',
  image: 'A picture was left out: bring it in as a backdrop',
  foreignObject: 'A foreign object was left out',
  script: 'A script was left out: nothing of a file is ever run',
  animate: 'An animation was left out',
  animateTransform: 'An animation was left out',
  set: 'An animation was left out',
};

/** Where an element stands: what is handed down to it. */
interface Within {
  readonly style: Style;
  /** The outermost named group. */
  readonly layer: string;
  /** What is being drawn where it is referred to, outermost first. */
  readonly uses: readonly Element[];
  /** Something round it is not displayed: nothing within is, whatever it says. */
  readonly gone: boolean;
}

/** References within references are followed so deep. */
const MOST_USES = 20;

class Reader {
  readonly lines: DrawnLine[] = [];
  readonly hidden: DrawnLine[] = [];
  readonly notes = new Notes();
  private readonly segments = new Counted(READ_LIMITS.segments, 'pieces of lines');
  private readonly drawn = new Counted(READ_LIMITS.elements, 'elements when what it refers to is drawn');
  private readonly byId = new Map<string, Element>();
  private readonly styles: Styles;

  constructor(root: Element) {
    const sheets: string[] = [];
    const visit = [root];
    for (let at = visit.pop(); at; at = visit.pop()) {
      const id = at.attributes.get('id');
      if (id !== undefined && !this.byId.has(id)) this.byId.set(id, at);
      if (localName(at.name) === 'style') sheets.push(at.text);
      visit.push(...at.children);
    }
    this.styles = new Styles(sheets);
  }

  /** Draws an element and what is in it. */
  draw(element: Element, map: Affine, within: Within): void {
    const name = localName(element.name);
    if (Object.hasOwn(SAID, name)) return this.notes.add(SAID[name]);
    if (NOT_DRAWN.has(name)) return;
    this.drawn.add();
    const style = this.styles.of(element, within.style);
    const own = transformOf(element.attributes.get('transform'));
    if (!own) this.notes.add('A transform could not be read: what it moves lies where it was drawn');
    const placed = after(map, own ?? UNMOVED);
    if (!isPlainMap(placed)) return this.notes.add(BEYOND);
    for (const what of ['clip-path', 'mask'])
      if (element.attributes.has(what) && element.attributes.get(what) !== 'none')
        this.notes.add('Something is clipped: it came in whole');
    const inner: Within = { ...within, style, gone: within.gone || style.display === 'none' };
    switch (name) {
      case 'svg':
        return this.children(element, this.viewport(element, placed), inner);
      case 'g':
      case 'a':
      case 'switch':
        return this.children(element, placed, { ...inner, layer: inner.layer || this.nameOf(element) });
      case 'use':
        return this.use(element, placed, inner);
      default:
        this.shape(name, element, placed, inner);
    }
  }

  private children(element: Element, map: Affine, within: Within): void {
    for (const child of element.children) this.draw(child, map, within);
  }

  private nameOf(element: Element): string {
    for (const [key, value] of element.attributes)
      if (localName(key) === 'label' && value.trim() !== '') return value.trim().slice(0, 80);
    return (element.attributes.get('id') ?? '').slice(0, 80);
  }

  /** A drawing within the drawing: in its own place and size. */
  private viewport(element: Element, map: Affine): Affine {
    if (element.parent === null) return map;
    const [x, y] = [this.user(element, 'x'), this.user(element, 'y')];
    const box = viewBoxOf(element);
    const moved = after(map, { ...UNMOVED, e: x, f: y });
    if (!box) return moved;
    const [w, h] = [this.user(element, 'width', box.width), this.user(element, 'height', box.height)];
    return after(moved, fitting(box, w, h, element.attributes.get('preserveAspectRatio')));
  }

  /** What an element refers to, drawn where it is used. */
  private use(element: Element, map: Affine, within: Within): void {
    const href =
      element.attributes.get('href') ??
      [...element.attributes].find(([key]) => localName(key) === 'href')?.[1] ??
      '';
    if (!href.startsWith('#')) return this.notes.add('Something refers to another file: it was not fetched');
    const target = this.byId.get(href.slice(1));
    if (!target) return this.notes.add('Something refers to what is not in the file');
    if (within.uses.includes(target) || within.uses.length >= MOST_USES)
      return this.notes.add('Something refers to itself, or too deep: it was left out there');
    const moved = after(map, { ...UNMOVED, e: this.user(element, 'x'), f: this.user(element, 'y') });
    const name = localName(target.name);
    const inner = { ...within, uses: [...within.uses, target] };
    if (name !== 'symbol' && name !== 'svg') return this.draw(target, moved, inner);
    const box = viewBoxOf(target);
    const room = box
      ? fitting(
          box,
          this.user(element, 'width', this.user(target, 'width', box.width)),
          this.user(element, 'height', this.user(target, 'height', box.height)),
          target.attributes.get('preserveAspectRatio'),
        )
      : UNMOVED;
    this.children(target, after(moved, room), {
      ...inner,
      style: this.styles.of(target, within.style),
      layer: within.layer || this.nameOf(target),
    });
  }

  /** A length of an element in user units. */
  private user(element: Element, key: string, usual = 0): number {
    const read = lengthOf(element.attributes.get(key));
    if (!read) return usual;
    if (read.unit === '%') return usual;
    const unit = USER_UNITS[read.unit];
    return unit === undefined ? usual : read.value * unit;
  }

  private shape(name: string, element: Element, map: Affine, { style, layer, gone }: Within): void {
    const pen = new Pen(map, this.segments, this.notes);
    const n = (key: string, usual = 0) => this.user(element, key, usual);
    const ring = (cx: number, cy: number, rx: number, ry: number) => {
      pen.move([cx + rx, cy]);
      pen.ellipse([cx, cy], rx, ry, 0, 0, 2 * Math.PI, [cx + rx, cy]);
      pen.close();
    };
    switch (name) {
      case 'path': {
        const fault = drawPathData(element.attributes.get('d') ?? '', pen);
        pen.end();
        if (fault) this.notes.add(`A line is broken: ${fault}; what precedes it came in`);
        break;
      }
      case 'line':
        pen.move([n('x1'), n('y1')]);
        pen.line([n('x2'), n('y2')]);
        break;
      case 'polyline':
      case 'polygon': {
        const figures =
          (element.attributes.get('points') ?? '').match(/[-+]?(?:\d+\.?\d*|\.\d+)(?:e[-+]?\d+)?/gi) ?? [];
        const points: Point[] = [];
        for (let i = 0; i + 1 < figures.length; i += 2)
          points.push([Number(figures[i]), Number(figures[i + 1])]);
        points.forEach((p, i) => (i === 0 ? pen.move(p) : pen.line(p)));
        if (name === 'polygon') pen.close();
        break;
      }
      case 'rect': {
        const [x, y, w, h] = [n('x'), n('y'), n('width'), n('height')];
        if (!(w > 0 && h > 0)) break;
        // One radius said is both; neither is more than half its side.
        const [rawX, rawY] = [n('rx', NaN), n('ry', NaN)];
        const rx = Math.min(w / 2, Number.isNaN(rawX) ? (Number.isNaN(rawY) ? 0 : rawY) : rawX);
        const ry = Math.min(h / 2, Number.isNaN(rawY) ? (Number.isNaN(rawX) ? 0 : rawX) : rawY);
        if (!(rx > 0 && ry > 0)) {
          pen.move([x, y]);
          for (const p of [
            [x + w, y],
            [x + w, y + h],
            [x, y + h],
          ] as Point[])
            pen.line(p);
        } else {
          const corner = (cx: number, cy: number, from: number, to: Point) =>
            pen.ellipse([cx, cy], rx, ry, 0, from, Math.PI / 2, to);
          pen.move([x + rx, y]);
          pen.line([x + w - rx, y]);
          corner(x + w - rx, y + ry, -Math.PI / 2, [x + w, y + ry]);
          pen.line([x + w, y + h - ry]);
          corner(x + w - rx, y + h - ry, 0, [x + w - rx, y + h]);
          pen.line([x + rx, y + h]);
          corner(x + rx, y + h - ry, Math.PI / 2, [x, y + h - ry]);
          pen.line([x, y + ry]);
          corner(x + rx, y + ry, Math.PI, [x + rx, y]);
        }
        pen.close();
        break;
      }
      case 'circle':
        if (n('r') > 0) ring(n('cx'), n('cy'), n('r'), n('r'));
        break;
      case 'ellipse': {
        const [rx, ry] = [n('rx', n('ry')), n('ry', n('rx'))];
        if (rx > 0 && ry > 0) ring(n('cx'), n('cy'), rx, ry);
        break;
      }
      default:
        return;
    }
    pen.end();
    if (pen.paths.length === 0) return;
    const opaque = (value: string) => Number.parseFloat(value) > 0;
    const stroke = colourOf(style.stroke, style.color) ?? (style.stroke.startsWith('url(') ? '#000000' : '');
    const fill = colourOf(style.fill, style.color) ?? (style.fill.startsWith('url(') ? '#808080' : '');
    const width = lengthOf(style['stroke-width']);
    const stroked = stroke !== '' && opaque(style['stroke-opacity']) && (width ? width.value > 0 : true);
    const filled = fill !== '' && opaque(style['fill-opacity']);
    const isHidden =
      gone || style.visibility !== 'visible' || !opaque(style.opacity) || (!stroked && !filled);
    const size = Math.sqrt(Math.abs(map.a * map.d - map.b * map.c));
    const pass = Number.parseInt(element.attributes.get('data-pass') ?? '1', 10);
    const dash = stroked ? dashOf(style['stroke-dasharray'], size) : [];
    for (const path of pen.paths)
      (isHidden ? this.hidden : this.lines).push({
        path,
        layer,
        colour: stroked ? stroke : fill,
        dash,
        filled: !stroked && filled,
        ...(pass > 1 ? { pass } : {}),
      });
  }
}

/** Lengths drawn and left in turn, in units of the page; an odd list repeats, all zeros are solid. */
function dashOf(text: string, size: number): number[] {
  if (text === 'none') return [];
  const list = text.split(/[\s,]+/).map((word) => {
    const read = lengthOf(word);
    return read ? read.value * (USER_UNITS[read.unit] ?? 1) * size : NaN;
  });
  if (list.some((value) => !(value >= 0)) || list.every((value) => value === 0)) return [];
  return list.length % 2 === 1 ? [...list, ...list] : list;
}

/**
 * Reads an SVG drawing.
 *
 * @throws NotReadable where it is none, or beyond the limits
 */
export function readSvg(text: string): Drawing {
  const root = readXml(text.replace(/^\uFEFF/, ''));
  if (localName(root.name) !== 'svg')
    throw new NotReadable(`It is no SVG drawing: its root is “${root.name.slice(0, 40)}”.`);
  const { page, sizes, sure } = sizesOf(root);
  const reader = new Reader(root);
  // Upwards: what SVG counts down from the top of the page.
  const upright: Affine = { a: 1, b: 0, c: 0, d: -1, e: 0, f: 0 };
  reader.draw(root, after(upright, page), { style: FIRST_STYLE, layer: '', uses: [], gone: false });
  const { lines, hidden, notes } = reader;
  if (hidden.length > 0)
    notes.add(
      hidden.length === 1
        ? '1 hidden line was left out: it can be taken in'
        : `${hidden.length} hidden lines were left out: they can be taken in`,
    );
  return { lines, hidden, sizes, sure, notes: notes.list() };
}
