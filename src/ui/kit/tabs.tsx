import type { ReactNode } from 'react';
import { Button } from './button';

/** Views of the same thing side by side, one of them shown. */
export function Tabs<Key extends string>({
  label,
  tabs,
  chosen,
  onChoose,
  children,
}: {
  readonly label: string;
  readonly tabs: readonly { readonly key: Key; readonly label: ReactNode }[];
  readonly chosen: Key;
  readonly onChoose: (key: Key) => void;
  /** Beside them: the key that goes from one to the next. */
  readonly children?: ReactNode;
}) {
  return (
    <div className="fm-views" role="group" aria-label={label}>
      {tabs.map((t) => (
        <Button key={t.key} tone="quiet" isOn={chosen === t.key} onClick={() => onChoose(t.key)}>
          {t.label}
        </Button>
      ))}
      {children}
    </div>
  );
}
