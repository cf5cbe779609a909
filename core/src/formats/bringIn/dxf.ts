/**
 * Reads the lines of a DXF drawing: lines, polylines with bulges, arcs, circles, ellipses, splines and blocks, on their layers,
 * in their units. Group codes are read one after the other and nothing that a file counts is trusted.
 */
import { after, turnedAbout, UNMOVED, type Affine } from '../../geometry/affine.ts';
import { arcGeometry } from '../../geometry/path.ts';
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
  type SizeOffer,
} from './drawing.ts';
import { Groups, named, sectionsOf, type Entity, type Layer, type Read } from './dxfGroups.ts';
import { drawSpline } from './spline.ts';
import { Pen } from './pen.ts';

/** What $INSUNITS means, in mm. */
const UNITS: Readonly<Record<number, number>> = {
  1: 25.4,
  2: 304.8,
  4: 1,
  5: 10,
  6: 1000,
  8: 2.54e-5,
  9: 0.0254,
  10: 914.4,
  13: 0.001,
  14: 100,
};

/** The first colours of the index; others are told by their number. */
const COLOURS: Readonly<Record<number, string>> = {
  1: '#ff0000',
  2: '#ffff00',
  3: '#00ff00',
  4: '#00ffff',
  5: '#0000ff',
  6: '#ff00ff',
  7: '#000000',
  8: '#808080',
  9: '#c0c0c0',
  30: '#ff7f00',
  250: '#333333',
  251: '#505050',
  252: '#696969',
  253: '#828282',
  254: '#bebebe',
  255: '#ffffff',
};

/** A colour of the index as #rrggbb: hues in ten steps of brightness, as the index orders them. */
export function indexColour(index: number): string {
  if (Object.hasOwn(COLOURS, index)) return COLOURS[index];
  if (index < 10 || index > 249) return '#000000';
  const hue = (Math.floor(index / 10) - 1) * 15;
  const value = [1, 0.65, 0.5, 0.3, 0.15][Math.floor((index % 10) / 2)];
  const pale = index % 2 === 1 ? 0.5 : 0;
  const channel = (shift: number) => {
    const k = (shift + hue / 60) % 6;
    const full = Math.max(0, Math.min(1, Math.min(k, 4 - k)));
    return Math.round(255 * value * (pale + (1 - pale) * full))
      .toString(16)
      .padStart(2, '0');
  };
  return `#${channel(2)}${channel(0)}${channel(4)}`;
}

/** Entities that are drawn; others are counted and said. */
const LEFT_OUT: Readonly<Record<string, string>> = {
  TEXT: 'Text was left out: set it here as words',
  MTEXT: 'Text was left out: set it here as words',
  ATTRIB: 'Text was left out: set it here as words',
  ATTDEF: 'Text was left out: set it here as words',
  HATCH: 'A hatching was left out',
  DIMENSION: 'A measure was left out',
  LEADER: 'A measure was left out',
  IMAGE: 'A picture was left out: bring it in as a backdrop',
  POINT: 'A point was left out',
  VIEWPORT: '',
};

interface Within {
  readonly map: Affine;
  /** The layer, colour and dash of the insert: for what is on layer 0, or of its block’s colour. */
  readonly layer: string | undefined;
  readonly colour: number | undefined;
  readonly depth: number;
}

class Reader {
  readonly lines: DrawnLine[] = [];
  readonly hidden: DrawnLine[] = [];
  readonly notes = new Notes();
  private readonly segments = new Counted(READ_LIMITS.segments, 'pieces of lines');
  private readonly drawn = new Counted(READ_LIMITS.elements, 'entities when its blocks are drawn');
  private readonly scale: number;

  constructor(private readonly read: Read) {
    this.scale = Number(read.header.get('$LTSCALE') ?? 1) || 1;
  }

  draw(entity: Entity, within: Within): void {
    this.drawn.add();
    const g = new Groups(entity.groups);
    if (g.number(67) === 1 || g.number(60) === 1)
      return this.notes.add('What lies in paper space, or is invisible, was left out');
    const { type } = entity;
    if (Object.hasOwn(LEFT_OUT, type))
      return LEFT_OUT[type] === '' ? undefined : this.notes.add(LEFT_OUT[type]);
    const ownLayer = named(g.text(8) ?? '0');
    const layerName = ownLayer === '0' && within.layer !== undefined ? within.layer : ownLayer;
    const layer = this.read.layers.get(layerName.toLowerCase());
    const own = g.number(62, 256);
    const colour = own === 256 ? (layer?.colour ?? 7) : own === 0 ? (within.colour ?? 7) : Math.abs(own);
    // Seen from behind: x runs the other way for what is drawn in its own plane.
    const behind = g.number(230, 1) < 0;
    const flat: Affine = behind ? { ...UNMOVED, a: -1 } : UNMOVED;
    if (type === 'INSERT') return this.insert(g, within, layerName, colour, flat);
    const inOwnPlane = type !== 'LINE' && type !== 'ELLIPSE' && type !== 'SPLINE';
    const map = inOwnPlane ? after(within.map, flat) : within.map;
    if (!isPlainMap(map)) return this.notes.add(BEYOND);
    const pen = new Pen(map, this.segments, this.notes);
    if (!this.shape(entity, g, pen, behind))
      return this.notes.add(`An entity of the kind ${type.slice(0, 30)} was left out`);
    pen.end();
    const dash = this.dashOf(g, layer);
    for (const path of pen.paths)
      (layer?.off ? this.hidden : this.lines).push({
        path,
        layer: layerName,
        colour: indexColour(colour),
        dash,
        filled: false,
      });
  }

