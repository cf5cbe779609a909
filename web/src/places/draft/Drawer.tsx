import type { Design } from '@hollow-finch/core/design/design';
import { newDesign } from '@hollow-finch/core/design/design';
import { expand } from '@hollow-finch/core/mechanisms/expand';
import { newInstance } from '@hollow-finch/core/mechanisms/instance';
import { FAMILIES, familyById } from '@hollow-finch/core/mechanisms/registry';
import { cardGutter } from '@hollow-finch/core/design/frames';
import { linkageOf } from '@hollow-finch/core/motion/linkage';
import { sweep, type Sweep } from '@hollow-finch/core/motion/sweep';
import { UnstyledButton } from '@mantine/core';
import { FoldedPicture } from '../../shared/FoldedPicture.tsx';
import { useJob } from '../../shared/store/jobStore.ts';

const pictures = new Map<string, Sweep>();

/** A family's picture: its own build on a plain card, folded by the solver. */
function pictureOf(familyId: string): Sweep {
  const known = pictures.get(familyId);
  if (known) return known;
  const design = newDesign('picture', { closedWidthMm: 110, closedHeightMm: 105 });
  const made = sweep(
    linkageOf(
      expand({
        ...design,
        instances: {
          m: newInstance(familyById(familyId)!, cardGutter(design), 'm', { stockId: 'ember-160' }),
        },
      }),
    ),
  );
  pictures.set(familyId, made);
  return made;
}

/** A number that no id of the design uses yet: ids stay short and never come back. */
export function freshId(prefix: string, taken: Readonly<Record<string, unknown>>): string {
  for (let n = 1; ; n++) if (!(`${prefix}${n}` in taken)) return `${prefix}${n}`;
}

function freshName(title: string, design: Design): string {
  const names = new Set(Object.values(design.instances).map((i) => i.name));
  for (let n = 1; ; n++) {
    const name = n === 1 ? title : `${title} ${n}`;
    if (!names.has(name)) return name;
  }
}

/** The mechanism drawer: each family drawn from its own build; picking one puts it on the gutter. */
export function Drawer({ onPicked }: { onPicked: () => void }) {
  const pick = (familyId: string) => {
    const { design, edit, select } = useJob.getState();
    const id = freshId('m', design.instances);
    const family = FAMILIES.find((f) => f.id === familyId)!;
    const instance = newInstance(family, cardGutter(design), id, { name: freshName(family.title, design) });
    edit(`Add ${family.title}`, { do: 'put', in: 'instances', id, value: instance });
    select({ kind: 'instance', id });
    onPicked();
  };
  return (
    <div className="drawer" role="group" aria-label="Mechanisms">
      {FAMILIES.map((family) => (
        <UnstyledButton
          key={family.id}
          className="drawer-item"
          onClick={() => pick(family.id)}
          aria-label={`Add a ${family.title}`}
        >
          <span className="drawer-picture">
            <FoldedPicture sweep={pictureOf(family.id)} opening="side" deg={115} riseDeg={52} label="" />
          </span>
          <span>
            <span className="title-face drawer-title">{family.title}</span>
            <span className="quiet drawer-purpose">{family.purpose}</span>
          </span>
        </UnstyledButton>
      ))}
    </div>
  );
}
