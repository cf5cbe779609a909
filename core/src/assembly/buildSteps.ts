/**
 * The steps in which a design is built, made from its parts, joints and zones: punched out, folded, tried dry, joined in an
 * order in which no place is lost, decorated, closed once, pressed. A step has a name that stays when the design changes, so
 * that what a person changed of it stays with it.
 */
import { gluesItself, type Design, type Joint } from '../design/design.ts';
import { CARD_ID } from '../design/frames.ts';
import { panelAt, panelPlan } from '../dieline/panels.ts';
import { isFold, isRuling, stockOf, type Part } from '../dieline/part.ts';
import { place } from '../geometry/isometry.ts';
import { insidePoint } from '../geometry/polygon.ts';
import type { Point } from '../geometry/point.ts';
import { listed, partName } from '../checks/motionWords.ts';
import { expand, type Expanded } from '../mechanisms/expand.ts';
import { linkageOf } from '../motion/linkage.ts';
import { placementAt } from '../motion/pose.ts';
import { isCover } from '../motion/panelRef.ts';
import { sweep, type Sweep } from '../motion/sweep.ts';
import { bradIn, USUAL_STORE, type Adhesive } from '../stock/store.ts';
import { joinPlaces } from './rehearsal.ts';
import { workableOrder, type JoinPlace } from './workable.ts';

export type StepKind = 'punch' | 'fold' | 'decorate' | 'dry' | 'join' | 'close' | 'press' | 'own';

export interface BuildStep {
  readonly id: string;
  readonly kind: StepKind;
  readonly words: string;
  /** Why it comes when it does, where that is not plain. */
  readonly why: string | null;
  /** What is in hand, and what it goes onto. */
  readonly partIds: readonly string[];
  readonly ontoIds: readonly string[];
  readonly jointId: string | null;
  /** The face of the part that lies up while it is worked on. */
  readonly up: 'front' | 'back' | null;
  readonly adhesive: Adhesive | null;
  /** How far the card is open; 180 flat. */
  readonly openDeg: number;
  /** Hands are at it so long; then it is left alone so long. */
  readonly minutes: number;
  readonly waitMinutes: number;
  /** Whether a part is decorated lying flat or when it is on; null of other steps. */
  readonly when: 'flat' | 'after' | null;
}

export interface BuildSheet {
  readonly steps: readonly BuildStep[];
  /** What cannot be made in any order, in words. */
  readonly faults: readonly string[];
  readonly places: readonly JoinPlace[];
  readonly expanded: Expanded;
  readonly whole: Sweep;
}

/** The opening at which a card lies flat on the bench, and half-open. */
const FLAT_DEG = 176;
const HALF_DEG = 90;
const RISEN_DEG = 50;
/** Folded up, closed. */
const FOLDED_DEG = 4;
/** Folds of stock heavier than this are worked both ways before a mechanism is put together, g/m2 (a usual school). */
export const BREAK_FROM_GSM = 200;
/** A panel that stands steeper than this on what it is glued to is joined half-open, degrees. */
const STEEP_DEG = 15;

/** Minutes of one pair of hands: usual values, each can be changed on the sheet. */
const MINUTES = { punchPart: 0.25, fold: 0.15, breakFold: 0.1, dry: 1, decorate: 3, close: 0.5, press: 0.3 };
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
/** Folds take so long to keep their shape under a weight, minutes. */
const PRESSED_MIN = 10;
const round1 = (minutes: number): number => Math.max(0.1, Math.round(minutes * 10) / 10);
const counted = (n: number, one: string): string => `${n} ${one}${n === 1 ? '' : 's'}`;

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