  private dashOf(g: Groups, layer: Layer | undefined): number[] {
    const name = named(g.text(6) ?? 'bylayer').toLowerCase();
    const pattern = this.read.dashes.get(name === 'bylayer' ? (layer?.dash ?? '') : name) ?? [];
    const size = this.scale * g.number(48, 1);
    const dash = pattern.map((each) => Math.abs(each) * size);
    return dash.length > 1 && dash.some((each) => each > 0) ? dash : [];
  }

  /** A block where it is inserted: from its base, made larger, turned, moved; in rows and columns. */
  private insert(g: Groups, within: Within, layer: string, colour: number, flat: Affine): void {
    const block = this.read.blocks.get(named(g.text(2) ?? '').toLowerCase());
    if (!block) return this.notes.add('A block is inserted that is not in the file');
    if (within.depth > 30)
      return this.notes.add('Blocks are inserted in each other too deep: the rest was left out');
    const [x, y] = g.point(10);
    const turn = turnedAbout([0, 0], (g.number(50) * Math.PI) / 180);
    const size: Affine = { ...UNMOVED, a: g.number(41, 1), d: g.number(42, 1) };
    const base: Affine = { ...UNMOVED, e: -block.base[0], f: -block.base[1] };
    const [columns, rows] = [70, 71].map((code) =>
      Math.max(1, Math.min(10_000, Math.floor(g.number(code, 1)))),
    );
    for (let column = 0; column < columns; column++)
      for (let row = 0; row < rows; row++) {
        // A block with nothing in it counts as well: a file may ask for it a hundred million times.
        this.drawn.add();
        // The spacing is turned with the block, and not made larger.
        const spaced: Affine = { ...UNMOVED, e: column * g.number(44), f: row * g.number(45) };
        const own = after(
          flat,
          after({ ...UNMOVED, e: x, f: y }, after(turn, after(spaced, after(size, base)))),
        );
        const map = after(within.map, own);
        for (const entity of block.entities)
          this.draw(entity, { map, layer, colour, depth: within.depth + 1 });
      }
  }

