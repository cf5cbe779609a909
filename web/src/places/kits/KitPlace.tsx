import type { Design } from '@hollow-finch/core/design/design';
import { ActionIcon, Button, Select, Textarea } from '@mantine/core';
import { useEffect, useState } from 'react';
import { api, saidOf } from '../../shared/api.ts';
import type { JobListEntry } from '../../shared/contracts.ts';
import { CountField } from '../../shared/fields/CountField.tsx';
import { LengthField } from '../../shared/fields/LengthField.tsx';
import { MoneyField } from '../../shared/fields/MoneyField.tsx';
import { TextField } from '../../shared/fields/TextField.tsx';
import { IconArrowBackUp, IconPlus, IconTrash } from '../../shared/icons.ts';
import type { Kit } from '../../shared/records.ts';
import { useStudioStore } from '../../shared/store/studioStore.ts';
import { KitResults } from './KitResults.tsx';
import { useKit } from './useKit.ts';

/** The designs of a kit, fetched once each. */
function useDesigns(kit: Kit) {
  const [designs, setDesigns] = useState<Readonly<Record<string, Design>>>({});
  const [failure, setFailure] = useState<string | null>(null);
  const wanted = kit.items.map(({ jobId }) => jobId).join(' ');
  useEffect(() => {
    let left = false;
    const missing = wanted.split(' ').filter((id) => id !== '' && !Object.hasOwn(designs, id));
    void Promise.all(missing.map(async (id) => [id, (await api.job(id)).design] as const)).then(
      (read) => {
        if (left || read.length === 0) return;
        setDesigns((was) => ({ ...was, ...Object.fromEntries(read) }));
        setFailure(null);
      },
      (fault: unknown) => !left && setFailure(`A design of this kit cannot be read: ${saidOf(fault)}`),
    );
    return () => {
      left = true;
    };
  }, [wanted, designs]);
  return { designs, failure };
}

