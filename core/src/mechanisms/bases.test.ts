/** What designs stand on: both faces of a sheet, the outside of a card, a structure without a card, parts glued to themselves. */
import { describe, expect, it } from 'vitest';
import { checkContext } from '../checks/context.ts';
import { reportOf } from '../checks/report.ts';
import { newDesign, type Design, type GlueJoint } from '../design/design.ts';
import { turnedGutter } from '../design/frames.ts';
import { shift } from '../geometry/isometry.ts';
import { seededRandom } from '../geometry/random.ts';
import { linkageOf } from '../motion/linkage.ts';
import { pointAt } from '../motion/pose.ts';
import { sweep, type Sweep } from '../motion/sweep.ts';
import { boxNet, closes } from '../practice/boxNet.ts';
import { sheetOf } from '../practice/drafts.ts';
import { expand } from './expand.ts';
import type { Family } from './family.ts';
import { newInstance, nowhere, possibleHost, standsOn } from './instance.ts';
import { FAMILIES } from './registry.ts';
import { rectangle } from './pieces.ts';

const W = 150;
const H = 130;
const sheet: Design = {
  ...newDesign('Sheet', { closedWidthMm: W, closedHeightMm: H }),
  base: { kind: 'sheet' },
};
const structure: Design = { ...newDesign('Structure'), base: { kind: 'structure', rootPartId: null } };
const panelFamilies = FAMILIES.filter((family) => family.on === 'panel');

/** All travels of a design with one mechanism on a face of the sheet. */
function travels(family: Family, gutterId: string): Sweep[] {
  const host = expand(sheet).gutters.find((g) => g.lineId === gutterId)!;
  const linkage = linkageOf(expand({ ...sheet, instances: { m: newInstance(family, host, 'm') } }));
  const opening = sweep(linkage);
  return [opening, ...linkage.drivers.slice(1).map((_, i) => sweep(linkage, i + 1, opening))];
}

describe('a flat sheet', () => {
  it('is one part without a fold, and no card', () => {
    const { parts, gutters, rootPartId } = expand(sheet);
    expect(parts.map((part) => part.name)).toEqual(['Sheet']);
    expect(parts[0].lines.map((line) => line.process)).toEqual(['cut']);
    expect(rootPartId).toBe(parts[0].id);
    expect(gutters.map((g) => g.name)).toEqual(['the sheet’s front', 'the sheet’s back', 'by itself']);
  });

  it.each(panelFamilies.map((family) => [family.id, family] as const))(
    '%s on its back moves as it does on its front, in the mirror',
    (_, family) => {
      const [front, back] = [travels(family, 'panel:right'), travels(family, 'panel:right@back')];
      expect(back).toHaveLength(front.length);
      front.forEach((motion, k) => {
        const other = back[k];
        for (const at of [0, 37, 90, 144, 180])
          for (const panel of motion.linkage.panels) {
            if (panel.part.id === 'card') continue;
            const twin = other.linkage.panels.find((p) => p.part.id === panel.part.id && p.id === panel.id)!;
            for (const p of panel.region.outer.slice(0, 4)) {
              const [x, y, z] = pointAt(motion, panel, p, at);
              const [u, v, w] = pointAt(other, twin, p, at);
              expect(Math.hypot(u - (W - x), v - y, w + z)).toBeLessThan(1e-6);
            }
          }
      });
    },
  );

  it('bears nothing that needs a fold, and says so', () => {
    const { gutters } = expand(sheet);
    for (const family of FAMILIES.filter(({ on }) => on === 'fold')) {
      expect(possibleHost(family, gutters)).toBeUndefined();
      expect(nowhere(family)).toMatch(/stands on a fold, and there is none/);
    }
  });
});

describe('both faces of every leaf', () => {
  const random = seededRandom(31);
  const cases = (['side', 'top', 'gate'] as const).flatMap((opening) =>
    panelFamilies.map((family) => [opening, family.id, family] as const),
  );
  it.each(cases)('%s: %s is sound on each, or refused in words', (opening, _, family) => {
    for (let n = 0; n < 2; n++) {
      const design = newDesign('Card', {
        opening,
        closedWidthMm: Math.round(120 + 80 * random()),
        closedHeightMm: Math.round(110 + 60 * random()),
      });
      for (const host of expand(design).gutters) {
        if (!standsOn(family, host)) continue;
        const instance = newInstance(family, host, 'm');
        const turned = turnedGutter(host, instance.turnDeg ?? 0);
        const over = family.constraints(instance.params, turned, 2).filter((c) => c.overMm > 1e-6);
        const { findings } = reportOf(checkContext({ ...design, instances: { m: instance } }));
        const said = findings.map((finding) => finding.sentence);
        if (over.length > 0) expect(said.length, host.name).toBeGreaterThan(0);
        else expect(said, host.name).toEqual([]);
      }
    }
  });

  it('are called by the leaf, and the front is told', () => {
    const names = (opening: 'side' | 'top' | 'gate', front: 'left' | 'right' = 'left') =>
      expand({ ...newDesign('Card', { opening }), base: { kind: 'card', front } })
        .gutters.filter((g) => g.lineId.endsWith('@back'))
        .map((g) => g.name);
    expect(names('side')).toEqual([
      'the outside of the card’s left half, the front',
      'the outside of the card’s right half',
    ]);
    expect(names('top', 'right')[1]).toBe('the outside of the card’s lower half, the front');
    expect(names('gate')).toHaveLength(3);
  });
});

