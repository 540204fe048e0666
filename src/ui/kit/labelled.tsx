import type { ReactNode } from 'react';
import { Form } from 'react-bootstrap';

/** A control with its name; the control within has the id. */
export function Labelled({
  id,
  label,
  isHidden = false,
  className,
  children,
}: {
  readonly id: string;
  readonly label: ReactNode;
  /** The name is told, not shown. */
  readonly isHidden?: boolean;
  readonly className?: string | undefined;
  readonly children: ReactNode;
}) {
  return (
    <Form.Group controlId={id} className={className}>
      <Form.Label visuallyHidden={isHidden}>{label}</Form.Label>
      {children}
    </Form.Group>
  );
}
