import type { Instance } from '@hollow-finch/core/design/design';
import type { Gutter } from '@hollow-finch/core/design/frames';
import type { Part } from '@hollow-finch/core/dieline/part';
import { mountPanels, usualMount, type Mount } from '@hollow-finch/core/mechanisms/mounting';
import { Select } from '@mantine/core';
import { LengthField } from '../../shared/fields/LengthField.tsx';
import { useJob } from '../../shared/store/jobStore.ts';

/** The panel that is chosen when none is named. */
const USUAL = '';

/** How what stands by itself is glued onto a panel: by which of its own panels, with which face, and where. */
export default function MountSection({
  instance,
  gutter,
  parts,
}: {
  instance: Instance;
  gutter: Gutter;
  parts: readonly Part[];
}) {
  const { edit, preview } = useJob.getState();
  const mount = instance.mount ?? usualMount(gutter);
  const panels = mountPanels({ parts });
  const own = (partId: string) => partId.slice(instance.id.length + 1);
  const glued = (change: Partial<Mount>) =>
    ({
      do: 'put',
      in: 'instances',
      id: instance.id,
      value: { ...instance, mount: { ...mount, ...change } },
    }) as const;
  const place = (key: 'x' | 'y', label: string, hint: string) => (
    <LengthField
      label={label}
      hint={hint}
      valueMm={mount[key]}
      minMm={-2000}
      maxMm={2000}
      onPreview={(mm) => preview(mm === null ? null : glued({ [key]: mm }))}
      onCommit={(mm) => edit('Glue it elsewhere', glued({ [key]: mm }))}
    />
  );
  return (
    <section>
      <h3>How it is glued on</h3>
      <p className="quiet">Folded up, and held so while the card opens and closes.</p>
      <div className="fields">
        <Select
          className="wide"
          label="Glued by"
          value={mount.panelId ?? USUAL}
          allowDeselect={false}
          data={[
            { value: USUAL, label: 'Its largest panel' },
            ...panels.map(({ partId, panelId, name }) => ({
              value: `${own(partId)}|${panelId}`,
              label: name,
            })),
          ]}
          onChange={(value) =>
            value !== null && edit('Glue it by another panel', glued({ panelId: value || null }))
          }
        />
        <Select
          className="wide"
          label="With its"
          value={mount.face}
          allowDeselect={false}
          data={[
            { value: 'outside', label: 'Outside' },
            { value: 'inside', label: 'Inside' },
          ]}
          onChange={(value) =>
            value && edit('Glue it by the other face', glued({ face: value as Mount['face'] }))
          }
        />
        {place(
          'x',
          'From the middle',
          'Of the panel it stands on, to the right, to the middle of what is glued.',
        )}
        {place('y', 'From the lower edge', 'Of the panel it stands on, to the middle of what is glued.')}
      </div>
    </section>
  );
}
