'use client';
import { type ReactNode, useState } from 'react';
import { createPortal } from 'react-dom';
import { Dropdown } from 'react-bootstrap';
import { OVER_PAGE } from './menu';
import { useLandmark } from './use-landmark';

/** A small panel that opens under a button and stays while one works in it. */
export function Panel({
  label,
  button,
  isNamedByButton = false,
  buttonClass = 'fm-quiet fm-no-caret',
  className = '',
  onClose,
  children,
}: {
  readonly label: string;
  readonly button: ReactNode;
  /** What the button shows is its name; else it is called as the panel is. */
  readonly isNamedByButton?: boolean;
  readonly buttonClass?: string;
  readonly className?: string;
  readonly onClose?: () => void;
  readonly children: ReactNode;
}) {
  const [isShown, setShown] = useState(false);
  const { button: toggle, landmark, find } = useLandmark<HTMLButtonElement>();
  return (
    <Dropdown
      autoClose="outside"
      align="end"
      show={isShown}
      onToggle={(next) => {
        find();
        setShown(next);
        if (!next) onClose?.();
      }}
    >
      <Dropdown.Toggle
        ref={toggle}
        as="button"
        type="button"
        className={buttonClass}
        {...(isNamedByButton ? {} : { 'aria-label': label, title: label })}
      >
        {button}
      </Dropdown.Toggle>
      {isShown &&
        landmark &&
        createPortal(
          <Dropdown.Menu
            className={`fm-panel-menu ${className}`}
            popperConfig={OVER_PAGE}
            role="group"
            aria-label={label}
          >
            {children}
          </Dropdown.Menu>,
          landmark,
        )}
    </Dropdown>
  );
}
