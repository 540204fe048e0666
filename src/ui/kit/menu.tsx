'use client';
import { type ReactNode, useEffect, useRef, useState } from 'react';
import { createPortal } from 'react-dom';
import { Dropdown, type DropdownMenuProps } from 'react-bootstrap';
import { Kbd } from './kbd';
import { landmarkOf, useLandmark } from './use-landmark';

/** Something a menu offers, or a line between such things. */
export type MenuItem =
  | {
      readonly label: string;
      /** The keys that do the same. */
      readonly keys?: string;
      readonly isDisabled?: boolean;
      /** Set where it holds a state. */
      readonly isOn?: boolean;
      readonly run: () => void;
    }
  /** A file to have. */
  | { readonly label: string; readonly file: string }
  | 'line';

/** Laid over the page as a whole, so that no pane cuts it; where there is no room below, it goes up as far as it must. */
export const OVER_PAGE: NonNullable<DropdownMenuProps['popperConfig']> = {
  strategy: 'fixed',
  modifiers: [
    { name: 'flip', enabled: false },
    { name: 'preventOverflow', options: { altAxis: true, tether: false, padding: 8 } },
  ],
};

/** A button that opens a menu. */
export function Menu({
  label,
  items,
  children,
  className = 'fm-quiet',
  name = label,
  stays = false,
}: {
  readonly label: string;
  readonly items: readonly MenuItem[];
  /** What the button shows instead of its name. */
  readonly children?: ReactNode;
  readonly className?: string;
  /** What it is called where that is more than what it shows. */
  readonly name?: string;
  /** Open until one looks elsewhere: several things can be chosen. */
  readonly stays?: boolean;
}) {
  const [isShown, setShown] = useState(false);
  const { button, landmark, find } = useLandmark<HTMLButtonElement>();
  const isNamed = children !== undefined || name !== label;
  return (
    <Dropdown
      autoClose={stays ? 'outside' : true}
      show={isShown}
      onToggle={(next) => {
        find();
        setShown(next);
      }}
    >
      <Dropdown.Toggle
        ref={button}
        as="button"
        type="button"
        className={className}
        aria-label={isNamed ? name : undefined}
        title={isNamed ? name : undefined}
      >
        {children ?? label}
      </Dropdown.Toggle>
      {isShown &&
        landmark &&
        createPortal(
          <Dropdown.Menu className="fm-menu" popperConfig={OVER_PAGE}>
            <Items items={items} />
          </Dropdown.Menu>,
          landmark,
        )}
    </Dropdown>
  );
}

/** A menu at a point of the window, as a right click, a long touch or the menu key asks for it. */
export function MenuAt({
  at,
  label,
  items,
  onClose,
}: {
  /** CSS px from the window's corner. */
  readonly at: { readonly x: number; readonly y: number };
  readonly label: string;
  readonly items: readonly MenuItem[];
  readonly onClose: () => void;
}) {
  const list = useRef<HTMLDivElement>(null);
  useEffect(() => {
    // Popper places it a moment later: what is focused before jumps the page to where it was.
    const timer = setTimeout(
      () =>
        list.current?.querySelector<HTMLElement>('.dropdown-item:enabled')?.focus({ preventScroll: true }),
      0,
    );
    return () => clearTimeout(timer);
  }, [at]);
  return (
    <Dropdown show onToggle={(isShown) => !isShown && onClose()}>
      <Dropdown.Toggle
        as="span"
        className="fm-menu-point"
        role="button"
        aria-label={label}
        style={{ left: at.x, top: at.y }}
        tabIndex={-1}
      />
      {createPortal(
        <Dropdown.Menu ref={list} className="fm-menu" popperConfig={OVER_PAGE} aria-label={label}>
          <Items items={items} />
        </Dropdown.Menu>,
        landmarkOf(null),
      )}
    </Dropdown>
  );
}

function Items({ items }: { readonly items: readonly MenuItem[] }) {
  return items.map((item, i) =>
    item === 'line' ? (
      <Dropdown.Divider key={`line ${i}`} />
    ) : 'file' in item ? (
      <Dropdown.Item key={item.label} href={item.file} download>
        {item.label}
      </Dropdown.Item>
    ) : (
      <Dropdown.Item
        key={item.label}
        as="button"
        type="button"
        disabled={item.isDisabled}
        aria-pressed={item.isOn}
        className={item.isOn ? 'is-on' : ''}
        onClick={item.run}
      >
        <span className="fm-grow">{item.label}</span>
        {item.keys !== undefined && <Kbd>{item.keys}</Kbd>}
      </Dropdown.Item>
    ),
  );
}
