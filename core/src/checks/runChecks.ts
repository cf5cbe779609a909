import { expand } from '../mechanisms/expand.ts';
import { closedOverhang } from './closedOverhang.ts';
import { doubledLine } from './doubledLine.ts';
import type { CheckContext, Finding, Rule } from './finding.ts';
import { foldFaults } from './foldFaults.ts';
import { glueLanding } from './glueLanding.ts';
import { amounts, isMended } from './judging.ts';
import { brokenLimits } from './measures.ts';
import { openOutline } from './openOutline.ts';
import { LIVE_RULES, RULES } from './rules.ts';
import { thinWeb } from './thinWeb.ts';
import { wholePieces } from './wholePieces.ts';

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

/** Rules whose mends change a shape or a measure: each is tried, and offered only if all rules agree. */
const PROPOSING: ReadonlySet<string> = new Set([closedOverhang, glueLanding, thinWeb].map((rule) => rule.id));
/** So many of them are tried in one report at most: each costs another. */
const MOST_JUDGED = 8;

/** Findings whose mend has to be tried before it is offered. */
const proposed = (findings: readonly Finding[]): Finding[] =>
  findings.filter(({ rule, mend }) => mend !== null && PROPOSING.has(rule)).slice(0, MOST_JUDGED);

/** What is told of one thing in several places is one finding: the worst, with all places. */
function oneForEachKey(findings: readonly Finding[]): Finding[] {
  const byKey = new Map<string, Finding>();
  for (const finding of findings) {
    const known = byKey.get(finding.key);
    const worse = known && Math.abs(finding.measured ?? 0) > Math.abs(known.measured ?? 0);
    const places = [...(known?.places ?? []), ...finding.places];
    byKey.set(finding.key, { ...(known && !worse ? known : finding), places });
  }
  return [...byKey.values()];
}

/** Findings in the rules' order, faults before warnings, without what a broken limit says already. */
function findingsOf(
  context: CheckContext,
  rules: readonly Rule[],
  tell: (words: string) => void = () => undefined,
): Finding[] {
  const all = rules.flatMap((rule) => {
    tell(`checking: ${rule.title.toLowerCase()}`);
    return rule.run(context);
  });
  const lines = all.filter(({ rule }) => LINE_RULES.has(rule));
  const kept = new Set(unexplained(context, lines));
  const told = oneForEachKey(all.filter((finding) => !LINE_RULES.has(finding.rule) || kept.has(finding)));
  return [
    ...told.filter((finding) => finding.severity === 'fault'),
    ...told.filter((finding) => finding.severity === 'warning'),
  ];
}

/** The finding with its mend, if that was tried and all rules agree to it. */
const withMend = (finding: Finding, agreed: ReadonlySet<string>): Finding =>
  PROPOSING.has(finding.rule) && !agreed.has(finding.key) ? { ...finding, mend: null } : finding;

/** Those findings whose mend all rules agree to; between trials it gives up its turn. */
function* judged(context: CheckContext, findings: readonly Finding[]): Generator<undefined, Finding[]> {
  const candidates = proposed(findings);
  if (candidates.length === 0) return [];
  const before = amounts(context);
  const agreed: Finding[] = [];
  for (const finding of candidates) {
    yield;
    if (isMended(context, finding, finding.mend!.command, before)) agreed.push(finding);
  }
  return agreed;
}

/** All findings of a design, faults before warnings, in the rules' order; mends that change a shape were tried. */
export function runChecks(context: CheckContext, rules: readonly Rule[] = RULES): Finding[] {
  const findings = findingsOf(context, rules);
  const search = judged(context, findings);
  for (;;) {
    const next = search.next();
    if (!next.done) continue;
    const agreed = new Set(next.value.map(({ key }) => key));
    return findings.map((finding) => withMend(finding, agreed));
  }
}

/**
 * The findings that are shown at every change: what takes longer follows. Mends that must be tried first are left out.
 *
 * @param tell is told the title of each rule before it is run
 */
export const liveChecks = (context: CheckContext, tell?: (words: string) => void): Finding[] =>
  findingsOf(context, LIVE_RULES, tell).map((finding) => withMend(finding, new Set()));

/** Findings of the live report that have mends after all, tried by now; between trials it gives up its turn. */
export const mendedFindings = (context: CheckContext): Generator<undefined, Finding[]> =>
  judged(context, findingsOf(context, LIVE_RULES));
