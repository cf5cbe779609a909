/** Reads a written cut file back by other means than those that wrote it: an XML parser, a path library, the standard's arc formula. */
import { SaxesParser } from 'saxes';
import svgpath from 'svgpath';
import { flatten, type Path } from '../../geometry/path.ts';
import { distanceToSegment, type Point } from '../../geometry/point.ts';

export interface ReadBack {
  groups: string[];
  size: { width: string; height: string; viewBox: string };
  paths: { group: string; part: string; line: string; d: string }[];
}

/** The groups, size and paths of an SVG file, by an XML parser. */
export function readBack(svg: string): ReadBack {
  const read: ReadBack = { groups: [], size: { width: '', height: '', viewBox: '' }, paths: [] };
  const stack: string[] = [];
  const parser = new SaxesParser();
  parser.on('opentag', ({ name, attributes }) => {
    const a = attributes as Record<string, string>;
    if (name === 'svg') read.size = { width: a.width, height: a.height, viewBox: a.viewBox };
    if (name === 'g') read.groups.push(a.id);
    if (name === 'path')
      read.paths.push({
        group: stack
          .filter((s) => s.startsWith('g:'))
          .at(-1)!
          .slice(2),
        part: a['data-part'],
        line: a['data-line'],
        d: a.d,
      });
    stack.push(name === 'g' ? `g:${a.id}` : name);
  });
  parser.on('closetag', () => stack.pop());
  parser.on('error', (error) => {
    throw error;
  });
  parser.write(svg).close();
  return read;
}

/** Points of an arc by the SVG standard's own conversion from end points to centre (circles only). */
function arcPoints([x1, y1]: Point, r: number, large: boolean, sweep: boolean, [x2, y2]: Point): Point[] {
  const [hx, hy] = [(x1 - x2) / 2, (y1 - y2) / 2];
  const factor = Math.sqrt(Math.max(0, (r * r) / (hx * hx + hy * hy) - 1)) * (large !== sweep ? 1 : -1);
  const [cx, cy] = [factor * hy + (x1 + x2) / 2, -factor * hx + (y1 + y2) / 2];
  const from = Math.atan2(y1 - cy, x1 - cx);
  let turned = Math.atan2(y2 - cy, x2 - cx) - from;
  if (sweep && turned < 0) turned += 2 * Math.PI;
  if (!sweep && turned > 0) turned -= 2 * Math.PI;
  return Array.from({ length: 64 }, (_, k): Point => {
    const angle = from + (turned * (k + 1)) / 64;
    return [cx + r * Math.cos(angle), cy + r * Math.sin(angle)];
  });
}

/** Points along path data, curves sampled. */
export function pointsOf(d: string, heightMm: number): Point[] {
  const out: Point[] = [];
  let at: Point = [0, 0];
  svgpath(d)
    .abs()
    .iterate((segment) => {
      const n = segment.slice(1) as number[];
      if (segment[0] === 'C')
        for (let k = 1; k <= 128; k++) {
          const t = k / 128;
          const u = 1 - t;
          out.push(
            [0, 1].map(
              (i) => u ** 3 * at[i] + 3 * u * u * t * n[i] + 3 * u * t * t * n[2 + i] + t ** 3 * n[4 + i],
            ) as unknown as Point,
          );
        }
      else if (segment[0] === 'A') out.push(...arcPoints(at, n[0], n[3] === 1, n[4] === 1, [n[5], n[6]]));
      else out.push([n[0], n[1]]);
      at = [n[n.length - 2], n[n.length - 1]];
    });
  return out.map(([x, y]): Point => [x, heightMm - y]);
}

/** Greatest distance of points from a path, at a fine flattening. */
export function off(list: readonly Point[], path: Path): number {
  const fine = flatten(path, 0.0005);
  return Math.max(
    ...list.map((p) => Math.min(...fine.slice(1).map((q, i) => distanceToSegment(p, fine[i], q)))),
  );
}