  /** Draws one entity; false where its kind is not known. */
  private shape({ type, vertices }: Entity, g: Groups, pen: Pen, behind: boolean): boolean {
    const rad = Math.PI / 180;
    switch (type) {
      case 'LINE':
        pen.move(g.point(10));
        pen.line(g.point(11));
        return true;
      case 'CIRCLE': {
        const [c, r] = [g.point(10), g.number(40)];
        if (!(r > 0)) return true;
        pen.move([c[0] + r, c[1]]);
        pen.ellipse(c, r, r, 0, 0, 2 * Math.PI, [c[0] + r, c[1]]);
        pen.close();
        return true;
      }
      case 'ARC': {
        const [c, r] = [g.point(10), g.number(40)];
        const [from, to] = [g.number(50) * rad, g.number(51) * rad];
        if (!(r > 0)) return true;
        let sweep = (to - from) % (2 * Math.PI);
        if (sweep <= 1e-12) sweep += 2 * Math.PI;
        const on = (angle: number): Point => [c[0] + r * Math.cos(angle), c[1] + r * Math.sin(angle)];
        pen.move(on(from));
        pen.ellipse(c, r, r, 0, from, sweep, on(from + sweep));
        return true;
      }
      case 'ELLIPSE': {
        const [c, axis, share] = [g.point(10), g.point(11), g.number(40, 1)];
        const long = Math.hypot(...axis);
        if (!(long > 0)) return true;
        const sense = behind ? -1 : 1;
        const from = g.number(41);
        let sweep = g.number(42, 2 * Math.PI) - from;
        if (sweep <= 1e-12) sweep += 2 * Math.PI;
        const turn = Math.atan2(axis[1], axis[0]);
        const on = (t: number): Point => {
          const [x, y] = [long * Math.cos(t), sense * long * share * Math.sin(t)];
          return [
            c[0] + x * Math.cos(turn) - y * Math.sin(turn),
            c[1] + x * Math.sin(turn) + y * Math.cos(turn),
          ];
        };
        pen.move(on(from));
        pen.ellipse(c, long, sense * long * share, turn, from, sweep, on(from + sweep));
        if (sweep > 2 * Math.PI - 1e-9) pen.close();
        return true;
      }
      case 'LWPOLYLINE': {
        const points: { at: [number, number]; bulge: number }[] = [];
        for (const [code, value] of g.list) {
          if (code === 10) points.push({ at: [Number(value) || 0, 0], bulge: 0 });
          else if (code === 20 && points.length > 0) points[points.length - 1].at[1] = Number(value) || 0;
          else if (code === 42 && points.length > 0) points[points.length - 1].bulge = Number(value) || 0;
        }
        this.chain(points, (g.number(70) & 1) === 1, pen);
        return true;
      }
      case 'POLYLINE': {
        const flags = g.number(70);
        if (flags & (16 | 64)) return false;
        const points = vertices.flatMap((vertex) => {
          const v = new Groups(vertex.groups);
          // The frame of a fitted spline is not drawn.
          return v.number(70) & 16 ? [] : [{ at: v.point(10), bulge: v.number(42) }];
        });
        this.chain(points, (flags & 1) === 1, pen);
        return true;
      }
      case 'SPLINE': {
        const [xs, ys] = [g.all(10), g.all(20)];
        const fault = drawSpline(
          {
            degree: g.number(71, 3),
            knots: g.all(40),
            points: xs.map((x, i): Point => [x, ys[i] ?? 0]),
            weights: g.all(41),
            fit: g.all(11).map((x, i): Point => [x, g.all(21)[i] ?? 0]),
            closed: (g.number(70) & 1) === 1,
          },
          pen,
        );
        if (fault) this.notes.add(fault);
        return true;
      }
      case 'SOLID':
      case '3DFACE':
      case 'TRACE': {
        const [a, b, c, d] = [10, 11, 12, 13].map((code) => g.point(code));
        pen.move(a);
        for (const p of type === '3DFACE' ? [b, c, d] : [b, d, c]) pen.line(p);
        pen.close();
        return true;
      }
      default:
        return false;
    }
  }

  private chain(
    points: readonly { readonly at: Point; readonly bulge: number }[],
    closed: boolean,
    pen: Pen,
  ): void {
    if (points.length < 2) return;
    pen.move(points[0].at);
    const count = closed ? points.length : points.length - 1;
    for (let i = 0; i < count; i++) {
      const [from, to] = [points[i], points[(i + 1) % points.length].at];
      const arc = from.bulge === 0 ? undefined : arcGeometry(from.at, to, from.bulge);
      if (arc) pen.ellipse(arc.centre, arc.radius, arc.radius, 0, arc.startRad, arc.sweepRad, to);
      else pen.line(to);
    }
    if (closed) pen.close();
  }
}

/** What a unit of the drawing is. */
function sizesOf(header: ReadonlyMap<string, string>): { sizes: SizeOffer[]; sure: boolean } {
  const unit = UNITS[Number(header.get('$INSUNITS') ?? 0)];
  if (unit !== undefined) return { sizes: [{ label: 'As the file says', mmPerUnit: unit }], sure: true };
  const offers: SizeOffer[] = [
    { label: '1 unit is 1 mm', mmPerUnit: 1 },
    { label: '1 unit is 1 inch', mmPerUnit: 25.4 },
    { label: '1 unit is 1 cm', mmPerUnit: 10 },
  ];
  return {
    sizes: header.get('$MEASUREMENT') === '0' ? [offers[1], offers[0], offers[2]] : offers,
    sure: false,
  };
}

/**
 * Reads a DXF drawing in its text form.
 *
 * @throws NotReadable where it is none, cut off, or beyond the limits
 */
export function readDxf(text: string): Drawing {
  if (/^\w+ Binary DXF/.test(text))
    throw new NotReadable('It is a binary DXF drawing: save it in the text form.');
  const read = sectionsOf(text.replace(/^\uFEFF/, ''));
  if (read.entities.length === 0 && read.layers.size === 0 && read.header.size === 0)
    throw new NotReadable('It is no DXF drawing: there is no section in it.');
  const reader = new Reader(read);
  for (const entity of read.entities)
    reader.draw(entity, { map: UNMOVED, layer: undefined, colour: undefined, depth: 0 });
  const { lines, hidden, notes } = reader;
  if (!read.ended) notes.add('It has no end mark: what is there was read');
  if (hidden.length > 0)
    notes.add(
      `${hidden.length} ${hidden.length === 1 ? 'line lies' : 'lines lie'} on layers that are off: what is hidden can be taken in`,
    );
  return { lines, hidden, ...sizesOf(read.header), notes: notes.list() };
}
