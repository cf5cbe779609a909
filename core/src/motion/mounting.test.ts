import { describe, expect, it } from 'vitest';
import { checkContext } from '../checks/context.ts';
import { reportOf } from '../checks/report.ts';
import { newDesign, type Brief, type Design, type Instance } from '../design/design.ts';
import { readDesign } from '../design/schema.ts';
import { boxCentre, boxOf } from '../geometry/path.ts';
import { cross3, dot3, minus3 } from '../geometry/vector.ts';
import { expand } from '../mechanisms/expand.ts';
import type { Family, Params } from '../mechanisms/family.ts';
import { newInstance } from '../mechanisms/instance.ts';
import { mountPanels, type Mount } from '../mechanisms/mounting.ts';
import { STRUCTURES } from '../mechanisms/structures/all.ts';
import { pointAt } from './pose.ts';
import type { Sweep } from './sweep.ts';

const SIZE = { closedWidthMm: 200, closedHeightMm: 180 };
const BENT = ['pillowBox', 'petalBox'];
const family = (id: string): Family => STRUCTURES.find((each) => each.id === id)!;

/** A card with a structure glued onto one of its panels, by the panel's name. */
function glued(
  made: Family,
  onto: string,
  rest: { brief?: Partial<Brief>; params?: Params; mount?: Partial<Mount> } = {},
): Design {
  const base = newDesign('Card', { ...SIZE, ...rest.brief });
  const host = expand(base).gutters.find(({ kind, name }) => kind === 'panel' && name === onto)!;
  expect(host, onto).toBeDefined();
  const mount: Mount = { panelId: null, face: 'outside', x: 0, y: host.lengthMm / 2, ...rest.mount };
  const instance: Instance = { ...newInstance(made, host, 'm1', { params: rest.params ?? {} }), mount };
  return { ...base, instances: { m1: instance } };
}

const ownPanels = ({ linkage }: Sweep) => linkage.panels.filter(({ part }) => part.id.startsWith('m1/'));

/** How far all of it that hangs together reaches above a panel's plane and below it, mm. */
function heights(sweep: Sweep, held: string, partId: string, deg: number): [number, number] {
  const { linkage } = sweep;
  const panel = linkage.panels.find((each) => each.part.id === partId && each.id === held)!;
  const [o, x, y] = (
    [
      [0, 0],
      [1, 0],
      [0, 1],
    ] as const
  ).map((p) => pointAt(sweep, panel, p, deg));
  const n = cross3(minus3(x, o), minus3(y, o));
  const all = ownPanels(sweep)
    .filter(({ part }) => part.id === partId)
    .flatMap((each) => each.region.outer.map((p) => dot3(n, minus3(pointAt(sweep, each, p, deg), o))));
  return [Math.min(...all), Math.max(...all)];
}

const HOSTS: readonly (readonly [string, Partial<Brief>, readonly string[]])[] = [
  [
    'a side fold',
    {},
    ['the card’s right half', 'the card’s left half', 'the outside of the card’s right half'],
  ],
  ['a top fold', { opening: 'top' }, ['the card’s lower half', 'the card’s upper half']],
  ['a gatefold', { opening: 'gate' }, ['the card’s back', 'the outside of the right door']],
];

