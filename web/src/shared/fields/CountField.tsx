import { NumberInput } from '@mantine/core';
import { useState } from 'react';
import { useTyping } from './typing.ts';

export interface CountFieldProps {
  readonly label: string;
  readonly value: number;
  readonly hint?: string;
  readonly min: number;
  readonly max: number;
  readonly wide?: boolean;
  onCommit(count: number): void;
}

/** A whole number between two ends. Steps and pauses take it; all that is typed or stepped at one go is one edit. */
export function CountField({ label, value, hint, min, max, wide, onCommit }: CountFieldProps) {
  const [typed, setTyped] = useState<string | null>(null);
  const count = Number(typed);
  const fits = typed !== null && typed !== '' && Number.isInteger(count) && count >= min && count <= max;
  const take = () => {
    if (fits && count !== value) onCommit(count);
  };
  const typing = useTyping(typed, take);
  return (
    <NumberInput
      label={label}
      title={hint}
      className={wide ? 'wide' : undefined}
      value={typed ?? value}
      min={min}
      max={max}
      clampBehavior="none"
      allowDecimal={false}
      error={typed !== null && !fits ? `A whole number from ${min} to ${max}.` : undefined}
      onChange={(next) => setTyped(String(next))}
      onFocus={typing.onFocus}
      onBlur={(event) => {
        take();
        setTyped(null);
        typing.onBlur(event);
      }}
      onKeyDown={(event) => {
        if (typing.onKey(event)) return;
        if (event.key === 'Enter') {
          take();
          setTyped(null);
          typing.begin();
        }
        if (event.key === 'Escape' && typed !== null) {
          event.stopPropagation();
          setTyped(null);
        }
      }}
    />
  );
}