/** Where a joint is: on its part, and on its host where that is told by a placement. */
export function jointSpot(expanded: Expanded, joint: Joint): { own: Point; host: Point | null } {
  const part = expanded.parts.find(({ id }) => id === joint.partId);
  const zone = joint.kind === 'glue' ? part?.glueZones.find(({ id }) => id === joint.zoneId) : undefined;
  const own: Point = zone
    ? insidePoint({ outer: zone.outline, holes: [] })
    : 'at' in joint
      ? joint.at
      : 'within' in joint
        ? joint.within
        : [0, 0];
  return { own, host: 'placement' in joint ? place(joint.placement, own) : null };
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
  const { host } = jointSpot(expanded, joint);
  const onto = host ? panelOf(whole, joint.hostPartId, host) : -1;
  if (onto >= 0 && !isCover(panels[onto])) {
    // What it goes onto stands up when the card lies flat.
    const normal = (i: number, deg: number) => placementAt(whole, panels[i].body, deg)[10];
    if (Math.abs(normal(onto, FLAT_DEG)) < Math.cos((STEEP_DEG * Math.PI) / 180)) return HALF_DEG;
  }
  if (isFirst) return FLAT_DEG;
  const steep = panels.some(
    (panel) =>
      panel.part.id === joint.partId &&
      Math.abs(placementAt(whole, panel.body, FLAT_DEG)[10]) < Math.cos((STEEP_DEG * Math.PI) / 180),
  );
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
  const part = expanded.parts.find(({ id }) => id === joint.partId);
  const id = part?.glueZones.find((zone) => zone.id === joint.zoneId)?.adhesiveId;
  const known = id === undefined ? undefined : expanded.store.adhesives[id];
  if ((joint.padMm ?? 0) > 0 && !known) return { by: `pads ${joint.padMm} mm thick`, adhesive: null };
  // Where nothing is said it is wet glue: the one that has to be waited for.
  const adhesive = known ?? expanded.store.adhesives['wet-glue'] ?? USUAL_STORE.adhesives['wet-glue'];
  return { by: known ? known.name : 'glue', adhesive };
}

/** The folding of a part: which way each goes, as it lies front up. */
function foldStep(part: Part, expanded: Expanded, school: Design['settings']['breakFibres']): BuildStep[] {
  const folds = part.lines.filter((line) => isFold(line) && !isRuling(line));
  const bends = part.lines.some(isRuling);
  if (folds.length === 0 && !bends) return [];
  const [mountains, valleys] = (['mountain', 'valley'] as const).map(
    (sense) => folds.filter((line) => isFold(line) && line.fold.sense === sense).length,
  );
  const ways = [
    ...(mountains > 0 ? [`${counted(mountains, 'mountain fold')} away from you`] : []),
    ...(valleys > 0 ? [`${counted(valleys, 'valley fold')} towards you`] : []),
  ];
  const heavy = part.id !== CARD_ID && stockOf(part).grammageGsm > BREAK_FROM_GSM;
  const worked = folds.length > 0 && (school === 'all' || (school === 'heavy' && heavy));
  const words = [
    folds.length > 0 ? `Front up, fold ${part.name}: ${ways.join(', ')}. Burnish each fold.` : '',
    worked ? 'Work each fold both ways first, so that its fibres break.' : '',
    bends ? `Bend ${part.name} round a pencil or the edge of the table; do not crease it there.` : '',
  ];
  return [
    plainStep(`fold/${part.id}`, 'fold', words.filter(Boolean).join(' '), {
      partIds: [part.id],
      up: 'front',
      minutes: round1(
        (folds.length * (MINUTES.fold + (worked ? MINUTES.breakFold : 0)) + (bends ? 0.3 : 0)) *
          Math.max(1, part.quantity),
      ),
      ...(expanded.base.kind === 'card' ? {} : { openDeg: FLAT_DEG }),
    }),
  ];
}

const plainStep = (
  id: string,
  kind: StepKind,
  words: string,
  rest: Partial<Omit<BuildStep, 'id' | 'kind' | 'words'>> = {},
): BuildStep => ({
  id,
  kind,
  words,
  why: null,
  partIds: [],
  ontoIds: [],
  jointId: null,
  up: null,
  adhesive: null,
  openDeg: FLAT_DEG,
  minutes: 1,
  waitMinutes: 0,
  when: null,
  ...rest,
});

/** Why a joint is made before others. */
function whyNow(expanded: Expanded, place: JoinPlace, made: ReadonlySet<string>): string | null {
  const later = [...place.under.keys()].filter((id) => !made.has(id)).map((id) => partName(expanded, id));
  if (place.through) return 'Put it through before both are fixed: afterwards it stays behind its slot.';
  return later.length > 0
    ? `Now: once ${listed(later)} ${later.length === 1 ? 'is' : 'are'} on, ${later.length === 1 ? 'it lies' : 'they lie'} over this place.`
    : null;
}

