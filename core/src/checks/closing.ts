/** What closes a structure must meet where it is glued. */
import { place } from '../geometry/isometry.ts';
import { insidePoint } from '../geometry/polygon.ts';
import { solid } from '../geometry/regions.ts';
import { EDGE_TOLERANCE_MM } from '../geometry/tolerances.ts';
import type { Expanded } from '../mechanisms/expand.ts';
import { givesInTheEndMm, tuckedIn, wrongSideUp } from '../motion/foldingUp.ts';
import { linkageOf } from '../motion/linkage.ts';
import { pointAt } from '../motion/pose.ts';
import { sweep as sweepOf, type Sweep } from '../motion/sweep.ts';
import { namedPanel } from './catchWords.ts';
import { findingOf, mm, type Finding, type Rule } from './finding.ts';
import { stepWords } from './motionWords.ts';
import { slottedIn } from './slotted.ts';

const RULE = 'closing';
/** Less than this is taken up by the paper, mm. */
export const CLOSES_MM = 0.5;
/** What is tucked in farther than this from what holds it is not held, mm. */
const LOOSE_MM = 3;
/** Where paper must give in the end, glue misses by at most so many times that. */
const MISSES_TIMES = 8;
/** What goes less far through a slot is not held by it, mm. */
const HOLDS_MM = 4;
/** What is wider beyond its slot locks there; up to so many times the slot it can be bent through. */
const MOST_LOCK = 1.35;

/** The folding up of what stands by itself beside a card, where it lies flat: its own parts alone. */
function foldedUp(whole: Sweep, expanded: Expanded): Sweep {
  const { alone, base, parts, joints } = expanded;
  if (base.kind === 'structure' || alone.size === 0) return whole;
  const own = parts.filter(({ id }) => alone.has(id));
  return sweepOf(
    linkageOf({
      ...expanded,
      base: { kind: 'structure', rootPartId: own[0].id },
      rootPartId: own[0].id,
      parts: own,
      joints: joints.filter(({ partId, hostPartId }) => alone.has(partId) && alone.has(hostPartId)),
    }),
  );
}

/** What is tucked in behind a panel lies behind it, and comes there from behind. */
function tuckFindings(sweep: Sweep, expanded: Expanded): Finding[] {
  const { panels } = sweep.linkage;
  const parts = [...new Set(panels.map(({ part }) => part))];
  const lost = parts.flatMap((part) =>
    part.marks
      .filter(
        ({ behind }) =>
          behind !== undefined && !panels.some((panel) => panel.part === part && panel.id === behind),
      )
      .map((mark) =>
        findingOf(
          RULE,
          `${part.id}:${mark.id}`,
          `${mark.name} of ${part.name} is tucked in behind a panel that is there no more: say again where it goes.`,
          [{ partId: part.id, at: mark.at, points: [mark.at] }],
        ),
      ),
  );
  const found = tuckedIn(sweep, expanded).flatMap(({ panel, host, outMm, inMm, share, wrong }): Finding[] => {
    const [tongue, wall] = [panels[panel], panels[host]];
    const say = (sentence: string, measured?: number, limit?: number) => [
      findingOf(
        RULE,
        `${tongue.part.id}:${tongue.id}`,
        sentence,
        [{ partId: tongue.part.id, at: insidePoint(tongue.region), points: tongue.region.outer }],
        measured === undefined || limit === undefined
          ? undefined
          : { measured, limit, limitFrom: 'of what is tucked in, folded up' },
      ),
    ];
    const names = [namedPanel(tongue), namedPanel(wall)] as const;
    if (outMm > CLOSES_MM)
      return say(
        `Folded up, ${names[0]} stands ${mm(outMm)} out before ${names[1]}, behind which it is tucked in: change the angle at which a fold rests, or the length of a panel.`,
        outMm,
        CLOSES_MM,
      );
    if (inMm > LOOSE_MM)
      return say(
        `Folded up, ${names[0]} lies ${mm(inMm)} away from ${names[1]}, behind which it is tucked in: nothing holds it there.`,
        inMm,
        LOOSE_MM,
      );
    if (share === 0)
      return say(`Folded up, ${names[0]} does not lie behind ${names[1]}, where it is tucked in, at all.`);
    return wrong
      ? say(
          `${stepWords(wrong)} ${names[0]} comes to the front of ${names[1]}, but is tucked in behind it: fold it before ${names[1]} is in its way.`,
        )
      : [];
  });
  return [...lost, ...found];
}

