'use client';
import { type KeyboardEvent, useId, useState } from 'react';
import { Form } from 'react-bootstrap';
import { type NumberRange, readNumber } from './number-text';

/** A {@link NumberField}. */
export interface NumberFieldProps extends NumberRange {
  readonly label: string;
  readonly value: number;
  /** What an arrow key adds; with Shift ten times as much. */
  readonly step: number;
  readonly onKeep: (value: number) => void;
  /** Its name is told, not shown. */
  readonly hidden?: boolean;
}

/** Keeps what was typed when it is left or Enter is pressed; Escape brings back what was. What cannot be read stays and says why. */
export function NumberField({ label, value, step, onKeep, hidden = false, ...range }: NumberFieldProps) {
  const id = useId();
  const [typed, setTyped] = useState<string | null>(null);
  const read = typed === null ? { value } : readNumber(typed, range, value);
  const error = 'error' in read ? read.error : null;
  const keep = (): void => {
    if ('error' in read) return;
    setTyped(null);
    if (read.value !== value) onKeep(read.value);
  };
  const onKeyDown = (event: KeyboardEvent<HTMLInputElement>): void => {
    const by = { ArrowUp: step, ArrowDown: -step }[event.key];
    if (event.key === 'Enter' && error === null) event.currentTarget.blur();
    else if (event.key === 'Escape') setTyped(null);
    else if (by !== undefined && 'value' in read) {
      event.preventDefault();
      const next = read.value + by * (event.shiftKey ? 10 : 1);
      setTyped(shown(Math.max(range.min, Math.min(range.max, Number(next.toFixed(6))))));
    }
  };
  return (
    <Form.Group className={hidden ? '' : 'fm-field fm-grow'} controlId={id}>
      <Form.Label visuallyHidden={hidden}>{label}</Form.Label>
      <Form.Control
        size="sm"
        role="spinbutton"
        aria-valuenow={value}
        aria-valuemin={range.min}
        aria-valuemax={range.max}
        inputMode="decimal"
        autoComplete="off"
        value={typed ?? shown(value)}
        title={hidden ? label : undefined}
        isInvalid={error !== null}
        aria-invalid={error !== null}
        aria-describedby={error === null ? undefined : `${id}-error`}
        onChange={(e) => setTyped(e.target.value)}
        onKeyDown={onKeyDown}
        onBlur={keep}
      />
      {error !== null && (
        <Form.Control.Feedback type="invalid" id={`${id}-error`}>
          {error}
        </Form.Control.Feedback>
      )}
    </Form.Group>
  );
}

const shown = (value: number): string => String(value).replace('-', '−');