/** One kit: what is in it, and what comes of that. */
export function KitPlace({
  kit,
  jobs,
  onChange,
  onRemove,
}: {
  kit: Kit;
  jobs: readonly JobListEntry[];
  onChange: (kit: Kit) => void;
  onRemove: () => void;
}) {
  const { store } = useStudioStore();
  const { change, takeBack, canUndo, save, again } = useKit(kit, onChange);
  const { designs, failure } = useDesigns(kit);
  const nameOf = (jobId: string) => jobs.find(({ id }) => id === jobId)?.name ?? jobId;
  const free = jobs.filter(({ id, archived }) => !archived && !kit.items.some(({ jobId }) => jobId === id));
  const setItem = (jobId: string, pieces: number) =>
    change({ items: kit.items.map((item) => (item.jobId === jobId ? { ...item, pieces } : item)) });
  const setLoose = (id: string, next: Partial<Kit['loose'][number]>) =>
    change({ loose: kit.loose.map((part) => (part.id === id ? { ...part, ...next } : part)) });
  const whole = kit.items.every(({ jobId }) => Object.hasOwn(designs, jobId));
  return (
    <div className="kit">
      <div className="kit-head">
        <TextField label="Name" value={kit.name} maxLength={120} onCommit={(name) => change({ name })} />
        <CountField
          label="Kits"
          value={kit.copies}
          min={1}
          max={500}
          onCommit={(copies) => change({ copies })}
        />
        <ActionIcon aria-label="Take back" disabled={!canUndo} onClick={takeBack}>
          <IconArrowBackUp size={18} />
        </ActionIcon>
        <span role="status" className={save === 'saved' || save === 'saving' ? 'quiet' : 'wrong'}>
          {save === 'saved' ? 'Saved' : save === 'saving' ? 'Saving…' : `Not saved: ${save}`}
        </span>
        {save !== 'saved' && save !== 'saving' && (
          <Button size="compact-xs" variant="default" onClick={again}>
            Try again
          </Button>
        )}
        <Button variant="default" onClick={onRemove}>
          Take the kit away
        </Button>
      </div>
      <div className="kit-columns">
        <section aria-label="In each kit">
          <h2>In each kit</h2>
          {kit.items.length === 0 && kit.loose.length === 0 && (
            <p className="quiet">Nothing yet: choose a design.</p>
          )}
          {kit.items.map(({ jobId, pieces }) => (
            <div key={jobId} className="kit-row">
              <CountField
                label={nameOf(jobId)}
                value={pieces}
                min={1}
                max={100}
                onCommit={(next) => setItem(jobId, next)}
              />
              <a href={`/job/${jobId}/draft`}>Open</a>
              <ActionIcon
                aria-label={`Leave out ${nameOf(jobId)}`}
                onClick={() => change({ items: kit.items.filter((item) => item.jobId !== jobId) })}
              >
                <IconTrash size={16} />
              </ActionIcon>
            </div>
          ))}
          <Select
            label="Add a design"
            placeholder="A job of the shelf"
            searchable
            value={null}
            data={free.map(({ id, name }) => ({ value: id, label: name }))}
            nothingFoundMessage="No other job"
            onChange={(jobId) => jobId && change({ items: [...kit.items, { jobId, pieces: 1 }] })}
          />
          <h3>Loose parts</h3>
          {kit.loose.map((part) => (
            <div key={part.id} className="kit-loose">
              <TextField
                label="What it is"
                value={part.name}
                maxLength={120}
                onCommit={(name) => setLoose(part.id, { name })}
              />
              <Select
                label={`Stock of ${part.name}`}
                allowDeselect={false}
                value={part.stockId}
                data={Object.values(store.stocks).map(({ id, name }) => ({ value: id, label: name }))}
                onChange={(stockId) => stockId && setLoose(part.id, { stockId })}
              />
              <LengthField
                label={`Width of ${part.name}`}
                valueMm={part.widthMm}
                minMm={1}
                maxMm={2000}
                onCommit={(widthMm) => setLoose(part.id, { widthMm })}
              />
              <LengthField
                label={`Height of ${part.name}`}
                valueMm={part.heightMm}
                minMm={1}
                maxMm={2000}
                onCommit={(heightMm) => setLoose(part.id, { heightMm })}
              />
              <CountField
                label={`Pieces of ${part.name}`}
                value={part.pieces}
                min={1}
                max={500}
                onCommit={(pieces) => setLoose(part.id, { pieces })}
              />
              <ActionIcon
                aria-label={`Leave out ${part.name}`}
                onClick={() => change({ loose: kit.loose.filter(({ id }) => id !== part.id) })}
              >
                <IconTrash size={16} />
              </ActionIcon>
            </div>
          ))}
          <Button
            size="compact-sm"
            variant="default"
            leftSection={<IconPlus size={14} />}
            onClick={() =>
              change({
                loose: [
                  ...kit.loose,
                  {
                    id: crypto.randomUUID().slice(0, 8),
                    name: `Mat ${kit.loose.length + 1}`,
                    stockId: Object.keys(store.stocks)[0],
                    widthMm: 100,
                    heightMm: 70,
                    pieces: 1,
                  },
                ],
              })
            }
          >
            Add a loose part
          </Button>
          <h3>Costs</h3>
          <div className="fields">
            <MoneyField
              label="An hour of hands"
              value={kit.handsPerHour}
              max={10_000}
              onChange={(handsPerHour) => change({ handsPerHour })}
            />
            <MoneyField
              label="An hour of the machine"
              value={kit.machinePerHour}
              max={10_000}
              onChange={(machinePerHour) => change({ machinePerHour })}
            />
            <CountField
              label="People"
              value={kit.people}
              min={1}
              max={5}
              onCommit={(people) => change({ people })}
            />
          </div>
          <Textarea
            label="Note"
            autosize
            minRows={2}
            maxLength={4000}
            value={kit.note}
            onChange={(event) => change({ note: event.currentTarget.value })}
          />
        </section>
        <div>
          {failure && (
            <p role="alert" className="wrong">
              {failure}
            </p>
          )}
          {whole && (kit.items.length > 0 || kit.loose.length > 0) && (
            <KitResults kit={kit} designs={designs} studio={store} />
          )}
        </div>
      </div>
    </div>
  );
}
