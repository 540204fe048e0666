'use client';
import { useRef, useState } from 'react';
import { TextInput } from './inputs';

/** A value that is taken with Enter or on leaving, and given up with Escape; the keys are the stage's again then. */
export function EnteredField({
  label,
  value,
  onTake,
}: {
  readonly label: string;
  readonly value: string;
  readonly onTake: (text: string) => void;
}) {
  const [text, setText] = useState<string | null>(null);
  const givenUp = useRef(false);
  const leave = (): void => {
    if (text !== null && text !== value && !givenUp.current) onTake(text);
    givenUp.current = false;
    setText(null);
  };
  return (
    <TextInput
      className="fm-mono"
      aria-label={label}
      value={text ?? value}
      onChange={(e) => setText(e.target.value)}
      onFocus={(e) => e.target.select()}
      onBlur={leave}
      onKeyDown={(e) => {
        if (e.key !== 'Enter' && e.key !== 'Escape') return;
        givenUp.current = e.key === 'Escape';
        e.currentTarget.blur();
      }}
    />
  );
}
