/** A DXF file as its groups, one after the other, sorted into sections and entities; nothing that it counts is trusted. */
import type { Point } from '../../geometry/point.ts';
import { Counted, NotReadable, READ_LIMITS } from './drawing.ts';

/** One group: its code and its value as it stands. */
type Group = readonly [code: number, value: string];

export interface Entity {
  readonly type: string;
  readonly groups: readonly Group[];
  /** Vertices of an old polyline. */
  readonly vertices: readonly Entity[];
}

/** An entity that is being read. */
interface Begun {
  readonly type: string;
  readonly groups: Group[];
  readonly vertices: Entity[];
}

export interface Layer {
  readonly colour: number;
  readonly off: boolean;
  readonly dash: string;
}

export interface Block {
  readonly base: Point;
  readonly entities: readonly Entity[];
}

function* groupsOf(text: string): Generator<Group> {
  // Any line ending; nothing is copied but the value itself.
  let at = 0;
  const line = (): string | undefined => {
    if (at >= text.length) return undefined;
    let end = at;
    while (end < text.length && text[end] !== '\n' && text[end] !== '\r') end += 1;
    const value = text.slice(at, end);
    at = end + (text[end] === '\r' && text[end + 1] === '\n' ? 2 : 1);
    return value;
  };
  let place = 0;
  for (;;) {
    const code = line();
    if (code === undefined) return;
    place += 1;
    if (code.trim() === '' && at >= text.length) return;
    const number = Number(code);
    if (code.trim() === '' || !Number.isInteger(number))
      throw new NotReadable(
        `Line ${2 * place - 1} should be a group code and is “${code.trim().slice(0, 30)}”: it is no DXF drawing, or it is broken there.`,
      );
    const value = line();
    if (value === undefined) return;
    // Comments, and data that others have attached.
    if (number !== 999 && number < 1010) yield [number, value];
  }
}

/** A name as it is read: without blanks round it, its coded letters as letters. */
export const named = (value: string): string =>
  value.trim().replace(/\\U\+([0-9A-F]{4})/gi, (_, code: string) => String.fromCharCode(parseInt(code, 16)));

/** The groups of one entity, asked by their codes. */
export class Groups {
  constructor(readonly list: readonly Group[]) {}

  text(code: number): string | undefined {
    return this.list.find(([each]) => each === code)?.[1];
  }

  number(code: number, usual = 0): number {
    const text = this.text(code);
    const value = text === undefined ? NaN : Number(text);
    return Number.isFinite(value) ? value : usual;
  }

  all(code: number): number[] {
    return this.list.filter(([each]) => each === code).map(([, value]) => Number(value) || 0);
  }

  point(code: number): Point {
    return [this.number(code), this.number(code + 10)];
  }
}

/** A file in its sections. */
export interface Read {
  readonly header: ReadonlyMap<string, string>;
  readonly layers: ReadonlyMap<string, Layer>;
  readonly dashes: ReadonlyMap<string, readonly number[]>;
  readonly blocks: ReadonlyMap<string, Block>;
  readonly entities: readonly Entity[];
  readonly ended: boolean;
}

/** Sorts the groups of a file into its sections. */
export function sectionsOf(text: string): Read {
  const header = new Map<string, string>();
  const layers = new Map<string, Layer>();
  const dashes = new Map<string, readonly number[]>();
  const blocks = new Map<string, Block>();
  const entities: Entity[] = [];
  const count = new Counted(READ_LIMITS.elements, 'entities');
  let [section, ended, variable] = ['', false, ''];
  let entity = null as Begun | null;
  let block = null as { groups: readonly Group[]; entities: Entity[] } | null;
  /** The old polyline whose vertices follow. */
  let chain = null as Begun | null;
  const close = () => {
    if (!entity) return;
    const done = entity;
    entity = null;
    if (done.type === 'VERTEX' && chain) return void chain.vertices.push(done);
    if (done.type === 'SEQEND') return void (chain = null);
    if (section === 'TABLES') {
      const groups = new Groups(done.groups);
      const name = named(groups.text(2) ?? '').toLowerCase();
      if (done.type === 'LAYER') {
        const colour = groups.number(62, 7);
        const flags = groups.number(70);
        layers.set(name, {
          colour: Math.abs(colour),
          off: colour < 0 || (flags & 1) === 1,
          dash: named(groups.text(6) ?? '').toLowerCase(),
        });
      } else if (done.type === 'LTYPE') dashes.set(name, groups.all(49));
      return;
    }
    if (section === 'BLOCKS') {
      if (done.type === 'BLOCK') block = { groups: done.groups, entities: [] };
      else if (done.type === 'ENDBLK') {
        if (block) {
          const groups = new Groups(block.groups);
          blocks.set(named(groups.text(2) ?? '').toLowerCase(), {
            base: groups.point(10),
            entities: block.entities,
          });
        }
        block = null;
      } else if (block) keep(done, block.entities);
      return;
    }
    if (section === 'ENTITIES') keep(done, entities);
  };
  const keep = (done: Begun, into: Entity[]) => {
    count.add();
    into.push(done);
    if (done.type === 'POLYLINE') chain = done;
  };
  for (const [code, value] of groupsOf(text)) {
    if (code === 0) {
      close();
      const type = value.trim().toUpperCase();
      if (type === 'SECTION') section = '?';
      else if (type === 'ENDSEC') section = '';
      else if (type === 'EOF') {
        ended = true;
        break;
      } else entity = { type, groups: [], vertices: [] };
    } else if (section === '?' && code === 2) section = value.trim().toUpperCase();
    else if (section === 'HEADER') {
      if (code === 9) variable = value.trim().toUpperCase();
      else if (variable !== '' && !header.has(variable)) header.set(variable, value.trim());
    } else if (entity) entity.groups.push([code, value]);
  }
  close();
  if (section === 'ENTITIES')
    throw new NotReadable('Its section ENTITIES has no end: the file was cut off. Save it anew.');
  return { header, layers, dashes, blocks, entities, ended };
}
