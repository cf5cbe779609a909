import type { DraftedPart } from '@hollow-finch/core/design/design';
import { unmirrored } from '@hollow-finch/core/design/symmetry';
import { boxCentre, boxOfPaths } from '@hollow-finch/core/geometry/path';
import { Select, Switch } from '@mantine/core';
import { LengthField } from '../../shared/fields/LengthField.tsx';
import { useJob } from '../../shared/store/jobStore.ts';

type Symmetry = NonNullable<DraftedPart['symmetry']>;

/** A part that is the same on both sides of a line: one side is drawn, the other follows. */
export default function SymmetrySection({ part }: { part: DraftedPart }) {
  const { symmetry } = part;
  const put = (label: string, next: Symmetry | null) =>
    useJob.getState().edit(label, { do: 'part', id: part.id, value: { symmetry: next } });
  const paths = Object.values(part.lines).map(({ path }) => path);
  const middle = (axis: Symmetry['axis']): number =>
    paths.length === 0 ? 0 : Math.round(boxCentre(boxOfPaths(paths))[axis === 'x' ? 0 : 1] * 1e4) / 1e4;
  const left = unmirrored(part).length;
  return (
    <section aria-label="Symmetry" className="shaping">
      <Switch
        label="The same on both sides of an axis"
        description="Lines on one side are mirrored to the other; whichever is changed, the other follows."
        checked={symmetry !== undefined}
        onChange={(event) =>
          event.currentTarget.checked
            ? put(`Draw ${part.name} symmetrically`, { axis: 'x', atMm: middle('x') })
            : put(`Let both sides of ${part.name} stand alone`, null)
        }
      />
      {symmetry && (
        <div className="fields">
          <Select
            label="Its axis is"
            allowDeselect={false}
            value={symmetry.axis}
            data={[
              { value: 'x', label: 'Upright' },
              { value: 'y', label: 'Level' },
            ]}
            onChange={(axis) =>
              axis &&
              axis !== symmetry.axis &&
              put('Turn the axis', { axis: axis as Symmetry['axis'], atMm: middle(axis as Symmetry['axis']) })
            }
          />
          <LengthField
            label={`Axis at ${symmetry.axis}`}
            valueMm={symmetry.atMm}
            onCommit={(atMm) => put('Move the axis', { ...symmetry, atMm })}
          />
          {left > 0 && (
            <p className="quiet wide" role="status">
              {left === 1 ? 'One line crosses the axis and stays' : `${left} lines cross the axis and stay`}{' '}
              as drawn: split it there to have its other side follow.
            </p>
          )}
        </div>
      )}
    </section>
  );
}
