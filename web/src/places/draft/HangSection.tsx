import { freshId } from '@hollow-finch/core/design/ids';
import { gluesItself, gluesOf, type DraftedPart, type Joint } from '@hollow-finch/core/design/design';
import { panelPlan } from '@hollow-finch/core/dieline/panels';
import type { Part } from '@hollow-finch/core/dieline/part';
import { shift } from '@hollow-finch/core/geometry/isometry';
import { expand } from '@hollow-finch/core/mechanisms/expand';
import { Button, Select } from '@mantine/core';
import { Suspense, useState } from 'react';
import { IconPlus } from '../../shared/icons.ts';
import { sayFault } from '../../shared/sayFault.ts';
import { useJob } from '../../shared/store/jobStore.ts';
import { later } from '../../shared/later.ts';
import { HANGS, newJoint, type HangKind } from './hanging.ts';
import { JointFields } from './JointFields.tsx';

const RoomNote = later(() => import('./RoomNote.tsx'));

/** What a drafted part is glued to, turns on, slides in, passes through: its joints, and new ones. */
export function HangSection({ part, plain }: { part: DraftedPart; plain: Part }) {
  const shown = useJob((s) => s.calm);
  const { edit } = useJob.getState();
  const { parts } = expand(shown);
  const joints = Object.values(shown.joints).filter((joint) => joint.partId === part.id);
  const glued = gluesOf(joints).find((joint) => !gluesItself(joint));
  const { panels } = panelPlan(plain);
  const [panelId, setPanel] = useState<string | null>(null);
  const panel = panels.find((p) => p.id === panelId) ?? panels[0];
  // The card or the sheet; without one another part, or the part itself.
  const host = parts.find((p) => p.id === 'card') ?? parts.find((p) => p.id !== part.id) ?? plain;
  const baseWord = shown.base.kind === 'sheet' ? 'the sheet' : 'the card';
  const glue = () => {
    const zoneId = freshId('z', part.glueZones);
    const id = freshId('j', shown.joints);
    const zone = { id: zoneId, outline: panel.region.outer, face: 'back' as const, kind: 'glue' as const };
    const joint: Joint = {
      id,
      kind: 'glue',
      partId: part.id,
      zoneId,
      hostPartId: host.id,
      placement: host.id === part.id ? shift(0, 0) : shift(20, 20),
      mate: null,
      // What is one flat panel is laid on as a piece; of what folds, the panel is a tab.
      as: panels.length === 1 ? 'piece' : 'tab',
    };
    edit(`Glue ${part.name}`, {
      do: 'all',
      commands: [
        {
          do: 'put',
          in: 'parts',
          id: part.id,
          value: { ...part, glueZones: { ...part.glueZones, [zoneId]: zone } },
        },
        { do: 'put', in: 'joints', id, value: joint },
      ],
    });
  };
  const hang = (kind: HangKind) => {
    const id = freshId('j', shown.joints);
    const joint = newJoint(kind, id, plain, panel, host);
    if ('refused' in joint) sayFault(joint.refused);
    else edit(`Hang ${part.name}`, { do: 'put', in: 'joints', id, value: joint });
  };
  return (
    <section>
      <h3>How it hangs</h3>
      {glued && (
        <Suspense fallback={null}>
          <RoomNote part={part} plain={plain} joint={glued} />
        </Suspense>
      )}
      {joints.length === 0 && (
        <p className="quiet">
          {shown.base.kind === 'structure'
            ? 'It is joined to nothing yet.'
            : `On nothing yet: it does not move with ${baseWord}.`}
        </p>
      )}
      {joints.map((joint) => (
        <JointFields key={joint.id} joint={joint} parts={parts} />
      ))}
      {panels.length === 0 ? (
        <p className="quiet">Close its outline first; then a panel can be glued.</p>
      ) : (
        <div className="fields">
          <Select
            className="wide"
            label="Panel that holds it"
            value={panel.id}
            data={panels.map((p) => ({ value: p.id, label: p.name }))}
            onChange={setPanel}
          />
          <Button className="wide" variant="default" leftSection={<IconPlus size={15} />} onClick={glue}>
            Glue it onto {host.id === part.id ? 'itself' : host.id === 'card' ? baseWord : host.name}
          </Button>
          <Select
            className="wide"
            aria-label="Hang it otherwise"
            placeholder="Or: it turns, slides, passes through…"
            value={null}
            data={HANGS.map(({ kind, label }) => ({ value: kind, label }))}
            onChange={(kind) => kind && hang(kind as HangKind)}
          />
        </div>
      )}
    </section>
  );
}
