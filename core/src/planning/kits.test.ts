/** Kits against sums taken one thing at a time, for 500 random ones. */
import { expect, it } from 'vitest';
import { newDesign, type Design } from '../design/design.ts';
import { designSchema } from '../design/schema.ts';
import { ringArea } from '../geometry/polygon.ts';
import { seededRandom } from '../geometry/random.ts';
import { panelPlan } from '../dieline/panels.ts';
import { expand } from '../mechanisms/expand.ts';
import { newInstance, usualHost } from '../mechanisms/instance.ts';
import { familyById } from '../mechanisms/registry.ts';
import { stockIn, USUAL_STORE } from '../stock/store.ts';
import { kitCost, kitDesign, kitGauge, kitSums, sheetRows, type KitContents } from './kits.ts';

const designs = ['step', 'wheel', 'pendulum', 'waterfall', 'vfold'].map((id, i): Design => {
  const base = newDesign(`Card ${id}`, {
    closedWidthMm: 120 + 5 * i,
    closedHeightMm: 140,
    extras: i % 2 === 0 ? [{ hardwareId: 'gem-4', pieces: i + 1 }] : [],
  });
  const family = familyById(id)!;
  return { ...base, instances: { m: newInstance(family, usualHost(family, expand(base).gutters), 'm') } };
});

/** The area of a part's paper, by its regions' rings alone. */
const areas = new Map(
  designs.map((design) => [
    design,
    expand(design).parts.map((part) => ({
      stockId: part.stockId,
      gsm: stockIn(expand(design).store, part.stockId).grammageGsm,
      quantity: part.quantity,
      area: panelPlan(part).panels.reduce(
        (sum, { region }) =>
          sum +
          Math.abs(ringArea(region.outer)) -
          region.holes.reduce((h, hole) => h + Math.abs(ringArea(hole)), 0),
        0,
      ),
    })),
  ]),
);

it('adds up as its things do one by one, for 500 random kits', () => {
  const random = seededRandom(25);
  const pick = (n: number) => Math.floor(random() * n);
  const stockIds = Object.keys(USUAL_STORE.stocks);
  for (let round = 0; round < 500; round++) {
    const kit: KitContents = {
      name: 'Kit',
      copies: 1 + pick(40),
      items: Array.from({ length: 1 + pick(3) }, () => ({
        design: designs[pick(designs.length)],
        pieces: 1 + pick(4),
      })),
      loose: Array.from({ length: pick(3) }, (_, i) => ({
        id: `l${i}`,
        name: `Mat ${i}`,
        stockId: stockIds[pick(stockIds.length)],
        widthMm: 20 + pick(100),
        heightMm: 20 + pick(100),
        pieces: 1 + pick(5),
      })),
    };
    const sums = kitSums(kit, USUAL_STORE);
    // Every piece of every copy, one after another.
    const area = new Map<string, number>();
    let [count, grams, gems, brads] = [0, 0, 0, 0];
    const cut = (stockId: string, mm2: number) => {
      area.set(stockId, (area.get(stockId) ?? 0) + mm2);
      count++;
    };
    for (let copy = 0; copy < kit.copies; copy++) {
      for (const { design, pieces } of kit.items)
        for (let k = 0; k < pieces; k++) {
          for (const part of areas.get(design)!)
            for (let q = 0; q < part.quantity; q++) {
              cut(part.stockId, part.area);
              if (copy === 0) grams += (part.area * part.gsm) / 1e6;
            }
          for (const { hardwareId, pieces: each } of design.brief.extras) {
            gems += each;
            if (copy === 0) grams += each * USUAL_STORE.hardware[hardwareId].weightG!;
          }
          const pivots = expand(design).joints.filter(({ kind }) => kind === 'pivot').length;
          brads += pivots;
          if (copy === 0) grams += USUAL_STORE.hardware['brad-8'].weightG! * pivots;
        }
      for (const { stockId, widthMm, heightMm, pieces } of kit.loose)
        for (let k = 0; k < pieces; k++) {
          cut(stockId, widthMm * heightMm);
          if (copy === 0) grams += (widthMm * heightMm * USUAL_STORE.stocks[stockId].grammageGsm) / 1e6;
        }
    }
    expect(sums.cut.reduce((sum, row) => sum + row.count, 0)).toBe(count);
    for (const [stockId, mm2] of area) {
      const told = sums.cut
        .filter(({ stock }) => stock === USUAL_STORE.stocks[stockId].name)
        .reduce((sum, row) => sum + row.count * row.areaMm2, 0);
      expect(told / mm2).toBeCloseTo(1, 6);
    }
    const counted = (word: RegExp) =>
      sums.needs.filter(({ name }) => word.test(name)).reduce((sum, need) => sum + (need.count ?? 0), 0);
    expect(counted(/^Gem/)).toBe(gems);
    expect(counted(/^Brad/)).toBe(brads);
    expect(sums.weightG).toBeCloseTo(grams, 6);
    if (round % 25 === 0) expect(designSchema.safeParse(kitDesign(kit, USUAL_STORE)).success).toBe(true);
  }
});

