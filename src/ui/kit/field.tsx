import { Form } from 'react-bootstrap';
import type { ComponentPropsWithoutRef } from 'react';

/** A line of text, or several, under its name; what is wrong with it is said below. */
export function Field({
  id,
  label,
  value,
  rows,
  error = null,
  isSmall = false,
  onChange,
  ...rest
}: Omit<ComponentPropsWithoutRef<'input'>, 'id' | 'value' | 'onChange' | 'size'> & {
  readonly id: string;
  readonly label: string;
  readonly value: string;
  /** Lines it shows; one that cannot grow unless said. */
  readonly rows?: number;
  readonly error?: string | null;
  readonly isSmall?: boolean;
  readonly onChange: (text: string) => void;
}) {
  return (
    <Form.Group controlId={id}>
      <Form.Label>{label}</Form.Label>
      <Form.Control
        {...(rows === undefined ? {} : { as: 'textarea' as const, rows })}
        size={isSmall ? 'sm' : undefined}
        value={value}
        isInvalid={error !== null}
        onChange={(e) => onChange(e.target.value)}
        {...rest}
      />
      {error !== null && <Form.Control.Feedback type="invalid">{error}</Form.Control.Feedback>}
    </Form.Group>
  );
}
