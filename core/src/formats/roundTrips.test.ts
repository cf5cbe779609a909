/** What is written is read again as it was: arcs as arcs, curves as curves, layers kept, to a thousandth of a millimetre. */
import { expect, it } from 'vitest';
import { pieceAtOrigin } from '../cutting/order.ts';
import { PROFILES } from '../cutting/profile.ts';
import { LAYERS, layerOf, workOf, type DieLine, type Part } from '../dieline/part.ts';
import { legsOf, nearestOn } from '../geometry/curve.ts';
import { circle, flatten, pathLength, type Path, type Segment } from '../geometry/path.ts';
import { seededRandom } from '../geometry/random.ts';
import { roundedRectangle } from '../drafting/shapes.ts';
import { groupsOf, likelyLayer, settled, type Settled } from './bringIn/settle.ts';
import { readDxf } from './bringIn/dxf.ts';
import { readSvg } from './bringIn/svg.ts';
import type { Drawing } from './bringIn/drawing.ts';
import { writeDxf } from './dxfWrite.ts';
import { writeSvg } from './svgWrite.ts';

const random = seededRandom(17);
const point = (): [number, number] => [20 + 160 * random(), 20 + 160 * random()];

function somePath(): Path {
  const kind = random();
  if (kind < 0.2) return circle(point(), 2 + 15 * random());
  if (kind < 0.4) return roundedRectangle(point(), 5 + 20 * random(), 5 + 20 * random(), 2 * random());
  return {
    start: point(),
    segments: Array.from({ length: 1 + Math.floor(4 * random()) }, (): Segment => {
      const each = random();
      if (each < 0.4) return { kind: 'line', to: point() };
      if (each < 0.7) return { kind: 'arc', to: point(), bulge: 1.5 * (random() - 0.5) };
      return { kind: 'cubic', c1: point(), c2: point(), to: point() };
    }),
  };
}

const partOf = (count: number): Part => ({
  id: 'p',
  name: 'Part',
  stockId: 'slate-240',
  grainRad: null,
  quantity: 1,
  glueZones: [],
  marks: [],
  lines: Array.from({ length: count }, (_, i): DieLine => ({
    id: `l${i}`,
    ...workOf(LAYERS[i % LAYERS.length]),
    path: somePath(),
  })),
});

const back = (drawing: Drawing): Settled =>
  settled(drawing, {
    mmPerUnit: drawing.sizes[0].mmPerUnit,
    layers: Object.fromEntries(groupsOf(drawing.lines).map((group) => [group.key, likelyLayer(group)])),
    withHidden: false,
    joinMm: 0.001,
    dropDoubles: false,
    findArcs: false,
  });

const here = { angleRad: 0, flip: false, dx: 0, dy: 0 };
const kinds = ({ lines }: Settled, wanted: Segment['kind']): number =>
  lines.reduce((sum, { path }) => sum + path.segments.filter(({ kind }) => kind === wanted).length, 0);

it.each(['SVG', 'DXF'] as const)('%s: out and in again', (format) => {
  for (let n = 0; n < 25; n++) {
    const part = partOf(7 + Math.floor(10 * random()));
    const pieces = [{ part, copy: 1, placement: here }];
    const drawing =
      format === 'SVG'
        ? readSvg(
            writeSvg(pieces, {
              title: 'x',
              widthMm: 200,
              heightMm: 200,
              profile: PROFILES[0],
              marks: 'drawn',
            }),
          )
        : readDxf(writeDxf(pieces, true));
    expect(drawing.sure).toBe(true);
    expect(drawing.notes).toEqual([]);
    const made = back(drawing);
    for (const layer of LAYERS) {
      const given = part.lines.filter((line) => layerOf(line) === layer).map(({ path }) => path);
      const got = made.lines.filter((line) => line.layer === layer).map(({ path }) => path);
      const length = (paths: readonly Path[]) => paths.reduce((sum, path) => sum + pathLength(path), 0);
      expect(length(got), layer).toBeCloseTo(length(given), 1);
    }
    // Every place of every line is on a line again, at the same distance from the lower left corner of all of them.
    const all = part.lines.flatMap(({ path }) => flatten(path, 0.0005));
    const [dx, dy] = [Math.min(...all.map(([x]) => x)), Math.min(...all.map(([, y]) => y))];
    for (const { path } of part.lines)
      for (const { from } of legsOf(path)) {
        const p: [number, number] = [from[0] - dx, from[1] - dy];
        const off = Math.min(...made.lines.map((line) => nearestOn(line.path, p).mm));
        // The corner is found on curves that are flattened to 0.02 mm.
        expect(off).toBeLessThan(0.025);
      }
    const arcs = part.lines.flatMap(({ path }) => path.segments).filter(({ kind }) => kind === 'arc').length;
    expect(kinds(made, 'arc')).toBeGreaterThanOrEqual(arcs);
    expect(kinds(made, 'cubic')).toBe(
      part.lines.flatMap(({ path }) => path.segments).filter(({ kind }) => kind === 'cubic').length,
    );
  }
});

it('keeps places to a thousandth of a millimetre, in both', () => {
  const frame: DieLine = { id: 'f', ...workOf('cut'), path: roundedRectangle([0, 0], 200, 200) };
  for (let n = 0; n < 20; n++) {
    const part = { ...partOf(6), lines: [frame, ...partOf(6).lines] };
    const pieces = [{ part, copy: 1, placement: here }];
    for (const made of [
      back(readDxf(writeDxf(pieces, true))),
      back(
        readSvg(
          writeSvg(pieces, { title: 'x', widthMm: 200, heightMm: 200, profile: PROFILES[0], marks: 'drawn' }),
        ),
      ),
    ])
      for (const { path } of part.lines) {
        // Curves may reach out of the frame: then the corner is theirs.
        if (flatten(path).some(([x, y]) => x < 0 || y < 0)) continue;
        if (part.lines.some((line) => flatten(line.path).some(([x, y]) => x < 0 || y < 0))) continue;
        for (const p of flatten(path, 0.05))
          expect(Math.min(...made.lines.map((line) => nearestOn(line.path, p).mm))).toBeLessThan(0.001);
      }
  }
});

it('a part lies in its DXF file from the origin, in millimetres, closed outlines closed', () => {
  const part: Part = {
    ...partOf(0),
    lines: [{ id: 'o', ...workOf('cut'), path: roundedRectangle([30, 40], 50, 20, 4) }],
  };
  const text = writeDxf([pieceAtOrigin(part).piece]);
  expect(text).toMatch(/\$INSUNITS\s+70\s+4/);
  const { lines } = readDxf(text);
  expect(lines).toHaveLength(1);
  expect(lines[0]).toMatchObject({ layer: 'Cut', dash: [] });
  expect(Math.min(...flatten(lines[0].path).map(([x]) => x))).toBeCloseTo(0, 6);
  expect(lines[0].path.segments.filter(({ kind }) => kind === 'arc')).toHaveLength(4);
});
