import { describe, expect, it } from 'vitest';
import { checkContext } from '../checks/context.ts';
import { newDesign, type Brief, type Contents, type Design } from '../design/design.ts';
import { cardGutter } from '../design/frames.ts';
import { seededRandom } from '../geometry/random.ts';
import { expand } from '../mechanisms/expand.ts';
import { newInstance, usualHost } from '../mechanisms/instance.ts';
import { familyById, FAMILIES } from '../mechanisms/registry.ts';
import { STRUCTURES } from '../mechanisms/structures/all.ts';
import { ENVELOPES } from '../stock/reference.ts';
import { stockById } from '../stock/stock.ts';
import { USUAL_STORE } from '../stock/store.ts';
import { cuttingList, grainWords } from './cuttingList.ts';
import { classed, ENVELOPE_PAPER, gauged, weighed } from './post.ts';
import { contentsSize, followed, largestFor, sizePlan } from './sizePlan.ts';
import { carried, leastSizes, suits } from './suits.ts';

const thing = (longMm: number, wideMm: number, thickMm: number, pieces = 1): Contents => ({
  id: `c${longMm}`,
  name: 'Thing',
  longMm,
  wideMm,
  thickMm,
  pieces,
});
const designOf = (brief: Partial<Brief>): Design => newDesign('Plan', brief);
const c6 = ENVELOPES.find(({ id }) => id === 'c6')!;

describe('a size begun from any end', () => {
  it('follows from the blank, by how the card opens: 500 random blanks by hand', () => {
    const random = seededRandom(3);
    for (let i = 0; i < 500; i++) {
      const blankMm: [number, number] = [100 + 400 * random(), 80 + 300 * random()];
      const opening = (['side', 'top', 'gate'] as const)[i % 3];
      const design = designOf({ opening });
      const brief = followed(design, { held: ['blank'], blankMm }, undefined);
      const by = opening === 'top' ? [1, 2] : [2, 1];
      expect(brief.closedWidthMm! * by[0]).toBeCloseTo(blankMm[0], 9);
      expect(brief.closedHeightMm! * by[1]).toBeCloseTo(blankMm[1], 9);
      const plan = sizePlan({ ...design, brief: { ...design.brief, ...brief } }, undefined);
      expect(plan.from).toBe('blank');
      expect(plan.clashes).toEqual([]);
      plan.blankMm.forEach((side, k) => expect(side).toBeCloseTo(blankMm[k], 9));
    }
  });

  it('follows from the envelope and from what goes in, lying as the card lies', () => {
    const upright = designOf({ closedWidthMm: 100, closedHeightMm: 150 });
    const fromEnvelope = followed(upright, { held: ['envelope'] }, c6);
    const [long, short] = largestFor(c6, 3);
    expect([fromEnvelope.closedWidthMm, fromEnvelope.closedHeightMm]).toEqual([short, long]);
    const contents = [thing(85.6, 53.98, 0.76, 3), thing(40, 70, 1)];
    const fromContents = followed(upright, { held: ['contents'], contents, borderMm: 10 }, undefined);
    expect(fromContents.closedWidthMm).toBeCloseTo(73.98, 9);
    expect(fromContents.closedHeightMm).toBeCloseTo(105.6, 9);
    expect(contentsSize(contents)).toEqual([85.6, 53.98, 3 * 0.76 + 1]);
  });

  it('says which two measures clash and by how much, and is silent where they agree', () => {
    const design = designOf({ closedWidthMm: 148, closedHeightMm: 105 });
    const clashes = (
      change: Partial<Design['brief']['plan']>,
      envelope = undefined as typeof c6 | undefined,
    ) =>
      sizePlan(
        { ...design, brief: { ...design.brief, plan: { ...design.brief.plan, ...change } } },
        envelope,
      ).clashes.map(({ between, side, byMm }) => [...between, side, Math.round(byMm * 100) / 100]);
    expect(clashes({ held: ['size', 'blank'], blankMm: [296, 105] })).toEqual([]);
    expect(clashes({ held: ['size', 'blank'], blankMm: [280, 110] })).toEqual([
      ['size', 'blank', 'width', 8],
      ['size', 'blank', 'height', 5],
    ]);
    expect(clashes({}, { id: 'x', name: 'X', widthMm: 150, heightMm: 120 })).toEqual([
      ['size', 'envelope', 'width', 1.8],
    ]);
    expect(clashes({ contents: [thing(130, 70, 1)], borderMm: 12 })).toEqual([
      ['size', 'contents', 'width', 6],
    ]);
    expect(clashes({ contents: [thing(120, 70, 1)], borderMm: 12 })).toEqual([]);
    // A blank that is at hand but not held holds nobody to it.
    expect(clashes({ held: ['size'], blankMm: [10, 10] })).toEqual([]);
  });
});

