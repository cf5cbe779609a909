/** Families that lie on a panel: what their constraints promise, against the solved motion and against brute force. */
import { describe, expect, it } from 'vitest';
import { newDesign } from '../design/design.ts';
import { panelHostId } from '../design/frames.ts';
import { panelPlan } from '../dieline/panels.ts';
import type { Part } from '../dieline/part.ts';
import { seededRandom } from '../geometry/random.ts';
import { flatten } from '../geometry/path.ts';
import { distance, type Point } from '../geometry/point.ts';
import { distanceToRing, regionArea } from '../geometry/polygon.ts';
import { stockById } from '../stock/stock.ts';
import { at, travels, withMechanism } from '../motion/testing/measure.ts';
import { bellyBand, bellyBandMeasures } from './bellyBand.ts';
import { bentStand, bentStandMeasures, evenBend } from './bentStand.ts';
import { blockLetter, hasLetter } from './blockLetters.ts';
import { expand } from './expand.ts';
import type { Family, Params } from './family.ts';
import { newInstance, usualHost } from './instance.ts';
import { layered, layeredMeasures } from './layered.ts';
import { FAMILIES } from './registry.ts';
import { slider, sliderMeasures } from './slider.ts';
import { waterfall, waterfallMeasures } from './waterfall.ts';
import { wheel, wheelMeasures } from './wheel.ts';

const seed = newDesign('Seed', { closedWidthMm: 148, closedHeightMm: 150 });
const hostOf = (family: Family) => usualHost(family, expand(seed).gutters);
const random = seededRandom(1207);

/** The usual measures with every length changed a little; legal ones only. */
function near(family: Family, spread = 0.4): Params {
  const usual = family.defaults(hostOf(family));
  for (let i = 0; i < 4000; i++) {
    const params = Object.fromEntries(
      Object.entries(usual).map(([key, value]) => [
        key,
        typeof value === 'number' && /Mm$|Deg$/.test(key)
          ? value * (1 - spread / 2 + spread * random()) + (key === 'acrossMm' ? 4 * random() - 2 : 0)
          : value,
      ]),
    );
    if (family.constraints(params, hostOf(family), 2).every((c) => c.overMm <= 0)) return params;
  }
  return usual;
}

const partsOf = (family: Family, params: Params): readonly Part[] =>
  expand({ ...seed, instances: { m: newInstance(family, hostOf(family), 'm', { params }) } }).parts;
const ring = (part: Part, lineId = 'outline'): Point[] =>
  flatten(part.lines.find((l) => l.id === lineId)!.path).slice(0, -1) as Point[];

const onPanels = FAMILIES.filter((f) => f.on === 'panel' && f.id !== 'bellyBand');

describe('what lies on a panel', () => {
  it.each(onPanels.map((family) => [family.id, family] as const))(
    '%s keeps inside it with the margin, at rest and moved, when its constraints hold',
    (_id, family) => {
      for (let i = 0; i < 6; i++) {
        const params = near(family);
        for (const motion of travels(withMechanism(family, params))) {
          // The opening moves the other half only: one place will do.
          for (const t of motion.driver === 0 ? [180] : [0, 45, 90, 135, 180])
            for (const panel of motion.linkage.panels) {
              if (panel.part.id === 'card' || !motion.linkage.attached[panel.body]) continue;
              // What a hand pulls out leaves the panel on purpose.
              if (panel.part.id === 'm/strip' && panel.id === 'pull' && motion.driver > 0 && t > 0) continue;
              for (const p of panel.region.outer) {
                const [x, y, z] = at(motion, panel.part.id, panel.id, p, t);
                // Only what lies down counts: a lifted flap may lean out over the panel's edge.
                if (Math.abs(z) > 0.01) continue;
                expect(x).toBeGreaterThan(2 - 0.02);
                expect(x).toBeLessThan(146 + 0.02);
                expect(y).toBeGreaterThan(2 - 0.02);
                expect(y).toBeLessThan(148 + 0.02);
              }
            }
        }
      }
    },
  );

  it('is refused with a reason when it is moved out by a millimetre more than it may', () => {
    for (const family of onPanels) {
      const params = family.defaults(hostOf(family));
      if (!('acrossMm' in params)) continue;
      const far = { ...params, acrossMm: Number(params.acrossMm) + 160 };
      const broken = family.constraints(far, hostOf(family), 2).filter((c) => c.overMm > 0);
      expect(broken.map((c) => c.reason).join()).toMatch(/would reach past the side of the panel/);
    }
  });
});

