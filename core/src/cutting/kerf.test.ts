/** What is left after a tool of that width is the part: by closed forms, and by taking the width away again with the polygon library. */
import { describe, expect, it } from 'vitest';
import { workOf, type DieLine, type Part } from '../dieline/part.ts';
import { panelPlan } from '../dieline/panels.ts';
import { circle, endOf, flatten, polyline, straight, type Path } from '../geometry/path.ts';
import { distance, type Point } from '../geometry/point.ts';
import { regionArea, ringArea, type Region } from '../geometry/polygon.ts';
import { seededRandom } from '../geometry/random.ts';
import { difference, offset, union } from '../geometry/regions.ts';
import { compensated } from './kerf.ts';

const cut = (id: string, path: Path): DieLine => ({ id, ...workOf('cut'), path });
const partOf = (lines: DieLine[]): Part => ({
  id: 'p',
  name: 'Part',
  stockId: 'slate-240',
  grainRad: null,
  quantity: 1,
  glueZones: [],
  marks: [],
  lines,
});
const box = (x: number, y: number, w: number, h: number): Path =>
  polyline(
    [
      [x, y],
      [x + w, y],
      [x + w, y + h],
      [x, y + h],
    ],
    true,
  );
const byId = (part: Part, kerf: number) =>
  new Map(compensated(part, kerf).lines.map((line) => [line.id, line.path]));

/** The paper inside closed ways: outer ones without the holes. */
const paperOf = (paths: readonly Path[]): Region[] => {
  const rings = paths.map((path) => flatten(path, 0.001).slice(0, -1));
  const [outer, ...holes] = rings
    .map((ring) => (ringArea(ring) < 0 ? [...ring].reverse() : ring))
    .sort((a, b) => ringArea(b) - ringArea(a));
  return difference(
    [{ outer, holes: [] }],
    holes.map((ring) => ({ outer: ring, holes: [] })),
  );
};
const areaOf = (regions: readonly Region[]) => regions.reduce((sum, region) => sum + regionArea(region), 0);

describe('a kerf', () => {
  it('of nothing changes nothing', () => {
    const part = partOf([cut('a', box(0, 0, 40, 30))]);
    expect(compensated(part, 0).lines).toBe(part.lines);
  });

  it('makes outlines larger and apertures smaller by half of it, with true corners; slits and scores stay', () => {
    const slit = straight([30, 5], [30, 20]);
    const part = partOf([
      cut('outline', box(0, 0, 40, 30)),
      cut('window', box(5, 5, 10, 8)),
      cut('hole', circle([22, 20], 3)),
      cut('slit', slit),
      { id: 'fold', ...workOf('valley'), path: straight([35, 0], [35, 30]) },
    ]);
    const { lines, unmoved } = compensated(part, 0.4);
    expect(unmoved).toEqual([]);
    expect(lines.map(({ id }) => id)).toEqual(part.lines.map(({ id }) => id));
    const paths = byId(part, 0.4);
    const corners = (id: string) => flatten(paths.get(id)!).slice(0, -1);
    const wanted = (x: number, y: number, w: number, h: number) => [
      [x, y],
      [x + w, y],
      [x + w, y + h],
      [x, y + h],
    ];
    for (const [id, want] of [
      ['outline', wanted(-0.2, -0.2, 40.4, 30.4)],
      ['window', wanted(5.2, 5.2, 9.6, 7.6)],
    ] as const)
      for (const [x, y] of want)
        expect(Math.min(...corners(id).map((p) => distance(p, [x, y])))).toBeLessThan(1e-9);
    const hole = paths.get('hole')!;
    expect(hole.segments.every(({ kind }) => kind === 'arc')).toBe(true);
    for (const p of flatten(hole)) expect(distance(p, [22, 20])).toBeCloseTo(2.8, 9);
    expect(paths.get('slit')).toBe(slit);
    expect(paths.get('fold')).toBe(part.lines[4].path);
  });

  it('moves an outline of several lines, whichever way each was drawn, and keeps them joined', () => {
    const corners: Point[] = [
      [0, 0],
      [60, 0],
      [60, 20],
      [30, 25],
      [30, 50],
      [0, 50],
    ];
    const lines = corners.map((from, i) => {
      const to = corners[(i + 1) % corners.length];
      return cut(`l${i}`, i % 2 ? straight(to, from) : straight(from, to));
    });
    const part = partOf(lines);
    const paths = byId(part, 0.3);
    expect(compensated(part, 0.3).unmoved).toEqual([]);
    // Ends still meet, two and two.
    const ends = lines.flatMap(({ id }) => [paths.get(id)!.start, endOf(paths.get(id)!)]);
    for (const end of ends) expect(ends.filter((p) => distance(p, end) < 1e-9)).toHaveLength(2);
    // Each runs as it was drawn.
    lines.forEach(({ id, path }) => {
      const moved = paths.get(id)!;
      expect(distance(moved.start, path.start)).toBeLessThan(distance(moved.start, endOf(path)));
    });
  });

  it('is what the tool takes away: of 200 random outlines of lines, arcs and curves with a hole the part is left', () => {
    const random = seededRandom(44);
    let moved = 0;
    for (let k = 0; k < 200; k++) {
      const count = 4 + Math.floor(8 * random());
      const points = Array.from({ length: count }, (_, i): Point => {
        const angle = (2 * Math.PI * (i + 0.5 * random())) / count;
        const r = 25 + 30 * random();
        return [r * Math.cos(angle), r * Math.sin(angle)];
      });
      const outline: Path = {
        start: points[0],
        segments: points.map((from, i) => {
          const to = points[(i + 1) % count];
          const kind = random();
          if (kind < 0.5) return { kind: 'line', to };
          if (kind < 0.8) return { kind: 'arc', to, bulge: 0.3 * (random() - 0.4) };
          const [dx, dy] = [to[0] - from[0], to[1] - from[1]];
          const side = 0.2 * (random() - 0.5);
          return {
            kind: 'cubic',
            to,
            c1: [from[0] + dx / 3 - dy * side, from[1] + dy / 3 + dx * side],
            c2: [from[0] + (2 * dx) / 3 - dy * side, from[1] + (2 * dy) / 3 + dx * side],
          };
        }),
      };
      const hole = random() < 0.5 ? circle([0, 0], 4 + 5 * random()) : box(-5, -4, 9, 7);
      const part = partOf([cut('outline', outline), cut('hole', hole)]);
      if (panelPlan(part).panels.length !== 1) continue;
      const kerf = 0.1 + 0.5 * random();
      const { lines, unmoved } = compensated(part, kerf);
      if (unmoved.length > 0) continue;
      moved++;
      const nominal = paperOf([outline, hole]);
      const left = offset(paperOf(lines.map(({ path }) => path)), -kerf / 2, 0.001);
      // A round tool does not come into corners that turn inwards.
      const corners = (count + 4) * kerf * kerf * 0.25;
      const slack = corners + 0.006 * 400;
      expect(areaOf(difference(nominal, left))).toBeLessThan(0.006 * 400);
      expect(areaOf(difference(left, nominal))).toBeLessThan(slack);
      expect(union(left).length).toBe(1);
    }
    expect(moved).toBeGreaterThan(150);
  });

  it('leaves where they are lines that close no way, and turns sharper than the tool, and says which', () => {
    const thin = partOf([cut('outline', box(0, 0, 40, 30)), cut('dot', circle([20, 15], 0.3))]);
    expect(compensated(thin, 0.8).unmoved).toEqual(['dot']);
    expect(byId(thin, 0.8).get('dot')).toBe(thin.lines[1].path);
  });
});