const withStep = (): Design => {
  const design = designOf({ closedWidthMm: 148, closedHeightMm: 105, envelopeId: 'c6' });
  const step = familyById('step')!;
  return { ...design, instances: { m1: newInstance(step, cardGutter(design), 'm1', { name: 'Step' }) } };
};

describe('the cutting list', () => {
  it('holds every part with its size by hand, so many times for so many copies', () => {
    const { cut, needs } = cuttingList(expand(withStep()), 25);
    expect(cut[0]).toMatchObject({ count: 25, widthMm: 296, heightMm: 105, stock: 'Chalk 300' });
    expect(cut).toHaveLength(2);
    expect(cut[1].count).toBe(25);
    expect(needs).toHaveLength(1);
    expect(needs[0]).toMatchObject({ kind: 'adhesive', count: null });
  });

  it('lists brads of pivots, and nothing that is not there', () => {
    const design = designOf({});
    for (const family of [...FAMILIES, ...STRUCTURES]) {
      const host = usualHost(family, expand(design).gutters);
      const expanded = expand({ ...design, instances: { m1: newInstance(family, host, 'm1') } });
      const { needs } = cuttingList(expanded);
      const pivots = expanded.joints.filter(({ kind }) => kind === 'pivot').length;
      const brads = needs.filter(({ name }) => name.startsWith('Brad'));
      expect(
        brads.reduce((sum, { count }) => sum + (count ?? 0), 0),
        family.id,
      ).toBe(pivots);
    }
  });

  it('names the way of the grain', () => {
    expect([null, 0, Math.PI / 2, Math.PI, Math.PI / 4].map((rad) => grainWords(rad, 'long'))).toEqual([
      'any',
      'across',
      'upright',
      'across',
      '45°',
    ]);
    expect(grainWords(0, 'none')).toBe('none');
  });
});

describe('sizes that suit', () => {
  it('the least ones suit, and a millimetre less does not: every family on a fold', () => {
    for (const id of ['step', 'vfold', 'zigzag', 'platform']) {
      const base = designOf({});
      const family = familyById(id)!;
      const design = {
        ...base,
        instances: { m1: newInstance(family, usualHost(family, expand(base).gutters), 'm1') },
      };
      expect(suits(design, 148, 105).broken, id).toEqual([]);
      const { widthMm, heightMm } = leastSizes(design);
      expect(suits(design, widthMm!, 105).broken, id).toEqual([]);
      expect(suits(design, 148, heightMm!).broken, id).toEqual([]);
      expect(suits(design, widthMm! - 1.2, 105).broken, id).not.toEqual([]);
      expect(suits(design, 148, heightMm! - 1.2).broken, id).not.toEqual([]);
    }
  });

  it('says what another size breaks, by name and by how much', () => {
    const { broken } = suits(withStep(), 60, 105);
    expect(broken[0]).toMatchObject({ instanceId: 'm1', name: 'Step' });
    expect(broken[0].overMm).toBeGreaterThan(0);
    expect(carried(withStep(), 60, 90).brief).toMatchObject({ closedWidthMm: 60, closedHeightMm: 90 });
  });
});

