/**
 * Cylinder, cone and frustum, rolled from one sheet with true arcs, with discs that close its ends.
 *
 * Unrolled: slant g = hypot(h, r1 - r2), radii r g / (r1 - r2), angle 2 pi (r1 - r2) / g. On screen it is a pyramid of n
 * facets with the sheet's own slant and angle, so that nothing stretches; rulings are for drawing only. A disc needs n tabs
 * to follow its rim within eps: n = ceil(pi / acos(1 - eps / r)).
 */
import type { Point } from '../../geometry/point.ts';
import type { Vec3 } from '../../geometry/rigid.ts';
import { minus3 } from '../../geometry/vector.ts';
import type { Family, Params } from '../family.ts';
import { Making } from '../making.ts';
import { round } from '../pieces.ts';
import { length, measures, pick } from '../specs.ts';
import { foldDeg, normalOf } from './angles.ts';
import { glueAll, glueTabs, sheetPart } from './assembling.ts';
import { mm, sheetRules, tabDepth, tabOutside } from './fitting.ts';
import { FoldedSheet } from './foldedSheet.ts';
import type { Corner } from './sheetEdges.ts';

const SIZES = measures({
  lowMm: length('Across, below', 'Diameter of its lower end.', 60, 10, 300),
  highMm: length('Across, above', 'Diameter of its upper end; 0 for a cone.', 40, 0, 300),
  tallMm: length('Height', 'Upright.', 70, 5, 400),
  ends: pick('Ends', 'Discs that close it.', { below: 'Below', both: 'Both', none: 'Open' }),
  tabMm: tabDepth(8),
});

/** So far a polygon may lie inside its circle, mm. */
const RIM_MM = 0.6;

/** Its measures; the sheet is that of the wider end below. */
export function rolledMeasures(params: Params) {
  const s = SIZES.read(params);
  const [wide, narrow] = [Math.max(s.lowMm, s.highMm) / 2, Math.min(s.lowMm, s.highMm) / 2];
  const slant = Math.hypot(s.tallMm, wide - narrow);
  const cone = wide - narrow > 1e-3 * wide;
  const n = Math.max(12, Math.min(36, Math.ceil(Math.PI / Math.acos(1 - RIM_MM / wide))));
  const outer = cone ? (wide * slant) / (wide - narrow) : Infinity;
  return {
    wide,
    narrow,
    slant,
    cone,
    n,
    tall: s.tallMm,
    ends: s.ends,
    tab: s.tabMm,
    outer,
    inner: cone ? (narrow * slant) / (wide - narrow) : Infinity,
    angle: cone ? (2 * Math.PI * (wide - narrow)) / slant : 0,
  };
}

type Measures = ReturnType<typeof rolledMeasures>;

/** Corners of the sheet at the k-th ruling: at the wider end, and at the narrower one. */
function rulings(m: Measures) {
  const at = (k: number): readonly [Point, Point] => {
    if (!m.cone) {
      const x = (2 * Math.PI * m.wide * k) / m.n;
      return [
        [x, 0],
        [x, m.slant],
      ];
    }
    const a = -Math.PI / 2 + m.angle * (k / m.n - 0.5);
    const point = (r: number): Point => [r * Math.cos(a), r * Math.sin(a)];
    return [point(m.outer), point(m.inner)];
  };
  return at;
}

/** The facets in space: radii of the polygons that the sheet's own chords make, and the height between them. */
function facets(m: Measures) {
  const at = rulings(m);
  const chord = (i: 0 | 1) => {
    const [p, q] = [at(0)[i], at(1)[i]];
    return Math.hypot(p[0] - q[0], p[1] - q[1]);
  };
  const [low, high] = [chord(0), chord(1)].map((c) => c / (2 * Math.sin(Math.PI / m.n)));
  const height = Math.sqrt(Math.max(1e-9, m.slant ** 2 - (low - high) ** 2));
  const corner = (r: number, z: number, k: number): Vec3 => {
    const a = (2 * Math.PI * k) / m.n;
    return [r * Math.cos(a), r * Math.sin(a), z];
  };
  return {
    low,
    high,
    height,
    bottom: (k: number) => corner(low, 0, k),
    top: (k: number) => corner(high, height, k),
  };
}

/** How deep the tabs of the discs are, on a rim of so long sides. */
const discTab = (m: Measures, sideMm: number): number => Math.min(m.tab, sideMm, 0.3 * m.slant);

/** The wall as a sheet, its facets bounded by true arcs. */
function wallOf(m: Measures): FoldedSheet {
  const sheet = new FoldedSheet();
  const at = rulings(m);
  const { bottom, top, high } = facets(m);
  const pointed = high < 1e-6;
  const normal = (k: number): Vec3 =>
    pointed ? normalOf(bottom(k), bottom(k + 1), top(0)) : normalOf(bottom(k), bottom(k + 1), top(k + 1));
  const turn = foldDeg(normal(0), normal(1), minus3(pointed ? top(0) : top(1), bottom(1)));
  const bulge = m.cone ? Math.tan(m.angle / m.n / 4) : 0;
  for (let k = 0; k < m.n; k++) {
    const [[p, u], [q, v]] = [at(k), at(k + 1)];
    const ring: Corner[] = pointed ? [[...p, bulge], q, v] : [[...p, bulge], q, [...v, -bulge], u];
    sheet.panel(
      `facet ${k + 1}`,
      ring,
      k === 0 ? undefined : { on: `facet ${k}`, deg: turn, stage: 0, ruling: true },
    );
  }
  const [p, u] = at(0);
  const facet = Math.hypot(at(1)[0][0] - p[0], at(1)[0][1] - p[1]);
  // The tabs of the discs go beside it, not under it.
  const taper = Math.min(3, m.slant / 8);
  const rim = discTab(m, facet) + 0.6;
  const from = (share: number): Point => [p[0] + share * (u[0] - p[0]), p[1] + share * (u[1] - p[1])];
  const [begin, end] = [m.ends === 'none' ? 0 : rim / m.slant, 1 - (m.ends === 'both' ? rim / m.slant : 0)];
  sheet.tab('seam tab', tabOutside(from(end), from(begin), Math.min(m.tab, 0.9 * facet), taper, taper), {
    on: 'facet 1',
    deg: turn,
    stage: 0,
    ruling: true,
  });
  return sheet;
}

