/**
 * The steps in which a design is built, made from its parts, joints and zones: punched out, folded, tried dry, joined in an
 * order in which no place is lost, decorated, closed once, pressed. A step has a name that stays when the design changes, so
 * that what a person changed of it stays with it.
 */
import type { Design } from '../design/design.ts';
import { CARD_ID } from '../design/frames.ts';
import { isFold, isRuling, stockOf, type Part } from '../dieline/part.ts';
import { listed } from '../checks/motionWords.ts';
import { expand, type Expanded } from '../mechanisms/expand.ts';
import { linkageOf } from '../motion/linkage.ts';
import { sweep, type Sweep } from '../motion/sweep.ts';
import { counted, FOLDED_DEG, HALF_DEG, plainStep, type BuildStep } from './buildStep.ts';
import { joinSteps } from './joinSteps.ts';
import { joinPlaces } from './rehearsal.ts';
import type { JoinPlace } from './workable.ts';

export interface BuildSheet {
  readonly steps: readonly BuildStep[];
  /** What cannot be made in any order, in words. */
  readonly faults: readonly string[];
  readonly places: readonly JoinPlace[];
  readonly expanded: Expanded;
  readonly whole: Sweep;
}

/** Folds of stock heavier than this are worked both ways before a mechanism is put together, g/m2 (a usual school). */
export const BREAK_FROM_GSM = 200;
/** Minutes of one pair of hands: usual values, each can be changed on the sheet. */
const MINUTES = { punchPart: 0.25, fold: 0.15, breakFold: 0.1, dry: 1, decorate: 3, close: 0.5, press: 0.3 };
/** Folds take so long to keep their shape under a weight, minutes. */
const PRESSED_MIN = 10;
const round1 = (minutes: number): number => Math.max(0.1, Math.round(minutes * 10) / 10);

/** The folding of a part: which way each goes, as it lies front up. */
function foldStep(part: Part, school: Design['settings']['breakFibres']): BuildStep[] {
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
    }),
  ];
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
          ...parts.flatMap((part) => foldStep(part, design.settings.breakFibres)),
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
