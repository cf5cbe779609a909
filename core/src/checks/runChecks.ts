import type { Design } from '../design/design.ts';
import { expand } from '../mechanisms/expand.ts';
import { catchesOf } from '../motion/catches.ts';
import { closedState } from '../motion/closed.ts';
import { linkageOf } from '../motion/linkage.ts';
import { sweep } from '../motion/sweep.ts';
import { catching } from './catching.ts';
import { closedOverhang } from './closedOverhang.ts';
import { doubledLine } from './doubledLine.ts';
import { envelopeFit } from './envelopeFit.ts';
import { foldFaults } from './foldFaults.ts';
import { glueZones } from './glueZones.ts';
import { brokenLimits, measures } from './measures.ts';
import { pivotFit } from './pivotFit.ts';
import { sheetFaults } from './sheetFaults.ts';
import { slotFit } from './slotFit.ts';
import { smallParts } from './smallParts.ts';
import { standsUp } from './standsUp.ts';
import { stops } from './stops.ts';
import { wholePieces } from './wholePieces.ts';
import type { CheckContext, Finding, Rule } from './finding.ts';
import { glueInTheWay } from './glueInTheWay.ts';
import { glueLanding } from './glueLanding.ts';
import { heldPull } from './heldPull.ts';
import { matingEdges } from './matingEdges.ts';
import { motionFaults, motionFaultsLive } from './motionFaults.ts';
import { openOutline } from './openOutline.ts';
import { showThrough } from './showThrough.ts';
import { tabsColliding } from './tabsColliding.ts';
import { thinWeb } from './thinWeb.ts';

/** Every rule, in the order in which findings are worked through. */
export const RULES: readonly Rule[] = [
  openOutline,
  doubledLine,
  wholePieces,
  foldFaults,
  motionFaults,
  catching,
  heldPull,
  stops,
  slotFit,
  pivotFit,
  closedOverhang,
  standsUp,
  measures,
  showThrough,
  glueZones,
  glueLanding,
  glueInTheWay,
  tabsColliding,
  matingEdges,
  thinWeb,
  sheetFaults,
  envelopeFit,
  smallParts,
];

/** The rules that are run at every change; what takes longer follows when the hand rests. */
export const LIVE_RULES: readonly Rule[] = RULES.filter((rule) => rule !== heldPull).map((rule) =>
  rule === motionFaults ? motionFaultsLive : rule,
);

/**
 * Everything that rules share, computed once from a design.
 *
 * @param cuts the cut files that were saved of it, where somebody keeps them
 * @param tell is told what is being done, for work that takes long
 */
export function checkContext(
  design: Design,
  cuts: CheckContext['cuts'] = [],
  tell: (words: string) => void = () => undefined,
): CheckContext {
  const expanded = expand(design);
  const linkage = linkageOf(expanded);
  tell('folding');
  const motion = sweep(linkage);
  tell('looking for catches');
  const catches = catchesOf(motion);
  const pulls = linkage.drivers.slice(1).map((driver, i) => {
    tell(`moving “${driver.name}”`);
    const pull = sweep(linkage, i + 1, motion);
    return { sweep: pull, catches: catchesOf(pull) };
  });
  tell('closing the card');
  return { design, expanded, sweep: motion, closed: closedState(motion), catches, pulls, cuts };
}

/** Rules about the lines alone. */
const LINE_RULES: ReadonlySet<string> = new Set(
  [openOutline, doubledLine, wholePieces, foldFaults].map((rule) => rule.id),
);

/**
 * Findings about lines that are not just what a mechanism beyond its limits leads to: those that are there without it too,
 * and those of lines that were drawn by hand. Its limit names the cause of the others.
 */
function unexplained(context: CheckContext, found: readonly Finding[]): readonly Finding[] {
  const { design } = context;
  const beyond = Object.values(design.instances).filter((it) => brokenLimits(context, it).length > 0);
  if (found.length === 0 || beyond.length === 0) return found;
  const instances = Object.fromEntries(
    Object.entries(design.instances).filter(([id]) => !beyond.some((it) => it.id === id)),
  );
  const without = { ...design, instances };
  const there = new Set(
    RULES.filter(({ id }) => LINE_RULES.has(id))
      .flatMap((rule) => rule.run({ ...context, design: without, expanded: expand(without) }))
      .map(({ key }) => key),
  );
  const drawn = Object.keys(design.additions);
  return found.filter(
    ({ key }) => there.has(key) || key.split(/[:+]/).some((token) => drawn.includes(token)),
  );
}

/**
 * All findings of a design, faults before warnings, in the rules' order.
 *
 * @param tell is told the title of each rule before it is run
 */
export function runChecks(
  context: CheckContext,
  rules: readonly Rule[] = RULES,
  tell: (words: string) => void = () => undefined,
): Finding[] {
  const all = rules.flatMap((rule) => {
    tell(`checking: ${rule.title.toLowerCase()}`);
    return rule.run(context);
  });
  const lines = all.filter(({ rule }) => LINE_RULES.has(rule));
  const kept = new Set(unexplained(context, lines));
  const told = all.filter((finding) => !LINE_RULES.has(finding.rule) || kept.has(finding));
  return [
    ...told.filter((finding) => finding.severity === 'fault'),
    ...told.filter((finding) => finding.severity === 'warning'),
  ];
}
