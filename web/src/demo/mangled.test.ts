/** Mangled designs: each is refused with place and cure, or reported without a throw; what cannot be built is a finding. */
import { checkContext } from '@hollow-finch/core/checks/context';
import { reportOf } from '@hollow-finch/core/checks/report';
import { readDesign } from '@hollow-finch/core/design/schema';
import { describe, expect, it } from 'vitest';
import { mangledDesigns } from './testing/mangle.ts';

describe('2,000 mangled designs', () => {
  it.each([1, 2, 3, 4])('are refused with place and cure, or reported: a quarter of them, %i', (seed) => {
    let [refused, reported] = [0, 0];
    for (const document of mangledDesigns(seed, 500)) {
      const read = readDesign(document);
      if (!read.ok) {
        expect(read.message).toMatch(/^The design is damaged at .+: .+\. Put that right/);
        expect(read.message).not.toMatch(/Invalid|undefined|\[object/);
        refused++;
        continue;
      }
      for (const { sentence } of reportOf(checkContext(read.design)).findings)
        expect(sentence).not.toMatch(/NaN|undefined|Infinity/);
      reported++;
    }
    expect(Math.min(refused, reported)).toBeGreaterThan(50);
  });
});
