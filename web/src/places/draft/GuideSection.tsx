import type { Dimension, Guide } from '@hollow-finch/core/design/design';
import { freshId } from '@hollow-finch/core/design/ids';
import { drawnDimension } from '@hollow-finch/core/dieline/dimension';
import { expand } from '@hollow-finch/core/mechanisms/expand';
import { ActionIcon, Button, Select } from '@mantine/core';
import { LengthField } from '../../shared/fields/LengthField.tsx';
import { IconTrash } from '../../shared/icons.ts';
import { useJob } from '../../shared/store/jobStore.ts';
import { useLengths } from '../../shared/units.ts';
import { boardLayout } from './layout.ts';
import { endsOf } from './Measures.tsx';

/** Guides of the board, or of one part, and the measures that are kept: by number, and taken away. */
export default function GuideSection({ partId }: { partId: string | null }) {
  const design = useJob((s) => s.calm);
  const { say } = useLengths();
  const { edit } = useJob.getState();
  const { parts } = expand(design);
  const guides = Object.values(design.guides).filter((guide) => guide.partId === partId);
  const measures = Object.values(design.dimensions).filter(
    (each) => partId === null || each.partId === partId,
  );
  const layout = boardLayout(expand(design), design.board);
  const add = (axis: Guide['axis']) => {
    const id = freshId('g', design.guides);
    edit('Add a guide', { do: 'put', in: 'guides', id, value: { id, axis, atMm: 20, partId } });
  };
  const valueOf = (dimension: Dimension): string => {
    const ends = endsOf(
      layout.find(({ part }) => part.id === dimension.partId),
      dimension.from,
      dimension.to,
    );
    return ends ? say(drawnDimension(...ends, dimension.along, 0).mm) : 'what it measured is gone';
  };
  return (
    <section>
      <h3>Guides and measures</h3>
      {guides.map((guide, i) => (
        <div key={guide.id} className="fields guide-row">
          <LengthField
            label={`Guide ${i + 1}, ${guide.axis === 'x' ? 'upright at x' : 'level at y'}`}
            valueMm={guide.atMm}
            onCommit={(atMm) =>
              edit('Move a guide', { do: 'put', in: 'guides', id: guide.id, value: { ...guide, atMm } })
            }
          />
          <ActionIcon
            variant="default"
            aria-label={`Take guide ${i + 1} away`}
            onClick={() => edit('Take a guide away', { do: 'put', in: 'guides', id: guide.id, value: null })}
          >
            <IconTrash size={14} />
          </ActionIcon>
        </div>
      ))}
      {measures.map((dimension, i) => (
        <div key={dimension.id} className="fields guide-row">
          <p className="figure">
            {valueOf(dimension)}
            {partId === null && (
              <span className="quiet">
                {' '}
                on {parts.find(({ id }) => id === dimension.partId)?.name ?? 'a part that is gone'}
              </span>
            )}
          </p>
          <ActionIcon
            variant="default"
            aria-label={`Take measure ${i + 1} away`}
            onClick={() =>
              edit('Take a measure away', { do: 'put', in: 'dimensions', id: dimension.id, value: null })
            }
          >
            <IconTrash size={14} />
          </ActionIcon>
          <Select
            aria-label={`Way of measure ${i + 1}`}
            value={dimension.along}
            allowDeselect={false}
            data={[
              { value: 'straight', label: 'Straight' },
              { value: 'x', label: 'Across' },
              { value: 'y', label: 'Upwards' },
            ]}
            onChange={(along) =>
              along &&
              edit('Way of a measure', {
                do: 'put',
                in: 'dimensions',
                id: dimension.id,
                value: { ...dimension, along: along as Dimension['along'] },
              })
            }
          />
        </div>
      ))}
      <Button.Group>
        <Button size="compact-xs" variant="default" onClick={() => add('x')}>
          Upright guide
        </Button>
        <Button size="compact-xs" variant="default" onClick={() => add('y')}>
          Level guide
        </Button>
      </Button.Group>
    </section>
  );
}
