import { ITEM_SCHEMAS } from '@hollow-finch/core/stock/storeSchema';
import {
  Button,
  ColorInput,
  Group,
  Modal,
  NumberInput,
  Select,
  Stack,
  Switch,
  TextInput,
} from '@mantine/core';
import { useState } from 'react';
import { saidOf } from '../../shared/api.ts';
import { useStudioStore } from '../../shared/store/studioStore.ts';
import { LengthField } from '../../shared/fields/LengthField.tsx';
import { today } from './dates.ts';
import { enteredAs, idFrom, type FieldSpec, type Item, type KindSpec } from './kinds.ts';

type Values = Readonly<Record<string, unknown>>;

/** One field of a thing in the store. */
function Field({
  field,
  values,
  set,
}: {
  field: FieldSpec;
  values: Values;
  set: (key: string, value: unknown) => void;
}) {
  const { key, label, kind, choices = [] } = field;
  const { store } = useStudioStore();
  const value = values[key];
  switch (enteredAs(field, values.coupon)) {
    case 'length':
      return (
        <LengthField
          label={label}
          valueMm={Number(value)}
          minMm={0}
          maxMm={5_000}
          onCommit={(mm) => set(key, mm)}
        />
      );
    case 'number':
      return (
        <NumberInput
          label={label}
          value={value === undefined ? '' : Number(value)}
          min={0}
          onChange={(next) => set(key, next === '' && field.usual === undefined ? undefined : Number(next))}
        />
      );
    case 'choice':
      return (
        <Select
          label={label}
          value={String(value)}
          data={[...choices]}
          allowDeselect={false}
          onChange={(next) => next && set(key, next)}
        />
      );
    case 'yes':
      return (
        <Switch
          label={label}
          checked={value === true}
          onChange={(event) => set(key, event.currentTarget.checked)}
        />
      );
    case 'colour':
      return (
        <ColorInput label={label} value={String(value)} format="hex" onChange={(next) => set(key, next)} />
      );
    case 'pair': {
      const pair = Array.isArray(value) ? (value as number[]) : null;
      return (
        <>
          <Switch
            label={`${label} …`}
            checked={pair !== null}
            onChange={(event) => set(key, event.currentTarget.checked ? [148, 105] : undefined)}
          />
          {pair && (
            <Group grow>
              <LengthField
                label="Card width"
                valueMm={pair[0]}
                minMm={1}
                onCommit={(mm) => set(key, [mm, pair[1]])}
              />
              <LengthField
                label="Card height"
                valueMm={pair[1]}
                minMm={1}
                onCommit={(mm) => set(key, [pair[0], mm])}
              />
            </Group>
          )}
        </>
      );
    }
    case 'stock':
    case 'machine': {
      const known = Object.values(store[kind === 'stock' ? 'stocks' : 'machines']);
      return (
        <Select
          label={label}
          value={String(value)}
          data={known.map((item) => ({ value: item.id, label: item.name }))}
          allowDeselect={false}
          onChange={(next) => next && set(key, next)}
        />
      );
    }
    case 'date':
      return (
        <TextInput
          label={label}
          type="date"
          value={String(value ?? '')}
          onChange={(event) => set(key, event.currentTarget.value)}
        />
      );
    case 'text':
      return (
        <TextInput
          label={label}
          value={String(value ?? '')}
          maxLength={120}
          data-autofocus
          onChange={(event) => set(key, event.currentTarget.value)}
        />
      );
  }
}

/** Adds a thing to the store, or changes one. */
export function ItemDialog({
  spec,
  item,
  taken,
  onSave,
  onClose,
}: {
  spec: KindSpec;
  /** The thing to change; null for a new one. */
  item: Item | null;
  taken: Readonly<Record<string, unknown>>;
  onSave: (item: Item) => Promise<void>;
  onClose: () => void;
}) {
  const [values, setValues] = useState<Values>(
    () =>
      (item as Values | null) ??
      Object.fromEntries(spec.fields.map(({ key, kind, usual }) => [key, kind === 'date' ? today() : usual])),
  );
  const [failure, setFailure] = useState<string | null>(null);
  const [busy, setBusy] = useState(false);
  const save = async () => {
    const known = Object.fromEntries(Object.entries(values).filter(([, value]) => value !== undefined));
    const made = { ...known, id: item?.id ?? idFrom(String(values.name), taken) };
    const checked = ITEM_SCHEMAS[spec.kind].safeParse(made);
    if (!checked.success) {
      const [issue] = checked.error.issues;
      const label =
        spec.fields.find(({ key }) => key === issue.path[0])?.label ?? String(issue.path[0] ?? '');
      return setFailure(
        label === 'Name' && values.name === '' ? 'Give it a name first.' : `${label}: ${issue.message}.`,
      );
    }
    setBusy(true);
    setFailure(null);
    try {
      await onSave(checked.data);
      onClose();
    } catch (fault) {
      setFailure(saidOf(fault));
      setBusy(false);
    }
  };
  return (
    <Modal opened onClose={onClose} title={item ? `Change ${item.name}` : `New ${spec.one}`}>
      <form
        onSubmit={(event) => {
          event.preventDefault();
          void save();
        }}
      >
        <Stack gap="sm">
          {spec.fields.map((field) => (
            <Field
              key={field.key}
              field={field}
              values={values}
              set={(key, value) => setValues((now) => ({ ...now, [key]: value }))}
            />
          ))}
          {failure && (
            <p role="alert" className="wrong">
              {failure}
            </p>
          )}
          <Group justify="end">
            <Button variant="default" onClick={onClose}>
              Cancel
            </Button>
            <Button type="submit" loading={busy}>
              Keep it
            </Button>
          </Group>
        </Stack>
      </form>
    </Modal>
  );
}
