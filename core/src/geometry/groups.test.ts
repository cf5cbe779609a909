import { expect, it } from 'vitest';
import { Groups } from './groups.ts';
import { seededRandom } from './random.ts';

it('what hangs together is what can be walked to over joins, and the last named stands for it', () => {
  const random = seededRandom(8);
  for (let round = 0; round < 60; round++) {
    const count = 1 + Math.floor(20 * random());
    const any = () => Math.floor(count * random());
    const groups = new Groups(count);
    const joins: [number, number][] = [];
    for (let n = Math.floor(count * random()); n > 0; n--) {
      const [one, other] = [any(), any()];
      const root = groups.of(other);
      groups.join(one, other);
      expect([groups.of(one), groups.of(other)]).toEqual([root, root]);
      joins.push([one, other]);
    }
    const from = any();
    const seen = new Set([from]);
    for (let grown = true; grown;) {
      grown = false;
      for (const [p, q] of joins)
        if (seen.has(p) !== seen.has(q)) {
          seen.add(p).add(q);
          grown = true;
        }
    }
    for (let i = 0; i < count; i++) expect(groups.areJoined(i, from)).toBe(seen.has(i));
  }
});
