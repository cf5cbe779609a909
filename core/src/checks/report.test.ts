/** The live report and what follows it when the hand rests: together they say what all rules say at once. */
import { workOf } from '../dieline/part.ts';
import { describe, expect, it } from 'vitest';
import { newDesign, type Design, type DraftedPart } from '../design/design.ts';
import { shift } from '../geometry/isometry.ts';
import { polyline } from '../geometry/path.ts';
import { expand } from '../mechanisms/expand.ts';
import { newInstance, usualHost } from '../mechanisms/instance.ts';
import { rectangle } from '../mechanisms/pieces.ts';
import { FAMILIES } from '../mechanisms/registry.ts';
import { step } from '../mechanisms/step.ts';
import { withMechanism } from '../motion/testing/measure.ts';
import { blamedFindings, heldPullReport, reportOf } from './report.ts';
import { checkContext } from './context.ts';
import type { Finding } from './finding.ts';
import { mendedFindings, runChecks } from './runChecks.ts';
import { PLANTS } from '../practice/plants.ts';
import { seededRandom } from '../geometry/random.ts';
import { inOneGo } from '../motion/turns.ts';

const bar: DraftedPart = {
  id: 'bar',
  name: 'Bar',
  stockId: 'slate-240',
  grainRad: null,
  quantity: 1,
  lines: { l1: { id: 'l1', ...workOf('cut'), path: polyline(rectangle(0, 0, 80, 10), true) } },
  marks: {},
  glueZones: {
    a: { id: 'a', outline: rectangle(0, 0, 5, 10), face: 'back', kind: 'glue' },
    b: { id: 'b', outline: rectangle(70, 0, 10, 10), face: 'back', kind: 'glue' },
  },
};

/** A step whose left panel a stiff bar glues to the right half: nothing can move. */
function lockedStep(): Design {
  const design = newDesign('Locked', { closedWidthMm: 148, closedHeightMm: 150 });
  const on = (id: string, zoneId: string, hostPartId: string, x: number, y: number) => ({
    id,
    kind: 'glue' as const,
    partId: 'bar',
    zoneId,
    hostPartId,
    placement: shift(x, y),
    mate: null,
  });
  return {
    ...design,
    instances: { m: newInstance(step, usualHost(step, expand(design).gutters), 'm') },
    parts: { bar },
    joints: { j1: on('j1', 'a', 'm/strip', 8, 4), j2: on('j2', 'b', 'card', 20, 40) },
  };
}

describe('a report', () => {
  it('names the joints that lock only when the hand rests, under the same keys', () => {
    const context = checkContext(lockedStep());
    const live = reportOf(context).findings.filter((f) => f.rule === 'motionFaults');
    expect(live).toHaveLength(1);
    expect(live[0].sentence).not.toContain('Without');
    const blamed = inOneGo(blamedFindings(context));
    expect(blamed.map((f) => f.key)).toEqual(live.map((f) => f.key));
    expect(blamed[0].sentence.startsWith(live[0].sentence)).toBe(true);
    expect(blamed[0].sentence).toMatch(/Without .*“a” between Bar and Step/);
    // Taking away what is blamed frees it.
    const { j2 } = lockedStep().joints;
    const freed = checkContext({ ...lockedStep(), joints: { j2 } });
    expect(inOneGo(blamedFindings(freed))).toEqual([]);
  });

  it.each(PLANTS.map((plant) => [`${plant.rule}: ${plant.what}`, plant] as const))(
    'what is said live and what follows is what all rules say at once, %s',
    (_name, plant) => {
      const { design, cuts } = plant.planted(seededRandom(3), 0.5);
      const context = checkContext(design, cuts);
      const all = runChecks(context);
      expect(all.length).toBeGreaterThan(0);
      const live = new Map(reportOf(context).findings.map((f) => [f.key, f]));
      for (const better of [...inOneGo(blamedFindings(context)), ...inOneGo(mendedFindings(context))]) {
        expect(live.has(better.key)).toBe(true);
        live.set(better.key, better);
      }
      context.pulls.forEach((_, index) =>
        inOneGo(heldPullReport(context, index)).findings.forEach((f) => live.set(f.key, f)),
      );
      const said = (findings: Iterable<Finding>) =>
        [...findings].map(({ key, sentence, mend }) => [key, sentence, mend?.label ?? null]).sort();
      expect(said(live.values())).toEqual(said(all));
    },
  );

  it.each(FAMILIES.map((family) => [family.id, family] as const))(
    '%s: its pulls are tried at thirteen places, in stretches that run forwards',
    (_id, family) => {
      const context = checkContext(
        withMechanism(family, family.defaults(usualHost(family, expand(newDesign('Plain')).gutters))),
      );
      const held = context.pulls.map((_, index) => inOneGo(heldPullReport(context, index)));
      for (const pull of held) {
        expect(pull.levels.map((level) => level.place)).toEqual(Array.from({ length: 13 }, (_, i) => 15 * i));
        for (const [from, to] of pull.levels.flatMap((level) => level.caught))
          expect(from).toBeLessThanOrEqual(to);
        if (pull.free) expect(pull.free.from).toBeLessThanOrEqual(pull.free.to);
      }
    },
  );
});
