/** Drawings by others come in as a second reader sees them: icons of a package, hundreds of them. */
import { readdirSync, readFileSync } from 'node:fs';
import { createRequire } from 'node:module';
import { dirname, join } from 'node:path';
import svgpath from 'svgpath';
import { expect, it } from 'vitest';
import { readDrawing } from '@hollow-finch/core/formats/bringIn/readDrawing';
import { groupsOf, settled } from '@hollow-finch/core/formats/bringIn/settle';
import { boxOf, boxOfPaths, flatten, type Segment } from '@hollow-finch/core/geometry/path';
import type { Point } from '@hollow-finch/core/geometry/point';

const { resolve } = createRequire(import.meta.url);
const folder = join(dirname(resolve('@tabler/icons/package.json')), 'icons', 'outline');
const decode = (bytes: Uint8Array, encoding: string) =>
  new TextDecoder(encoding, { fatal: true }).decode(bytes);

/** All points of path data by the other reader, its arcs as curves. */
function pointsOf(d: string): Point[] {
  const points: Point[] = [];
  svgpath(d)
    .abs()
    .unarc()
    .unshort()
    .iterate((command, _i, x, y) => {
      const [kind, ...n] = command as [string, ...number[]];
      const segment: Segment | undefined =
        kind === 'L'
          ? { kind: 'line', to: [n[0], n[1]] }
          : kind === 'H'
            ? { kind: 'line', to: [n[0], y] }
            : kind === 'V'
              ? { kind: 'line', to: [x, n[0]] }
              : kind === 'C'
                ? { kind: 'cubic', c1: [n[0], n[1]], c2: [n[2], n[3]], to: [n[4], n[5]] }
                : undefined;
      if (segment) points.push(...flatten({ start: [x, y], segments: [segment] }, 0.001));
    });
  return points;
}

it('every icon comes in, as large as another reader finds it', () => {
  const names = readdirSync(folder).filter((name) => name.endsWith('.svg'));
  const some = names.filter((_, i) => i % 12 === 0);
  expect(some.length).toBeGreaterThan(200);
  for (const name of some) {
    const bytes = readFileSync(join(folder, name));
    const drawing = readDrawing(bytes, () => undefined, decode);
    expect(drawing.lines.length, name).toBeGreaterThan(0);
    const own = boxOfPaths([...drawing.lines, ...drawing.hidden].map(({ path }) => path));
    const other = boxOf(
      [...bytes.toString('utf8').matchAll(/<path[^>]* d="([^"]+)"/g)].flatMap(([, d]) => pointsOf(d)),
    );
    // Counted upwards here, downwards there.
    for (const [a, b] of [
      [own.minX, other.minX],
      [own.maxX, other.maxX],
      [own.minY, -other.maxY],
      [own.maxY, -other.minY],
    ])
      expect(Math.abs(a - b), name).toBeLessThan(0.03);
    const made = settled(drawing, {
      mmPerUnit: 1,
      layers: Object.fromEntries(groupsOf(drawing.lines).map(({ key }) => [key, 'cut' as const])),
      withHidden: false,
      joinMm: 0.05,
      dropDoubles: true,
      findArcs: true,
    });
    expect(made.lines.length, name).toBeGreaterThan(0);
  }
});