describe('a structure without a card', () => {
  const folded = (restDeg: number, change: Partial<GlueJoint> = {}): Design => ({
    ...structure,
    parts: { net: boxNet(60, 40, 25, restDeg) },
    joints: { close: { ...closes(60), ...change } },
  });

  it('has no card in its parts, and holds the largest panel of its first part still', () => {
    const { parts } = expand(folded(90));
    expect(parts.map((part) => part.id)).toEqual(['net']);
    const { still, drivers } = linkageOf(expand(folded(90)));
    expect(still!.region.outer.every(([x, y]) => x >= 0 && x <= 60 && y >= 0 && y <= 40)).toBe(true);
    expect(drivers.map((driver) => driver.name)).toEqual(['Folding up']);
  });

  it('folds up to the angle at which each fold rests, all in step', () => {
    const motion = sweep(linkageOf(expand(folded(90))));
    const wall = motion.linkage.panels.find((panel) => panel.region.outer.some(([, y]) => y > 60))!;
    for (const at of [0, 45, 90, 135, 180]) {
      const angle = ((180 - at) / 180) * (Math.PI / 2);
      const [x, y, z] = pointAt(motion, wall, [30, 65], at);
      expect(Math.hypot(x - 30, y - 40 - 25 * Math.cos(angle), z - 25 * Math.sin(angle))).toBeLessThan(1e-9);
    }
  });

  it('closes where it is glued when its angles are right, and says by how much it does not', () => {
    const findings = (design: Design) =>
      reportOf(checkContext(design)).findings.filter((finding) => finding.rule === 'closing');
    expect(findings(folded(90))).toEqual([]);
    const [off] = findings(folded(80));
    expect(off.sentence).toMatch(/^Folded up, net misses itself by/);
    expect(off.measured).toBeGreaterThan(3);
    const moved = findings(folded(90, { placement: { ...closes(60).placement, dx: 62 } }));
    expect(moved[0].measured).toBeCloseTo(2, 6);
  });

  it('folds to a right angle where a fold does not say at which it rests', () => {
    const plain = boxNet(60, 40, 25, 90);
    const lines = Object.fromEntries(
      Object.entries(plain.lines).map(([id, each]) => [
        id,
        each.fold ? { ...each, fold: { sense: each.fold.sense } } : each,
      ]),
    );
    const design = { ...folded(90), parts: { net: { ...plain, lines } } };
    expect(reportOf(checkContext(design)).findings.filter(({ rule }) => rule === 'closing')).toEqual([]);
  });

  it('that is empty is no fault and no card either', () => {
    const { findings, sweep: motion } = reportOf(checkContext(structure));
    expect(findings).toEqual([]);
    expect(motion.linkage.panels).toEqual([]);
  });
});

describe('a part glued to itself', () => {
  it('closes on screen: a sleeve stands open, its folds sharing the bend', () => {
    const [p, q] = [50, 30];
    const length = 2 * (p + q) + 12;
    const part = sheetOf('sleeve', length, 40, {
      folds: [p, p + q, 2 * p + q, 2 * (p + q)].map((x) => [x, 'valley'] as const),
      zones: { z: [2 * (p + q) + 1, 1, 10, 38] },
    });
    const joint: GlueJoint = {
      id: 'seam',
      kind: 'glue',
      partId: 'sleeve',
      hostPartId: 'sleeve',
      zoneId: 'z',
      placement: shift(-2 * (p + q), 0),
      mate: null,
    };
    const hold: GlueJoint = {
      ...joint,
      id: 'hold',
      hostPartId: 'card',
      zoneId: 'h',
      placement: shift(20, 20),
    };
    const held = {
      ...part,
      glueZones: {
        ...part.glueZones,
        h: { id: 'h', face: 'back' as const, kind: 'glue' as const, outline: rectangle(2, 2, 46, 36) },
      },
    };
    const design: Design = {
      ...newDesign('Sleeve', { closedWidthMm: 148, closedHeightMm: 105 }),
      parts: { sleeve: held },
      joints: { seam: joint, hold },
    };
    const report = reportOf(checkContext(design));
    const { panels } = report.sweep.linkage;
    expect(Math.max(...report.sweep.residualMm)).toBeLessThan(1e-6);
    const roof = panels.find(
      (panel) =>
        panel.part.id === 'sleeve' && panel.region.outer.some(([x]) => x > p + q + 1 && x < 2 * p + q),
    );
    const top = panels.find(
      (panel) =>
        panel.part.id === 'sleeve' &&
        panel.region.outer.every(([x]) => x >= p + q - 1e-6 && x <= 2 * p + q + 1e-6),
    )!;
    expect(roof ?? top).toBeDefined();
    const [, , z] = pointAt(report.sweep, top, [p + q + 25, 20], 180);
    expect(z).toBeGreaterThan(0);
    expect(z).toBeLessThanOrEqual(q + 1e-6);
  });
});
