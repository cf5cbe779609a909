import type { DraftedPart } from '@hollow-finch/core/design/design';
import { panelPlan } from '@hollow-finch/core/dieline/panels';
import type { Part } from '@hollow-finch/core/dieline/part';
import { Button, CloseButton, Select } from '@mantine/core';
import { useState } from 'react';
import { useJob } from '../../shared/store/jobStore.ts';
import { tuckCommand, tucksOf } from './tuckEdits.ts';

/** Panels that are held without glue: tucked in behind another one when everything is folded up. */
export default function TuckSection({ part, plain }: { part: DraftedPart; plain: Part }) {
  const { edit } = useJob.getState();
  const { panels } = panelPlan(plain);
  const [chosen, choose] = useState<{ readonly panel?: string; readonly behind?: string }>({});
  if (panels.length < 2) return null;
  const names = panels.map(({ id, name }) => ({ value: id, label: name }));
  const panel = panels.some(({ id }) => id === chosen.panel) ? chosen.panel! : null;
  const behind =
    chosen.behind !== panel && panels.some(({ id }) => id === chosen.behind) ? chosen.behind! : null;
  const tucks = tucksOf(plain);
  return (
    <section aria-label="Tucked in">
      <h3>Tucked in</h3>
      {tucks.length > 0 && (
        <ul className="plain-list">
          {tucks.map((tuck) => (
            <li key={tuck.id} className="tuck">
              <span>
                {tuck.name} behind {tuck.behindName ?? 'a panel that is there no more'}
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
          placeholder="Which panel"
          value={behind}
          data={names.filter(({ value }) => value !== panel)}
          onChange={(value) => choose({ ...chosen, behind: value ?? undefined })}
        />
      </div>
      <Button
        size="compact-sm"
        variant="default"
        disabled={!panel || !behind}
        onClick={() => {
          if (!panel || !behind) return;
          edit('Tuck a panel in', tuckCommand(part, plain, panel, behind));
          choose({});
        }}
      >
        Tuck it in
      </Button>
    </section>
  );
}
