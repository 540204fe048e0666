import type { HTMLAttributes } from 'react';
import { Alert } from 'react-bootstrap';

/** Something that went wrong, or has to be known, where it happened; with `onClose` it can be put away. */
export function Notice({
  tone,
  onClose,
  ...rest
}: HTMLAttributes<HTMLDivElement> & {
  readonly tone: 'danger' | 'warning';
  readonly onClose?: () => void;
}) {
  return <Alert variant={tone} {...(onClose ? { dismissible: true, onClose } : {})} {...rest} />;
}
