/** Build sheets of every family and structure: no gap in them, every joint once, each with its pictures; changed by hand. */
import { beforeAll, describe, expect, it } from 'vitest';
import { newDesign, type Design } from '../design/design.ts';
import { designSchema } from '../design/schema.ts';
import { tableGutter } from '../design/frames.ts';
import { wordsOf, pagesOf } from '../formats/testing/pdfReadBack.ts';
import { insideRing } from '../geometry/polygon.ts';
import { seededRandom } from '../geometry/random.ts';
import type { Point } from '../geometry/point.ts';
import { expand } from '../mechanisms/expand.ts';
import { newInstance, possibleHost, usualTurn } from '../mechanisms/instance.ts';
import { FAMILIES, familyById } from '../mechanisms/registry.ts';
import { STRUCTURES } from '../mechanisms/structures/all.ts';
import { buildSheet } from './buildSteps.ts';
import { byHand } from './byHand.ts';
import { picturesOf } from './drawnSheet.ts';
import { lostByWalking, orders, works } from './testing/orders.ts';
import { lostPlaces, workableOrder } from './workable.ts';
import { SHEET_PAPERS, writeSheetPdf, type SheetPaper } from './sheetPdf.ts';
import { hatching, type Drawing } from './stepDrawing.ts';

function withOne(id: string, opening: 'side' | 'top' | 'gate' = 'side'): Design | null {
  const base = newDesign('Bench', { closedWidthMm: 150, closedHeightMm: 150, opening });
  const family = familyById(id)!;
  const host = possibleHost(family, expand(base).gutters);
  if (!host) return null;
  return {
    ...base,
    instances: { m: { ...newInstance(family, host, 'm'), turnDeg: usualTurn(family, host) } },
  };
}
const empty: Design = { ...newDesign('Standing'), base: { kind: 'structure', rootPartId: null } };

const isDrawn = (drawing: Drawing | null): boolean =>
  drawing !== null &&
  drawing.box.every(Number.isFinite) &&
  drawing.box[2] > 0 &&
  drawing.shapes.some(({ kind }) => kind === 'paper');

/** What must be true of every build sheet. */
function wholeSheet(design: Design): void {
  const sheet = buildSheet(design);
  const { parts, joints } = sheet.expanded;
  const hand = byHand(sheet, {});
  const ids = hand.steps.map(({ id }) => id);
  expect(new Set(ids).size).toBe(ids.length);
  expect(ids[0]).toBe('punch');
  // Every joint that somebody makes, once.
  const made = joints.filter(({ kind }) => kind !== 'hand').map(({ id }) => id);
  expect(hand.steps.flatMap(({ jointId }) => jointId ?? []).sort()).toEqual([...made].sort());
  expect(hand.steps.flatMap(({ lost }) => lost)).toEqual([]);
  expect(hand.unfit).toEqual([]);
  expect(sheet.faults).toEqual([]);
  // Every part is named before it is joined.
  for (const part of parts) if (part.lines.length > 0) expect(sheet.steps[0].partIds).toContain(part.id);
  const pictures = picturesOf(sheet, hand, design);
  for (const step of hand.steps) {
    expect(step.words).toMatch(/^[A-Z].*\.$/);
    expect(`${step.words} ${step.why ?? ''}`).not.toMatch(/undefined|NaN|null|\/|glue-/);
    expect(step.minutes).toBeGreaterThan(0);
    const { hand: inHand, onto } = pictures.get(step.id)!;
    if (step.kind === 'join') {
      expect([step.id, isDrawn(inHand), isDrawn(onto)]).toEqual([step.id, true, true]);
      const joint = joints.find(({ id }) => id === step.jointId)!;
      if (joint.kind === 'glue')
        for (const drawing of [inHand, onto])
          expect(drawing!.shapes.filter(({ kind }) => kind === 'glue').length).toBe(1);
    }
    if (step.kind === 'fold') expect(isDrawn(inHand)).toBe(true);
  }
}

/** So many places at most, that all their orders can be tried. */
const MOST_PLACES = 6;

