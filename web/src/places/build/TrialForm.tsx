import { expand } from '@hollow-finch/core/mechanisms/expand';
import { Button, FileButton, NumberInput, Select, Textarea, TextInput } from '@mantine/core';
import { useState } from 'react';
import { faultWords } from '../../shared/helper.ts';
import { IconTrash } from '../../shared/icons.ts';
import type { Trial, TrialFault, TrialWritten } from '../../shared/records.ts';
import { useJob } from '../../shared/store/jobStore.ts';
import { TRIAL_FAULTS, VERDICTS, type TrialFaultKind, type Verdict } from '../../shared/trialWords.ts';
import { PressPicture } from './PressPicture.tsx';

const MOST_PHOTOS = 6;
const choices = <T extends string>(words: Readonly<Record<T, string>>) =>
  (Object.entries(words) as [T, string][]).map(([value, label]) => ({ value, label }));

/** A trial build as it is written down: who, how long, what was seen and where, the verdict, what it led to. */
export function TrialForm({
  trial,
  onSave,
  onClose,
}: {
  trial: Trial | null;
  onSave: (written: TrialWritten) => Promise<string | null>;
  onClose: () => void;
}) {
  const design = useJob((s) => s.design);
  const report = useJob((s) => s.report);
  const revision = useJob((s) => s.revision);
  const undo = useJob((s) => s.undo);
  const [written, setWritten] = useState<TrialWritten>(
    trial ?? {
      revision,
      builtAt: Date.now(),
      by: '',
      minutes: null,
      verdict: 'good',
      note: '',
      faults: [],
      photos: [],
      change: null,
    },
  );
  const [failure, setFailure] = useState<string | null>(null);
  const [busy, setBusy] = useState(false);
  const set = (change: Partial<TrialWritten>) => setWritten((was) => ({ ...was, ...change }));
  const { parts, instanceOf } = expand(design);
  const familyOf = (partId: string | null): string =>
    partId === null ? '' : (design.instances[instanceOf[partId] ?? '']?.family ?? '');
  const addFault = (rest: Partial<TrialFault>) =>
    set({
      faults: [
        ...written.faults,
        {
          id: crypto.randomUUID().slice(0, 13),
          kind: 'catch',
          words: '',
          partId: null,
          partName: '',
          at: null,
          openDeg: null,
          family: '',
          ...rest,
        },
      ],
      // What went wrong is no clean verdict.
      ...(written.verdict === 'good' && written.faults.length === 0 ? { verdict: 'nearly' as const } : {}),
    });
  const setFault = (id: string, change: Partial<TrialFault>) =>
    set({ faults: written.faults.map((fault) => (fault.id === id ? { ...fault, ...change } : fault)) });
  const onPart = (partId: string | null) => ({
    partId,
    partName: parts.find(({ id }) => id === partId)?.name ?? '',
    family: familyOf(partId),
  });
  const takePhotos = async (files: readonly File[]) => {
    setFailure(null);
    try {
      const { readImage } = await import('../draft/pictures/imageFile.ts');
      const read = [];
      for (const file of files) read.push((await readImage(file)).data);
      const photos = [...written.photos, ...read];
      if (photos.length > MOST_PHOTOS)
        setFailure(`A trial keeps up to ${MOST_PHOTOS} photos: the others were left.`);
      set({ photos: photos.slice(0, MOST_PHOTOS) });
    } catch (fault) {
      setFailure(faultWords(fault));
    }
  };
  const save = async () => {
    setBusy(true);
    const { number: _number, ...plain } = written as Trial;
    const said = await onSave(plain);
    setBusy(false);
    if (said) setFailure(said);
    else onClose();
  };
  const edits = [...new Set([...undo].reverse().map(({ label }) => label))].slice(0, 60);
  const changes = [
    ...(written.change && !edits.includes(written.change.label) ? [written.change.label] : []),
    ...edits,
  ];
  return (
    <form
      className="trial-form"
      aria-label={trial ? `Trial ${trial.number}` : 'New trial'}
      onSubmit={(event) => {
        event.preventDefault();
        void save();
      }}
    >
      <div className="trial-columns">
        <div>
          <div className="fields">
            <TextInput
              label="Who built it"
              value={written.by}
              maxLength={80}
              onChange={(event) => set({ by: event.currentTarget.value })}
            />
            <NumberInput
              label="Minutes"
              value={written.minutes ?? ''}
              min={0}
              max={100_000}
              onChange={(value) => set({ minutes: value === '' ? null : Number(value) })}
            />
            <NumberInput
              label="Revision"
              value={written.revision}
              min={1}
              max={revision}
              allowDecimal={false}
              onChange={(value) => Number(value) >= 1 && set({ revision: Number(value) })}
            />
            <Select
              label="Verdict"
              value={written.verdict}
              allowDeselect={false}
              data={choices(VERDICTS)}
              onChange={(value) => value && set({ verdict: value as Verdict })}
            />
            <Textarea
              className="wide"
              label="What was seen"
              minRows={2}
              autosize
              value={written.note}
              maxLength={2000}
              onChange={(event) => set({ note: event.currentTarget.value })}
            />
            <Select
              className="wide"
              label="The change it led to"
              description="The edit of this job that put it right."
              placeholder="None yet"
              clearable
              searchable
              value={written.change?.label ?? null}
              data={changes}
              onChange={(label) => set({ change: label ? { label, revision } : null })}
            />
          </div>
          <h3>What went wrong</h3>
          {written.faults.length === 0 && <p className="quiet">Nothing so far.</p>}
          <ol className="trial-faults">
            {written.faults.map((fault, i) => (
              <li key={fault.id}>
                <div className="fields">
                  <Select
                    label={`Fault ${i + 1}`}
                    value={fault.kind}
                    allowDeselect={false}
                    data={choices(TRIAL_FAULTS)}
                    onChange={(kind) => kind && setFault(fault.id, { kind: kind as TrialFaultKind })}
                  />
                  <Select
                    label={`Part of fault ${i + 1}`}
                    placeholder="Not told"
                    clearable
                    value={fault.partId}
                    data={parts.map(({ id, name }) => ({ value: id, label: name }))}
                    onChange={(partId) => setFault(fault.id, { ...onPart(partId), at: null })}
                  />
                  <TextInput
                    className="wide"
                    label={`Words for fault ${i + 1}`}
                    value={fault.words}
                    maxLength={400}
                    onChange={(event) => setFault(fault.id, { words: event.currentTarget.value })}
                  />
                </div>
                <Button
                  size="compact-xs"
                  variant="default"
                  aria-label={`Take fault ${i + 1} away`}
                  onClick={() => set({ faults: written.faults.filter(({ id }) => id !== fault.id) })}
                >
                  <IconTrash size={14} />
                </Button>
                {fault.at && fault.openDeg !== null && (
                  <span className="quiet">
                    {' '}
                    pressed on {fault.partName}, {Math.round(fault.openDeg)}° open
                  </span>
                )}
              </li>
            ))}
          </ol>
          <Button size="compact-sm" variant="default" onClick={() => addFault({})}>
            Add a fault
          </Button>
          <h3>Photos</h3>
          <div className="photos">
            {written.photos.map((photo, i) => (
              <span key={photo.slice(-60)}>
                <img src={photo} alt={`Photo ${i + 1}`} />
                <Button
                  size="compact-xs"
                  variant="default"
                  aria-label={`Take photo ${i + 1} away`}
                  onClick={() => set({ photos: written.photos.filter((_, k) => k !== i) })}
                >
                  <IconTrash size={14} />
                </Button>
              </span>
            ))}
            <FileButton multiple accept="image/png,image/jpeg" onChange={(files) => void takePhotos(files)}>
              {(props) => (
                <Button size="compact-sm" variant="default" {...props}>
                  Add photos
                </Button>
              )}
            </FileButton>
          </div>
        </div>
        {report && (
          <PressPicture
            sweep={report.sweep}
            design={design}
            faults={written.faults}
            onPress={({ partId, at }, openDeg) =>
              addFault({ ...onPart(partId), at: [at[0], at[1]], openDeg })
            }
          />
        )}
      </div>
      {failure && (
        <p role="alert" className="wrong">
          {failure}
        </p>
      )}
      <div className="step-acts">
        <Button type="submit" disabled={busy}>
          {trial ? 'Save the trial' : 'Write it down'}
        </Button>
        <Button variant="default" onClick={onClose}>
          Leave it
        </Button>
      </div>
    </form>
  );
}
