import type { HTMLAttributes } from 'react';

/** What stands where nothing is yet: what belongs here, and the way to it. */
export function Empty({ className = '', ...rest }: HTMLAttributes<HTMLDivElement>) {
  return <div className={`fm-empty ${className}`} {...rest} />;
}
