/** Every rule on its own planted fault, at random sizes and places: found 5 % beyond its limit, silent 5 % inside it. */
import { describe, expect, it } from 'vitest';
import { seededRandom } from '../geometry/random.ts';
import { checkContext } from './context.ts';
import { RULES } from './rules.ts';
import { runChecks } from './runChecks.ts';
import { PLANTS, type Plant } from '../practice/plants.ts';

const found = (plant: Plant, { design, key, cuts }: ReturnType<Plant['planted']>) =>
  runChecks(checkContext(design, cuts)).filter((f) => f.rule === plant.rule && (!key || f.key.includes(key)));

describe('planted faults', () => {
  it('are there for every rule', () => {
    const planted = new Set(PLANTS.map((plant) => plant.rule));
    expect(RULES.map((rule) => rule.id).filter((id) => !planted.has(id))).toEqual([]);
  });

  it.each(PLANTS.map((plant) => [`${plant.rule}: ${plant.what}`, plant] as const))('%s', (_name, plant) => {
    const random = seededRandom(PLANTS.indexOf(plant) + 1);
    for (let i = 0; i < 6; i++) {
      const beyond = plant.planted(random, 0.05);
      const findings = found(plant, beyond);
      expect(findings.length).toBeGreaterThan(0);
      const [first] = findings;
      expect(first.sentence.length).toBeGreaterThan(20);
      expect(first.measured === 0 && first.limit === 0).toBe(false);
      if (beyond.measured !== undefined) {
        const near = findings.map((f) => Math.abs((f.measured ?? NaN) - beyond.measured!));
        expect(Math.min(...near)).toBeLessThan(0.02 * Math.abs(beyond.measured) + 2e-3);
      }
      expect(found(plant, plant.planted(random, -0.05))).toEqual([]);
      // Far beyond, it is found as well.
      expect(found(plant, plant.planted(random, plant.sized ? 1 + 2 * random() : 1)).length).toBeGreaterThan(
        0,
      );
    }
  });
});
