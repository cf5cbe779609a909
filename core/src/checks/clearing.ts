/**
 * The smallest change that puts a finding right: candidates are tried on the design, smallest first, until one does. A
 * change counts only if all rules agree: what the finding was about is gone, nothing is found that was not there before, and
 * nothing that was there is much worse.
 */
import type { GlueJoint, Instance } from '../design/design.ts';
import { TYPED_SLACK } from '../geometry/tolerances.ts';
import { parameterLimits } from '../mechanisms/limits.ts';
import { familyById } from '../mechanisms/registry.ts';
import { PLACE_KEY } from '../mechanisms/specs.ts';
import { inOneGo } from '../motion/turns.ts';
import { catchesWithKey } from './catching.ts';
import { mm, ownerOf, type CheckContext, type Finding, type Mend } from './finding.ts';
import { amounts, isMended } from './judging.ts';
import { pieceMoveMend, pieceScaleMend } from './pieceScale.ts';
import { LIVE_RULES } from './rules.ts';

/** Steps by which a measure is changed or a piece is moved, in mm, smallest first. */
const STEPS_MM = [0.5, 1, 1.5, 2, 3, 4, 5, 6, 8, 10, 12, 15, 18, 22, 26];
/**
 * No size is changed by more than this share of itself (or the least that is always tried): a maker would not call it a mend.
 * A mechanism that is only moved along its fold stays what it is, by whatever way.
 */
const MOST_SHARE = 0.25;
const ALWAYS_MM = 6;

/** Rules whose findings a change is searched for; others bring their mend with them, or none. */
export const SEARCHED_RULES: readonly string[] = [
  'catching',
  'closedOverhang',
  'glueInTheWay',
  'glueLanding',
  'tabsColliding',
  'matingEdges',
];

