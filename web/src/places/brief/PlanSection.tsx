import { followed, sizePlan, USUAL_CONTENTS, type Source } from '@hollow-finch/core/planning/sizePlan';
import { chosenEnvelope } from '@hollow-finch/core/checks/envelopeFit';
import { freshId } from '@hollow-finch/core/design/ids';
import type { Contents, Plan } from '@hollow-finch/core/design/design';
import { ActionIcon, Chip, Group, Select } from '@mantine/core';
import { CountField } from '../../shared/fields/CountField.tsx';
import { LengthField } from '../../shared/fields/LengthField.tsx';
import { TextField } from '../../shared/fields/TextField.tsx';
import { IconTrash } from '../../shared/icons.ts';
import { useJob } from '../../shared/store/jobStore.ts';
import { useLengths } from '../../shared/units.ts';

const SOURCES: readonly { readonly value: Source; readonly label: string }[] = [
  { value: 'size', label: 'Closed size' },
  { value: 'blank', label: 'Blank' },
  { value: 'envelope', label: 'Envelope' },
  { value: 'contents', label: 'What goes in' },
];
const FROM: Readonly<Record<Source, string>> = {
  size: 'as it was typed',
  blank: 'from the blank',
  envelope: 'from the envelope',
  contents: 'from what goes in',
};

/** From what the card's size follows; what is held, what follows, and what clashes. */
export default function PlanSection() {
  const design = useJob((s) => s.shown);
  const { edit } = useJob.getState();
  const { say, inUnit } = useLengths();
  const { plan } = design.brief;
  const envelope = chosenEnvelope(design);
  const made = sizePlan(design, envelope);
  const put = (label: string, change: Partial<Plan>) =>
    edit(label, { do: 'brief', value: followed(design, change, envelope) });
  const hold = (values: string[]) => {
    const held = values as Source[];
    const blankMm = held.includes('blank')
      ? (plan.blankMm ?? ([...made.blankMm] as [number, number]))
      : plan.blankMm;
    put('What is held', { held, blankMm });
  };
  const withBlank = (side: 0 | 1) => (mm: number) => {
    const blankMm: [number, number] = [...(plan.blankMm ?? made.blankMm)] as [number, number];
    blankMm[side] = mm;
    put('Blank at hand', { blankMm });
  };
  const change = (id: string, next: Partial<Contents>) =>
    put('What goes in', {
      contents: plan.contents.map((each) => (each.id === id ? { ...each, ...next } : each)),
    });
  const add = (name: string) => {
    const usual = USUAL_CONTENTS.find((each) => each.name === name) ?? {
      name: 'Something',
      longMm: 80,
      wideMm: 50,
      thickMm: 1,
    };
    const taken = Object.fromEntries(plan.contents.map(({ id }) => [id, true]));
    put('What goes in', { contents: [...plan.contents, { ...usual, id: freshId('c', taken), pieces: 1 }] });
  };
  const [widthMm, heightMm] = [design.brief.closedWidthMm, design.brief.closedHeightMm];
  return (
    <section className="plan">
      <h2 id="plan-held">Begin from</h2>
      <Chip.Group multiple value={[...plan.held]} onChange={hold}>
        <Group gap={6} role="group" aria-labelledby="plan-held">
          {SOURCES.map(({ value, label }) => (
            <Chip key={value} value={value} size="xs">
              {label}
            </Chip>
          ))}
        </Group>
      </Chip.Group>
      <p className="figure">
        {say(widthMm)} × {say(heightMm)} closed, {FROM[made.from]}; blank {say(made.blankMm[0])} ×{' '}
        {say(made.blankMm[1])}.
        {plan.held.includes('envelope') && !envelope && (
          <span className="warn"> Choose an envelope, and the size follows from it.</span>
        )}
        {plan.held.includes('contents') && plan.contents.length === 0 && (
          <span className="warn"> Say what goes in, and the size follows from it.</span>
        )}
      </p>
      {made.clashes.length > 0 && (
        <ul className="reasons wrong" aria-label="What clashes">
          {made.clashes.map(({ sentence }) => (
            <li key={sentence}>{inUnit(sentence)}</li>
          ))}
        </ul>
      )}
      {plan.held.includes('blank') && plan.blankMm && (
        <div className="fields">
          <LengthField
            label="Blank wide"
            hint="As it lies open before the reader."
            valueMm={plan.blankMm[0]}
            minMm={10}
            maxMm={2000}
            onCommit={withBlank(0)}
          />
          <LengthField
            label="Blank tall"
            valueMm={plan.blankMm[1]}
            minMm={10}
            maxMm={2000}
            onCommit={withBlank(1)}
          />
        </div>
      )}
      <h3>What goes in</h3>
      {plan.contents.length === 0 && <p className="quiet">Nothing yet: a pass, a photo, a coin.</p>}
      {plan.contents.map((each, i) => (
        <fieldset key={each.id} className="plan-thing">
          <legend className="quiet">
            {i + 1}. {each.name}
          </legend>
          <div className="fields">
            <TextField
              label={`Name of thing ${i + 1}`}
              value={each.name}
              maxLength={120}
              onCommit={(name) => change(each.id, { name })}
            />
            <CountField
              label={`Count of thing ${i + 1}`}
              value={each.pieces}
              min={1}
              max={200}
              onCommit={(pieces) => change(each.id, { pieces })}
            />
            <LengthField
              label={`Thing ${i + 1} long`}
              valueMm={each.longMm}
              minMm={0.1}
              maxMm={2000}
              onCommit={(longMm) => change(each.id, { longMm })}
            />
            <LengthField
              label={`Thing ${i + 1} wide`}
              valueMm={each.wideMm}
              minMm={0.1}
              maxMm={2000}
              onCommit={(wideMm) => change(each.id, { wideMm })}
            />
            <LengthField
              label={`Thing ${i + 1} thick`}
              valueMm={each.thickMm}
              minMm={0.01}
              maxMm={500}
              onCommit={(thickMm) => change(each.id, { thickMm })}
            />
            <ActionIcon
              variant="default"
              aria-label={`Take thing ${i + 1} out`}
              onClick={() =>
                put('What goes in', { contents: plan.contents.filter(({ id }) => id !== each.id) })
              }
            >
              <IconTrash size={15} />
            </ActionIcon>
          </div>
        </fieldset>
      ))}
      <div className="fields">
        <Select
          label="Add what goes in"
          placeholder="Choose"
          value={null}
          data={[...USUAL_CONTENTS.map(({ name }) => name), 'Something else']}
          onChange={(name) => name && add(name)}
        />
        {plan.contents.length > 0 && (
          <LengthField
            label="Border round it"
            hint="Free on each side of what goes in."
            valueMm={plan.borderMm}
            minMm={0}
            maxMm={100}
            onCommit={(borderMm) => put('Border', { borderMm })}
          />
        )}
      </div>
      {made.contentsMm && (
        <p className="quiet">
          Together {say(made.contentsMm[0])} × {say(made.contentsMm[1])}, {say(made.contentsMm[2])} thick.
        </p>
      )}
    </section>
  );
}
