'use client';
import { Button as BaseButton, Overlay, Tooltip } from 'react-bootstrap';
import { type ComponentPropsWithRef, type ReactNode, useRef, useState } from 'react';

/** How much a button asks for: `main` is what one does next, `bare` has a look of its own. */
export type ButtonTone = 'plain' | 'main' | 'danger' | 'quiet' | 'link' | 'choice' | 'bare';

const CLASSES: Readonly<Record<ButtonTone, string>> = {
  plain: 'fm-button',
  main: 'fm-main-button',
  danger: 'fm-danger-button',
  quiet: 'fm-quiet',
  link: 'fm-link',
  choice: 'fm-choice',
  bare: 'fm-bare',
};

/** Attributes of a {@link Button}. */
export interface ButtonProps extends ComponentPropsWithRef<'button'> {
  readonly tone?: ButtonTone;
  /** Set where the button holds a state: it is shown and told as pressed or not. */
  readonly isOn?: boolean;
}

/** A button; inside a form it sends only with `type="submit"`. */
export function Button({ tone = 'plain', isOn, className = '', ...rest }: ButtonProps) {
  const pressed = isOn === undefined || rest['aria-current'] !== undefined ? {} : { 'aria-pressed': isOn };
  return (
    <BaseButton
      bsPrefix={CLASSES[tone]}
      variant=""
      className={`${className}${isOn ? ' is-on' : ''}`}
      {...pressed}
      {...rest}
    />
  );
}

/** A button that is a picture: its name is told, and shown to pointer, keyboard and a long touch alike. */
export function IconButton({
  label,
  hint,
  tone = 'quiet',
  onClick,
  ...rest
}: Omit<ButtonProps, 'title' | 'aria-label'> & {
  readonly label: string;
  /** Beside the name where it is shown: the key that does the same, or what it would do. */
  readonly hint?: ReactNode;
}) {
  const [isShown, setShown] = useState(false);
  const button = useRef<HTMLButtonElement>(null);
  return (
    <>
      <Button
        {...rest}
        ref={button}
        tone={tone}
        aria-label={label}
        onPointerEnter={() => setShown(true)}
        onPointerLeave={() => setShown(false)}
        // What got the focus by a click needs no telling.
        onFocus={(e) => setShown(e.currentTarget.matches(':focus-visible'))}
        onBlur={() => setShown(false)}
        onClick={(e) => {
          setShown(false);
          onClick?.(e);
        }}
      />
      <Overlay show={isShown} target={button} placement="bottom" transition={false}>
        <Tooltip aria-hidden="true">
          {label} {hint}
        </Tooltip>
      </Overlay>
    </>
  );
}
