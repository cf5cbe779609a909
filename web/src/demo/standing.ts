/** Demo jobs without a card: what stands by itself. */
import { newDesign, type Design } from '@hollow-finch/core/design/design';
import { solidParts } from '@hollow-finch/core/design/solidParts';
import type { Params } from '@hollow-finch/core/mechanisms/family';
import { netOf } from '@hollow-finch/core/solids/net';
import { uniform } from '@hollow-finch/core/solids/shapes';
import { unfolded } from '@hollow-finch/core/solids/unfold';
import { byId, mechanism } from './making.ts';

/** A job without a card. */
const bare = (name: string, note: string): Design => ({
  ...newDesign(name, { note }),
  base: { kind: 'structure', rootPartId: null },
});

/** A job of one thing that stands by itself. */
function standing(
  name: string,
  note: string,
  familyId: string,
  called: string,
  stockId: string,
  params: Params,
): Design {
  const design = bare(name, note);
  return { ...design, instances: { m1: mechanism(design, 'm1', familyId, called, stockId, params) } };
}

/** A lantern of twelve faces with a star in each but the one on which it stands. */
function starLantern(): Design {
  const design = bare(
    'Star Lantern',
    'Hangs over the till in winter, a small electric light inside. Never a flame.',
  );
  const tabMm = 7;
  const net = netOf(unfolded(uniform('dodecahedron', 42), { tabMm, bedMm: [404, 281] }), {
    depthMm: tabMm,
    leastMm: 1.5,
  });
  const { parts, joints } = solidParts(design, net, {
    name: 'Lantern',
    stockId: 'brass-foil',
    withNumbers: true,
    glued: true,
    openings: { shape: 'star', acrossMm: 36, keepMm: tabMm + 2.5 },
  });
  return {
    ...design,
    base: { kind: 'structure', rootPartId: parts[0].id },
    parts: byId([...parts]),
    joints: byId([...joints]),
  };
}

/** Jobs of boxes, bags and lanterns. */
export const standingJobs = (): { readonly id: string; readonly design: Design }[] => [
  { id: 'star-lantern', design: starLantern() },
  {
    id: 'eyepiece-box',
    design: standing(
      'Eyepiece Box',
      'Six sides with a lid, for an eyepiece 38 mm across and 64 mm long in tissue.',
      'sidedBox',
      'Eyepiece box',
      'slate-240',
      { sides: 6, acrossMm: 42, highMm: 66, airMm: 1, withLid: true, lidMm: 22 },
    ),
  },
  {
    id: 'year-pass-wallet',
    design: standing(
      'Year Pass Wallet',
      'Sized from the year pass, an ID-1 card; its tongue keeps it shut in a pocket.',
      'wallet',
      'Wallet',
      'ember-160',
      { closing: 'tongue', flapMm: 30 },
    ),
  },
  {
    id: 'kit-bag',
    design: standing(
      'Kit Bag',
      'Holds a kit of cards; folds flat for the shop’s drawer.',
      'bag',
      'Kit bag',
      'ember-160',
      { wideMm: 80, deepMm: 32, tallMm: 110, hemMm: 16, handles: 'straps', flat: true },
    ),
  },
  {
    id: 'twist-lantern',
    design: standing(
      'Twist Lantern',
      'Six sides that twist; sent flat in an envelope, and turned up by whoever gets it.',
      'twistedPrism',
      'Twist',
      'slate-240',
      { sides: 6, sideMm: 36, tallMm: 32, pressed: true },
    ),
  },
];