/** What goes through a slot reaches it, goes in, and stays there. */
function slotFindings(sweep: Sweep): Finding[] {
  return slottedIn(sweep).flatMap((slotted): Finding[] => {
    const { part, mark } = slotted;
    const flap = `${mark.name} of ${part.name}`;
    const say = (sentence: string, measured?: number, limit?: number) => [
      findingOf(
        RULE,
        `${part.id}:${mark.id}:slot`,
        sentence,
        [{ partId: part.id, at: mark.at, points: slotted.ring ?? [mark.at] }],
        measured === undefined || limit === undefined
          ? undefined
          : { measured, limit, limitFrom: 'of what goes through its slot, folded up' },
      ),
    ];
    if (!slotted.ring)
      return say(
        `${flap} goes through a slot that is there no more: say again which one, or leave it loose.`,
      );
    const { highMm, stretches, slotMm, beyondMm, widestMm } = slotted;
    if (stretches.length === 0)
      return say(
        `Folded up, ${flap} does not lie over the slot that it goes through: move the slot, or change the panel.`,
      );
    if (highMm > LOOSE_MM)
      return say(
        `Folded up, ${flap} lies ${mm(highMm)} away from the slot that it goes through: change the angle at which a fold rests.`,
        highMm,
        LOOSE_MM,
      );
    const [from, to] = [stretches[0][0], stretches.at(-1)![1]];
    const over = Math.max(-from, to - slotMm);
    if (over > EDGE_TOLERANCE_MM)
      return say(
        `Folded up, ${flap} is ${mm(to - from)} wide where its slot of ${mm(slotMm)} is, and stands ${mm(over)} over its end: it does not go in.`,
        over,
        0,
      );
    if (beyondMm < HOLDS_MM)
      return say(
        `Folded up, ${flap} goes only ${mm(beyondMm)} through its slot: it slips out.`,
        beyondMm,
        HOLDS_MM,
      );
    if (widestMm > MOST_LOCK * slotMm)
      return say(
        `${flap} is ${mm(widestMm)} wide beyond its slot of ${mm(slotMm)}: even bent it is hard to put through.`,
        widestMm,
        MOST_LOCK * slotMm,
      );
    return [];
  });
}

/** Folded up, every tab that closes a structure must lie on its landing. */
export const closing: Rule = {
  id: RULE,
  title: 'Closing',
  protects: 'What is folded up closes where it is glued, without force.',
  needs: ['joints', 'motion'],
  limit: `${CLOSES_MM} mm: the paper takes up less`,
  unit: 'mm',
  run({ sweep: whole, expanded }) {
    const sweep = foldedUp(whole, expanded);
    const { panels, closings } = sweep.linkage;
    const strained = new Map<string, Finding>();
    const glued = closings.flatMap(({ jointId, panel, host, zone, placement, onHostFront }) => {
      const off = Math.max(
        ...zone.map((p) => {
          const [x, y, z] = pointAt(sweep, panels[panel], p, 0);
          const [u, v, w] = pointAt(sweep, panels[host], place(placement, p), 0);
          return Math.hypot(x - u, y - v, z - w);
        }),
      );
      const [tab, landing] = [panels[panel].part, panels[host].part];
      const own = tab.id === landing.id ? 'itself' : landing.name;
      const at = insidePoint(solid(zone));
      if (off <= CLOSES_MM) {
        const wrong = wrongSideUp(
          sweep,
          expanded,
          { panel, at, host, over: place(placement, at) },
          onHostFront,
        );
        return wrong
          ? [
              findingOf(
                RULE,
                `${jointId}:side`,
                `${stepWords(wrong)} ${namedPanel(panels[panel])} comes to the ${onHostFront ? 'back' : 'front'} of ${namedPanel(panels[host])}, but is glued to its ${onHostFront ? 'front' : 'back'}: fold it before what is in its way.`,
                [{ partId: tab.id, at, points: zone }],
              ),
            ]
          : [];
      }
      const gives = givesInTheEndMm(expanded, tab);
      if (gives > CLOSES_MM && off < MISSES_TIMES * gives) {
        strained.set(
          expanded.instanceOf[tab.id]!,
          findingOf(
            RULE,
            `${tab.id}:gives`,
            `Folded up so far, ${tab.name} does not close: its paper would have to give by ${mm(gives)}, and it springs back. Fold it up only until it stands.`,
            [{ partId: tab.id, at, points: zone }],
            { measured: gives, limit: CLOSES_MM, limitFrom: `of ${tab.name}, pressed` },
          ),
        );
        return [];
      }
      return [
        findingOf(
          RULE,
          jointId,
          `Folded up, ${tab.name} misses ${own} by ${mm(off)} where it is glued: change the angle at which a fold rests, or the length of a panel.`,
          [{ partId: tab.id, at, points: zone }],
          {
            measured: off,
            limit: CLOSES_MM,
            limitFrom: `of ${expanded.parts.length > 1 ? 'the structure' : tab.name}, folded up`,
          },
        ),
      ];
    });
    return [...glued, ...strained.values(), ...tuckFindings(sweep, expanded), ...slotFindings(sweep)];
  },
};
