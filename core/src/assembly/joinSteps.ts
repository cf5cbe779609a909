/** The joints of a design as steps of its build sheet: in which order, with what, how far open, and why then. */
import { gluesItself, type Joint } from '../design/design.ts';
import { CARD_ID } from '../design/frames.ts';
import { panelAt, panelPlan } from '../dieline/panels.ts';
import { zoneIn } from '../dieline/part.ts';
import { place } from '../geometry/isometry.ts';
import type { Point } from '../geometry/point.ts';
import { listed, partName } from '../checks/motionWords.ts';
import type { Expanded } from '../mechanisms/expand.ts';
import { isCover, type PanelRef } from '../motion/panelRef.ts';
import { placementAt } from '../motion/pose.ts';
import type { Sweep } from '../motion/sweep.ts';
import { bradIn, USUAL_STORE, type Adhesive } from '../stock/store.ts';
import { counted, FLAT_DEG, HALF_DEG, plainStep, RISEN_DEG, type BuildStep } from './buildStep.ts';
import { spotOf } from './rehearsal.ts';
import { workableOrder, type JoinPlace } from './workable.ts';

/** A panel that stands steeper than this on what it is glued to is joined half-open, degrees. */
const STEEP_DEG = 15;

/** Minutes of one pair of hands. */
const JOIN_MINUTES: Readonly<Record<Joint['kind'], number>> = {
  glue: 0.7,
  pivot: 0.6,
  slide: 0.4,
  pin: 0.4,
  tongue: 0.4,
  cross: 0.4,
  rest: 0.3,
  wrap: 0.5,
  hand: 0,
};

const spoken = (id: string): string => id.split('/').pop()!.replace(/-/g, ' ');
/** What a zone is called: by its number where it has no more than that. */
const zoneName = (id: string): string => {
  const number = /^[a-z]+-?(\d+)$/.exec(id.split('/').pop()!);
  if (number) return `tab ${number[1]}`;
  const name = spoken(id).replace(/^(glue|zone|tab) /, '');
  return name === 'glue' || name === 'zone' || name === 'tab' ? 'the tab' : `the ${name} tab`;
};

/** The words of joining two parts, by what joins them. */
function joinWords(expanded: Expanded, joint: Joint, face: 'front' | 'back', by: string): string {
  const [part, host] = [partName(expanded, joint.partId), partName(expanded, joint.hostPartId)];
  switch (joint.kind) {
    case 'glue': {
      const zone =
        joint.as === 'piece'
          ? `the ${face} of ${part}`
          : `${zoneName(joint.zoneId)} of ${part}, on its ${face}`;
      const raised = joint.pad ? `, on ${counted(joint.pad.layers, 'layer')} of pads` : '';
      return gluesItself(joint)
        ? `Put ${by} on ${zone}, and close ${part} onto itself there.`
        : `Put ${by} on ${zone}, and lay it onto ${host}${raised}.`;
    }
    case 'pivot':
      return `Pin ${part} to ${host} with ${by}. Leave it loose: it must turn by itself.`;
    case 'slide':
      return `Put ${part} into its channel in ${host}. No glue: it must slide.`;
    case 'pin':
      return `Put the pin of ${part} into its slit in ${host}. No glue: it must run.`;
    case 'tongue':
      return `Put the tongue of ${part} through its slot in ${host}.`;
    case 'cross':
      return `Push the half slots of ${part} and ${host} into each other, to the bottom.`;
    case 'rest':
      return `Stand the edge of ${part} against its stop on ${host}. No glue.`;
    case 'wrap':
      return `Lead the band of ${part} round the edge of ${host}. No glue: it must run.`;
    case 'hand':
      return '';
  }
}

/** The panel of the motion that a point of a part lies on. */
function panelOf({ linkage }: Sweep, partId: string, at: Point): number {
  const part = linkage.panels.find((panel) => panel.part.id === partId)?.part;
  if (!part) return -1;
  const index = panelAt(panelPlan(part), at);
  return linkage.panels.findIndex((panel) => panel.part.id === partId && panel.panel === index);
}

/** Whether a pivot lets its part swing to and fro, and not right round as a wheel. */
const swings = ({ drive, stops }: Extract<Joint, { kind: 'pivot' }>): boolean => {
  const range = drive ?? stops;
  return range === null || (range.from < 0 && range.to > 0 && range.to - range.from < 180);
};

