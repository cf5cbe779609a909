import type { Laid, NotLaid } from '@hollow-finch/core/checks/layPiece';
import { gluesOf } from '@hollow-finch/core/design/design';
import { freshName } from '@hollow-finch/core/design/ids';
import { panelPlan } from '@hollow-finch/core/dieline/panels';
import type { Part } from '@hollow-finch/core/dieline/part';
import { expand } from '@hollow-finch/core/mechanisms/expand';
import { panelName } from '@hollow-finch/core/mechanisms/names';
import { Button, Select, UnstyledButton } from '@mantine/core';
import { useCallback, useState } from 'react';
import { faultWords } from '../../shared/helper.ts';
import { IconPlus } from '../../shared/icons.ts';
import { sayFault } from '../../shared/sayFault.ts';
import { useJob } from '../../shared/store/jobStore.ts';
import { reportWorker } from '../../shared/store/reporter.ts';
import { firstShape, ShapeChoice, type MakeShape } from './pieces/ShapeChoice.tsx';

/** What a new piece is cut from, unless the one that it copies is cut from something else. */
const USUAL_STOCK = 'ember-160';

/** Panels of some parts that a piece can be laid on: all but tabs. */
const panelsOf = (parts: readonly Part[]) =>
  parts.flatMap((part) =>
    panelPlan(part)
      .panels.filter(({ role }) => role !== 'tab')
      .map(({ id, name }) => ({ value: `${part.id}|${id}`, label: panelName(part.name, name) })),
  );

/** Pieces on a mechanism, a mat or the card: those that are there, and a new one, laid at its largest legal size. */
export default function LayPiece({ partIds }: { partIds: readonly string[] }) {
  const design = useJob((s) => s.calm);
  const pressed = useJob((s) => s.pressed);
  const { edit, select } = useJob.getState();
  const { parts } = expand(design);
  const own = parts.filter((part) => partIds.includes(part.id));
  const panels = panelsOf(own);
  const [chosen, setChosen] = useState<string | null>(null);
  const [make, setMake] = useState<MakeShape | null>(() => firstShape);
  const onMake = useCallback((next: MakeShape | null) => setMake(() => next), []);
  const [busy, setBusy] = useState(false);
  const [refused, setRefused] = useState<string | null>(null);
  const known = (value: string | null) => panels.some((panel) => panel.value === value);
  const on = known(chosen) ? chosen : known(pressed) ? pressed : (panels[0]?.value ?? null);
  const glued = gluesOf(Object.values(design.joints)).filter(
    (joint) => joint.as === 'piece' && partIds.includes(joint.hostPartId),
  );
  const lay = async () => {
    if (!on || !make) return;
    setBusy(true);
    setRefused(null);
    try {
      const { name: wanted, lines, stockId = USUAL_STOCK, said } = await make();
      const now = useJob.getState().design;
      const name = freshName(new Set(Object.values(now.parts).map((part) => part.name)), wanted);
      const [partId, panelId] = on.split('|');
      const laid: Laid | NotLaid = await reportWorker().layPiece(now, partId, panelId, {
        name,
        stockId,
        lines,
      });
      if ('refused' in laid) return setRefused(laid.refused);
      edit(`Lay ${name}`, laid.command);
      select({ kind: 'part', id: laid.partId });
      if (said) sayFault(said);
    } catch (fault) {
      setRefused(faultWords(fault));
    } finally {
      setBusy(false);
    }
  };
  if (panels.length === 0) return null;
  return (
    <section>
      <h3>Pieces on it</h3>
      {glued.length > 0 && (
        <ul className="plain-list">
          {glued.map((joint) => (
            <li key={joint.id}>
              <UnstyledButton
                className="row-button"
                onClick={() => select({ kind: 'part', id: joint.partId })}
              >
                {design.parts[joint.partId]?.name ?? joint.partId}
              </UnstyledButton>
            </li>
          ))}
        </ul>
      )}
      <div className="fields">
        <Select
          className="wide"
          label="Panel"
          value={on}
          data={panels}
          allowDeselect={false}
          onChange={setChosen}
        />
        <ShapeChoice onMake={onMake} />
        <Button
          className="wide"
          variant="default"
          leftSection={<IconPlus size={15} />}
          loading={busy}
          disabled={!make}
          onClick={() => void lay()}
        >
          Add a piece here
        </Button>
      </div>
      {refused && (
        <p role="alert" className="wrong">
          {refused}
        </p>
      )}
    </section>
  );
}
