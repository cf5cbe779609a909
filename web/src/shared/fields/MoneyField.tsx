import { NumberInput } from '@mantine/core';

/** An amount in the studio's money, taken as it is typed while it is one. */
export function MoneyField({
  label,
  value,
  max,
  onChange,
}: {
  label: string;
  value: number;
  max: number;
  onChange: (amount: number) => void;
}) {
  return (
    <NumberInput
      label={label}
      value={value}
      min={0}
      max={max}
      decimalScale={3}
      onChange={(next) => typeof next === 'number' && next >= 0 && next <= max && onChange(next)}
    />
  );
}
