import type { DrawnSheet } from '@hollow-finch/core/assembly/drawnSheet';
import { doneOf, workWords, type SheetStep } from '@hollow-finch/core/assembly/byHand';
import { minutesWords } from '@hollow-finch/core/assembly/minutes';
import type { SheetPaper } from '@hollow-finch/core/assembly/sheetPdf';
import type { StepPictures } from '@hollow-finch/core/assembly/stepDrawing';
import { ActionIcon, Button, Loader, NumberInput, SegmentedControl, Select } from '@mantine/core';
import { useState } from 'react';
import { download } from '../../shared/download.ts';
import { TextField } from '../../shared/fields/TextField.tsx';
import { fileNameOf } from '../../shared/fileName.ts';
import { faultWords } from '../../shared/helper.ts';
import { IconArrowDown, IconArrowUp, IconDownload, IconPlus } from '../../shared/icons.ts';
import { sayFault } from '../../shared/sayFault.ts';
import { useJob } from '../../shared/store/jobStore.ts';
import { useLengths } from '../../shared/units.ts';
import { adding, decorating, dropping, moving, rewording, stepEdit } from './edits.ts';
import { StepDrawing } from './StepDrawing.tsx';

const PAPERS: readonly { value: SheetPaper; label: string }[] = [
  { value: 'a4', label: 'A4' },
  { value: 'letter', label: 'Letter' },
  { value: 'leaflet', label: 'Leaflet, 105 × 148 mm' },
];

/** Minutes of a step, typed; left empty it is as usual again. */
function MinutesField({
  label,
  value,
  onCommit,
}: {
  label: string;
  value: number;
  onCommit: (minutes: number | undefined) => void;
}) {
  const [typed, setTyped] = useState<string | number | null>(null);
  const number = Number(typed);
  const wrong = typed !== null && typed !== '' && !(number >= 0 && number <= 1000);
  const take = () => {
    if (typed === null || wrong) return;
    if (typed === '') onCommit(undefined);
    else if (number !== value) onCommit(number);
    setTyped(null);
  };
  return (
    <NumberInput
      label={label}
      value={typed ?? value}
      min={0}
      max={1000}
      step={0.5}
      clampBehavior="none"
      suffix=" min"
      error={wrong ? '0 to 1000 minutes.' : undefined}
      onChange={setTyped}
      onBlur={take}
      onKeyDown={(event) => event.key === 'Enter' && take()}
    />
  );
}

/** What can be changed of one step. */
function StepEditor({
  step,
  steps,
  onClose,
}: {
  step: SheetStep;
  steps: readonly SheetStep[];
  onClose: () => void;
}) {
  const design = useJob((s) => s.design);
  const { edit } = useJob.getState();
  const generated = step.now ?? design.build[step.id]?.was ?? step.words;
  return (
    <div className="step-editor">
      <TextField
        label="What is done"
        lines={3}
        autoFocus
        value={step.words}
        maxLength={600}
        onCommit={(words) => edit('Words of a step', rewording(design, step, generated, words))}
      />
      <div className="step-times">
        <MinutesField
          label="Takes"
          value={step.minutes}
          onCommit={(minutes) => edit('Time of a step', stepEdit(design, step.id, { minutes }))}
        />
        <MinutesField
          label="Then leave it for"
          value={step.waitMinutes}
          onCommit={(waitMinutes) => edit('Wait after a step', stepEdit(design, step.id, { waitMinutes }))}
        />
      </div>
      {step.when && (
        <SegmentedControl
          aria-label="When it is decorated"
          value={step.when}
          data={[
            { value: 'flat', label: 'Lying flat, before it is folded' },
            { value: 'after', label: 'When all is on' },
          ]}
          onChange={(when) =>
            edit('When it is decorated', decorating(design, step.id, when as 'flat' | 'after'))
          }
        />
      )}
      <div className="step-acts">
        <Button
          size="compact-sm"
          variant="default"
          onClick={() => edit('Add a step', adding(design, steps, step.id).command)}
          leftSection={<IconPlus size={14} />}
        >
          Add a step after it
        </Button>
        {step.kind === 'own' ? (
          <Button
            size="compact-sm"
            variant="default"
            onClick={() => {
              edit('Take a step away', {
                do: 'all',
                commands: [
                  { do: 'put', in: 'build', id: step.id, value: null },
                  {
                    do: 'settings',
                    value: { buildOrder: design.settings.buildOrder.filter((id) => id !== step.id) },
                  },
                ],
              });
              onClose();
            }}
          >
            Take it away
          </Button>
        ) : (
          <>
            <Button
              size="compact-sm"
              variant="default"
              onClick={() =>
                edit(
                  step.leftOut ? 'Take a step in again' : 'Leave a step out',
                  stepEdit(design, step.id, { leftOut: step.leftOut ? undefined : true }),
                )
              }
            >
              {step.leftOut ? 'Take it in again' : 'Leave it out'}
            </Button>
            {design.build[step.id] && (
              <Button
                size="compact-sm"
                variant="default"
                onClick={() =>
                  edit('A step as it was found', { do: 'put', in: 'build', id: step.id, value: null })
                }
              >
                As it was found
              </Button>
            )}
          </>
        )}
        <Button size="compact-sm" variant="default" onClick={onClose}>
          Done
        </Button>
      </div>
    </div>
  );
}