describe('the order of joining, against all orders that there are', () => {
  /** Whether a design was small enough, with how many of its orders work and how many do not. */
  function tried(design: Design): { works: number; fails: number } | null {
    const { places, steps } = buildSheet(design);
    if (places.length < 2 || places.length > MOST_PLACES) return null;
    const all = [...orders(places)].map((order) => works(places, order));
    const count = { works: all.filter(Boolean).length, fails: all.filter((is) => !is).length };
    const order = steps.flatMap(({ jointId }) => places.filter(({ id }) => id === jointId));
    expect(order).toHaveLength(places.length);
    // An order is found wherever there is one, and it is one of those that work.
    expect(workableOrder(places).workable).toBe(count.works > 0);
    expect(works(places, order)).toBe(count.works > 0);
    // What each order loses, and when, is what the search says of it.
    for (const one of [...orders(places)].filter((_, k) => k % 7 === 0))
      one.forEach((_, k) => {
        const made = one.slice(0, k + 1);
        const lost = lostPlaces(places, new Set(made.map(({ id }) => id))).length > 0;
        expect(lost).toBe(lostByWalking(places, made));
      });
    return count;
  }

  it('of every family and structure that is small enough', () => {
    const counts = [
      ...FAMILIES.flatMap(({ id }) => withOne(id) ?? []),
      ...STRUCTURES.map((family): Design => ({
        ...empty,
        instances: { m: newInstance(family, tableGutter(empty), 'm') },
      })),
    ].flatMap((design) => tried(design) ?? []);
    expect(counts.length).toBeGreaterThan(15);
    expect(counts.every((count) => count.works > 0)).toBe(true);
    // In some the order matters.
    expect(counts.filter(({ fails }) => fails > 0).length).toBeGreaterThan(2);
  });
});

describe('the build sheet', () => {
  it.each(FAMILIES.map(({ id }) => [id]))(
    'of %s on a side fold, a top fold and a gatefold has no gap',
    (id) => {
      for (const opening of ['side', 'top', 'gate'] as const) {
        const design = withOne(id, opening);
        if (design) wholeSheet(design);
      }
    },
  );

  it.each(STRUCTURES.map((family) => [family.id, family] as const))('of %s has no gap', (_, family) =>
    wholeSheet({ ...empty, instances: { m: newInstance(family, tableGutter(empty), 'm') } }),
  );

  it('says why a place comes before what would lie over it', () => {
    const { steps } = buildSheet(withOne('wheel')!);
    const pivot = steps.findIndex(({ words }) => words.startsWith('Pin '));
    const cover = steps.findIndex(({ jointId }) => jointId === 'm/glue-left');
    expect(pivot).toBeLessThan(cover);
    expect(steps[pivot].why).toMatch(/cover (is|are) on, (it lies|they lie) over this place\.$/);
  });

  it('has what swings fixed half-open, heavy folds worked both ways, and tape that does not wait', () => {
    const pendulum = buildSheet(withOne('pendulum')!).steps.find(({ words }) => words.startsWith('Pin '))!;
    expect(pendulum.openDeg).toBe(90);
    expect(pendulum.words).toContain('half-open');
    const design = withOne('step')!;
    const fold = (school: Design['settings']['breakFibres'], stockId: string) => {
      const changed = { ...design, settings: { ...design.settings, breakFibres: school } };
      const instances = { m: { ...design.instances.m, stockId } };
      return buildSheet({ ...changed, instances }).steps.find(({ id }) => id === 'fold/m/strip')!.words;
    };
    expect(fold('heavy', 'chalk-300')).toContain('fibres');
    expect(fold('heavy', 'ember-160')).not.toContain('fibres');
    expect(fold('all', 'ember-160')).toContain('fibres');
    expect(fold('none', 'chalk-300')).not.toContain('fibres');
  });
});

describe('a sheet changed by hand', () => {
  const design = withOne('wheel')!;
  const sheet = buildSheet(design);
  let usual: string[];
  beforeAll(() => {
    usual = byHand(sheet, {}).steps.map(({ id }) => id);
  });

  it('keeps words and times with their step, and tells when the design says another thing there now', () => {
    const id = usual.find((each) => each.startsWith('join/'))!;
    const was = sheet.steps.find((step) => step.id === id)!.words;
    const edits = { [id]: { id, words: 'By the window.', was, minutes: 4, waitMinutes: 7 } };
    const step = byHand(sheet, edits).steps.find((each) => each.id === id)!;
    expect(step).toMatchObject({
      words: 'By the window.',
      minutes: 4,
      waitMinutes: 7,
      reworded: true,
      now: null,
    });
    const other = byHand(sheet, { [id]: { ...edits[id], was: 'Something else.' } });
    expect(other.steps.find((each) => each.id === id)!.now).toBe(was);
    expect(designSchema.safeParse({ ...design, build: edits }).success).toBe(true);
  });

  it('moves steps, says what is lost by it, and takes in steps of one’s own', () => {
    const cover = 'join/m/glue-left';
    const others = usual.filter((id) => id !== cover);
    const first = others.toSpliced(others.indexOf('dry') + 1, 0, cover);
    const moved = byHand(sheet, {}, first);
    expect(moved.steps.map(({ id }) => id).indexOf(cover)).toBe(usual.indexOf('dry') + 1);
    expect(moved.steps.find(({ id }) => id === cover)!.lost[0]).toMatch(/lies over the place for the pivot/);
    const sign = { 'own/1': { id: 'own/1', own: true, words: 'Sign it.' } } as const;
    const own = byHand(sheet, sign, usual.toSpliced(1, 0, 'own/1'));
    expect(own.steps[1]).toMatchObject({ id: 'own/1', words: 'Sign it.', kind: 'own' });
    expect(own.steps.length).toBe(usual.length + 1);
    expect(byHand(sheet, sign, ['own/1', ...usual]).steps[0].id).toBe('own/1');
    const late = byHand(sheet, { decorate: { id: 'decorate', when: 'after' } }).steps.map(({ id }) => id);
    expect(late.indexOf('decorate')).toBe(late.indexOf('close') - 1);
  });

  it('keeps what no longer fits, and marks it', () => {
    const gone = byHand(
      sheet,
      { 'join/x': { id: 'join/x', words: 'Gone.' }, 'own/1': { id: 'own/1', own: true, words: 'Sign it.' } },
      ['join/x', 'punch'],
    );
    expect(gone.unfit.map(({ stepId }) => stepId)).toEqual(['join/x', null]);
    expect(gone.steps.at(-1)!.words).toBe('Sign it.');
  });

  it('never loses or doubles a step, and keeps any order that is set', () => {
    const random = seededRandom(9);
    for (let round = 0; round < 100; round++) {
      const order = [...usual, 'gone/1'].sort(() => random() - 0.5).filter(() => random() < 0.8);
      const ids = byHand(sheet, {}, order).steps.map(({ id }) => id);
      expect([...ids].sort()).toEqual([...usual].sort());
      expect(ids.filter((id) => order.includes(id))).toEqual(order.filter((id) => id !== 'gone/1'));
    }
  });
});

