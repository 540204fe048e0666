import { ICON_PATHS } from './icon-paths';

/** Name of a picture that there is. */
export type IconName = keyof typeof ICON_PATHS;

/** A small picture, as large as the words beside it; told only where it says something they do not. */
export function Icon({
  name,
  label,
  className = '',
}: {
  readonly name: IconName;
  readonly label?: string;
  readonly className?: string;
}) {
  const told = label === undefined ? { 'aria-hidden': true } : { role: 'img', 'aria-label': label };
  return (
    <svg className={`fm-icon ${className}`} viewBox="0 0 16 16" {...told}>
      {ICON_PATHS[name].map((d) => (
        <path key={d} d={d} fillRule="evenodd" />
      ))}
    </svg>
  );
}