describe('a wheel', () => {
  it('shows one picture at a time, and never its pivot or its rim', () => {
    for (let i = 0; i < 20; i++) {
      const m = wheelMeasures(near(wheel));
      for (let k = 0; k < 200; k++) {
        const [r, angle] = [m.c * Math.sqrt(random()), 2 * Math.PI * random()];
        const [x, y] = [r * Math.cos(angle), m.d + r * Math.sin(angle)];
        // The sector in sight is centred on the way up.
        expect(Math.abs(Math.atan2(x, y))).toBeLessThan(Math.PI / m.n + 1e-9);
        expect(Math.hypot(x, y)).toBeLessThan(m.r - 1.9);
        expect(Math.hypot(x, y)).toBeGreaterThan(1.5);
      }
    }
  });

  it('leaves its rim bare at the finger notch', () => {
    const params = wheel.defaults(hostOf(wheel));
    const m = wheelMeasures(params);
    const cover = partsOf(wheel, params).find((p) => p.id === 'm/cover')!;
    const bare = ring(cover).map(([x, y]) => Math.hypot(x, y));
    expect(Math.min(...bare)).toBeCloseTo(m.r - m.notch, 1);
  });
});

describe('a slider', () => {
  it('touches its bridge with the knob at rest and with the head at the end, and clears the channel', () => {
    for (let i = 0; i < 10; i++) {
      const params = near(slider);
      const m = sliderMeasures(params);
      const [sliding, bridge] = ['m/slider', 'm/bridge'].map((id) =>
        ring(partsOf(slider, params).find((p) => p.id === id)!),
      );
      const half = m.bridge / 2;
      const wide = sliding.filter(([, y]) => Math.abs(y) > m.channel / 2);
      // Of what is wider than the channel, the nearest edges before and behind the bridge.
      expect(Math.min(...wide.filter(([x]) => x > 0).map(([x]) => x))).toBeCloseTo(half, 9);
      expect(Math.max(...wide.filter(([x]) => x < 0).map(([x]) => x)) + m.travel).toBeCloseTo(-half, 9);
      expect(m.channel - m.stem).toBeGreaterThan(0.5);
      expect(Math.max(...bridge.map(([, y]) => y)) - m.channel / 2).toBeCloseTo(m.land, 9);
    }
  });
});

