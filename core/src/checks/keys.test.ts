/** Keys of findings: the same when a design is moved, so that an acceptance stays; and void when the place itself changes. */
import { describe, expect, it } from 'vitest';
import type { Design, DraftedPart, Joint } from '../design/design.ts';
import { compose, shift } from '../geometry/isometry.ts';
import { placePath } from '../geometry/path.ts';
import type { Point } from '../geometry/point.ts';
import { seededRandom } from '../geometry/random.ts';
import { checkContext } from './context.ts';
import { isAccepted, stateOf, type Finding } from './finding.ts';
import { runChecks } from './runChecks.ts';
import { PLANTS, type Planted } from '../practice/plants.ts';

const BY: Point = [1, 1];

function movedPart(part: DraftedPart): DraftedPart {
  const by = shift(...BY);
  return {
    ...part,
    lines: Object.fromEntries(
      Object.entries(part.lines).map(([id, line]) => [id, { ...line, path: placePath(by, line.path) }]),
    ),
    glueZones: Object.fromEntries(
      Object.entries(part.glueZones).map(([id, zone]) => [
        id,
        { ...zone, outline: zone.outline.map(([x, y]): Point => [x + BY[0], y + BY[1]]) },
      ]),
    ),
  };
}

/** The design with its drafted parts drawn a millimetre further up and right: what they are glued to, they still meet. */
function redrawn(design: Design): Design | undefined {
  const joints = Object.values(design.joints);
  if (joints.some(({ kind }) => kind !== 'glue')) return undefined;
  const back = (joint: Joint): Joint => {
    if (joint.kind !== 'glue') return joint;
    const onMoved = design.parts[joint.hostPartId] ? shift(...BY) : shift(0, 0);
    return {
      ...joint,
      placement: compose(onMoved, compose(joint.placement, shift(-BY[0], -BY[1]))),
    };
  };
  return {
    ...design,
    parts: Object.fromEntries(Object.entries(design.parts).map(([id, part]) => [id, movedPart(part)])),
    joints: Object.fromEntries(joints.map((joint) => [joint.id, back(joint)])),
  };
}

const found = ({ design, cuts }: Planted): Finding[] => runChecks(checkContext(design, cuts));
const accepting = (findings: readonly Finding[]): Design['accepted'] =>
  Object.fromEntries(findings.map((f) => [f.key, { reason: 'Meant so.', was: stateOf(f) }]));

const cases = PLANTS.map((plant) => [`${plant.rule}: ${plant.what}`, plant] as const);

describe('an accepted finding', () => {
  it.each(cases)('stays accepted when the parts are drawn elsewhere, %s', (_, plant) => {
    const planted = plant.planted(seededRandom(5), 0.5);
    const design = redrawn(planted.design);
    if (!design) return;
    const before = found(planted);
    const after = found({ ...planted, design });
    expect(after.map((f) => f.key).sort()).toEqual(before.map((f) => f.key).sort());
    // A key is one finding's.
    expect(new Set(before.map((f) => f.key)).size).toBe(before.length);
    const accepted = accepting(before);
    expect(after.filter((f) => !isAccepted({ accepted }, f)).map((f) => f.sentence)).toEqual([]);
  });

  it.each(cases.filter(([, plant]) => plant.sized))('is open again when its size changes, %s', (_, plant) => {
    const [small, large] = [0.3, 1.9].map((beyond) => plant.planted(seededRandom(5), beyond));
    const [before, after] = [small, large].map((planted) =>
      found(planted).filter((f) => f.rule === plant.rule && (!planted.key || f.key.includes(planted.key))),
    );
    const accepted = accepting(before);
    const same = after.filter((f) => accepted[f.key]);
    // Limits of a hundredth of a millimetre differ by less than what an acceptance tells apart.
    const apart = Math.abs((small.measured ?? 0) - (large.measured ?? 0)) > 0.2;
    if (same.length > 0 && apart) expect(same.some((f) => !isAccepted({ accepted }, f))).toBe(true);
  });
});