/** How far open a card should be when something is joined: flat where all lies flat then, half-open where it stands or swings. */
function openFor(expanded: Expanded, whole: Sweep, joint: Joint, isFirst: boolean): number {
  // What stands by itself is nearly folded up, so that a tab and its place are close.
  if (expanded.base.kind === 'structure') return RISEN_DEG;
  if (expanded.base.kind === 'sheet') return FLAT_DEG;
  // What swings by its weight, to both sides of where it rests, is hung where it is seen to swing.
  if (joint.kind === 'pivot' && swings(joint)) return HALF_DEG;
  const { panels } = whole.linkage;
  // Whether a panel stands up when the card lies flat.
  const stands = ({ body }: PanelRef) =>
    Math.abs(placementAt(whole, body, FLAT_DEG)[10]) < Math.cos((STEEP_DEG * Math.PI) / 180);
  const host = 'placement' in joint ? place(joint.placement, spotOf(expanded, joint)) : null;
  const onto = host ? panelOf(whole, joint.hostPartId, host) : -1;
  if (onto >= 0 && !isCover(panels[onto]) && stands(panels[onto])) return HALF_DEG;
  const steep = !isFirst && panels.some((panel) => panel.part.id === joint.partId && stands(panel));
  return steep ? HALF_DEG : FLAT_DEG;
}

/** What holds a joint: its adhesive or its brad, in words, with what the store knows of it. */
function heldBy(expanded: Expanded, joint: Joint): { by: string; adhesive: Adhesive | null } {
  if (joint.kind === 'pivot') {
    const item = joint.hardwareId === undefined ? undefined : expanded.store.hardware[joint.hardwareId];
    return {
      by: item?.name ?? `a brad, ${2 * bradIn(expanded.store, joint.hardwareId).radiusMm} mm head`,
      adhesive: null,
    };
  }
  if (joint.kind !== 'glue') return { by: '', adhesive: null };
  if (joint.pad) {
    const pad = expanded.store.hardware[joint.pad.hardwareId];
    return { by: pad?.name ?? 'foam pads', adhesive: null };
  }
  const id = zoneIn(expanded.parts, joint)?.adhesiveId;
  const known = id === undefined ? undefined : expanded.store.adhesives[id];
  if ((joint.padMm ?? 0) > 0 && !known) return { by: `pads ${joint.padMm} mm thick`, adhesive: null };
  // Where nothing is said it is wet glue: the one that has to be waited for.
  const adhesive = known ?? expanded.store.adhesives['wet-glue'] ?? USUAL_STORE.adhesives['wet-glue'];
  return { by: known ? known.name : 'glue', adhesive };
}

/** Why a joint is made before others. */
function whyNow(expanded: Expanded, place: JoinPlace, made: ReadonlySet<string>): string | null {
  const later = [...place.under.keys()].filter((id) => !made.has(id)).map((id) => partName(expanded, id));
  if (place.through) return 'Put it through before both are fixed: afterwards it stays behind its slot.';
  return later.length > 0
    ? `Now: once ${listed(later)} ${later.length === 1 ? 'is' : 'are'} on, ${later.length === 1 ? 'it lies' : 'they lie'} over this place.`
    : null;
}

/** The joints as steps, in an order in which no place is lost; and what is lost where there is none. */
export function joinSteps(
  expanded: Expanded,
  whole: Sweep,
  places: readonly JoinPlace[],
): { steps: BuildStep[]; faults: string[] } {
  const { order, workable } = workableOrder(places);
  const on = new Set<string>([expanded.rootPartId ?? CARD_ID]);
  const joined = new Set<string>();
  const steps = order.map((at) => {
    const joint = expanded.joints.find(({ id }) => id === at.id)!;
    const zone = joint.kind === 'glue' ? zoneIn(expanded.parts, joint) : undefined;
    const face = zone?.face ?? ('face' in joint ? joint.face : 'front');
    const { by, adhesive } = heldBy(expanded, joint);
    const why = whyNow(expanded, at, on);
    const openDeg = openFor(expanded, whole, joint, !joined.has(joint.partId));
    on.add(joint.partId).add(joint.hostPartId);
    joined.add(joint.partId);
    const open =
      expanded.base.kind === 'card' && openDeg === HALF_DEG
        ? joint.kind === 'pivot'
          ? ' Hold the card half-open while you do it, so that it swings free.'
          : ' Hold the card half-open while you do it, so that it stands as it will.'
        : '';
    const tape = adhesive?.kind === 'tape' ? ' It holds at once: lay it right the first time.' : '';
    return plainStep(`join/${joint.id}`, 'join', `${joinWords(expanded, joint, face, by)}${open}${tape}`, {
      why,
      partIds: [joint.partId],
      ontoIds: [joint.hostPartId],
      jointId: joint.id,
      up: joint.kind === 'glue' ? face : null,
      adhesive,
      openDeg,
      minutes: JOIN_MINUTES[joint.kind],
      waitMinutes: adhesive?.dryMinutes ?? 0,
    });
  });
  const faults = workable
    ? []
    : [
        'There is no order in which every place stays in reach: put the last of them together before the paper is closed round them, or let a part come apart.',
      ];
  return { steps, faults };
}