it('tells what sheets cost and what is lacking, and what a kit costs', () => {
  const stocks: typeof USUAL_STORE.stocks = {
    ...USUAL_STORE.stocks,
    'chalk-300': { ...USUAL_STORE.stocks['chalk-300'], price: 1.5, onHand: 3 },
  };
  const studio = { ...USUAL_STORE, stocks };
  const kit: KitContents = { name: 'Kit', copies: 4, items: [{ design: designs[0], pieces: 1 }], loose: [] };
  const design = kitDesign(kit, studio);
  const sheet = (rest: object) => ({
    stockId: 'chalk-300',
    widthMm: 300,
    heightMm: 200,
    pieces: [],
    ...rest,
  });
  const sheets = [sheet({}), sheet({}), sheet({}), sheet({}), sheet({ sheetId: 'offcut', price: 0.25 })];
  const rows = sheetRows({ sheets: [...sheets, sheet({ stockId: 'ember-160' })] }, design, studio);
  expect(rows[0]).toMatchObject({ sheets: 5, fromOthers: 1, price: 6.25, onHand: 3, toBuy: 1 });
  const ember = studio.stocks['ember-160'];
  expect(rows[1]).toMatchObject({
    price: ember.price ?? null,
    onHand: ember.onHand ?? null,
  });
  const cost = kitCost(rows.slice(0, 1), {
    copies: 4,
    cutS: 1800,
    handsMin: 90,
    machinePerHour: 10,
    handsPerHour: 20,
  });
  expect(cost).toMatchObject({
    paper: 6.25,
    machine: 5,
    hands: 30,
    run: 41.25,
    perKit: 41.25 / 4,
    unknown: [],
  });
  expect(
    kitCost([{ ...rows[0], price: null }], {
      copies: 1,
      cutS: 0,
      handsMin: 0,
      machinePerHour: 0,
      handsPerHour: 0,
    }).unknown,
  ).toEqual([rows[0].stock]);
});

it('refuses what cannot be packed at once, in words', () => {
  const loose = [{ id: 'l', name: 'Mat', stockId: 'chalk-300', widthMm: 10, heightMm: 10, pieces: 501 }];
  expect(() => kitDesign({ name: 'Kit', copies: 1, items: [], loose }, USUAL_STORE)).toThrow(
    /needed 501 times/,
  );
  expect(kitGauge([])).toMatchObject({ longMm: 0, thickMm: 0 });
  const thing = { longMm: 160, shortMm: 110, thickMm: 2, what: 'envelope' as const };
  expect(
    kitGauge([
      { gauged: thing, pieces: 3 },
      { gauged: { ...thing, longMm: 200 }, pieces: 1 },
    ]),
  ).toMatchObject({
    longMm: 200,
    shortMm: 110,
    thickMm: 8,
  });
});
