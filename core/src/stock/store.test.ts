/** The store as a value: a design's own view of it, what changed since, and pairs of card and envelope. */
import { describe, expect, it } from 'vitest';
import { checkContext } from '../checks/context.ts';
import { chosenEnvelope, envelopeFitOf, smallestFitting } from '../checks/envelopeFit.ts';
import { reportOf } from '../checks/report.ts';
import { newDesign, type Design } from '../design/design.ts';
import { readDesign } from '../design/schema.ts';
import { stockOf } from '../dieline/part.ts';
import { boxOf, flatten } from '../geometry/path.ts';
import { expand } from '../mechanisms/expand.ts';
import { newInstance, usualHost } from '../mechanisms/instance.ts';
import { familyById } from '../mechanisms/registry.ts';
import { sheetSpec } from '../sheets/plan.ts';
import { CARDS, ENVELOPES, PAPERS } from './reference.ts';
import { changedSince, machineIn, STORE_KINDS, storeWith, USUAL_STORE } from './store.ts';
import { ITEM_SCHEMAS } from './storeSchema.ts';

const slate = USUAL_STORE.stocks['slate-240'];
const felt = { ...slate, id: 'felt', name: 'Felt board', thicknessMm: 1.4, minTabMm: 9, colour: '#445566' };
const withFelt = (design: Design): Design => ({ ...design, store: { stocks: { felt } } });

describe('the store', () => {
  it('that ships holds only what may be in a store', () => {
    for (const kind of STORE_KINDS)
      for (const item of Object.values(USUAL_STORE[kind]))
        expect(ITEM_SCHEMAS[kind].safeParse(item).error).toBeUndefined();
    for (const size of [...PAPERS, ...CARDS]) expect(size.widthMm).toBeGreaterThanOrEqual(size.heightMm);
  });

  it('says how much room is left where things go into one another: slots, slits and holes follow the design’s own', () => {
    const host = (design: Design) => usualHost(familyById('strut')!, expand(design).gutters);
    const plain = newDesign('Fits');
    const roomy: Design = {
      ...plain,
      store: {
        fits: {
          loose: { id: 'loose', name: 'Loose', playMm: 1.2 },
          close: { id: 'close', name: 'Close', playMm: 0.1 },
        },
      },
    };
    const boxes = (design: Design, family: string, partId: string, cut: RegExp) => {
      const at = usualHost(familyById(family)!, expand(design).gutters);
      const m = newInstance(familyById(family)!, at, 'm');
      const part = expand({ ...design, instances: { m } }).parts.find(({ id }) => id === partId)!;
      return part.lines
        .filter(({ id, process }) => process === 'cut' && cut.test(id))
        .map(({ path }) => boxOf(flatten(path)))
        .map(({ minX, maxX, minY, maxY }) => [maxX - minX, maxY - minY]);
    };
    expect(host(roomy)).toEqual(host(plain));
    // A slit for one layer is as wide as the paper and the room; it is longer by twice the room; a hole by the room all round.
    for (const [family, partId, cut, grows] of [
      ['strut', 'card', /slit/, [0.7, 1.4]],
      ['door', 'card', /slit/, [0, -0.3]],
      ['bentStand', 'm/base', /slit/, [-0.15, -0.3]],
      ['wheel', 'm/disc', /pivot/, [1.4, 1.4]],
      ['pendulum', 'm/bob', /pivot/, [1.4, 1.4]],
    ] as const) {
      const [before, after] = [boxes(plain, family, partId, cut), boxes(roomy, family, partId, cut)];
      expect(before.length, family).toBeGreaterThan(0);
      before.forEach(([w, h], i) => {
        expect(after[i][0] - w, family).toBeCloseTo(grows[0], 3);
        expect(after[i][1] - h, family).toBeCloseTo(grows[1], 3);
      });
    }
    const door = familyById('door')!;
    const at = usualHost(door, expand(plain).gutters);
    const said = (fits: Design['store']['fits']) => door.advice(door.defaults(at), at, 2, fits).join(' ');
    expect(said({})).not.toBe(said(roomy.store.fits));
    expect(ITEM_SCHEMAS.fits.safeParse({ id: 'sliding', name: 'x', playMm: 1 }).success).toBe(false);
  });

  it('of a design is what it keeps, over what ships', () => {
    const own = storeWith({ stocks: { felt, 'slate-240': { ...slate, thicknessMm: 0.5 } } });
    expect(own.stocks.felt).toBe(felt);
    expect(own.stocks['slate-240'].thicknessMm).toBe(0.5);
    expect(own.stocks['chalk-300']).toBe(USUAL_STORE.stocks['chalk-300']);
    expect(machineIn(own, 'gone').id).toBe(USUAL_STORE.machines['desk-blade'].id);
  });

  it('that a design keeps goes into every computation: thickness, colour, sheets, findings', () => {
    const step = familyById('step')!;
    const base = newDesign('Felt', { closedWidthMm: 150, closedHeightMm: 110 });
    const made = (design: Design): Design => ({
      ...design,
      instances: { m: newInstance(step, usualHost(step, expand(design).gutters), 'm', { stockId: 'felt' }) },
    });
    const [known, unknown] = [made(withFelt(base)), made(base)];
    expect(readDesign(JSON.parse(JSON.stringify(known))).ok).toBe(true);
    const part = expand(known).parts.find(({ id }) => id === 'm/strip')!;
    expect(stockOf(part)).toEqual(felt);
    const [thick, plain] = [known, unknown].map((design) => reportOf(checkContext(design)));
    expect(thick.closed.bulkMm).toBeGreaterThan(plain.closed.bulkMm + 1);
    expect(plain.findings.map(({ key }) => key)).toContain('sheetFaults:stock:m/strip');
    expect(thick.findings.map(({ key }) => key)).not.toContain('sheetFaults:stock:m/strip');
    const machines = { small: { ...USUAL_STORE.machines['desk-blade'], id: 'small', bedWidthMm: 100 } };
    const settings = { ...base.settings, machineId: 'small' };
    expect(sheetSpec(slate, settings, storeWith({ machines })).widthMm).toBe(100);
  });

  it('says what changed since a design took it over, and what is gone', () => {
    const studio = storeWith({ stocks: { 'slate-240': { ...slate, thicknessMm: 0.36 } } });
    const own = storeWith({ stocks: { felt } });
    const changes = changedSince({ stocks: ['slate-240', 'chalk-300', 'felt'] }, own, studio);
    expect(changes.map(({ id, words }) => [id, words])).toEqual([
      ['slate-240', 'thickness, mm 0.3 → 0.36'],
      ['felt', 'it is not in the store any more'],
    ]);
    expect(changedSince({ stocks: ['slate-240'] }, own, own)).toEqual([]);
    // How fast a machine is run changes nothing of a design; how large its bed is does.
    const faster = (rest: object) => ({
      ...own,
      machines: { ...own.machines, 'desk-blade': { ...own.machines['desk-blade'], cutMmS: 90, ...rest } },
    });
    expect(changedSince({ machines: ['desk-blade'] }, own, faster({}))).toEqual([]);
    expect(changedSince({ machines: ['desk-blade'] }, own, faster({ bedWidthMm: 999 }))).toMatchObject([
      { id: 'desk-blade', words: expect.stringMatching(/bed width, mm \d+ → 999$/) as string },
    ]);
  });
});

