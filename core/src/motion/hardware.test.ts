/** What is glued and pinned with counts for the closed card as the store says it is thick; and for holes as wide as it is. */
import { describe, expect, it } from 'vitest';
import { checkContext } from '../checks/context.ts';
import { pivotFit } from '../checks/pivotFit.ts';
import type { Design, Joint } from '../design/design.ts';
import { readDesign } from '../design/schema.ts';
import { workOf } from '../dieline/part.ts';
import { circle } from '../geometry/path.ts';
import { ADHESIVE_MM, BRAD, stockById } from '../stock/stock.ts';
import { drafted, glueAt, hangAt, sheetOf } from '../practice/drafts.ts';

const bulk = (design: Design): number => checkContext(design).closed.bulkMm;

describe('adhesives', () => {
  const plain = drafted(
    [sheetOf('Sign', 40, 30, { zones: { z: [1, 1, 38, 28] } })],
    [glueAt('Sign', 'z', [30, 30])],
  );
  const [zone] = Object.values(plain.parts.Sign.glueZones);
  const gluedBy = (adhesiveId: string): Design => ({
    ...plain,
    parts: { Sign: { ...plain.parts.Sign, glueZones: { [zone.id]: { ...zone, adhesiveId } } } },
  });

  it.each([
    ['wet-glue', 0.05],
    ['thin-tape', 0.1],
    ['foam-tape', 1],
    ['nothing-known', ADHESIVE_MM],
  ])('%s adds %f mm to the pile', (adhesiveId, mm) => {
    expect(bulk(gluedBy(adhesiveId))).toBeCloseTo(bulk(plain) - ADHESIVE_MM + mm, 6);
  });

  it('of the design’s own store count as they are there', () => {
    const own = { id: 'own', name: 'Own', kind: 'foam', thicknessMm: 2.5, dryMinutes: 0 } as const;
    const design = { ...gluedBy('own'), store: { adhesives: { own } } };
    expect(bulk(design)).toBeCloseTo(bulk(plain) - ADHESIVE_MM + 2.5, 6);
  });
});

describe('brads', () => {
  const hole = (x: number, y: number, r: number) =>
    [['cut', circle([x, y], r)]] as const satisfies readonly (readonly ['cut', ReturnType<typeof circle>])[];
  const wheel = sheetOf('Wheel', 40, 40, { lines: hole(20, 20, 1.5) });
  const pinned = (hardwareId?: string): Design => {
    const made = drafted([wheel], [hangAt('pivot', 'h', 'Wheel', [20, 20], [40, 40])]);
    const [joint] = Object.values(made.joints);
    return {
      ...made,
      store: {
        hardware: {
          thin: { id: 'thin', name: 'Thin', kind: 'brad', thicknessMm: 0.8, widthMm: 6, childSafe: false },
          small: {
            id: 'small',
            name: 'Small',
            kind: 'brad',
            thicknessMm: 0.8,
            widthMm: 2.4,
            childSafe: false,
          },
        },
      },
      additions: {
        a: {
          id: 'a',
          partId: 'card',
          panelId: 'right',
          line: { id: 'added-a', ...workOf('cut'), path: circle([60, 60], 1.5) },
        },
      },
      joints: { [joint.id]: { ...joint, ...(hardwareId ? { hardwareId } : {}) } as Joint },
    };
  };

  it('add their own thickness, and are read again', () => {
    expect(bulk(pinned()) - bulk(pinned('thin'))).toBeCloseTo(BRAD.thicknessMm - 0.8, 6);
    expect(bulk(pinned('brad-8'))).toBeCloseTo(bulk(pinned()), 9);
    expect(bulk(pinned())).toBeGreaterThan(BRAD.thicknessMm + stockById('chalk-300').thicknessMm);
    expect(readDesign(JSON.parse(JSON.stringify(pinned('small'))))).toMatchObject({ ok: true });
  });

  it('with a small head slip through a hole that holds the usual one', () => {
    const said = (id?: string) => pivotFit.run(checkContext(pinned(id))).map(({ sentence }) => sentence);
    const wide = /slips through/;
    expect(said().filter((sentence) => wide.test(sentence))).toEqual([]);
    expect(said('small').some((sentence) => wide.test(sentence))).toBe(true);
  });
});
