/** Every family with measures drawn at random from all that can be typed: never a number that is none, never a riddle. */
import { describe, expect, it } from 'vitest';
import { checkContext } from './context.ts';
import { runChecks } from './runChecks.ts';
import { newDesign, type Brief, type Design } from '../design/design.ts';
import { seededRandom } from '../geometry/random.ts';
import { writePartSvg } from '../formats/svgWrite.ts';
import { PROFILES } from '../cutting/profile.ts';
import { expand } from '../mechanisms/expand.ts';
import type { Family, Params, ParamSpec } from '../mechanisms/family.ts';
import { newInstance, usualHost } from '../mechanisms/instance.ts';
import { FAMILIES } from '../mechanisms/registry.ts';

const LINES = ['openOutline', 'doubledLine', 'wholePieces', 'foldFaults'];
const OPENINGS: readonly Brief['opening'][] = ['side', 'top', 'gate'];

/** A value for a parameter: anything that it may be typed to, or near what it usually is. */
function drawn(spec: ParamSpec, usual: Params[string], random: () => number): Params[string] {
  const near = random() < 0.5;
  switch (spec.kind) {
    case 'length':
      return near && typeof usual === 'number'
        ? Math.min(spec.maxMm, Math.max(spec.minMm, usual * (0.3 + 1.7 * random())))
        : spec.minMm + (spec.maxMm - spec.minMm) * random() ** 2;
    case 'angle':
      return near && typeof usual === 'number'
        ? Math.min(spec.maxDeg, Math.max(spec.minDeg, usual * (0.3 + 1.7 * random())))
        : spec.minDeg + (spec.maxDeg - spec.minDeg) * random();
    case 'count':
      return spec.min + Math.floor((spec.max - spec.min + 1) * random());
    case 'choice':
      return spec.choices[Math.floor(spec.choices.length * random())].value;
    case 'stock':
      return random() < 0.5 ? '' : 'chalk-300';
    case 'flag':
      return random() < 0.5;
    case 'text':
      return ['MOON', 'A', 'W8 O', 'II', 'STAR 4'][Math.floor(5 * random())];
  }
}

function wild(family: Family, opening: Brief['opening'], random: () => number): Design {
  const design = newDesign('Wild', { closedWidthMm: 148, closedHeightMm: 150, opening });
  const host = usualHost(family, expand(design).gutters);
  const usual = family.defaults(host);
  const params = Object.fromEntries(
    family.specs.map((spec) => [
      spec.key,
      random() < 0.5 ? usual[spec.key] : drawn(spec, usual[spec.key], random),
    ]),
  );
  return { ...design, instances: { m: newInstance(family, host, 'm', { params, beyondLimits: true }) } };
}

describe('measures typed at random', () => {
  it.each(FAMILIES.map((family, k) => [family.id, family, k] as const))('%s', (_, family, k) => {
    const random = seededRandom(20_808 + k);
    for (let i = 0; i < 15; i++) {
      const opening = OPENINGS[i % 3];
      const design = wild(family, opening, random);
      const context = checkContext(design);
      const found = runChecks(context);
      const said = JSON.stringify([family.id, opening, design.instances.m.params]);
      for (const finding of found) {
        expect(`${finding.sentence} ${finding.limitFrom}`, said).not.toMatch(/NaN|Infinity|undefined|null/);
        if (finding.measured !== null) expect(Number.isFinite(finding.measured), said).toBe(true);
      }
      expect([...new Set(found.map((f) => f.key))].length, said).toBe(found.length);
      for (const part of context.expanded.parts)
        expect(writePartSvg(part, 'Wild', PROFILES[0]), said).not.toMatch(/NaN|Infinity/);
      // A line is never at fault without the measure that is its cause being named instead.
      expect(
        found.filter((f) => LINES.includes(f.rule)).map((f) => f.sentence),
        said,
      ).toEqual([]);
    }
  });
});