describe('layers, bands and strips', () => {
  it('layered mats have one border all round, whatever their shape', () => {
    for (const shape of ['rectangle', 'circle', 'hexagon'])
      for (const form of ['mats', 'frames']) {
        const params = { ...near(layered), shape, form };
        const m = layeredMeasures(params);
        const layers = partsOf(layered, params).filter((p) => p.id.startsWith('m/layer'));
        expect(layers).toHaveLength(m.n);
        if (form === 'mats')
          for (let i = 1; i < layers.length; i++)
            for (const p of ring(layers[i]))
              expect(Math.abs(distanceToRing(p, ring(layers[i - 1])) - m.border)).toBeLessThan(0.05);
        else
          // Frames: each shows a border of the one below, so every next window is a border wider all round.
          for (let i = 2; i < layers.length; i++)
            for (const p of ring(layers[i - 1], 'window'))
              expect(Math.abs(distanceToRing(p, ring(layers[i], 'window')) - m.border)).toBeLessThan(0.05);
      }
  });

  it('a belly band goes round the card once and overlaps', () => {
    const params = { ...near(bellyBand), form: 'band' };
    const m = bellyBandMeasures(params);
    const band = partsOf(bellyBand, params).find((p) => p.id === 'm/band')!;
    const xs = ring(band).map(([x]) => x);
    const round = 2 * (148 + m.clear) + 2 * (m.thick + m.clear);
    expect(Math.max(...xs) - Math.min(...xs)).toBeCloseTo(round + m.overlap, 9);
    expect(panelPlan(band).panels).toHaveLength(5);
  });

  it.each([
    ['side', 'left'],
    ['side', 'right'],
    ['top', 'left'],
    ['top', 'right'],
  ] as const)('a closing tab, closed, ends 6 mm beyond its slit: %s fold, %s half', (opening, half) => {
    const design = newDesign('Tab', { closedWidthMm: 148, closedHeightMm: 150, opening });
    const host = expand(design).gutters.find((g) => g.lineId === panelHostId(half))!;
    const params = { ...near(bellyBand), form: 'tab' };
    const instance = newInstance(bellyBand, host, 'm', { params });
    const [, closing] = travels({ ...design, instances: { m: instance } });
    const m = bellyBandMeasures(params);
    const slit = expand({ ...design, instances: { m: instance } })
      .parts.find((p) => p.id === 'card')!
      .lines.find((line) => line.id === 'm/slit')!;
    const ends = flatten(slit.path);
    // Both seen on the half that carries the tab, the card closed (the pull is tried at 0 degrees).
    const other = half === 'left' ? 'right' : 'left';
    const base = ['card', half] as const;
    const [low, high] = ends.map((p) => at(closing, 'card', other, p, 180, base));
    const far = m.thick + m.clear + m.tongue;
    const tip = [0, m.width].map((y) => at(closing, 'm/tab', 'tongue', [far, y], 180, base));
    const along = [high[0] - low[0], high[1] - low[1]];
    const size = Math.hypot(...along);
    expect(size).toBeCloseTo(m.width + 1, 6);
    for (const p of tip) {
      const across = ((p[0] - low[0]) * along[1] - (p[1] - low[1]) * along[0]) / size;
      const down = ((p[0] - low[0]) * along[0] + (p[1] - low[1]) * along[1]) / size;
      expect(Math.abs(across)).toBeCloseTo(6, 6);
      expect(Math.min(Math.abs(down - 0.5), Math.abs(down - 0.5 - m.width))).toBeLessThan(1e-6);
    }
    // The tip lies further from the open edge than the slit.
    const openEdge = at(closing, 'm/tab', 'spine', [0, 0], 180, base);
    const away = (p: readonly number[]) =>
      Math.abs((p[0] - openEdge[0]) * along[1] - (p[1] - openEdge[1]) * along[0]);
    expect(away(tip[0])).toBeGreaterThan(away(low));
  });

  it('a waterfall’s strip is as long as its bands and its pull, every band as long as the spacing', () => {
    const params = near(waterfall);
    const m = waterfallMeasures(params);
    const strip = partsOf(waterfall, params).find((p) => p.id === 'm/strip')!;
    const { panels } = panelPlan(strip);
    expect(panels).toHaveLength(m.n + 1);
    const total = panels.reduce((sum, panel) => sum + panel.areaMm2, 0) / m.width;
    expect(total).toBeCloseTo(m.n * m.s + m.pull, 6);
    // At rest its end reaches below the lowest flap by the grip: what is pulled can be grasped.
    expect(m.pull - ((m.n - 1) * m.s + m.h)).toBeGreaterThanOrEqual(m.grip - 1e-9);
    for (const panel of panels.filter((p) => p.id.startsWith('band')))
      expect(panel.areaMm2 / m.width).toBeCloseTo(m.s, 6);
  });

  it('bent strips go into slits that let them pass, and the bend closes on the slits', () => {
    for (let i = 0; i < 10; i++) {
      const params = near(bentStand);
      const m = bentStandMeasures(params);
      const base = partsOf(bentStand, params).find((p) => p.id === 'm/base')!;
      const slit = ring(base, 'slit-0-left');
      const width = Math.max(...slit.map(([x]) => x)) - Math.min(...slit.map(([x]) => x));
      expect(width).toBeGreaterThan(stockById('slate-240').thicknessMm);
      for (const { lengthMm, span } of m.arches) {
        const f = lengthMm / m.n;
        const phi = evenBend(m.n, f, span);
        // A walk along the facets, turned by phi each, ends a span away.
        let [x, z, way] = [0, 0, ((m.n - 1) * phi) / 2];
        for (let k = 0; k < m.n; k++, way -= phi) [x, z] = [x + f * Math.cos(way), z + f * Math.sin(way)];
        expect(x).toBeCloseTo(span, 6);
        expect(z).toBeCloseTo(0, 6);
      }
    }
  });
});

describe('block letters', () => {
  const letters = [...'ABCDEFGHIJKLMNOPQRSTUVWXYZ0123456789'];

  it.each(letters)('%s is one piece that stands on its foot and reaches the top', (letter) => {
    expect(hasLetter(letter)).toBe(true);
    const regions = blockLetter(letter);
    expect(regions).toHaveLength(1);
    const ys = regions[0].outer.map(([, y]) => y);
    expect([Math.min(...ys), Math.max(...ys)]).toEqual([0, 1]);
    // Cells of a fifth: the area is a whole number of them.
    const cells = regionArea(regions[0]) * 25;
    expect(cells).toBeCloseTo(Math.round(cells), 6);
    // No stroke meets another in a point only: no corner is passed twice.
    const corners = [...regions[0].outer, ...regions[0].holes.flat()];
    for (let i = 0; i < corners.length; i++)
      for (let j = i + 1; j < corners.length; j++)
        expect(distance(corners[i], corners[j])).toBeGreaterThan(0.1);
  });

  it('refuses what it has not', () => {
    expect(hasLetter('!')).toBe(false);
    expect(() => blockLetter('!')).toThrow(/no block letter/);
  });
});
