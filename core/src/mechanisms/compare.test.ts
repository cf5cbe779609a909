/** What differs between two designs: the commands make the one of the other, and the words say each difference. */
import { describe, expect, it } from 'vitest';
import { applyCommand } from '../design/commands.ts';
import { newDesign, type Design } from '../design/design.ts';
import { readDesign } from '../design/schema.ts';
import { seededRandom } from '../geometry/random.ts';
import { drafted, glueAt, sheetOf } from '../practice/drafts.ts';
import { differences } from './compare.ts';
import { expand } from './expand.ts';
import { newInstance, usualHost } from './instance.ts';
import { step } from './step.ts';
import { vfold } from './vfold.ts';

const copyOf = <T>(value: T): T => JSON.parse(JSON.stringify(value)) as T;
const base = newDesign('One', { closedWidthMm: 148, closedHeightMm: 105 });
const host = usualHost(step, expand(base).gutters);
const rich: Design = {
  ...drafted([sheetOf('Tag', 40, 30, { zones: { z: [2, 2, 10, 10] } })], [glueAt('Tag', 'z', [90, 40])]),
  name: 'Rich',
  instances: { m: newInstance(step, host, 'm', { name: 'Dais' }), v: newInstance(vfold, host, 'v') },
  accepted: { 'thinWeb:x': { reason: 'Meant so.' } },
  board: { Tag: { x: 3, y: 4 } },
  sheetPlan: { fingerprint: 'f', sheets: [], seed: 1 },
};
const said = (before: Design, after: Design) =>
  differences(before, after).map(({ subject, words }) => `${subject}: ${words}`);
const made = (before: Design, after: Design) =>
  differences(before, after).reduce((design, { command }) => applyCommand(design, command).design, before);

/** A design as text, as it is read: what is kept in another order is the same. */
const asRead = (design: Design): string => JSON.stringify(readDesign(JSON.parse(JSON.stringify(design))));

describe('differences', () => {
  it('of guides, measures, locks and twins are said, and made again', () => {
    const turned = { angleRad: Math.PI, flip: true, dx: 0, dy: 0 };
    const more: Design = {
      ...rich,
      parts: {
        Tag: { ...rich.parts.Tag, locked: true },
        Twin: { ...rich.parts.Tag, id: 'Twin', name: 'Twin', twinOf: { partId: 'Tag', map: turned } },
      },
      instances: { ...rich.instances, m: { ...rich.instances.m, locked: true } },
      guides: { g: { id: 'g', axis: 'y', atMm: 20, partId: null } },
      dimensions: {
        d: { id: 'd', partId: 'card', from: { at: [0, 0] }, to: { at: [9, 0] }, along: 'x', offsetMm: 8 },
      },
    };
    expect(said(rich, more)).toEqual([
      'Tag: locked',
      'Twin: added',
      'Dais: locked',
      'A level guide: added',
      'A measure of the card: added',
    ]);
    const alone = { ...more.parts.Twin };
    delete alone.twinOf;
    const moved = {
      ...more,
      parts: { ...more.parts, Twin: alone },
      guides: { g: { ...more.guides.g, atMm: 25.5 } },
    };
    expect(said(more, moved)).toEqual(['Twin: stands alone', 'A level guide: at 20 mm → 25.5 mm']);
    for (const [from, to] of [
      [rich, more],
      [more, rich],
      [more, moved],
      [moved, rich],
    ] as const)
      expect(asRead(made(from, to))).toBe(asRead(to));
  });

  it('of a design with itself are none', () => {
    expect(differences(rich, rich)).toEqual([]);
    expect(differences(rich, copyOf(rich))).toEqual([]);
  });

  it('are said with what was and what is', () => {
    const change = <T extends object>(of: T, by: Partial<T>): T => ({ ...of, ...by });
    const other: Design = {
      ...rich,
      name: 'Richer',
      brief: change(rich.brief, { closedWidthMm: 150.5, note: 'For May.' }),
      settings: change(rich.settings, { copies: 25 }),
      parts: {
        Tag: change(rich.parts.Tag, {
          quantity: 3,
          lines: { ...rich.parts.Tag.lines, l9: { ...rich.parts.Tag.lines.outline, id: 'l9' } },
        }),
      },
      instances: {
        m: change(rich.instances.m, { params: { ...rich.instances.m.params, leftMm: 41, form: 'cutIn' } }),
      },
      joints: {},
      accepted: {},
      board: { Tag: { x: 5, y: 4 } },
      sheetPlan: null,
    };
    expect(said(rich, other)).toEqual([
      'The job: called “Rich” → “Richer”',
      'The card: closed width 148 mm → 150.5 mm',
      'The card: note empty → “For May.”',
      'The job: copies 1 → 25',
      'Tag: quantity 1 → 3; 1 line added',
      expect.stringMatching(/^Dais: form “Glued in” → “Cut in”; left foot \d+ mm → 41 mm$/),
      'V-fold: taken away',
      'Tag on the card: taken away',
      'An accepted finding: taken away',
      'Place of Tag on the board: changed',
      'The sheets: not packed any more',
    ]);
    expect(made(rich, other)).toEqual(other);
    expect(made(other, rich)).toEqual(rich);
  });

  it('make any design of any other, each told in words', () => {
    const random = seededRandom(8);
    const pool: Design[] = [base, rich];
    for (let n = 0; n < 60; n++) {
      const from = pool[Math.floor(random() * pool.length)];
      const next = copyOf(from) as unknown as Record<string, Record<string, unknown>>;
      const collections = ['parts', 'instances', 'joints', 'accepted', 'board'];
      const some = collections[Math.floor(random() * collections.length)];
      if (random() < 0.4)
        for (const key of Object.keys(next[some])) if (random() < 0.5) delete next[some][key];
      if (random() < 0.6) next[some] = { ...next[some], ...(copyOf(rich) as unknown as typeof next)[some] };
      if (random() < 0.5) next.brief = { ...next.brief, closedWidthMm: Math.round(60 + random() * 100) };
      const made = readDesign(JSON.parse(JSON.stringify(next)));
      if (made.ok) pool.push(made.design);
    }
    expect(pool.length).toBeGreaterThan(40);
    for (const [i, before] of pool.entries()) {
      const after = pool[(i * 7 + 3) % pool.length];
      expect(made(before, after)).toEqual(after);
      for (const { subject, words } of differences(before, after))
        expect(`${subject}: ${words}`).toMatch(/^\S.*: \S.*[^;\s]$/);
      expect(differences(before, after).length === 0).toBe(asRead(before) === asRead(after));
    }
  });
});
