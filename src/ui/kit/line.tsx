import type { CSSProperties, ElementType, HTMLAttributes } from 'react';

interface LineProps extends HTMLAttributes<HTMLElement> {
  readonly as?: ElementType;
  /** Room between its parts, quarters of a rem; 2 unless said. */
  readonly gap?: 0 | 1 | 2 | 3;
  readonly align?: 'center' | 'start' | 'end' | 'baseline';
  /** Parts that find no room go to a further line. */
  readonly wraps?: boolean;
}

/** Parts side by side. */
export function Line({
  as: Element = 'div',
  gap = 2,
  align = 'center',
  wraps = false,
  className = '',
  style,
  ...rest
}: LineProps) {
  const layout: CSSProperties = { gap: `${gap / 4}rem`, alignItems: align, ...style };
  return (
    <Element
      className={`fm-line${wraps ? ' fm-line-wraps' : ''}${className ? ` ${className}` : ''}`}
      style={layout}
      {...rest}
    />
  );
}
