'use client';
import { type ReactNode, useState } from 'react';
import { createPortal } from 'react-dom';
import { Dropdown } from 'react-bootstrap';
import { OVER_PAGE } from './menu';

/** A small panel that opens under a button and stays while one works in it. */
export function Panel({
  label,
  button,
  children,
}: {
  readonly label: string;
  readonly button: ReactNode;
  readonly children: ReactNode;
}) {
  const [isShown, setShown] = useState(false);
  return (
    <Dropdown autoClose="outside" align="end" show={isShown} onToggle={setShown}>
      <Dropdown.Toggle
        as="button"
        type="button"
        className="fm-quiet fm-no-caret"
        aria-label={label}
        title={label}
      >
        {button}
      </Dropdown.Toggle>
      {isShown &&
        createPortal(
          <Dropdown.Menu className="fm-panel-menu" popperConfig={OVER_PAGE} role="group" aria-label={label}>
            {children}
          </Dropdown.Menu>,
          document.body,
        )}
    </Dropdown>
  );
}
