/** Changes that clear: each is the smallest that does, undoes nothing else, and can be taken back. */
import { workOf } from '../dieline/part.ts';
import { describe, expect, it } from 'vitest';
import { applyCommand } from '../design/commands.ts';
import { newDesign, type Design, type Joint } from '../design/design.ts';
import { shift } from '../geometry/isometry.ts';
import { polyline } from '../geometry/path.ts';
import { seededRandom } from '../geometry/random.ts';
import { expand } from '../mechanisms/expand.ts';
import { newInstance, usualHost } from '../mechanisms/instance.ts';
import { rectangle } from '../mechanisms/pieces.ts';
import { slider, sliderMeasures } from '../mechanisms/slider.ts';
import { step } from '../mechanisms/step.ts';
import { vfold } from '../mechanisms/vfold.ts';
import { findMend } from './clearing.ts';
import { draftedPiece } from '../motion/testing/measure.ts';
import { checkContext } from './context.ts';
import { runChecks } from './runChecks.ts';

const base = newDesign('Clearing', { closedWidthMm: 148, closedHeightMm: 150 });
const { gutters } = expand(base);

const glued = (id: string, partId: string, hostPartId: string, x: number, y: number): Joint => ({
  id,
  kind: 'glue',
  partId,
  zoneId: 'z',
  hostPartId,
  placement: shift(x, y),
  mate: null,
});
const findings = (design: Design, rule: string) =>
  runChecks(checkContext(design)).filter((f) => f.rule === rule);

/** Applies a finding's change; what it was about must be gone, nothing new there, and undoing gives the same design back. */
function cured(design: Design, rule: string): { label: string; after: Design } {
  const before = findings(design, rule);
  const mend = findMend(checkContext(design), before[0].key)!;
  expect(mend).not.toBeNull();
  const { design: after, inverse } = applyCommand(design, mend.command);
  const keys = new Set(before.map((f) => f.key));
  const left = findings(after, rule);
  expect(left.map((f) => f.key)).not.toContain(before[0].key);
  expect(left.filter((f) => !keys.has(f.key))).toEqual([]);
  expect(applyCommand(after, inverse).design).toEqual(design);
  return { label: mend.label, after };
}

describe('glue in the way', () => {
  const sliding = newInstance(slider, usualHost(slider, gutters), 's');
  const m = sliderMeasures(sliding.params);
  /** Where the slider's head ends on the right half, in the card's plane, and the middle of its way. */
  const [x, y] = [74 + m.across, m.along];

  it('of a slider: the block beside it is moved by the least step that clears it', () => {
    const reach = m.travel + m.bridge / 2;
    for (const over of [0.3, 1.7, 4.2]) {
      // A block that the knob's end runs over at the end of the travel, along the way of the slider.
      const way = (m.turnDeg * Math.PI) / 180;
      const far = reach + 60;
      const probe = (d: number): Design => ({
        ...base,
        instances: { s: sliding },
        parts: { Block: draftedPiece('Block', 6, 6) },
        joints: { j: glued('j', 'Block', 'card', x + d * Math.cos(way) - 3, y + d * Math.sin(way) - 3) },
      });
      // How far out the block must be not to be met: found by halving.
      let [bad, good] = [0, far];
      while (good - bad > 0.01) {
        const middle = (bad + good) / 2;
        if (findings(probe(middle), 'glueInTheWay').length > 0) bad = middle;
        else good = middle;
      }
      const { label } = cured(probe(good - over), 'glueInTheWay');
      const moved = Number(/([\d.]+) mm/.exec(label)![1]);
      expect(label).toMatch(/^Move Block|^Slider: set/);
      // Steps are half a millimetre at first, a whole one, then one and a half, two, three, four, five.
      if (label.startsWith('Move')) expect(moved).toBeLessThanOrEqual(Math.max(0.5, over + 1.01));
    }
  });
});

