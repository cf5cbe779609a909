/** Apertures made by hand over known things: what a person would see through them, closed and open. */
import { workOf } from '../dieline/part.ts';
import { describe, expect, it } from 'vitest';
import { newDesign, type Design } from '../design/design.ts';
import { circle } from '../geometry/path.ts';
import type { Point } from '../geometry/point.ts';
import type { Params } from '../mechanisms/family.ts';
import { expand } from '../mechanisms/expand.ts';
import { newInstance, usualHost } from '../mechanisms/instance.ts';
import { familyById } from '../mechanisms/registry.ts';
import { checkContext } from './context.ts';
import { showThrough } from './showThrough.ts';

const base = newDesign('Windows', { closedWidthMm: 120, closedHeightMm: 120 });

function card(
  family: string,
  params: Params,
  windows: readonly (readonly [string, string, Point, number])[],
): Design {
  const made = familyById(family)!;
  const instance = newInstance(made, usualHost(made, expand(base).gutters), 'm', { params });
  return {
    ...base,
    instances: { m: instance },
    additions: Object.fromEntries(
      windows.map(([partId, panelId, at, radius], i) => [
        `a${i}`,
        {
          id: `a${i}`,
          partId,
          panelId,
          line: { id: `added-a${i}`, ...workOf('cut'), path: circle(at, radius) },
        },
      ]),
    ),
  };
}

const said = (design: Design) => showThrough.run(checkContext(design)).map((f) => f.sentence);
const step = {
  leftMm: 40,
  rightMm: 40,
  parallel: true,
  alongMm: 30,
  widthMm: 50,
  tabMm: 10,
  tabs: 'outward',
};

describe('what shows through apertures', () => {
  it('a tab glued behind a window of the cover is raw glue when the card is closed', () => {
    // The left tab lies on the front of the left half at x from -50 to -40: from outside its back is seen, which is glued.
    expect(said(card('step', step, [['card', 'left', [-45, 55], 4]]))).toEqual([
      'Closed, the aperture at (-45.0, 55.0) in Card shows raw glue on the left tab of Step strip.',
    ]);
  });

  it('a window beside the tab shows the panel behind it, which is no fault', () => {
    expect(said(card('step', step, [['card', 'left', [-60, 55], 4]]))).toEqual([]);
  });

  it('a hole smaller than a pin hole, or a slit, is not looked through', () => {
    expect(said(card('step', step, [['card', 'left', [-45, 55], 1.2]]))).toEqual([]);
  });

  it('a window in a wheel’s cover over the pivot shows it, the aperture beside it does not', () => {
    expect(said(card('wheel', {}, []))).toEqual([]);
    expect(said(card('wheel', {}, [['m/cover', 'cover', [0, -6], 9]]))[0]).toMatch(
      /^Open, the aperture .* in Wheel cover shows the head of a pivot\.$/,
    );
  });

  it('a window in the card behind a pendulum’s wing shows its glue; one in the cover over that wing only bare card', () => {
    expect(said(card('pendulum', {}, []))).toEqual([]);
    const made = familyById('pendulum')!;
    const { wingsMm, wingMm, alongMm } = made.defaults(usualHost(made, expand(base).gutters));
    const overWing = (Number(wingsMm) + Number(wingMm)) / 2;
    expect(
      said(card('pendulum', {}, [['card', 'right', [60 + overWing, Number(alongMm) - 20], 2.5]])),
    ).toEqual([
      expect.stringMatching(/aperture .* in Card shows raw glue on the right wing of Pendulum right wing/),
    ]);
    expect(said(card('pendulum', {}, [['m/cover', 'cover', [overWing, -20], 2.5]]))).toEqual([]);
  });
});