describe('post', () => {
  it('weighs area by grammage, by hand', () => {
    const design = withStep();
    const expanded = expand(design);
    const { totalG, rows } = weighed(design, expanded);
    const card = (296 * 105 * stockById('chalk-300').grammageGsm) / 1e6;
    expect(rows[0].weightG).toBeCloseTo(card, 6);
    const paper = (2 * (4 / 3) * c6.widthMm * c6.heightMm * 90) / 1e6;
    expect(rows.at(-1)!.weightG).toBeCloseTo(paper, 6);
    expect(totalG).toBeCloseTo(
      rows.reduce((sum, { weightG }) => sum + weightG, 0),
      9,
    );
  });

  it('lays the envelope in the gauge, with two of its papers and what goes in', () => {
    const plain = withStep();
    const design = {
      ...plain,
      brief: { ...plain.brief, plan: { ...plain.brief.plan, contents: [thing(50, 50, 1.5, 2)] } },
    };
    const { closed, sweep } = checkContext(design);
    const { longMm, shortMm, thickMm, what } = gauged(design, closed, sweep);
    expect([longMm, shortMm, what]).toEqual([c6.widthMm, c6.heightMm, 'envelope']);
    expect(thickMm).toBeCloseTo(closed.bulkMm + 3 + 2 * ENVELOPE_PAPER.thicknessMm, 9);
  });

  it('takes the envelope that is drafted with it before the one that is named, and weighs it once', () => {
    const plain = withStep();
    const drafted = STRUCTURES.find(({ id }) => id === 'envelope')!;
    const design: Design = {
      ...plain,
      instances: {
        ...plain.instances,
        m2: newInstance(drafted, usualHost(drafted, expand(plain).gutters), 'm2', {
          params: { wideMm: 150, tallMm: 108, thickMm: 2, airMm: 3 },
          stockId: 'ember-160',
        }),
      },
    };
    const { closed, sweep, expanded } = checkContext(design);
    expect(gauged(design, closed, sweep)).toMatchObject({ longMm: 155, shortMm: 113, what: 'envelope' });
    const { rows } = weighed(design, expanded);
    expect(rows.some(({ name }) => name.startsWith('Envelope'))).toBe(false);
    expect(rows.some(({ name }) => name === 'Ember 160')).toBe(true);
  });

  it('gauges a box as it is folded up', () => {
    const tray = STRUCTURES.find(({ id }) => id === 'tray')!;
    const empty: Design = { ...designOf({}), base: { kind: 'structure', rootPartId: null } };
    const design: Design = {
      ...empty,
      instances: {
        m1: newInstance(tray, usualHost(tray, expand(empty).gutters), 'm1', {
          params: { longMm: 100, wideMm: 60, highMm: 30, airMm: 0, withLid: false },
          stockId: 'chalk-300',
        }),
      },
    };
    const { closed, sweep } = checkContext(design);
    const t = stockById('chalk-300').thicknessMm;
    const { longMm, shortMm, thickMm } = gauged(design, closed, sweep);
    expect(longMm).toBeCloseTo(100 + 3 * t, 6);
    expect(shortMm).toBeCloseTo(60 + 3 * t, 6);
    expect(thickMm).toBeCloseTo(30 + t / 2, 6);
  });

  it('takes what is just within a class, and refuses a hair more by its measure', () => {
    for (const post of Object.values(USUAL_STORE.postClasses)) {
      const at = {
        longMm: post.longMm,
        shortMm: post.shortMm,
        thickMm: post.thickMm,
        what: 'envelope' as const,
      };
      const refusedAt = (change: Partial<typeof at>, weightG = post.weightG) =>
        classed({ ...at, ...change }, weightG, USUAL_STORE).find((each) => each.post.id === post.id)!.refused;
      expect(refusedAt({})).toEqual([]);
      expect(refusedAt({ longMm: post.longMm + 0.2 })).toEqual(['too long by 0.2 mm']);
      expect(refusedAt({ shortMm: post.shortMm + 1 })).toEqual(['too wide by 1 mm']);
      expect(refusedAt({ thickMm: post.thickMm + 0.5 })).toEqual(['too thick by 0.5 mm']);
      expect(refusedAt({}, post.weightG + 3)).toEqual(['too heavy by 3 g']);
      expect(refusedAt({ shortMm: post.leastShortMm - 2 })).toEqual(['too narrow by 2 mm']);
    }
  });
});
