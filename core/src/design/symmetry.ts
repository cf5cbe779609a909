/**
 * Symmetric drafting: of a part with an axis, each line on one side has its image on the other. Whichever of the two is changed
 * or taken away, the other follows. A line that crosses the axis, or is its own image, stands by itself.
 */
import { boxOfPaths, flatten, reversePath, type Path } from '../geometry/path.ts';
import { distance, type Point } from '../geometry/point.ts';
import { applyCommand, type Command } from './commands.ts';
import type { Design, DraftedPart } from './design.ts';
import { freshId } from './ids.ts';

type Line = DraftedPart['lines'][string];
type Axis = NonNullable<DraftedPart['symmetry']>;

/** Lines nearer to the axis than this do not cross it, mm; so near each other two lines are the same. */
const ON_MM = 1e-6;

type Mirror = (path: Path) => Path;

/** The mirror image about an axis; done twice it is nothing, to rounding. */
function across({ axis, atMm }: Axis): Mirror {
  const place = ([x, y]: Point): Point => (axis === 'x' ? [2 * atMm - x, y] : [x, 2 * atMm - y]);
  return ({ start, segments }) => ({
    start: place(start),
    segments: segments.map((segment) => {
      const to = place(segment.to);
      switch (segment.kind) {
        case 'line':
          return { kind: 'line', to };
        case 'arc':
          return { kind: 'arc', to, bulge: -segment.bulge };
        case 'cubic':
          return { kind: 'cubic', c1: place(segment.c1), c2: place(segment.c2), to };
      }
    }),
  });
}

const samePath = (a: Path, b: Path): boolean => {
  if (a.segments.length !== b.segments.length) return false;
  const [p, q] = [flatten(a), flatten(b)];
  return p.length === q.length && p.every((each, i) => distance(each, q[i]) <= ON_MM);
};
const alike = (a: Path, b: Path): boolean => samePath(a, b) || samePath(a, reversePath(b));

/** What a line is without its path, its id and what it follows. */
const work = ({ id: _id, path: _path, imageOf: _imageOf, ...rest }: Line): string => JSON.stringify(rest);

const same = (a: Line | undefined, b: Line | undefined): boolean =>
  a === b || (!!a && !!b && work(a) === work(b) && samePath(a.path, b.path));

/** Which side of the axis a line lies on wholly; 0 where it crosses it or lies on it. */
export function sideOf(path: Path, { axis, atMm }: Axis): -1 | 0 | 1 {
  const box = boxOfPaths([path]);
  const [low, high] = axis === 'x' ? [box.minX, box.maxX] : [box.minY, box.maxY];
  if (low >= atMm - ON_MM && high > atMm + ON_MM) return 1;
  return high <= atMm + ON_MM && low < atMm - ON_MM ? -1 : 0;
}

/** The lines of a symmetric part that cross its axis and are not their own image: they stay as they are drawn. */
export function unmirrored({ symmetry, lines }: DraftedPart): Line[] {
  if (!symmetry) return [];
  const mirror = across(symmetry);
  return Object.values(lines).filter(({ path }) => sideOf(path, symmetry) === 0 && !isOwnImage(path, mirror));
}

/** Whether a line looks the same on both sides: every place of its image lies on it. */
function isOwnImage(path: Path, mirror: Mirror): boolean {
  const [own, other] = [flatten(path), flatten(mirror(path))];
  const near = (p: (typeof own)[number]) =>
    own.some((a, i) => {
      const b = own[i + 1];
      if (!b) return false;
      const [ux, uy] = [b[0] - a[0], b[1] - a[1]];
      const long = ux * ux + uy * uy;
      const share =
        long === 0 ? 0 : Math.max(0, Math.min(1, ((p[0] - a[0]) * ux + (p[1] - a[1]) * uy) / long));
      return Math.hypot(p[0] - a[0] - share * ux, p[1] - a[1] - share * uy) < 0.02;
    });
  return other.every(near);
}

/** The commands by which the lines of one part follow what was done to some of them. */
function followed(before: DraftedPart | undefined, part: DraftedPart): Command[] {
  const { symmetry, lines } = part;
  const was = before?.lines ?? {};
  const commands: Command[] = [];
  const put = (id: string, value: Line | null) => commands.push({ do: 'line', partId: part.id, id, value });
  if (!symmetry) {
    for (const line of Object.values(lines))
      if (line.imageOf !== undefined) {
        const { imageOf: _imageOf, ...alone } = line;
        put(line.id, alone);
      }
    return commands;
  }
  const mirror = across(symmetry);
  const imaged = (line: Line, of: Line): Line => {
    const { imageOf: _own, ...rest } = of;
    return {
      ...rest,
      id: line.id,
      path: mirror(of.path) as Line['path'],
      ...(line.imageOf === undefined ? {} : { imageOf: line.imageOf }),
    };
  };
  const taken: Record<string, unknown> = { ...was, ...lines };
  const linked = new Set(
    Object.values(lines).flatMap(({ id, imageOf }) => (imageOf === undefined ? [] : [id, imageOf])),
  );
  const gone = new Set<string>();
  for (const image of Object.values(lines)) {
    const { imageOf } = image;
    if (imageOf === undefined) continue;
    const original = lines[imageOf];
    if (!original || original.imageOf !== undefined) {
      // Its original was taken away, and it goes along; what was pasted without one stands alone.
      if (was[image.id]?.imageOf === imageOf && was[imageOf]) {
        put(image.id, null);
        gone.add(image.id);
      } else {
        const { imageOf: _imageOf, ...alone } = image;
        put(image.id, alone);
        linked.delete(image.id);
      }
      continue;
    }
    const untouched = image === was[image.id] && original === was[original.id];
    if (untouched && before?.symmetry?.axis === symmetry.axis && before.symmetry.atMm === symmetry.atMm)
      continue;
    const byHand = !same(image, was[image.id]) && same(original, was[original.id]);
    if (byHand && was[image.id]) {
      const next = imaged(original, image);
      if (!same(next, original)) put(original.id, next);
    } else {
      const next = imaged(image, original);
      if (!same(next, image)) put(image.id, next);
    }
  }
  // Images that were taken away take their originals along.
  for (const image of Object.values(was))
    if (image.imageOf !== undefined && !lines[image.id] && lines[image.imageOf] && before?.symmetry) {
      put(image.imageOf, null);
      gone.add(image.imageOf);
    }
  const free = Object.values(lines).filter(({ id }) => !linked.has(id) && !gone.has(id));
  for (const line of free) {
    if (linked.has(line.id) || sideOf(line.path, symmetry) === 0) continue;
    const path = mirror(line.path);
    const other = free.find(
      (each) =>
        each.id !== line.id && !linked.has(each.id) && work(each) === work(line) && alike(each.path, path),
    );
    const id = other?.id ?? freshId('l', taken);
    taken[id] = true;
    linked.add(line.id).add(id);
    put(id, { ...line, id, path: path as Line['path'], imageOf: line.id });
  }
  return commands;
}

/** A command with what it entails for the lines of symmetric parts. */
export function withSymmetry(design: Design, command: Command): Command {
  const after = applyCommand(design, command).design;
  if (after.parts === design.parts) return command;
  const more = Object.values(after.parts).flatMap((part) => {
    const before = design.parts[part.id];
    return part === before || (!part.symmetry && !before?.symmetry) ? [] : followed(before, part);
  });
  return more.length === 0 ? command : { do: 'all', commands: [command, ...more] };
}
