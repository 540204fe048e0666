import { Form } from 'react-bootstrap';
import type { ComponentPropsWithRef, ReactNode } from 'react';

/** A line of text, or several. */
export function TextInput({
  isFigure = false,
  rows,
  className = '',
  ...rest
}: Omit<ComponentPropsWithRef<'input'>, 'size' | 'value' | 'defaultValue'> & {
  readonly value?: string | number;
  readonly defaultValue?: string | number;
  /** A figure: narrow, in the letters of figures. */
  readonly isFigure?: boolean;
  /** Lines it shows; 1 unless said. */
  readonly rows?: number;
  /** Shown as what cannot be taken as it is. */
  readonly isInvalid?: boolean;
}) {
  return (
    <Form.Control
      {...(rows === undefined ? { size: 'sm' as const } : { as: 'textarea' as 'input', rows })}
      className={`${className}${isFigure ? ' fm-figure-field fm-mono' : ''}`}
      {...rest}
    />
  );
}

/** A choice of one out of a short list. */
export function Select({
  isNarrow = false,
  className = '',
  ...rest
}: Omit<ComponentPropsWithRef<'select'>, 'size'> & {
  /** As wide as its words instead of as wide as the room. */
  readonly isNarrow?: boolean;
}) {
  return <Form.Select size="sm" className={`${className}${isNarrow ? ' fm-narrow' : ''}`} {...rest} />;
}

/** Something to tick, to switch, or one of several that exclude each other, with its words. */
export function Check({
  kind = 'checkbox',
  ...rest
}: Omit<ComponentPropsWithRef<'input'>, 'type' | 'size'> & {
  readonly kind?: 'checkbox' | 'radio' | 'switch';
  readonly label?: ReactNode;
}) {
  return <Form.Check type={kind} {...rest} />;
}

/** A box to tick, without its words: it stands in their label, or is named, and then as large to aim at as a button. */
export function CheckBox(props: Omit<ComponentPropsWithRef<'input'>, 'type'>) {
  const box = <Form.Check.Input type="checkbox" {...props} />;
  return props['aria-label'] === undefined ? box : <label className="fm-tick">{box}</label>;
}

/** One of several that exclude each other, without its words: it stands in their label. */
export function RadioButton(props: Omit<ComponentPropsWithRef<'input'>, 'type'>) {
  return <Form.Check.Input type="radio" {...props} />;
}

/** A value on a scale. */
export function Slider(props: Omit<ComponentPropsWithRef<'input'>, 'type'>) {
  return <Form.Range {...props} />;
}

/** The browser's choice of files; unseen, a button opens it. */
export function FileInput(props: Omit<ComponentPropsWithRef<'input'>, 'type' | 'className'>) {
  return <input type="file" className="visually-hidden" tabIndex={-1} {...props} />;
}