/** The joints as steps, in an order in which no place is lost; and what is lost where there is none. */
function joinSteps(
  expanded: Expanded,
  whole: Sweep,
  places: readonly JoinPlace[],
): { steps: BuildStep[]; faults: string[] } {
  const { order, workable } = workableOrder(places);
  const on = new Set<string>([expanded.rootPartId ?? CARD_ID]);
  const joined = new Set<string>();
  const steps = order.map((at) => {
    const joint = expanded.joints.find(({ id }) => id === at.id)!;
    const part = expanded.parts.find(({ id }) => id === joint.partId);
    const zone = joint.kind === 'glue' ? part?.glueZones.find(({ id }) => id === joint.zoneId) : undefined;
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

/** Parts with artwork, and what is bought ready: decorated flat, or when it is on. */
function decorateSteps(design: Design, expanded: Expanded): BuildStep[] {
  const artwork = new Set(
    Object.values(design.pictures).flatMap(({ use, partId }) =>
      use === 'artwork' && partId !== null ? [partId] : [],
    ),
  );
  const known = expanded.parts.filter(({ id }) => artwork.has(id));
  const steps = known.map((part) =>
    plainStep(`decorate/${part.id}`, 'decorate', `Decorate ${part.name} with its picture.`, {
      partIds: [part.id],
      up: 'front',
      minutes: MINUTES.decorate,
      when: 'flat',
    }),
  );
  if (known.length === 0 && expanded.parts.length > 0)
    steps.push(
      plainStep('decorate', 'decorate', 'Decorate what shows: no glue where a part is glued or must slide.', {
        minutes: MINUTES.decorate,
        when: 'flat',
      }),
    );
  const extras = design.brief.extras.map(({ hardwareId, pieces }) => {
    const item = expanded.store.hardware[hardwareId];
    return `${pieces} × ${item?.name ?? hardwareId}`;
  });
  if (extras.length > 0)
    steps.push(
      plainStep('decorate/extras', 'decorate', `Put on ${listed(extras)}.`, {
        minutes: MINUTES.decorate,
        when: 'after',
      }),
    );
  return steps;
}

/**
 * The build sheet of a design as it follows from it, before a person changes it.
 *
 * @returns steps in order; `faults` where there is no order in which every place can be reached, or it is locked when finished
 */
export function buildSheet(design: Design): BuildSheet {
  const expanded = expand(design);
  const whole = sweep(linkageOf(expanded));
  const places = joinPlaces(expanded, whole);
  const parts = expanded.parts.filter(({ quantity, lines }) => quantity > 0 && lines.length > 0);
  const { steps: joins, faults } = joinSteps(expanded, whole, places);
  const locked = whole.components.filter(({ state }) => state === 'locked' || state === 'torn');
  const decorations = decorateSteps(design, expanded);
  const isCard = expanded.base.kind === 'card';
  const dry = places.some(({ through }) => through)
    ? 'Try it dry first: put tongues and half slots through without glue, open and close it once, and take it apart again.'
    : 'Try it dry first: hold the parts in place without glue, and open and close it once.';
  const longest = Math.max(0, ...joins.map(({ waitMinutes }) => waitMinutes));
  const pieces = parts.reduce((sum, { quantity }) => sum + quantity, 0);
  const steps: BuildStep[] =
    parts.length === 0
      ? []
      : [
          plainStep(
            'punch',
            'punch',
            `Punch out ${counted(pieces, 'part')}: ${listed(parts.map(({ name, quantity }) => (quantity > 1 ? `${quantity} × ${name}` : name)))}. Trim what is left of the nicks.`,
            {
              partIds: parts.map(({ id }) => id),
              up: 'front',
              minutes: round1(0.3 + MINUTES.punchPart * pieces),
            },
          ),
          ...decorations,
          ...parts.flatMap((part) => foldStep(part, expanded, design.settings.breakFibres)),
          ...(joins.length === 0
            ? []
            : [
                plainStep('dry', 'dry', dry, {
                  partIds: parts.map(({ id }) => id),
                  minutes: MINUTES.dry,
                  openDeg: HALF_DEG,
                }),
                ...joins,
              ]),
          plainStep(
            'close',
            'close',
            isCard
              ? 'Close it once, slowly, and help each fold the way it goes; then open it again.'
              : expanded.base.kind === 'sheet'
                ? 'Move what moves once, slowly, from end to end.'
                : 'Fold it up once, slowly, and see that every edge meets.',
            {
              openDeg: expanded.base.kind === 'structure' ? FOLDED_DEG : 45,
              minutes: MINUTES.close,
              partIds: parts.map(({ id }) => id),
            },
          ),
          ...(isCard || expanded.base.kind === 'sheet'
            ? [
                plainStep(
                  'press',
                  'press',
                  'Lay it flat under a book for a while, so that it lies closed by itself.',
                  {
                    openDeg: FOLDED_DEG,
                    minutes: MINUTES.press,
                    // What was glued is dry by then: this is for the folds.
                    waitMinutes: Math.min(longest, PRESSED_MIN),
                    partIds: parts.map(({ id }) => id),
                  },
                ),
              ]
            : []),
        ];
  return {
    steps,
    faults: [
      ...faults,
      ...(locked.length > 0 ? ['The finished movement is locked: see Inspect before it is built.'] : []),
    ],
    places,
    expanded,
    whole,
  };
}