describe('card and envelope', () => {
  it.each(ENVELOPES.filter(({ cardMm }) => cardMm).map((envelope) => [envelope.name, envelope] as const))(
    'a plain card goes into the %s that is made for it; one that is too large does not',
    (_, envelope) => {
      const [w, h] = envelope.cardMm!;
      const fit = (closedWidthMm: number, closedHeightMm: number) => {
        const design = newDesign('Pair', { closedWidthMm, closedHeightMm, envelopeId: envelope.id });
        const { closed, findings } = reportOf(checkContext(design));
        const { spareLongMm, spareShortMm } = envelopeFitOf(closed, envelope, design.brief.clearanceMm);
        const fits = Math.min(spareLongMm, spareShortMm) >= -1e-6;
        expect(findings.some(({ rule }) => rule === 'envelopeFit')).toBe(!fits);
        return fits;
      };
      expect(fit(w, h)).toBe(true);
      expect(fit(h, w)).toBe(true);
      expect(fit(w + 6, h)).toBe(envelope.widthMm - w >= 9);
      expect(fit(envelope.widthMm + 1, h)).toBe(false);
    },
  );

  it('of the studio’s own is known by the design that keeps it, and found as the smallest', () => {
    const own = { id: 'own', name: 'Own', widthMm: 160, heightMm: 112 };
    const design: Design = {
      ...newDesign('Own', { closedWidthMm: 148, closedHeightMm: 105, envelopeId: 'own' }),
      store: { envelopes: { own } },
    };
    expect(chosenEnvelope(design)).toEqual(own);
    expect(chosenEnvelope({ ...design, store: {} })).toBeUndefined();
    const { closed } = reportOf(checkContext(design));
    expect(smallestFitting(closed, 3, [own, ...ENVELOPES])?.id).toBe('own');
  });
});
