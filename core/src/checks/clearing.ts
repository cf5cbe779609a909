/**
 * The smallest change that clears a catch, an overhang, or glue in the way: candidates are tried on the design, smallest
 * first, until one clears what it should and makes nothing else worse.
 */
import { applyCommand, type Command } from '../design/commands.ts';
import type { Design, Instance, PlacedJoint } from '../design/design.ts';
import { parameterLimits } from '../mechanisms/limits.ts';
import { familyById } from '../mechanisms/registry.ts';
import { catchesWithKey, keyOf } from './catching.ts';
import { mm, overhangKey, ownerOf, type CheckContext, type Mend } from './finding.ts';
import { glueInTheWay } from './glueInTheWay.ts';
import { isStuck } from './lockedBy.ts';
import { pieceMoveMend, pieceScaleMend } from './pieceScale.ts';
import { checkContext } from './runChecks.ts';

/** Steps that are tried for each measure, in mm, smallest first. */
const STEPS_MM = [0.5, 1, 1.5, 2, 3, 4, 5, 6, 8, 10, 12, 15, 18, 22, 26, 30, 36, 42];

interface Trouble {
  /** How much there is of each catch, overhang and glue in the way, by key; mm. */
  readonly byKey: ReadonlyMap<string, number>;
  /** All of it, with locks and joints that hold nothing counted in: 0 is sound. */
  readonly total: number;
}

function troubleOf(context: CheckContext): Trouble {
  const all = [{ sweep: context.sweep, catches: context.catches }, ...context.pulls];
  const byKey = new Map<string, number>();
  const add = (key: string, amount: number) => byKey.set(key, (byKey.get(key) ?? 0) + amount);
  for (const { sweep, catches } of all)
    for (const caught of catches) add(keyOf(sweep, caught), caught.depthMm);
  for (const finding of glueInTheWay.run(context)) add(finding.key, finding.measured ?? 0);
  for (const { panel, mostMm } of context.closed.overhangs) add(overhangKey(panel.part.id, panel.id), mostMm);
  const stuck = all.flatMap(({ sweep }) => sweep.components).filter(isStuck).length;
  const broken = stuck + context.sweep.linkage.faults.length + context.expanded.faults.length;
  return { byKey, total: [...byKey.values()].reduce((sum, amount) => sum + amount, 1000 * broken) };
}

const trouble = (design: Design): Trouble => troubleOf(checkContext(design));

/** Changes of one measure of a mechanism by just so much, within its limits. */
function measureChanges({ design, expanded }: CheckContext, instance: Instance, stepMm: number): Mend[] {
  const family = familyById(instance.family);
  if (!family) return [];
  return family.specs.flatMap((spec): Mend[] => {
    const { params } = instance;
    const gutter = expanded.gutterOf[instance.id];
    if (
      spec.kind !== 'length' ||
      ['tabMm', 'taperMm'].includes(spec.key) ||
      (spec.shown && !spec.shown(params, gutter))
    )
      return [];
    const limits = parameterLimits(family, params, spec, gutter, design.settings.reachMarginMm);
    if (!limits?.reachable) return [];
    return [1, -1].flatMap((sign): Mend[] => {
      const value = Number(params[spec.key]) + sign * stepMm;
      if (value < limits.min - 1e-6 || value > limits.max + 1e-6) return [];
      const changed = { ...instance, params: { ...params, [spec.key]: value } };
      return [
        {
          label: `${instance.name}: set ${spec.label.toLowerCase()} to ${mm(value)}`,
          command: { do: 'put', in: 'instances', id: instance.id, value: changed },
        },
      ];
    });
  });
}

