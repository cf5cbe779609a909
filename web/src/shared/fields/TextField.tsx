import { Textarea, TextInput } from '@mantine/core';
import { useState, type KeyboardEvent, type ReactNode } from 'react';
import { useTyping } from './typing.ts';

export interface TextFieldProps {
  /** What it is called; seen unless `hidden`. */
  readonly label: string;
  readonly hidden?: boolean;
  readonly value: string;
  readonly hint?: string;
  readonly maxLength: number;
  /** Whether it may be left empty; else the old text stays. */
  readonly mayBeEmpty?: boolean;
  readonly lines?: number;
  readonly placeholder?: string;
  readonly autoFocus?: boolean;
  readonly error?: ReactNode;
  onCommit(text: string): void;
  /** The field was left, or given up with Escape. */
  onLeave?(): void;
}

/** A text. Enter (in one line), leaving or a pause takes it, Escape gives it up; all that is typed at one go is one edit. */
export function TextField(props: TextFieldProps) {
  const { label, hidden, value, hint, maxLength, mayBeEmpty, lines = 1, onCommit, onLeave, ...rest } = props;
  const [typed, setTyped] = useState<string | null>(null);
  const [before, setBefore] = useState(value);
  const take = () => {
    if (typed === null) return;
    const text = lines === 1 ? typed.trim() : typed;
    if (text !== value && (text !== '' || mayBeEmpty)) onCommit(text);
  };
  const typing = useTyping(typed, take);
  const leave = () => {
    setTyped(null);
    onLeave?.();
  };
  const common = {
    ...(hidden ? { 'aria-label': label } : { label }),
    title: hint,
    className: 'wide',
    maxLength,
    value: typed ?? value,
    onChange: (event: { currentTarget: { value: string } }) => {
      if (typed === null) setBefore(value);
      setTyped(event.currentTarget.value);
    },
    onFocus: typing.onFocus,
    onBlur: (event: React.FocusEvent) => {
      take();
      leave();
      typing.onBlur(event);
    },
    onKeyDown: (event: KeyboardEvent) => {
      if (typing.onKey(event)) return;
      if (event.key === 'Enter' && lines === 1 && typed !== null) {
        event.preventDefault();
        take();
        typing.begin();
        leave();
      }
      if (event.key === 'Escape' && (typed !== null || onLeave)) {
        event.stopPropagation();
        // What a pause has taken is given back.
        if (typed !== null && value !== before) onCommit(before);
        leave();
      }
    },
    ...rest,
  };
  return lines > 1 ? <Textarea autosize minRows={lines} {...common} /> : <TextInput {...common} />;
}
