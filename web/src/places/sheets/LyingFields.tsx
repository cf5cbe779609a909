import type { Design } from '@hollow-finch/core/design/design';
import type { Part } from '@hollow-finch/core/dieline/part';
import { expand } from '@hollow-finch/core/mechanisms/expand';
import { stockOf } from '@hollow-finch/core/dieline/part';
import { Select, Switch } from '@mantine/core';
import { useJob } from '../../shared/store/jobStore.ts';

type Lying = Design['settings']['lying'][string];

const TURNS = [
  { value: 'usual', label: 'As grain allows' },
  { value: 'drawn', label: 'Only as drawn' },
  { value: 'half', label: 'As drawn, or upside down' },
  { value: 'quarters', label: 'By quarters' },
  { value: 'any', label: 'At any angle' },
] as const;

/** How all pieces of a part may lie: turned, face down, and together with those of another part. */
export function LyingFields({ design, part }: { design: Design; part: Part }) {
  const { edit } = useJob.getState();
  const { lying } = design.settings;
  const own: Lying = Object.hasOwn(lying, part.id) ? lying[part.id] : {};
  const set = (label: string, change: Partial<Record<keyof Lying, unknown>>) => {
    const { [part.id]: _before, ...others } = lying;
    const next = Object.fromEntries(
      Object.entries({ ...own, ...change }).filter(([, value]) => value !== undefined),
    ) as Lying;
    edit(label, {
      do: 'settings',
      value: { lying: Object.keys(next).length > 0 ? { ...others, [part.id]: next } : others },
    });
  };
  const stock = stockOf(part);
  const faced = part.lines.some(({ process }) => process === 'kiss' || process === 'mark');
  const alike = expand(design).parts.filter(
    ({ stockId, lines }) => stockId === part.stockId && lines.length > 0,
  );
  return (
    <>
      <h3>All pieces of {part.name}</h3>
      <div className="fields">
        <Select
          label="May be turned"
          allowDeselect={false}
          value={own.turns ?? 'usual'}
          data={[...TURNS]}
          onChange={(value) =>
            value && set('Change how pieces may be turned', { turns: value === 'usual' ? undefined : value })
          }
        />
        <Select
          label="On one sheet with"
          clearable
          placeholder="No matter"
          value={own.withPart ?? null}
          data={alike.map(({ id, name }) => ({
            value: id,
            label: id === part.id ? 'Its own of a card' : name,
          }))}
          onChange={(value) => set('Keep pieces together', { withPart: value ?? undefined })}
        />
      </div>
      {stock.twoSided && !faced ? (
        <Switch
          label="May lie face down"
          checked={own.mirror === true}
          onChange={(event) =>
            set('Change which face pieces may lie on', {
              mirror: event.currentTarget.checked ? true : undefined,
            })
          }
        />
      ) : (
        <p className="quiet">
          It lies face up:{' '}
          {faced ? 'it has lines that are on its front alone' : `${stock.name} is good on one side`}.
        </p>
      )}
    </>
  );
}
