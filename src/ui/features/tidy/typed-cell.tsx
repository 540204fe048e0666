'use client';
import { type KeyboardEvent, useId, useRef, useState } from 'react';
import { Button, ErrorTip, TextInput } from '@/ui/kit';

/** Where typing goes on: the next cell, the one before, or nowhere. */
export type TypedOn = 'next' | 'before' | null;

/** A figure that is typed over in its place: Enter keeps, Tab keeps and goes on, Escape gives up. What cannot be read stays and says why. */
export function TypedCell({
  label,
  text,
  targets,
  isOpen,
  onOpen,
  onKeep,
  onDone,
}: {
  readonly label: string;
  readonly text: string;
  /** How many tracks get what is typed. */
  readonly targets: number;
  readonly isOpen: boolean;
  readonly onOpen: () => void;
  /** Keeps what was typed; the reason where that cannot be. */
  readonly onKeep: (typed: string) => string | null;
  readonly onDone: (on: TypedOn) => void;
}) {
  const [typed, setTyped] = useState<string | null>(null);
  const [error, setError] = useState<string | null>(null);
  const box = useRef<HTMLSpanElement>(null);
  const id = useId();
  /** Closed by a key: what is left of the field, leaving it, keeps nothing twice. */
  const isClosed = useRef(false);
  const done = (on: TypedOn): void => {
    const wrong = typed === null ? null : onKeep(typed);
    setError(wrong);
    if (wrong !== null) return;
    isClosed.current = true;
    setTyped(null);
    onDone(on);
  };
  const giveUp = (): void => {
    isClosed.current = true;
    setTyped(null);
    setError(null);
    onDone(null);
  };
  const onKeyDown = (event: KeyboardEvent): void => {
    event.stopPropagation();
    if (event.key === 'Escape') giveUp();
    else if (event.key === 'Enter') done(null);
    else if (event.key === 'Tab') {
      event.preventDefault();
      done(event.shiftKey ? 'before' : 'next');
    }
  };
  if (!isOpen)
    return (
      <Button
        tone="bare"
        className="fm-typed-cell"
        tabIndex={-1}
        title={`${label}: type it`}
        onClick={(event) => {
          event.stopPropagation();
          onOpen();
        }}
      >
        <span className="fm-unseen">{label} </span>
        {text}
      </Button>
    );
  return (
    <span ref={box} className="fm-typed-open" onClick={(event) => event.stopPropagation()}>
      <TextInput
        className="fm-typed-input"
        value={typed ?? text}
        maxLength={20}
        autoFocus
        autoComplete="off"
        inputMode="decimal"
        aria-label={targets > 1 ? `${label} and ${targets - 1} more` : label}
        aria-invalid={error !== null}
        aria-errormessage={error === null ? undefined : id}
        onFocus={(e) => {
          isClosed.current = false;
          e.target.select();
        }}
        onChange={(e) => {
          setTyped(e.target.value);
          setError(null);
        }}
        onKeyDown={onKeyDown}
        // Left with what cannot be read, it is given up: nothing is guessed.
        onBlur={() => {
          if (isClosed.current) return;
          if (typed !== null && error === null) onKeep(typed);
          giveUp();
        }}
      />
      {targets > 1 && <span className="fm-cell-count">×{targets}</span>}
      <ErrorTip target={box} text={error} id={id} />
    </span>
  );
}
