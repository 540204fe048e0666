import { Button as BaseButton, OverlayTrigger, Tooltip } from 'react-bootstrap';
import type { ComponentPropsWithRef, ReactNode } from 'react';

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
  children,
  ...rest
}: Omit<ButtonProps, 'title' | 'aria-label'> & {
  readonly label: string;
  /** Beside the name: the key that does the same. */
  readonly hint?: ReactNode;
}) {
  return (
    <OverlayTrigger
      placement="bottom"
      trigger={['hover', 'focus']}
      delay={{ show: 400, hide: 0 }}
      overlay={
        <Tooltip>
          {label}
          {hint !== undefined && <> {hint}</>}
        </Tooltip>
      }
    >
      <Button tone={tone} aria-label={label} {...rest}>
        {children}
      </Button>
    </OverlayTrigger>
  );
}
