import type { Command } from '@hollow-finch/core/design/commands';
import { CARD_ID } from '@hollow-finch/core/design/frames';
import { freshId, freshName } from '@hollow-finch/core/design/ids';
import { expand } from '@hollow-finch/core/mechanisms/expand';
import { newInstance } from '@hollow-finch/core/mechanisms/instance';
import { matMeasures, mats } from '@hollow-finch/core/mechanisms/mats';
import { Button, Checkbox, Select } from '@mantine/core';
import { useState } from 'react';
import { CountField } from '../../shared/fields/CountField.tsx';
import { useJob } from '../../shared/store/jobStore.ts';
import { choicesOf, choosing, useStudioStore } from '../../shared/store/studioStore.ts';
import { useLengths } from '../../shared/units.ts';

/** The borders that mats themselves ask for; one of one's own is set on them. */
const SCHOOLS = mats.specs.flatMap((spec) =>
  spec.key === 'school' && spec.kind === 'choice'
    ? spec.choices.filter(({ value }) => value !== 'own').map((choice) => ({ ...choice }))
    : [],
);

/** The mats of every panel, outside and inside, by the border that is usual; put into the design with one press. */
export default function MatsSection() {
  const design = useJob((s) => s.calm);
  const { edit } = useJob.getState();
  const { say } = useLengths();
  const { store: studio } = useStudioStore();
  const [school, setSchool] = useState('threeMm');
  const [layers, setLayers] = useState(1);
  const [stockId, setStock] = useState('slate-240');
  const [left, setLeft] = useState<ReadonlySet<string>>(new Set());
  const panels = expand(design).gutters.filter(
    ({ kind, partId, lineId }) => kind === 'panel' && partId === CARD_ID && !lineId.includes('/'),
  );
  const matted = new Set(
    Object.values(design.instances).flatMap(({ family, host }) =>
      family === 'mats' && host.partId === CARD_ID ? [host.gutterId] : [],
    ),
  );
  const params = { mats: layers, school };
  const listed = panels.map((panel) => {
    const instance = newInstance(mats, panel, 'm', { params });
    const m = matMeasures(instance.params, panel);
    const sizes = Array.from({ length: layers }, (_, k) => [m.width(k), m.height(k)] as const);
    return { panel, sizes, fits: sizes.every(([w, h]) => w >= 5 && h >= 5) };
  });
  const wanted = listed.filter(
    ({ panel, fits }) => fits && !matted.has(panel.lineId) && !left.has(panel.lineId),
  );
  const put = () => {
    const taken: Record<string, unknown> = { ...design.instances };
    const names = new Set(Object.values(design.instances).map(({ name }) => name));
    const commands = wanted.map(({ panel }): Command => {
      const id = freshId('m', taken);
      taken[id] = true;
      const name = freshName(names, `Mat on ${panel.name}`);
      names.add(name);
      return {
        do: 'put',
        in: 'instances',
        id,
        value: newInstance(mats, panel, id, { name, stockId, params }),
      };
    });
    edit('Mats on the panels', choosing(design, studio, 'stocks', stockId, { do: 'all', commands }));
  };
  if (panels.length === 0) return <p className="quiet">There is no card: mats lie on its panels.</p>;
  return (
    <>
      <div className="fields">
        <Select
          label="Border of the mats"
          allowDeselect={false}
          value={school}
          data={SCHOOLS}
          onChange={(value) => value && setSchool(value)}
        />
        <CountField label="One on another" value={layers} min={1} max={4} onCommit={setLayers} />
        <Select
          className="wide"
          label="Paper of the mats"
          allowDeselect={false}
          value={stockId}
          data={choicesOf('stocks', studio, design).map(({ id, name }) => ({ value: id, label: name }))}
          onChange={(id) => id && setStock(id)}
        />
      </div>
      <ul className="plain-list mat-list">
        {listed.map(({ panel, sizes, fits }) => (
          <li key={panel.lineId}>
            <Checkbox
              size="xs"
              disabled={matted.has(panel.lineId) || !fits}
              checked={!matted.has(panel.lineId) && fits && !left.has(panel.lineId)}
              onChange={(event) => {
                const next = new Set(left);
                if (event.currentTarget.checked) next.delete(panel.lineId);
                else next.add(panel.lineId);
                setLeft(next);
              }}
              label={
                <>
                  {panel.name}: {sizes.map(([w, h]) => `${say(w)} × ${say(h)}`).join(', then ')}
                  {matted.has(panel.lineId) && <span className="quiet"> has mats</span>}
                  {!fits && <span className="warn"> too small for them</span>}
                </>
              }
            />
          </li>
        ))}
      </ul>
      <Button disabled={wanted.length === 0} onClick={put}>
        {wanted.length === 1 ? 'Put mats on 1 panel' : `Put mats on ${wanted.length} panels`}
      </Button>
    </>
  );
}
