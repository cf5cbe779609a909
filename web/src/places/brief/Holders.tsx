import { freshId, freshName } from '@hollow-finch/core/design/ids';
import { expand } from '@hollow-finch/core/mechanisms/expand';
import type { Params } from '@hollow-finch/core/mechanisms/family';
import { newInstance, usualHost } from '@hollow-finch/core/mechanisms/instance';
import { STRUCTURES } from '@hollow-finch/core/mechanisms/structures/all';
import { contentsSize } from '@hollow-finch/core/planning/sizePlan';
import { Button, Group } from '@mantine/core';
import { useJob } from '../../shared/store/jobStore.ts';
import { useLengths } from '../../shared/units.ts';

const inTenths = (mm: number): number => Math.ceil(mm * 10 - 1e-6) / 10;

/** An envelope for the card as it is closed, a box for that, a wallet for what goes in: drafted as parts of the design. */
export default function Holders() {
  const design = useJob((s) => s.calm);
  const report = useJob((s) => s.report);
  const { edit, select } = useJob.getState();
  const { say } = useLengths();
  if (!report) return null;
  const { box, bulkMm } = report.closed;
  const isCard = design.base.kind !== 'structure';
  const [wideMm, tallMm] = [inTenths(box.maxX - box.minX), inTenths(box.maxY - box.minY)];
  const taken = contentsSize(design.brief.plan.contents);
  const thickMm = inTenths(bulkMm + (taken?.[2] ?? 0));
  const add = (familyId: string, params: Params) => {
    const family = STRUCTURES.find(({ id }) => id === familyId)!;
    const id = freshId('m', design.instances);
    const names = new Set(Object.values(design.instances).map(({ name }) => name));
    const instance = newInstance(family, usualHost(family, expand(design).gutters), id, {
      name: freshName(names, family.title),
      stockId: 'ember-160',
      params,
    });
    edit(`Add ${family.title}`, { do: 'put', in: 'instances', id, value: instance });
    select({ kind: 'instance', id });
  };
  return (
    <>
      {isCard && (
        <p className="quiet">
          Closed, with all that sticks out, it is {say(wideMm)} × {say(tallMm)} and {say(thickMm)} thick.
        </p>
      )}
      <Group gap="xs">
        {isCard && (
          <>
            <Button
              variant="default"
              onClick={() => add('envelope', { wideMm, tallMm, thickMm: Math.min(12, thickMm) })}
            >
              Draft an envelope for it
            </Button>
            <Button
              variant="default"
              onClick={() =>
                add('envelopeBox', { wideMm, tallMm, thickMm: Math.min(60, Math.max(3, thickMm)) })
              }
            >
              Draft a box for it
            </Button>
          </>
        )}
        <Button
          variant="default"
          disabled={!taken}
          onClick={() =>
            taken &&
            add('wallet', { wideMm: taken[0], tallMm: taken[1], thickMm: Math.min(10, taken[2]), pieces: 1 })
          }
        >
          Draft a wallet for what goes in
        </Button>
      </Group>
      {!taken && <p className="quiet">For a wallet say first what goes in.</p>}
    </>
  );
}
