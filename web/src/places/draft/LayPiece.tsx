import { freshName } from '@hollow-finch/core/design/ids';
import type { Laid, NotLaid } from '@hollow-finch/core/checks/layPiece';
import { gluesOf, type Design } from '@hollow-finch/core/design/design';
import { panelPlan } from '@hollow-finch/core/dieline/panels';
import { workOf, type DieLine, type Part } from '@hollow-finch/core/dieline/part';
import { shift } from '@hollow-finch/core/geometry/isometry';
import { boxCentre, boxOfPaths, placePath } from '@hollow-finch/core/geometry/path';
import { expand } from '@hollow-finch/core/mechanisms/expand';
import { panelName } from '@hollow-finch/core/mechanisms/names';
import { shapeOutline, SHAPES, type Shape } from '@hollow-finch/core/mechanisms/shapes';
import { Button, Select, UnstyledButton } from '@mantine/core';
import { useState } from 'react';
import { faultWords } from '../../shared/helper.ts';
import { IconPlus } from '../../shared/icons.ts';
import { useJob } from '../../shared/store/jobStore.ts';
import { reportWorker } from '../../shared/store/reporter.ts';

const SHAPE_NAMES: Readonly<Record<Shape, string>> = {
  rectangle: 'Rectangle',
  rounded: 'Rounded rectangle',
  circle: 'Circle',
  star: 'Star',
  heart: 'Heart',
  cloud: 'Cloud',
  pennant: 'Pennant',
};

/** A drafted part, moved so that its middle is the origin, as a shape to lay once more. */
function copied(design: Design, partId: string): Record<string, DieLine> {
  const { lines } = design.parts[partId];
  const [x, y] = boxCentre(boxOfPaths(Object.values(lines).map((line) => line.path)));
  const middle = shift(-x, -y);
  return Object.fromEntries(
    Object.entries(lines).map(([id, line]) => [id, { ...line, path: placePath(middle, line.path) }]),
  );
}

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
  const [shape, setShape] = useState<string>('star');
  const [busy, setBusy] = useState(false);
  const [refused, setRefused] = useState<string | null>(null);
  const known = (value: string | null) => panels.some((panel) => panel.value === value);
  const on = known(chosen) ? chosen : known(pressed) ? pressed : (panels[0]?.value ?? null);
  const glued = gluesOf(Object.values(design.joints)).filter(
    (joint) => joint.as === 'piece' && partIds.includes(joint.hostPartId),
  );
  const drafted = Object.values(design.parts).filter((part) => Object.keys(part.lines).length > 0);
  const lay = async () => {
    if (!on) return;
    setBusy(true);
    setRefused(null);
    try {
      const now = useJob.getState().design;
      const copyOf = shape.startsWith('copy:') ? now.parts[shape.slice(5)] : undefined;
      const names = new Set(Object.values(now.parts).map((part) => part.name));
      const name = freshName(names, copyOf?.name ?? SHAPE_NAMES[shape as Shape]);
      const lines = copyOf
        ? copied(now, copyOf.id)
        : { l1: { id: 'l1', ...workOf('cut'), path: shapeOutline(shape as Shape) } };
      const [partId, panelId] = on.split('|');
      const stockId = copyOf?.stockId ?? 'ember-160';
      const laid: Laid | NotLaid = await reportWorker().layPiece(now, partId, panelId, {
        name,
        stockId,
        lines,
      });
      if ('refused' in laid) return setRefused(laid.refused);
      edit(`Lay ${name}`, laid.command);
      select({ kind: 'part', id: laid.partId });
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
        <Select
          className="wide"
          label="Shape"
          value={shape}
          allowDeselect={false}
          data={[
            ...SHAPES.map((value) => ({ value: value as string, label: SHAPE_NAMES[value] })),
            ...drafted.map((part) => ({ value: `copy:${part.id}`, label: `As ${part.name}` })),
          ]}
          onChange={(value) => value && setShape(value)}
        />
        <Button
          className="wide"
          variant="default"
          leftSection={<IconPlus size={15} />}
          loading={busy}
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