describe('a drafted piece that pokes out', () => {
  it.each([3, 9, 14])('is moved back by just what it pokes out, %i mm', (outMm) => {
    const design: Design = {
      ...base,
      parts: { Flag: draftedPiece('Flag', 30, 20) },
      // The right half ends at 148.
      joints: { j: glued('j', 'Flag', 'card', 118 + outMm, 60) },
    };
    const { label, after } = cured(design, 'closedOverhang');
    expect(label).toMatch(/^Move Flag .* mm (into the free area|left)$/);
    const moved = after.joints.j;
    if (moved.kind !== 'glue') throw new Error('no glue');
    // To the tenth when its glue still holds on the card, else by the next of the steps that are tried.
    expect(118 - moved.placement.dx).toBeGreaterThan(-1e-6);
    expect(118 - moved.placement.dx).toBeLessThan(label.endsWith('left') ? 3 : 0.11);
    expect(moved.placement.dy).toBeCloseTo(60, 1);
  });

  it('is made smaller where there is no room to move it to', () => {
    const design: Design = {
      ...base,
      parts: { Flag: draftedPiece('Flag', 160, 20) },
      joints: { j: glued('j', 'Flag', 'card', 5, 60) },
    };
    expect(cured(design, 'closedOverhang').label).toMatch(/^Make Flag \d+ % of its size$/);
  });
});

describe('mends that come with a finding', () => {
  it('cure it on random faulty cards, and are taken back whole', () => {
    const random = seededRandom(99);
    let tried = 0;
    for (let i = 0; i < 25; i++) {
      const params = {
        ...step.defaults(usualHost(step, gutters)),
        tabMm: 2 + 8 * random(),
        leftMm: 40 + 60 * random(),
        rightMm: 40 + 60 * random(),
      };
      const square = polyline(rectangle(0, 0, 20 + 20 * random(), 20), true);
      const design: Design = {
        ...base,
        brief: { ...base.brief, envelopeId: random() < 0.5 ? 'c6' : null },
        instances: { m: newInstance(step, usualHost(step, gutters), 'm', { params }) },
        parts: {
          p: {
            ...draftedPiece('p', 1, 1),
            lines: {
              a: { id: 'a', ...workOf('cut'), path: square },
              b: { id: 'b', ...workOf('cut'), path: square },
            },
          },
        },
      };
      for (const finding of runChecks(checkContext(design))) {
        if (!finding.mend) continue;
        tried++;
        const { design: after, inverse } = applyCommand(design, finding.mend.command);
        expect(runChecks(checkContext(after)).map((f) => f.key)).not.toContain(finding.key);
        expect(applyCommand(after, inverse).design).toEqual(design);
      }
    }
    expect(tried).toBeGreaterThan(25);
  });
});

describe('catching', () => {
  it('is cleared by moving along the fold as far as it takes: a mechanism that is moved stays what it is', () => {
    const host = usualHost(step, gutters);
    const design: Design = {
      ...base,
      instances: {
        m1: newInstance(step, host, 'm1', {
          params: { alongMm: 56, leftMm: 40, rightMm: 46, panelMm: 46, widthMm: 44, taperMm: 2 },
        }),
        m2: newInstance(vfold, host, 'm2', {
          params: { alongMm: 45, leftFootDeg: 42, footMm: 38, creaseMm: 46, tabMm: 7, taperMm: 3 },
        }),
      },
    };
    const { after } = cured(design, 'catching');
    const moved = (id: string) =>
      Math.abs(Number(after.instances[id].params.alongMm) - Number(design.instances[id].params.alongMm));
    // Further than a quarter of the measure, which is the most that a size would be changed by; and nothing else.
    expect(Math.max(moved('m1'), moved('m2'))).toBeGreaterThan(14);
    for (const [id, { params }] of Object.entries(design.instances))
      expect({ ...after.instances[id].params, alongMm: 0 }).toEqual({ ...params, alongMm: 0 });
  });
});
