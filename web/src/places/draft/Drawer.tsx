import { freshId, freshName } from '@hollow-finch/core/design/ids';
import { bandThickness } from '@hollow-finch/core/checks/bandFit';
import { newDesign, type Design } from '@hollow-finch/core/design/design';
import { openingOf, type Opening } from '@hollow-finch/core/design/frames';
import { expand } from '@hollow-finch/core/mechanisms/expand';
import type { Params } from '@hollow-finch/core/mechanisms/family';
import { newInstance, nowhere, possibleHost, usualHost } from '@hollow-finch/core/mechanisms/instance';
import { FAMILIES, familyById } from '@hollow-finch/core/mechanisms/registry';
import { STRUCTURES } from '@hollow-finch/core/mechanisms/structures/all';
import { linkageOf } from '@hollow-finch/core/motion/linkage';
import { sweep, type Sweep } from '@hollow-finch/core/motion/sweep';
import { Drawer, UnstyledButton } from '@mantine/core';
import { FoldedPicture } from '../../shared/FoldedPicture.tsx';
import { useJob } from '../../shared/store/jobStore.ts';
import { standingOn } from './draftEdits.ts';

interface Picture {
  readonly sweep: Sweep;
  readonly deg: number;
  readonly opening: Opening;
}

const pictures = new Map<string, Picture>();

/** Where a family's movement shows best: the opening, or its pull drawn out some way. */
const OPEN_DEG = 115;
const PULLED = 118;
/** Where what stands by itself shows best on its way up (0 is closed): nearly closed unless said. */
const SHOWN_AT: Readonly<Record<string, number>> = {
  twistedPrism: 90,
  pillowBox: 0,
  petalBox: 0,
  explodingBox: 38,
  bag: 0,
  rolledCone: 0,
};
const NEARLY_CLOSED = 24;

/** A family's picture: its own build on a plain card, moved by the solver. */
function pictureOf(familyId: string): Picture {
  const known = pictures.get(familyId);
  if (known) return known;
  const family = familyById(familyId)!;
  const card = newDesign('picture', { closedWidthMm: 110, closedHeightMm: 105 });
  const design: Design =
    family.on === 'table' ? { ...card, base: { kind: 'structure', rootPartId: null } } : card;
  const host = usualHost(family, expand(design).gutters);
  const linkage = linkageOf(
    expand({ ...design, instances: { m: newInstance(family, host, 'm', { stockId: 'ember-160' }) } }),
  );
  const opened = sweep(linkage);
  const opening = openingOf(design);
  const made =
    linkage.drivers.length > 1
      ? { sweep: sweep(linkage, 1, opened), deg: PULLED, opening }
      : {
          sweep: opened,
          deg:
            family.on === 'table'
              ? (SHOWN_AT[familyId] ?? NEARLY_CLOSED)
              : family.on === 'panel'
                ? 180
                : OPEN_DEG,
          opening,
        };
  pictures.set(familyId, made);
  return made;
}

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