/** Changes of one measure of a mechanism by just so much, within its limits. */
function measureChanges({ design, expanded }: CheckContext, instance: Instance, stepMm: number): Mend[] {
  const family = familyById(instance.family);
  if (!family) return [];
  return family.specs.flatMap((spec): Mend[] => {
    const { params } = instance;
    const gutter = expanded.gutterOf[instance.id];
    if (spec.kind !== 'length' || (spec.shown && !spec.shown(params, gutter))) return [];
    const now = Number(params[spec.key]);
    const most = spec.key === PLACE_KEY ? Infinity : Math.max(ALWAYS_MM, MOST_SHARE * Math.abs(now));
    if (stepMm > most) return [];
    const limits = parameterLimits(
      family,
      params,
      spec,
      gutter,
      design.settings.reachMarginMm,
      expanded.store.fits,
    );
    if (!limits?.reachable) return [];
    return [1, -1].flatMap((sign): Mend[] => {
      const value = now + sign * stepMm;
      if (value < limits.min - TYPED_SLACK || value > limits.max + TYPED_SLACK) return [];
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

/** The glue by which alone a drafted part hangs: what a slider or a pivot holds is not taken off it. */
function onlyGlue({ design }: CheckContext, partId: string): GlueJoint | undefined {
  const joints = Object.values(design.joints).filter(
    (joint) => joint.partId === partId && joint.hostPartId !== partId,
  );
  const [joint] = joints;
  return design.parts[partId] && joints.length === 1 && joint.kind === 'glue' ? joint : undefined;
}

/** Shifts of a drafted part on what it is glued to, each way by just so much. */
function shifts(context: CheckContext, partId: string, stepMm: number): Mend[] {
  const joint = onlyGlue(context, partId);
  if (!joint) return [];
  const ways = [
    ['right', 1, 0],
    ['left', -1, 0],
    ['up', 0, 1],
    ['down', 0, -1],
  ] as const;
  return ways.map(([word, x, y]): Mend => {
    const { dx, dy } = joint.placement;
    const placement = { ...joint.placement, dx: dx + x * stepMm, dy: dy + y * stepMm };
    return {
      label: `Move ${context.design.parts[partId].name} ${mm(stepMm)} ${word}`,
      command: { do: 'put', in: 'joints', id: joint.id, value: { ...joint, placement } },
    };
  });
}

/** The parts that a finding is about, and the mechanisms that they belong to. */
function aboutOf(context: CheckContext, finding: Finding): { partIds: string[]; owners: string[] } {
  const { instanceOf } = context.expanded;
  const caught = catchesWithKey(context, finding.key).flatMap(({ motion, caught: { a, b } }) =>
    [a, b].map((i) => motion.linkage.panels[i]),
  );
  const overs = context.closed.overhangs
    .filter(({ panel }) => finding.places.some((place) => place.partId === panel.part.id))
    .map(({ panel }) => panel);
  const panels = [...caught, ...(finding.rule === 'closedOverhang' ? overs : [])];
  // What a joint's key names is about the glued part, wherever it is shown.
  const joints = context.expanded.joints.filter((joint) => finding.key.split(':').includes(joint.id));
  const partIds = [
    ...finding.places.map((place) => place.partId),
    ...panels.map((panel) => panel.part.id),
    ...joints.map((joint) => joint.partId),
  ];
  const owners = [
    ...panels.map((panel) => ownerOf(instanceOf, panel.part.id, panel.id)),
    ...partIds.map((id) => instanceOf[id]),
  ].filter((id) => id !== undefined);
  return { partIds: [...new Set(partIds)], owners: [...new Set(owners)] };
}

/** How far a search has come: how many changes have been tried of about how many. */
export interface Tried {
  readonly tried: number;
  readonly most: number;
}

/** The changes that may put a finding right, smallest first. */
function candidatesFor(context: CheckContext, finding: Finding): (() => Mend[])[] {
  const { design } = context;
  const { partIds, owners } = aboutOf(context, finding);
  const drafted = partIds.filter((id) => design.parts[id]);
  const pieces =
    finding.rule === 'tabsColliding' || finding.rule === 'matingEdges' || finding.rule === 'glueLanding'
      ? []
      : [pieceMoveMend, pieceScaleMend];
  const offers = pieces.map(
    (offer) => () =>
      drafted.flatMap((partId) => {
        const mend = onlyGlue(context, partId) && offer(design, partId);
        return mend ? [mend] : [];
      }),
  );
  const steps = STEPS_MM.map((stepMm) => () => [
    ...drafted.flatMap((partId) => shifts(context, partId, stepMm)),
    ...owners.flatMap((id) =>
      design.instances[id] ? measureChanges(context, design.instances[id], stepMm) : [],
    ),
  ]);
  const exact = () => LIVE_RULES.find(({ id }) => id === finding.rule)!.offers?.(context, finding) ?? [];
  // A piece is moved before it is made smaller, and that before anything else is changed; a piece that fits nowhere near
  // is shifted or shrunk last.
  const [move, scale] = offers;
  return [exact, ...(move ? [move, scale] : []), ...steps];
}

/**
 * Searches for a change that puts a finding right; between trials it gives up its turn, so that it can be shown and stopped.
 *
 * @param key the finding's key
 * @returns the change as a mend, or null when no single change does it
 */
export function* searchMend(context: CheckContext, key: string): Generator<Tried, Mend | null> {
  const findings = LIVE_RULES.flatMap((rule) => rule.run(context));
  const finding = findings.find((f) => f.key === key);
  if (!finding) return null;
  const before = amounts(context);
  const groups = candidatesFor(context, finding);
  let [tried, most] = [0, 0];
  for (const [i, group] of groups.entries()) {
    const mends = group();
    // About as many in every group that is still to come.
    most = tried + mends.length * (groups.length - i);
    for (const mend of mends) {
      yield { tried, most };
      tried++;
      if (isMended(context, finding, mend.command, before)) return mend;
    }
  }
  return null;
}

/** A change that puts a finding right, found without pause; null when no single change does it. */
export const findMend = (context: CheckContext, key: string): Mend | null =>
  inOneGo(searchMend(context, key));