function StepRow({
  step,
  number,
  steps,
  pictures,
  open,
  onOpen,
}: {
  step: SheetStep;
  number: number;
  steps: readonly SheetStep[];
  pictures: StepPictures | undefined;
  open: boolean;
  onOpen: (open: boolean) => void;
}) {
  const { inUnit } = useLengths();
  const { edit } = useJob.getState();
  const design = useJob((s) => s.design);
  const move = (by: number) => {
    const command = moving(steps, step.id, by);
    if (command) edit('Move a step', command);
  };
  const side = step.kind === 'join' && step.up ? `, ${step.up} up` : '';
  return (
    <li className={step.leftOut ? 'step step-left-out' : 'step'} data-step={step.id}>
      <span className="step-number title-face">{step.leftOut ? '–' : number}</span>
      <div className="step-words">
        <p>{inUnit(step.words)}</p>
        {step.why && <p className="quiet">{inUnit(step.why)}</p>}
        {step.lost.map((words) => (
          <p key={words} className="wrong">
            {inUnit(words)}
          </p>
        ))}
        {step.now && (
          <p className="warn">
            These are your words; the design says now: “{inUnit(step.now)}”{' '}
            <Button
              size="compact-xs"
              variant="default"
              onClick={() =>
                edit('Words of a step', stepEdit(design, step.id, { words: undefined, was: undefined }))
              }
            >
              Take that
            </Button>
          </p>
        )}
        <p className="quiet figure">
          {step.leftOut
            ? 'left out'
            : `${minutesWords(step.minutes)}${step.waitMinutes > 0 ? `, then leave it for ${minutesWords(step.waitMinutes)}` : ''}${side}`}
          {step.reworded && ' · your words'}
        </p>
        {open && <StepEditor step={step} steps={steps} onClose={() => onOpen(false)} />}
      </div>
      <div className="step-pictures">
        {pictures?.hand && <StepDrawing drawing={pictures.hand} label={`In hand at step ${number}`} />}
        {pictures?.onto && <StepDrawing drawing={pictures.onto} label={`After step ${number}`} />}
      </div>
      <div className="step-tools">
        <ActionIcon
          aria-label={`Step ${number} earlier`}
          onClick={() => move(-1)}
          disabled={steps[0] === step}
        >
          <IconArrowUp size={16} />
        </ActionIcon>
        <ActionIcon
          aria-label={`Step ${number} later`}
          onClick={() => move(1)}
          disabled={steps[steps.length - 1] === step}
        >
          <IconArrowDown size={16} />
        </ActionIcon>
        <Button
          size="compact-xs"
          variant="default"
          aria-expanded={open}
          aria-label={`Change step ${number}`}
          onClick={() => onOpen(!open)}
        >
          Change
        </Button>
      </div>
    </li>
  );
}

