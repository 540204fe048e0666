'use client';
import { Form, Modal } from 'react-bootstrap';
import { type FormEvent, type ReactNode, useId } from 'react';

/** A question or a task over the page. Escape, the cross and a click beside it give it up; the focus returns to where it came from. */
export function Dialog({
  title,
  isWide = false,
  scrolls = false,
  stacked = false,
  className,
  footer,
  children,
  onClose,
  onSubmit,
}: {
  readonly title: ReactNode;
  readonly isWide?: boolean;
  /** What is long scrolls within the dialog, its buttons stay in sight. */
  readonly scrolls?: boolean;
  /** Fields below each other with room between. */
  readonly stacked?: boolean;
  readonly className?: string;
  /** Buttons: giving up first, what it is for last. */
  readonly footer?: ReactNode;
  readonly children: ReactNode;
  readonly onClose: () => void;
  /** Makes it a form: Enter and its submit button do this. */
  readonly onSubmit?: (e: FormEvent<HTMLFormElement>) => void;
}) {
  const id = useId();
  const parts = (
    <>
      <Modal.Header closeButton>
        <Modal.Title as="h2" id={id}>
          {title}
        </Modal.Title>
      </Modal.Header>
      <Modal.Body className={stacked ? 'fm-stack' : undefined}>{children}</Modal.Body>
      {footer !== undefined && <Modal.Footer>{footer}</Modal.Footer>}
    </>
  );
  return (
    <Modal
      show
      centered
      scrollable={scrolls}
      size={isWide ? 'lg' : undefined}
      aria-labelledby={id}
      dialogClassName={className}
      onHide={onClose}
    >
      {onSubmit ? (
        <Form className="fm-dialog-form" noValidate onSubmit={onSubmit}>
          {parts}
        </Form>
      ) : (
        parts
      )}
    </Modal>
  );
}
