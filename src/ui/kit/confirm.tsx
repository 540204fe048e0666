'use client';
import type { ReactNode } from 'react';
import { Button } from './button';
import { Dialog } from './dialog';

/** Asks before what cannot be taken back: what would go is said, and the button says what it does. */
export function Confirm({
  title,
  action,
  children,
  onConfirm,
  onClose,
}: {
  readonly title: ReactNode;
  readonly action: string;
  readonly children: ReactNode;
  readonly onConfirm: () => void;
  readonly onClose: () => void;
}) {
  return (
    <Dialog
      title={title}
      onClose={onClose}
      footer={
        <>
          <Button onClick={onClose}>Cancel</Button>
          <Button tone="danger" onClick={onConfirm}>
            {action}
          </Button>
        </>
      }
    >
      {children}
    </Dialog>
  );
}
