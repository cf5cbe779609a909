import { freshId, freshName } from '@hollow-finch/core/design/ids';
import { bandThickness } from '@hollow-finch/core/checks/bandFit';
import { expand } from '@hollow-finch/core/mechanisms/expand';
import type { Params } from '@hollow-finch/core/mechanisms/family';
import { newInstance, nowhere, possibleHost } from '@hollow-finch/core/mechanisms/instance';
import { FAMILIES, familyById } from '@hollow-finch/core/mechanisms/registry';
import { STRUCTURES } from '@hollow-finch/core/mechanisms/structures/all';
import { Drawer, UnstyledButton } from '@mantine/core';
import { pictureOf } from '../../shared/familyPicture.ts';
import { FoldedPicture } from '../../shared/FoldedPicture.tsx';
import { useJob } from '../../shared/store/jobStore.ts';
import { standingOn } from './draftEdits.ts';

const GROUPS = [
  { on: 'fold', heading: 'On a fold: the opening moves them' },
  { on: 'panel', heading: 'On a panel: a hand moves them, or they lie there' },
  { on: 'table', heading: 'By themselves: envelopes, boxes, bags' },
] as const;
const ALL = [...FAMILIES, ...STRUCTURES];

/** The mechanism drawer: each family drawn from its own build; picking one puts it on the fold, or on a half. */
export default function MechanismDrawer({
  onPicked,
  onClose,
}: {
  onPicked: () => void;
  onClose: () => void;
}) {
  const gutters = useJob((s) => expand(s.design).gutters);
  const noCard = useJob((s) => s.design.base.kind === 'structure');
  // Without a card it is what stands by itself that one looks for.
  const groups = noCard ? [GROUPS[2], GROUPS[0], GROUPS[1]] : GROUPS;
  const pick = (familyId: string) => {
    const { design, edit, select } = useJob.getState();
    const id = freshId('m', design.instances);
    const family = familyById(familyId)!;
    const host = possibleHost(family, expand(design).gutters);
    if (!host) return;
    const names = new Set(Object.values(design.instances).map(({ name }) => name));
    // What goes round the closed card is made for its thickness.
    const bulkMm = useJob.getState().report?.closed.bulkMm;
    const params: Params =
      familyId === 'bellyBand' && bulkMm !== undefined ? { thickMm: bandThickness(bulkMm) } : {};
    const instance = newInstance(family, host, id, { name: freshName(names, family.title), params });
    const put = { do: 'put', in: 'instances', id, value: instance } as const;
    edit(`Add ${family.title}`, standingOn(design, host, put));
    select({ kind: 'instance', id });
    onPicked();
  };
  return (
    <Drawer
      opened
      onClose={onClose}
      size={720}
      returnFocus={false}
      // It opens by itself on a bare card: nothing else may have to wait for it.
      position="right"
      withOverlay={false}
      lockScroll={false}
      title="Mechanisms"
    >
      {groups.map(({ on, heading }) => (
        <section key={on} className="drawer-group">
          <h3>{heading}</h3>
          <div className="drawer-grid">
            {ALL.filter((family) => family.on === on).map((family) => (
              <div key={family.id} className="drawer-item">
                <span className="drawer-picture">
                  <FoldedPicture
                    {...pictureOf(family.id)}
                    riseDeg={52}
                    withLoose
                    still={family.on === 'table'}
                    label=""
                  />
                </span>
                <span>
                  <UnstyledButton
                    className="title-face drawer-title"
                    disabled={!possibleHost(family, gutters)}
                    onClick={() => pick(family.id)}
                    aria-label={`Add a ${family.title}`}
                    aria-describedby={`purpose-${family.id}`}
                  >
                    {family.title}
                  </UnstyledButton>
                  <span id={`purpose-${family.id}`} className="quiet drawer-purpose">
                    {possibleHost(family, gutters) ? family.purpose : nowhere(family)}
                  </span>
                </span>
              </div>
            ))}
          </div>
        </section>
      ))}
    </Drawer>
  );
}