/** The steps in order, each with its pictures, to change and to print. */
export default function SheetSection({
  drawn,
  stale,
  failure,
}: {
  drawn: DrawnSheet;
  stale: boolean;
  failure: string | null;
}) {
  const design = useJob((s) => s.design);
  const { edit } = useJob.getState();
  const { unit } = useLengths();
  const [open, setOpen] = useState<string | null>(null);
  const [paper, setPaper] = useState<SheetPaper>('a4');
  const [busy, setBusy] = useState(false);
  const { steps, unfit, faults, pictures, cautions } = drawn;
  const print = async () => {
    setBusy(true);
    try {
      const { writeSheetPdf } = await import('@hollow-finch/core/assembly/sheetPdf');
      const bytes = await writeSheetPdf(drawn, { title: design.name, paper, unit });
      download(`${fileNameOf(design.name)}-build-sheet.pdf`, bytes, 'application/pdf');
    } catch (fault) {
      sayFault(faultWords(fault), 'The sheet was not written');
    }
    setBusy(false);
  };
  if (steps.length === 0)
    return <p className="quiet">There is nothing to put together yet: draft a part first.</p>;
  let number = 0;
  return (
    <section aria-label="Build sheet">
      <div className="build-head">
        <p className="figure">
          {workWords(doneOf(steps))}{' '}
          {stale && (
            <span className="quiet" role="status">
              <Loader size={10} /> finding the order again…
            </span>
          )}
        </p>
        <Select
          label="Fibres broken in folds"
          title="Heavy stock folds cleaner when each fold is worked both ways first."
          value={design.settings.breakFibres}
          allowDeselect={false}
          data={[
            { value: 'heavy', label: 'Of parts over 200 g/m²' },
            { value: 'all', label: 'Of all parts' },
            { value: 'none', label: 'Of none' },
          ]}
          onChange={(breakFibres) =>
            breakFibres &&
            edit('Breaking fibres', {
              do: 'settings',
              value: { breakFibres: breakFibres as 'heavy' | 'all' | 'none' },
            })
          }
        />
        <Select
          label="Paper"
          value={paper}
          allowDeselect={false}
          data={[...PAPERS]}
          onChange={(value) => value && setPaper(value as SheetPaper)}
        />
        <Button
          leftSection={busy ? <Loader size={14} /> : <IconDownload size={16} />}
          disabled={busy || stale}
          onClick={() => void print()}
        >
          Save the build sheet
        </Button>
      </div>
      {failure && (
        <p role="alert" className="wrong">
          {failure}
        </p>
      )}
      {faults.map((words) => (
        <p key={words} className="wrong">
          {words}
        </p>
      ))}
      {unfit.length > 0 && (
        <ul className="unfit" aria-label="What no longer fits">
          {unfit.map(({ stepId, words }) => (
            <li key={stepId ?? 'order'}>
              <span className="warn">{words}</span>{' '}
              <Button
                size="compact-xs"
                variant="default"
                onClick={() => edit('Drop what no longer fits', dropping(design, steps, stepId))}
              >
                {stepId === null ? 'Leave it so' : 'Drop it'}
              </Button>
            </li>
          ))}
        </ul>
      )}
      {design.settings.buildOrder.length > 0 && (
        <p className="quiet">
          The order was set by hand.{' '}
          <Button
            size="compact-xs"
            variant="default"
            onClick={() => edit('The order that was found', { do: 'settings', value: { buildOrder: [] } })}
          >
            Take the order that was found
          </Button>
        </p>
      )}
      <ol className="steps">
        {steps.map((step) => (
          <StepRow
            key={step.id}
            step={step}
            number={step.leftOut ? number : ++number}
            steps={steps}
            pictures={pictures.get(step.id)}
            open={open === step.id}
            onOpen={(is) => setOpen(is ? step.id : null)}
          />
        ))}
      </ol>
      <ul className="cautions quiet" aria-label="Take care">
        {cautions.map((words) => (
          <li key={words}>{words}</li>
        ))}
      </ul>
    </section>
  );
}
