/** What is not for young children, on cards for them and on others. */
import { expect, it } from 'vitest';
import { applyCommand } from '../design/commands.ts';
import { gluesOf, newDesign, type Design } from '../design/design.ts';
import { workOf } from '../dieline/part.ts';
import { circle } from '../geometry/path.ts';
import { expand } from '../mechanisms/expand.ts';
import { checkContext } from './context.ts';
import { layPiece } from './layPiece.ts';
import { smallParts } from './smallParts.ts';

it('a pad that the store says is not for them is told, one that is for them is not', () => {
  const base = newDesign('Small', { audience: 'young children' });
  const frames = expand(base).panelFrames.card;
  const lines = { o: { id: 'o', ...workOf('cut'), path: circle([0, 0], 25) } };
  const laid = layPiece(base, 'card', Object.keys(frames)[0], {
    name: 'Moon',
    stockId: 'ember-160',
    lines,
  } as never);
  if ('refused' in laid) throw new Error(laid.refused);
  const design = applyCommand(base, laid.command).design;
  const [joint] = gluesOf(Object.values(design.joints));
  const on = (childSafe: boolean, audience: Design['brief']['audience']): Design => ({
    ...design,
    brief: { ...design.brief, audience },
    store: {
      hardware: {
        gem: { id: 'gem', name: 'Gem pad', kind: 'pad', thicknessMm: 1, widthMm: 8, childSafe },
      },
    },
    joints: { ...design.joints, [joint.id]: { ...joint, pad: { hardwareId: 'gem', layers: 1 } } },
  });
  const said = (of: Design) => smallParts.run(checkContext(of)).map(({ sentence }) => sentence);
  expect(said(on(false, 'young children'))).toEqual([
    'Moon stands on “Gem pad”, which the store says is not for young children: take another pad.',
  ]);
  expect(said(on(true, 'young children'))).toEqual([]);
  expect(said(on(false, 'anyone'))).toEqual([]);
});
