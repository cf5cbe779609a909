/** Measures of what stands by itself that nobody would choose: everything answers, and in words. */
import { expect, it } from 'vitest';
import { checkContext } from '../../checks/context.ts';
import { reportOf } from '../../checks/report.ts';
import { newDesign, type Design } from '../../design/design.ts';
import { tableGutter } from '../../design/frames.ts';
import { seededRandom } from '../../geometry/random.ts';
import type { ParamValue } from '../../design/design.ts';
import { newInstance } from '../instance.ts';
import { STRUCTURES } from './all.ts';

const empty: Design = { ...newDesign('Wild'), base: { kind: 'structure', rootPartId: null } };

it.each(STRUCTURES.map((family) => [family.id, family] as const))(
  '%s: any measures that its fields take are built, or refused in words',
  (_, family) => {
    const random = seededRandom(family.id.length);
    for (let i = 0; i < 15; i++) {
      const params: Record<string, ParamValue> = {};
      for (const spec of family.specs) {
        const r = random() < 0.3 ? Math.round(random()) : random();
        if (spec.kind === 'length') params[spec.key] = spec.minMm + r * (spec.maxMm - spec.minMm);
        else if (spec.kind === 'count')
          params[spec.key] = spec.min + Math.floor(r * (spec.max - spec.min + 0.999));
        else if (spec.kind === 'choice')
          params[spec.key] = spec.choices[Math.floor(r * (spec.choices.length - 0.001))].value;
        else if (spec.kind === 'flag') params[spec.key] = r < 0.5;
      }
      const base: Design = i % 4 === 0 ? { ...empty, base: { kind: 'card', front: 'left' } } : empty;
      const design = { ...base, instances: { m: newInstance(family, tableGutter(base), 'm', { params }) } };
      const { findings } = reportOf(checkContext(design));
      for (const { sentence } of findings) {
        expect(sentence.length).toBeGreaterThan(10);
        expect(sentence).not.toMatch(/NaN|undefined|Infinity/);
      }
    }
  },
);