/** A disc with a tab for each facet, its rim of straight scores. */
function discOf(m: Measures, radius: number, turnDeg: number): FoldedSheet {
  const sheet = new FoldedSheet();
  const corner = (k: number): Point => {
    const a = (2 * Math.PI * k) / m.n;
    return [radius * Math.cos(a), radius * Math.sin(a)];
  };
  sheet.panel(
    'disc',
    Array.from({ length: m.n }, (_, k) => corner(k)),
  );
  const side = 2 * radius * Math.sin(Math.PI / m.n);
  const depth = discTab(m, side);
  for (let k = 0; k < m.n; k++)
    sheet.tab(`tab ${k + 1}`, tabOutside(corner(k), corner((k + 1) % m.n), depth, depth * 0.32), {
      on: 'disc',
      deg: turnDeg,
      stage: 1,
    });
  return sheet;
}

export const rolledCone: Family = {
  id: 'rolledCone',
  on: 'table',
  title: 'Cylinder or cone',
  purpose: 'Rolled from one sheet with true arcs, closed by discs with tabs.',
  specs: SIZES.specs,
  defaults: SIZES.defaults,
  constraints(params) {
    const m = rolledMeasures(params);
    const long = m.cone ? 2 * m.outer * Math.sin(Math.min(Math.PI / 2, m.angle / 2)) : 2 * Math.PI * m.wide;
    return [
      ...sheetRules({ 'Its wall': m.slant }, [long + m.tab, m.slant]),
      {
        overMm: m.cone ? (m.angle * 180) / Math.PI - 340 : 0,
        unit: 'deg',
        reason: 'It is so flat that its wall would go nearly all round: make it taller.',
      },
      {
        overMm: m.ends === 'both' && m.narrow < 5 ? 5 - m.narrow : 0,
        reason: 'The upper disc would be narrower than 10 mm: leave it open, or close it below only.',
      },
    ];
  },
  build(params, context) {
    const m = rolledMeasures(params);
    const made = new Making(context);
    const wall = wallOf(m);
    const seam = wall.glue('seam tab', `facet ${m.n}`, 'front');
    const space = facets(m);
    const discs = [
      ...(m.ends === 'none' ? [] : [{ id: 'lower', radius: space.low, up: false }]),
      ...(m.ends === 'both' ? [{ id: 'upper', radius: space.high, up: true }] : []),
    ];
    const wallPart = sheetPart(made, 'wall', wall, m.cone ? {} : { grainRad: Math.PI / 2 });
    glueAll(made, { seam: [wallPart, seam, wallPart] });
    const facet = normalOf(space.bottom(0), space.bottom(1), space.high < 1e-6 ? space.top(0) : space.top(1));
    const [[p, u], [q, v]] = [rulings(m)(0), rulings(m)(1)];
    for (const { id, radius, up } of discs) {
      // As if the disc hung on the first facet: its rim runs the other way than the edges of the wall.
      const turn = up
        ? foldDeg(facet, [0, 0, 1], minus3(space.top(0), space.top(1)))
        : foldDeg(facet, [0, 0, -1], minus3(space.bottom(1), space.bottom(0)));
      const disc = discOf(m, radius, turn);
      const by = wall.hangs('facet 1', up ? [v, u] : [p, q], disc.ringOf('disc').slice(0, 2), turn);
      const glued = Array.from({ length: m.n }, (_, k) =>
        disc.glue(`tab ${k + 1}`, `facet ${up ? k + 1 : ((m.n - k) % m.n) + 1}`, 'front', { onto: wall, by }),
      );
      const part = sheetPart(made, `${id}-disc`, disc, { title: `${id} disc` });
      glueTabs(made, id, part, glued, wallPart);
    }
    return made.standing(['Roll it, glue the seam', 'Turn in the tabs of the discs, glue them inside']);
  },
  handles: () => [],
  advice(params) {
    const m = rolledMeasures(params);
    return [
      m.cone
        ? `Its wall is cut with radii ${mm(m.outer)} and ${mm(m.inner)} over ${round((m.angle * 180) / Math.PI)}°, ${mm(m.slant)} wide.`
        : `Its wall is ${mm(2 * Math.PI * m.wide)} long and ${mm(m.slant)} wide.`,
      `${m.n} tabs on each disc follow its rim within ${mm(m.wide * (1 - Math.cos(Math.PI / m.n)))}.`,
      'The wall is rolled, not scored: pull it over an edge along its rulings first.',
    ];
  },
};
