/** Whether a change puts a finding right: judged by all rules, on the changed design. */
import { applyCommand, type Command } from '../design/commands.ts';
import { TYPED_SLACK } from '../geometry/tolerances.ts';
import { checkContext } from './context.ts';
import type { CheckContext, Finding, Rule } from './finding.ts';
import { LIVE_RULES } from './rules.ts';

/** How much there is of each finding of a design, by key. */
export const amounts = (context: CheckContext): ReadonlyMap<string, number> =>
  new Map(
    LIVE_RULES.flatMap((rule) => rule.run(context)).map(({ key, severity, measured }) => [
      key,
      severity === 'fault' ? (measured ?? 1) : (measured ?? 0),
    ]),
  );

/** What was beyond its limit may be so by this share more after a change that puts something else right. */
const WORSE_SHARE = 0.1;

/** Whether a finding is worse than it was: further beyond its limit, on whichever side that is. */
const worse = ({ measured, limit }: Finding, than: number): boolean => {
  if (measured === null || limit === null) return false;
  const further = (measured - than) * Math.sign(measured - limit || 1);
  return further > Math.max(TYPED_SLACK, WORSE_SHARE * Math.abs(than - limit));
};

/** The rules in an order in which a trial that fails is found out soon. */
const inOrder = (first: string): readonly Rule[] =>
  [...LIVE_RULES].sort((a, b) => Number(b.id === first) - Number(a.id === first));

/**
 * Whether a changed design is without a finding, with no new one, and none that was there much worse.
 *
 * @param before what was found before the change
 */
export function isMended(
  { design, cuts }: CheckContext,
  finding: Finding,
  command: Command,
  before: ReadonlyMap<string, number>,
): boolean {
  const changed = checkContext(applyCommand(design, command).design, cuts);
  for (const rule of inOrder(finding.rule))
    for (const found of rule.run(changed)) {
      const was = before.get(found.key);
      if (found.key === finding.key || was === undefined || worse(found, was)) return false;
    }
  return true;
}
