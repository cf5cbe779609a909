import type { DraftedPart } from '@hollow-finch/core/design/design';
import { panelPlan } from '@hollow-finch/core/dieline/panels';
import type { Part } from '@hollow-finch/core/dieline/part';
import { slotsOf } from '@hollow-finch/core/dieline/slots';
import { Button, CloseButton, Select } from '@mantine/core';
import { useState } from 'react';
import { useJob } from '../../shared/store/jobStore.ts';
import { useLengths } from '../../shared/units.ts';
import { tuckCommand, tucksOf } from './tuckEdits.ts';

/** What is chosen begins so, by what it is. */
const BEHIND = 'panel:';
const THROUGH = 'slot:';

/** Panels that are held without glue: tucked in behind another one, or through a slot, when everything is folded up. */
export default function TuckSection({ part, plain }: { part: DraftedPart; plain: Part }) {
  const { edit } = useJob.getState();
  const { say } = useLengths();
  const { panels } = panelPlan(plain);
  const [chosen, choose] = useState<{ readonly panel?: string; readonly holder?: string }>({});
  if (panels.length < 2) return null;
  const names = panels.map(({ id, name }) => ({ value: id, label: name }));
  const panel = panels.some(({ id }) => id === chosen.panel) ? chosen.panel! : null;
  const slots = slotsOf(plain);
  const holders = [
    ...panels
      .filter(({ id }) => id !== panel)
      .map(({ id, name }) => ({ value: `${BEHIND}${id}`, label: name })),
    ...slots.map(({ lineId, panelName, longMm }) => ({
      value: `${THROUGH}${lineId}`,
      label: `Slot in ${panelName}, ${say(longMm)}`,
    })),
  ];
  const holder = holders.some(({ value }) => value === chosen.holder) ? chosen.holder! : null;
  const tucks = tucksOf(plain);
  return (
    <section aria-label="Tucked in">
      <h3>Tucked in</h3>
      {tucks.length > 0 && (
        <ul className="plain-list">
          {tucks.map((tuck) => (
            <li key={tuck.id} className="tuck">
              <span>
                {tuck.name} {tuck.where ?? 'where there is nothing any more'}
              </span>
              <CloseButton
                size="sm"
                aria-label={`Leave ${tuck.name} untucked`}
                onClick={() => edit(`Leave ${tuck.name} untucked`, tuckCommand(part, plain, tuck.id, null))}
              />
            </li>
          ))}
        </ul>
      )}
      <div className="fields">
        <Select
          label="Tongue"
          placeholder="Which panel"
          value={panel}
          data={names}
          onChange={(value) => choose({ ...chosen, panel: value ?? undefined })}
        />
        <Select
          label="Goes behind"
          placeholder={slots.length > 0 ? 'Which panel or slot' : 'Which panel'}
          value={holder}
          data={holders}
          onChange={(value) => choose({ ...chosen, holder: value ?? undefined })}
        />
      </div>
      <Button
        size="compact-sm"
        variant="default"
        disabled={!panel || !holder}
        onClick={() => {
          if (!panel || !holder) return;
          const held = holder.startsWith(THROUGH)
            ? { through: holder.slice(THROUGH.length) }
            : { behind: holder.slice(BEHIND.length) };
          edit('Tuck a panel in', tuckCommand(part, plain, panel, held));
          choose({});
        }}
      >
        Tuck it in
      </Button>
    </section>
  );
}
