import { expand } from '../mechanisms/expand.ts';
import { inOneGo } from '../motion/turns.ts';
import { doubledLine } from './doubledLine.ts';
import { findingOf, type CheckContext, type Finding, type Mend, type Rule } from './finding.ts';
import { foldFaults } from './foldFaults.ts';
import { amounts, isMended } from './judging.ts';
import { brokenLimits } from './measures.ts';
import { openOutline } from './openOutline.ts';
import { LIVE_RULES, RULES } from './rules.ts';
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

/** Mends of so many findings are tried in one report at most: each trial costs a report. */
const MOST_JUDGED = 8;

/** Findings for which their rule offers mends, which have to be tried before they are shown. */
const proposed = (
  context: CheckContext,
  findings: readonly Finding[],
): { finding: Finding; offers: Mend[] }[] =>
  findings
    .map((finding) => ({
      finding,
      offers: RULES.find(({ id }) => id === finding.rule)?.offers?.(context, finding) ?? [],
    }))
    .filter(({ offers }) => offers.length > 0)
    .slice(0, MOST_JUDGED);

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

/** What a rule finds. One that fails is a finding itself: nothing is passed over in silence. */
function looked(rule: Rule, context: CheckContext): Finding[] {
  try {
    return rule.run(context);
  } catch (fault) {
    const why = fault instanceof Error ? fault.message : String(fault);
    return [
      findingOf(
        rule.id,
        'notLooked',
        `“${rule.title}” could not be looked at (${why}): take back the last change, or change what it was about.`,
        [],
        { limitFrom: 'every rule must be looked at' },
      ),
    ];
  }
}

/** Findings in the rules' order, faults before warnings, without what a broken limit says already. */
function findingsOf(
  context: CheckContext,
  rules: readonly Rule[],
  tell: (words: string) => void = () => undefined,
): Finding[] {
  const all = rules.flatMap((rule) => {
    tell(`checking: ${rule.title.toLowerCase()}`);
    return looked(rule, context);
  });
  const lines = all.filter(({ rule }) => LINE_RULES.has(rule));
  const kept = new Set(unexplained(context, lines));
  const told = oneForEachKey(all.filter((finding) => !LINE_RULES.has(finding.rule) || kept.has(finding)));
  return [
    ...told.filter((finding) => finding.severity === 'fault'),
    ...told.filter((finding) => finding.severity === 'warning'),
  ];
}

/** Those findings that have a mend to which all rules agree, with it; between trials it gives up its turn. */
function* judged(context: CheckContext, findings: readonly Finding[]): Generator<undefined, Finding[]> {
  const candidates = proposed(context, findings);
  if (candidates.length === 0) return [];
  const before = amounts(context);
  const agreed: Finding[] = [];
  for (const { finding, offers } of candidates)
    for (const mend of offers) {
      yield;
      if (!isMended(context, finding, mend.command, before)) continue;
      agreed.push({ ...finding, mend });
      break;
    }
  return agreed;
}

/** All findings of a design, faults before warnings, in the rules' order; mends that change a shape were tried. */
export function runChecks(context: CheckContext, rules: readonly Rule[] = RULES): Finding[] {
  const findings = findingsOf(context, rules);
  const agreed = new Map(inOneGo(judged(context, findings)).map((finding) => [finding.key, finding]));
  return findings.map((finding) => agreed.get(finding.key) ?? finding);
}

/**
 * The findings that are shown at every change: what takes longer follows, such as mends that must be tried first.
 *
 * @param tell is told the title of each rule before it is run
 */
export const liveChecks = (context: CheckContext, tell?: (words: string) => void): Finding[] =>
  findingsOf(context, LIVE_RULES, tell);

/** Findings of the live report that have mends after all, tried by now; between trials it gives up its turn. */
export const mendedFindings = (context: CheckContext): Generator<undefined, Finding[]> =>
  judged(context, findingsOf(context, LIVE_RULES));