describe.each(HOSTS)('on %s', (_, brief, names) => {
  it.each(names)('every structure that has a flat panel stands on %s as it does by itself', (name) => {
    for (const made of STRUCTURES.filter(({ id }) => !BENT.includes(id))) {
      const design = glued(made, name, { brief });
      const { sweep, expanded } = checkContext(design);
      expect(expanded.faults, made.id).toEqual([]);
      const host = expanded.gutterOf.m1;
      const [first] = mountPanels({ parts: expanded.parts.filter(({ id }) => id.startsWith('m1/')) });
      const own = sweep.linkage.panels.find(
        ({ part, id }) => part.id === first.partId && id === first.panelId,
      )!;
      const card = sweep.linkage.panels.find(
        ({ id, part }) => part.id === 'card' && host.lineId.includes(id),
      )!;
      // The middle of the panel by which it is held lies on the middle of the card's panel, whichever way that stands.
      const centre = boxCentre(boxOf(own.region.outer));
      const onHost = boxCentre(boxOf(card.region.outer));
      for (const deg of [180, 120, 60]) {
        const off = minus3(pointAt(sweep, own, centre, deg), pointAt(sweep, card, onHost, deg));
        expect(Math.hypot(...off), `${made.id} at ${deg}`).toBeLessThan(0.02);
      }
      // It is as high as when it is folded up by itself, and does not change while the card moves.
      const alone: Design = {
        ...newDesign('Alone'),
        base: { kind: 'structure', rootPartId: null },
        instances: {
          m1: { ...design.instances.m1, mount: undefined, host: { partId: '@table', gutterId: '@table' } },
        },
      };
      const byItself = checkContext(alone).sweep;
      const expected = heights(byItself, first.panelId, first.partId, 0);
      for (const deg of [180, 90]) {
        const now = heights(sweep, first.panelId, first.partId, deg);
        // What is closed nearly flat is pressed flat by the card.
        const near = made.id === 'envelope' ? 10 : 1e-6;
        expect(Math.abs(now[0] - expected[0]), made.id).toBeLessThanOrEqual(near);
        expect(Math.abs(now[1] - expected[1]), made.id).toBeLessThanOrEqual(near);
      }
    }
  });
});

const findings = (design: Design, rule: string): string[] =>
  reportOf(checkContext(design))
    .findings.filter((finding) => finding.rule === rule)
    .map(({ sentence }) => sentence);

it('a wallet glued inside lets the card close, a box does not, and the finding names it', () => {
  expect(reportOf(checkContext(glued(family('wallet'), 'the card’s right half'))).findings).toEqual([]);
  const caught = findings(glued(family('tuckBox'), 'the card’s right half'), 'catching');
  expect(caught.length).toBeGreaterThan(0);
  expect(caught[0]).toMatch(/the left half of Card runs into .*Tuck box/);
  // Outside it stands in nobody's way.
  expect(findings(glued(family('tuckBox'), 'the outside of the card’s right half'), 'catching')).toEqual([]);
});

it('is held by another panel, by its inside, and elsewhere', () => {
  const design = glued(family('tray'), 'the card’s right half', {
    params: { longMm: 60, wideMm: 40 },
    mount: { panelId: null, x: 20, y: 60 },
  });
  const { parts } = expand(design);
  const panels = mountPanels({ parts: parts.filter(({ id }) => id.startsWith('m1/')) });
  const floorOf = (word: string) => panels.find(({ name }) => name.includes(word) && name.includes('floor'))!;
  const lid = floorOf('lid');
  const byLid = (face: Mount['face']): Design => ({
    ...design,
    instances: {
      m1: {
        ...design.instances.m1,
        mount: { ...design.instances.m1.mount!, face, panelId: `${lid.partId.slice(3)}|${lid.panelId}` },
      },
    },
  });
  for (const face of ['outside', 'inside'] as const) {
    const { sweep } = checkContext(byLid(face));
    const zs = ownPanels(sweep)
      .filter(({ part }) => part.id === lid.partId)
      .flatMap((panel) => panel.region.outer.map((p) => pointAt(sweep, panel, p, 180)));
    const high = Math.max(...zs.map(([, , z]) => z));
    const low = Math.min(...zs.map(([, , z]) => z));
    // By its outside it opens upwards; by its inside its walls would go down through the card.
    if (face === 'outside') expect([low > -0.01, high > 5]).toEqual([true, true]);
    else expect(low).toBeLessThan(-5);
  }
});

it('what bends everywhere says that it cannot be glued on, and a panel that is gone is named', () => {
  for (const id of BENT) {
    const { faults } = expand(glued(family(id), 'the card’s right half'));
    expect(faults.map(({ message }) => message).join()).toMatch(/Every panel of it bends/);
  }
  const lost = glued(family('wallet'), 'the card’s right half', { mount: { panelId: 'wallet|nowhere' } });
  expect(expand(lost).faults[0].message).toMatch(/is not there any more: choose another one/);
});

it('is kept in the document', () => {
  const design = glued(family('wallet'), 'the card’s right half', { mount: { x: 7.5, face: 'inside' } });
  const read = readDesign(JSON.parse(JSON.stringify(design)));
  expect(read.ok && read.design.instances.m1.mount).toEqual(design.instances.m1.mount);
});
