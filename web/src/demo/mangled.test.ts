/** Mangled designs: each is refused with place and cure, or reported without a throw; what cannot be built is a finding. */
import { checkContext } from '@hollow-finch/core/checks/context';
import { reportOf } from '@hollow-finch/core/checks/report';
import { readDesign } from '@hollow-finch/core/design/schema';
import { describe, expect, it } from 'vitest';
import { mangledDesigns } from './testing/mangle.ts';

const LONGEST_MS = 5_000;

describe('2,000 mangled designs', () => {
  it.each([1, 2, 3, 4])(
    'are refused with place and cure, or reported: a quarter of them, %i',
    (seed) => {
      let [refused, reported] = [0, 0];
      for (const document of mangledDesigns(seed, 500)) {
        const read = readDesign(document);
        if (!read.ok) {
          expect(read.message).toMatch(/^The design is damaged at .+: .+\. Put that right/);
          expect(read.message).not.toMatch(/Invalid|undefined|\[object/);
          refused++;
          continue;
        }
        const looked = () => {
          const from = performance.now();
          const { findings } = reportOf(checkContext(read.design));
          return { findings, ms: performance.now() - from };
        };
        let { findings, ms } = looked();
        // The machine may have held its breath: what takes so long takes it again.
        if (ms >= LONGEST_MS) ({ findings, ms } = looked());
        expect(ms).toBeLessThan(LONGEST_MS);
        for (const { sentence } of findings) expect(sentence).not.toMatch(/NaN|undefined|Infinity/);
        reported++;
      }
      expect(Math.min(refused, reported)).toBeGreaterThan(50);
    },
    120_000,
  );
});
