/** Solids on the board: their parts are read back, fold up by the motion of all designs, and close where tabs meet faces. */
import { describe, expect, it } from 'vitest';
import { panelPlan } from '../dieline/panels.ts';
import { expand } from '../mechanisms/expand.ts';
import { linkageOf } from '../motion/linkage.ts';
import { sweep } from '../motion/sweep.ts';
import { netOf } from '../solids/net.ts';
import { withFlatFacesMerged } from '../solids/mergedFaces.ts';
import { type Mesh } from '../solids/mesh.ts';
import { antiprism, dome, frustum, uniform } from '../solids/shapes.ts';
import { unfolded } from '../solids/unfold.ts';
import { newDesign, type Design } from './design.ts';
import { readDesign } from './schema.ts';
import { solidParts } from './solidParts.ts';

const TABS = { depthMm: 8, leastMm: 1.5 };

function designOf(mesh: Mesh, bedMm?: readonly [number, number]): Design {
  const base = newDesign('Solid');
  const net = netOf(
    unfolded(withFlatFacesMerged(mesh), { tabMm: TABS.depthMm, ...(bedMm && { bedMm }) }),
    TABS,
  );
  const made = solidParts(base, net, {
    name: 'Lantern',
    stockId: 'ember-160',
    withNumbers: true,
    glued: true,
  });
  return {
    ...base,
    base: { kind: 'structure', rootPartId: made.parts[0].id },
    parts: Object.fromEntries(made.parts.map((part) => [part.id, part])),
    joints: Object.fromEntries(made.joints.map((joint) => [joint.id, joint])),
  };
}

describe.each([
  ['cube', uniform('cube', 40)],
  ['pyramid', frustum(5, 40, 0, 50)],
  ['frustum', frustum(6, 40, 22, 45)],
  ['prism', frustum(8, 30, 30, 60)],
  ['antiprism', antiprism(6, 40, 40)],
  ['icosahedron', uniform('icosahedron', 35)],
  ['cuboctahedron', uniform('cuboctahedron', 30)],
  ['dome', dome(6, 3, 50)],
] as const)('%s', (_, mesh) => {
  it('is a sound document, and closes to rounding when its folds are turned', () => {
    const design = designOf(mesh);
    expect(readDesign(JSON.parse(JSON.stringify(design)))).toMatchObject({ ok: true });
    const [part] = expand(design).parts;
    const tabs = Object.keys(design.parts[part.id].glueZones).length;
    expect(panelPlan(part).panels).toHaveLength(mesh.faces.length + tabs);
    const motion = sweep(linkageOf(expand(design)));
    // Flat (180) and folded up (0): nothing is torn apart.
    expect(motion.residualMm[0]).toBeLessThan(1e-6);
    expect(motion.residualMm[180]).toBeLessThan(1e-6);
  });
});

it('in pieces for a bed, the pieces are glued to each other and close as well', () => {
  const design = designOf(uniform('truncated octahedron', 30), [170, 120]);
  expect(Object.keys(design.parts).length).toBeGreaterThan(1);
  const names = Object.values(design.parts).map(({ name }) => name);
  expect(names[0]).toBe('Lantern, piece 1');
  const linkage = linkageOf(expand(design));
  expect(linkage.attached.every(Boolean)).toBe(true);
  expect(sweep(linkage).residualMm[0]).toBeLessThan(1e-6);
});