/** Shifts of a drafted part on what it hangs on, each way by just so much. */
function shifts({ design }: CheckContext, partId: string, stepMm: number): Mend[] {
  const part = design.parts[partId];
  const joints = Object.values(design.joints).filter((joint) => joint.partId === partId);
  const [joint] = joints;
  if (!part || joints.length !== 1 || !('placement' in joint)) return [];
  const ways = [
    ['right', 1, 0],
    ['left', -1, 0],
    ['up', 0, 1],
    ['down', 0, -1],
  ] as const;
  return ways.map(([word, x, y]): Mend => {
    const { dx, dy } = joint.placement;
    const value: PlacedJoint = {
      ...joint,
      placement: { ...joint.placement, dx: dx + x * stepMm, dy: dy + y * stepMm },
    };
    return {
      label: `Move ${part.name} ${mm(stepMm)} ${word}`,
      command: { do: 'put', in: 'joints', id: joint.id, value },
    };
  });
}

/** The parts, with their panels, that a finding's key is about. */
function piecesOf(context: CheckContext, key: string): { partId: string; panelId: string }[] {
  const { panels } = context.sweep.linkage;
  const caught = catchesWithKey(context, key).flatMap((c) => [c.a, c.b].map((i) => panels[i]));
  if (caught.length > 0) return caught.map((panel) => ({ partId: panel.part.id, panelId: panel.id }));
  const over = context.closed.overhangs.filter((o) => key === overhangKey(o.panel.part.id, o.panel.id));
  if (over.length > 0) return over.map(({ panel }) => ({ partId: panel.part.id, panelId: panel.id }));
  const inTheWay = glueInTheWay.run(context).find((finding) => finding.key === key);
  return (inTheWay?.places ?? []).map(({ partId }) => ({ partId, panelId: '' }));
}

/** The key under which what a finding is about is counted: a second stretch of one catch has its key with a number. */
const countedKey = (context: CheckContext, key: string): string =>
  catchesWithKey(context, key)[0]?.key ?? key;

/**
 * The smallest change of one measure of one of the mechanisms, or the smallest shift of a drafted piece, that clears a catch,
 * an overhang or glue in the way: after it that is gone, and nothing else is worse than before. Null when none does it.
 */
export function clearingMend(context: CheckContext, key: string): Mend | null {
  const { design, expanded } = context;
  const pieces = piecesOf(context, key);
  if (pieces.length === 0) return null;
  const owners = new Set(pieces.map((p) => ownerOf(expanded.instanceOf, p.partId, p.panelId)));
  const partIds = new Set(pieces.map((p) => p.partId));
  const before = troubleOf(context);
  const counted = countedKey(context, key);
  const allowed = before.total - (before.byKey.get(counted) ?? 0) + 1e-6;
  for (const stepMm of STEPS_MM) {
    const candidates = [
      ...[...partIds].flatMap((partId) => shifts(context, partId, stepMm)),
      ...[...owners].flatMap((id) => {
        const instance = id === undefined ? undefined : design.instances[id];
        return instance ? measureChanges(context, instance, stepMm) : [];
      }),
    ];
    for (const mend of candidates) {
      const after = trouble(applyCommand(design, mend.command).design);
      if (!after.byKey.has(counted) && after.total <= allowed) return mend;
    }
  }
  return null;
}

/**
 * A change that puts a catch, an overhang or glue in the way right, tried for real: a drafted piece is moved into the free
 * area of its panel if that is near, else made smaller until it fits there; else the smallest change of a measure.
 *
 * @param key the finding's key
 * @returns the change as a mend, or null when no single change does it
 */
export function findMend(context: CheckContext, key: string): Mend | null {
  const { design } = context;
  const before = troubleOf(context);
  const better = (command: Command) =>
    trouble(applyCommand(design, command).design).total < before.total - 1e-6;
  const pieces = new Set(piecesOf(context, key).map((p) => p.partId));
  for (const offer of [pieceMoveMend, pieceScaleMend])
    for (const partId of pieces) {
      const mend = offer(design, partId);
      if (mend && better(mend.command)) return mend;
    }
  return clearingMend(context, key);
}