describe('on paper', () => {
  it('every step stands on A4, letter and a leaflet, in either unit, inside its page', async () => {
    const design = withOne('waterfall')!;
    const sheet = buildSheet(design);
    const hand = byHand(sheet, { 'own/1': { id: 'own/1', own: true, words: 'Leave 25 mm free – “here”.' } });
    const pictures = picturesOf(sheet, hand, design);
    for (const paper of Object.keys(SHEET_PAPERS) as SheetPaper[])
      for (const unit of ['mm', 'in'] as const) {
        const bytes = await writeSheetPdf(
          { steps: hand.steps, pictures, cautions: ['Knives cut.'] },
          { title: 'Bench', paper, unit },
        );
        const words = (await wordsOf(bytes)).join(' ');
        hand.steps.forEach((step, i) => {
          expect(words).toContain(` ${i + 1} `);
          if (!/\d mm/.test(step.words))
            for (const word of step.words.split(' ')) expect(words).toContain(word.replace(/[“”]/g, '"'));
        });
        expect(words).toContain(unit === 'mm' ? '25 mm' : ' in ');
        expect(words).toContain('Knives cut.');
        for (const { size, text } of await pagesOf(bytes)) {
          expect(size[0]).toBeCloseTo(SHEET_PAPERS[paper].widthMm, 3);
          const places = [...text.matchAll(/1 0 0 1 (-?[\d.]+) (-?[\d.]+) Tm/g)].map(([, x, y]) => [+x, +y]);
          expect(places.length).toBeGreaterThan(0);
          for (const [x, y] of places) {
            expect(x > 0 && x < (SHEET_PAPERS[paper].widthMm * 72) / 25.4).toBe(true);
            expect(y > 0 && y < (SHEET_PAPERS[paper].heightMm * 72) / 25.4).toBe(true);
          }
        }
      }
    await expect(
      writeSheetPdf({ steps: [], pictures, cautions: [] }, { title: 'x', paper: 'a4', unit: 'mm' }),
    ).rejects.toThrow(RangeError);
  });

  it('hatches what is inside, and only that', () => {
    const random = seededRandom(3);
    for (let round = 0; round < 50; round++) {
      const n = 5 + Math.floor(random() * 6);
      const star = Array.from({ length: n }, (_, i): Point => {
        const [r, a] = [5 + 20 * random(), (2 * Math.PI * i) / n];
        return [r * Math.cos(a), r * Math.sin(a)];
      });
      const lines = hatching([star], 1.3);
      expect(lines.length).toBeGreaterThan(3);
      // Along each line at the middle it is inside, and just beyond its ends outside.
      for (const [[x, y], [u, v]] of lines) {
        const long = Math.hypot(u - x, v - y);
        if (long < 0.1) continue;
        expect(insideRing([(x + u) / 2, (y + v) / 2], star)).toBe(true);
        const [dx, dy] = [(1e-5 * (u - x)) / long, (1e-5 * (v - y)) / long];
        expect(Math.abs(dx - dy)).toBeLessThan(1e-6);
        expect(insideRing([x - dx, y - dy], star)).toBe(false);
      }
    }
  });
});
