import { editableLength, MM_PER_INCH, parseLength, type LengthUnit } from '@hollow-finch/core/units/length';
import { TextInput } from '@mantine/core';
import { useEffect, useRef, useState, type KeyboardEvent } from 'react';
import { useLengths, useUnit } from '../units.ts';
import { useTyping } from './typing.ts';

export interface LengthFieldProps {
  readonly label: string;
  readonly valueMm: number;
  readonly hint?: string;
  readonly minMm?: number;
  readonly maxMm?: number;
  /** Why the limits are where they are; shown when a value goes beyond. */
  readonly minReason?: string;
  readonly maxReason?: string;
  readonly disabled?: boolean;
  /** Called while typing with every length that can be read, and with null when typing is given up. */
  onPreview?(mm: number | null): void;
  onCommit(mm: number): void;
}

const SLACK_MM = 1e-4;

/** Steps of the arrow keys: plain, with Shift, with Alt. */
const STEPS_MM = {
  mm: [1, 10, 0.1],
  in: [MM_PER_INCH / 16, MM_PER_INCH / 2, MM_PER_INCH / 64],
} as const;

/** The step of an arrow key in the person's unit, mm. */
export const stepMm = (unit: LengthUnit, event: { shiftKey: boolean; altKey: boolean }): number =>
  STEPS_MM[unit][event.shiftKey ? 1 : event.altKey ? 2 : 0];

/** A length typed in mixed units. Enter or leaving takes it, Escape gives it up, arrows step by 1 mm (0.1 with Alt, 10 with Shift), or by 1/16 in (1/64, 1/2). */
export function LengthField(props: LengthFieldProps) {
  const {
    label,
    valueMm,
    hint,
    minMm = -Infinity,
    maxMm = Infinity,
    minReason,
    maxReason,
    disabled,
    onPreview,
    onCommit,
  } = props;
  const [unit] = useUnit();
  const { say } = useLengths();
  const [typed, setTyped] = useState<string | null>(null);
  // Why what was typed was not taken when the field was left: it stays there, with the reason, until it is put right.
  const [left, setLeft] = useState<string | null>(null);
  // What the field held before typing began: while typing, valueMm may already be the previewed length.
  const before = useRef(valueMm);
  if (typed === null) before.current = valueMm;
  // What the job has now is something else: the text that was left belongs to before.
  const known = useRef(valueMm);
  useEffect(() => {
    if (known.current !== valueMm && left !== null) {
      setTyped(null);
      setLeft(null);
    }
    known.current = valueMm;
  }, [valueMm, left]);
  const read = typed === null ? null : parseLength(typed, unit);
  const problem = (() => {
    if (!read) return null;
    if (!read.ok) return read.message;
    if (read.mm > maxMm + SLACK_MM) return `At most ${say(maxMm)}. ${maxReason ?? ''}`;
    if (read.mm < minMm - SLACK_MM) return `At least ${say(minMm)}. ${minReason ?? ''}`;
    return null;
  })();

  const type = (text: string) => {
    setTyped(text);
    setLeft(null);
    const value = parseLength(text, unit);
    const fits = value.ok && value.mm <= maxMm + SLACK_MM && value.mm >= minMm - SLACK_MM;
    onPreview?.(fits ? value.mm : null);
  };
  const give = () => {
    setTyped(null);
    setLeft(null);
    onPreview?.(null);
  };
  /** Takes what is typed, if it is a length that may be; `taken` is what the job has of it already. */
  const taken = useRef<number | null>(null);
  const keep = () => {
    if (
      !read?.ok ||
      problem ||
      left !== null ||
      Math.abs(read.mm - (taken.current ?? before.current)) <= 1e-9
    )
      return;
    taken.current = read.mm;
    onCommit(read.mm);
  };
  const typing = useTyping(typed, keep);
  const take = () => {
    if (typed === null || !read?.ok || problem || left !== null) return;
    keep();
    if (taken.current === null) onPreview?.(null);
    taken.current = null;
    setTyped(null);
  };
  const onKeyDown = (event: KeyboardEvent) => {
    if (typing.onKey(event)) return;
    if (event.key === 'Enter' && typed !== null) {
      // Takes the measure; only a second Enter sends the form that the field may stand in.
      event.preventDefault();
      take();
      typing.begin();
    }
    if (event.key === 'Escape' && typed !== null) {
      event.stopPropagation();
      // What a pause has taken is given back.
      if (taken.current !== null) onCommit(before.current);
      taken.current = null;
      give();
    } else if (event.key === 'ArrowUp' || event.key === 'ArrowDown') {
      event.preventDefault();
      const step = stepMm(unit, event) * (event.key === 'ArrowUp' ? 1 : -1);
      const from = read?.ok ? read.mm : valueMm;
      const to = Math.min(maxMm, Math.max(minMm, Math.round((from + step) * 1000) / 1000));
      if (to !== before.current) onCommit(to);
      setTyped(null);
    }
  };
  return (
    <TextInput
      label={label}
      title={hint}
      disabled={disabled}
      className="figure"
      value={typed ?? editableLength(valueMm, unit)}
      rightSection={
        <span className="quiet" style={{ fontSize: 11 }}>
          {unit}
        </span>
      }
      error={problem ?? left}
      onChange={(event) => type(event.currentTarget.value)}
      onBlur={(event) => {
        if (problem) setLeft(problem);
        else take();
        typing.onBlur(event);
      }}
      onFocus={(event) => {
        setLeft(null);
        event.currentTarget.select();
        typing.onFocus(event);
      }}
      onKeyDown={onKeyDown}
    />
  );
}
