/** FOLD crease patterns: edges of a flat frame as lines, each on a layer by what it is assigned to. */
import { polyline } from '../../geometry/path.ts';
import type { Point } from '../../geometry/point.ts';
import {
  Counted,
  isPlain,
  Notes,
  NotReadable,
  READ_LIMITS,
  type Drawing,
  type DrawnLine,
} from './drawing.ts';

/** What an edge is, by its letter; edges that are flat are left out. */
const LAYERS: Readonly<Record<string, string>> = {
  B: 'cut',
  C: 'cut',
  M: 'mountain',
  V: 'valley',
  U: 'score',
};
const UNITS: Readonly<Record<string, number>> = {
  mm: 1,
  cm: 10,
  m: 1000,
  in: 25.4,
  pt: 25.4 / 72,
  um: 1e-3,
};
/** Corners are flat when they rise by less than this share of the frame's size. */
const FLAT_SHARE = 1e-6;
/** Corners nearer to each other than this share of it are one: on both sides of a cut they may be there twice. */
const SAME_SHARE = 1e-7;

interface Frame {
  readonly coords: readonly (readonly number[])[];
  readonly edges: readonly (readonly [number, number])[];
  readonly letters: readonly string[];
  readonly unit: string | undefined;
}

const isRecord = (value: unknown): value is Readonly<Record<string, unknown>> =>
  typeof value === 'object' && value !== null && !Array.isArray(value);

/** A list of a frame; anything else than a list is refused by name. */
function listOf(frame: Readonly<Record<string, unknown>>, key: string): readonly unknown[] {
  const value = frame[key];
  if (value === undefined) return [];
  if (!Array.isArray(value)) throw new NotReadable(`Its “${key}” should be a list.`);
  return value;
}

function frameOf(said: Readonly<Record<string, unknown>>, counted: Counted): Frame {
  const coords = listOf(said, 'vertices_coords').map((each, i) => {
    counted.add();
    if (!Array.isArray(each) || each.length < 2 || !each.every((x) => typeof x === 'number' && isPlain(x)))
      throw new NotReadable(`Vertex ${i} of “vertices_coords” should be two or three numbers.`);
    return each as number[];
  });
  const edges = listOf(said, 'edges_vertices').map((each, i): [number, number] => {
    counted.add();
    const [a, b] = Array.isArray(each) ? (each as unknown[]) : [];
    const known = (v: unknown): v is number =>
      typeof v === 'number' && Number.isInteger(v) && v >= 0 && v < coords.length;
    if (!known(a) || !known(b))
      throw new NotReadable(`Edge ${i} of “edges_vertices” should be two vertices that there are.`);
    return [a, b];
  });
  const letters = listOf(said, 'edges_assignment').map((each) => String(each).toUpperCase().slice(0, 1));
  return { coords, edges, letters, unit: typeof said.frame_unit === 'string' ? said.frame_unit : undefined };
}

const sizeOf = ({ coords }: Frame): number =>
  coords.reduce((most, p) => Math.max(most, Math.abs(p[0]), Math.abs(p[1])), 0);

/** The first corner of a frame that lies where each of them does. */
function firstThere(frame: Frame): number[] {
  const same = sizeOf(frame) * SAME_SHARE || 1;
  const known = new Map<string, number>();
  return frame.coords.map(([x, y], v) => {
    const key = `${Math.round(x / same)},${Math.round(y / same)}`;
    if (!known.has(key)) known.set(key, v);
    return known.get(key)!;
  });
}

/** Whether all corners of a frame lie in the plane of the paper. */
function isFlat(frame: Frame): boolean {
  const { coords } = frame;
  const size = sizeOf(frame);
  return coords.every(([, , z = 0]) => Math.abs(z) <= FLAT_SHARE * size);
}

/**
 * Reads a FOLD file: its first frame that lies flat.
 *
 * @throws NotReadable with what is wrong, where, and what to do
 */
export function readFold(text: string): Drawing {
  let document: unknown;
  try {
    document = JSON.parse(text);
  } catch {
    throw new NotReadable('It breaks off in the middle, or is no FOLD file: save it anew.');
  }
  if (!isRecord(document)) throw new NotReadable('It is no FOLD file: that is one object.');
  const counted = new Counted(READ_LIMITS.segments, 'corners and edges');
  const rest = listOf(document, 'file_frames').filter(isRecord);
  const frames = [document, ...rest].map((frame) => frameOf(frame, counted));
  const notes = new Notes();
  const frame = frames.find((each) => each.edges.length > 0 && isFlat(each));
  if (!frame)
    throw new NotReadable(
      frames.some(({ edges }) => edges.length > 0)
        ? 'It holds only folded frames: save the flat crease pattern.'
        : 'It has no edges.',
    );
  if (rest.length > 0) notes.add('Only its flat frame was read');
  const at = (v: number): Point => [frame.coords[v][0], frame.coords[v][1]];
  const layerOf = (i: number): string | undefined => {
    const letter = frame.letters[i] ?? 'U';
    if (letter === 'F' || letter === 'J') return undefined;
    return LAYERS[letter] ?? 'score';
  };
  const drawn = (vertices: readonly number[], layer: string): DrawnLine => ({
    path: polyline(vertices.map(at)),
    layer,
    colour: '',
    dash: [],
    filled: false,
  });
  // Cuts that follow one another are one line; folds stay one by one.
  const lines: DrawnLine[] = [];
  const cutsAt = new Map<number, number[]>();
  const first = firstThere(frame);
  const edges = frame.edges.map(([a, b]) => [first[a], first[b]] as const);
  const told = new Set<string>();
  edges.forEach(([a, b], i) => {
    const layer = layerOf(i);
    if (layer === undefined) return notes.add('Edges that stay flat were left out');
    if (a === b) return notes.add('Edges without a length were left out');
    const key = `${Math.min(a, b)},${Math.max(a, b)},${layer}`;
    if (told.has(key)) return notes.add('Lines that are there twice were read once');
    told.add(key);
    if (layer !== 'cut') return lines.push(drawn([a, b], layer));
    for (const v of [a, b]) cutsAt.set(v, [...(cutsAt.get(v) ?? []), i]);
  });
  const left = new Set([...cutsAt.values()].flat());
  const next = (v: number): number | undefined => {
    const on = cutsAt.get(v) ?? [];
    return on.length === 2 ? on.find((i) => left.has(i)) : undefined;
  };
  for (const begin of left) {
    left.delete(begin);
    const run = [...edges[begin]];
    for (const atStart of [false, true])
      for (;;) {
        const v = atStart ? run[0] : run[run.length - 1];
        const i = next(v);
        if (i === undefined) break;
        left.delete(i);
        const [a, b] = edges[i];
        const other = a === v ? b : a;
        if (atStart) run.unshift(other);
        else run.push(other);
      }
    lines.push(drawn(run, 'cut'));
  }
  const mmPerUnit = frame.unit === undefined ? undefined : UNITS[frame.unit];
  if (frame.unit !== undefined && frame.unit !== 'unit' && mmPerUnit === undefined)
    notes.add(`Its unit “${frame.unit.slice(0, 20)}” is not known`);
  return {
    lines,
    sizes:
      mmPerUnit === undefined
        ? [
            { label: 'Millimetres', mmPerUnit: 1 },
            { label: 'Centimetres', mmPerUnit: 10 },
            { label: 'Inches', mmPerUnit: 25.4 },
            { label: 'A side of 100 mm for 1', mmPerUnit: 100 },
          ]
        : [{ label: frame.unit!, mmPerUnit }],
    sure: mmPerUnit !== undefined,
    notes: notes.list(),
    hidden: [],
  };
}
