import { NumberInput } from '@mantine/core';
import { useState } from 'react';
import { useTyping } from './typing.ts';

export interface AngleFieldProps {
  readonly label: string;
  readonly valueDeg: number;
  readonly hint?: string;
  readonly minDeg?: number;
  readonly maxDeg?: number;
  readonly minReason?: string;
  readonly maxReason?: string;
  onCommit(deg: number): void;
}

/** An angle in degrees. Enter or leaving takes it, Escape gives it up. */
export function AngleField({
  label,
  valueDeg,
  hint,
  minDeg = -360,
  maxDeg = 360,
  minReason,
  maxReason,
  onCommit,
}: AngleFieldProps) {
  const [typed, setTyped] = useState<number | string | null>(null);
  const value = Number(typed ?? valueDeg);
  const problem =
    typed === null
      ? null
      : !Number.isFinite(value) || typed === ''
        ? 'Type an angle in degrees.'
        : value > maxDeg + 1e-6
          ? `At most ${maxDeg.toFixed(1)}°. ${maxReason ?? ''}`
          : value < minDeg - 1e-6
            ? `At least ${minDeg.toFixed(1)}°. ${minReason ?? ''}`
            : null;
  const keep = () => {
    if (typed !== null && !problem && Math.abs(value - valueDeg) > 1e-9) onCommit(value);
  };
  const typing = useTyping(typed === null ? null : String(typed), keep);
  const take = () => {
    keep();
    setTyped(null);
  };
  return (
    <NumberInput
      label={label}
      title={hint}
      className="figure"
      value={typed ?? Math.round(valueDeg * 100) / 100}
      suffix="°"
      decimalScale={2}
      hideControls
      error={problem}
      onChange={setTyped}
      onFocus={typing.onFocus}
      onBlur={(event) => {
        take();
        typing.onBlur(event);
      }}
      onKeyDown={(event) => {
        if (typing.onKey(event)) return;
        if (event.key === 'Enter') {
          take();
          typing.begin();
        }
        if (event.key === 'Escape') setTyped(null);
        if (event.key === 'ArrowUp' || event.key === 'ArrowDown') {
          event.preventDefault();
          const step = (event.shiftKey ? 10 : event.altKey ? 0.1 : 1) * (event.key === 'ArrowUp' ? 1 : -1);
          onCommit(Math.min(maxDeg, Math.max(minDeg, valueDeg + step)));
          setTyped(null);
        }
      }}
    />
  );
}
