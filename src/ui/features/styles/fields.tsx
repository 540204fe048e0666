'use client';
import { useId, useState } from 'react';
import { asNoun } from '@/core/naming';
import { Button, Icon, Menu, Select, TextInput } from '@/ui/kit';

interface TextFieldProps {
  readonly label: string;
  readonly value: string;
  /** Keeps what was typed; null = fine, else what is wrong with it, which then stays to be mended. */
  readonly onKeep: (value: string) => string | null | void;
  readonly mono?: boolean;
  readonly hidden?: boolean;
  readonly placeholder?: string;
  readonly list?: readonly string[];
  readonly className?: string;
  readonly autoFocus?: boolean;
}

/** A text that is kept when the field is left or Enter pressed; Escape gives up. What does not fit stays, with the reason. */
export function TextField({
  label,
  value,
  onKeep,
  mono = false,
  hidden = false,
  placeholder,
  list,
  className,
  autoFocus,
}: TextFieldProps) {
  const id = useId();
  const [typed, setTyped] = useState<string | null>(null);
  const [wrong, setWrong] = useState<string | null>(null);
  const keep = (): void => {
    if (typed === null) return;
    const answer = typed === value ? null : (onKeep(typed) ?? null);
    setWrong(answer);
    if (answer === null) setTyped(null);
  };
  return (
    <div className={className}>
      <label className={hidden ? 'fm-unseen' : 'fm-label'} htmlFor={id}>
        {label}
      </label>
      <TextInput
        id={id}
        className={mono ? 'fm-mono' : undefined}
        value={typed ?? value}
        placeholder={placeholder}
        isInvalid={wrong !== null}
        aria-describedby={wrong === null ? undefined : `${id}-wrong`}
        list={list ? `${id}-list` : undefined}
        autoFocus={autoFocus}
        autoComplete="off"
        onChange={(e) => setTyped(e.target.value)}
        onBlur={keep}
        onKeyDown={(e) => {
          if (e.key === 'Enter') keep();
          if (e.key === 'Escape') {
            setTyped(null);
            setWrong(null);
          }
        }}
      />
      {list && (
        <datalist id={`${id}-list`}>
          {list.map((x) => (
            <option key={x} value={x} />
          ))}
        </datalist>
      )}
      {wrong !== null && (
        <div id={`${id}-wrong`} className="fm-attention fm-field-wrong" role="alert">
          {wrong}
        </div>
      )}
    </div>
  );
}

/** A choice of one. */
export function Choice<T extends string>({
  label,
  value,
  of,
  onChoose,
  hidden = false,
  className,
}: {
  readonly label: string;
  readonly value: T;
  readonly of: readonly (readonly [value: T, label: string])[];
  readonly onChoose: (value: T) => void;
  readonly hidden?: boolean;
  readonly className?: string;
}) {
  const id = useId();
  return (
    <div className={className}>
      <label className={hidden ? 'fm-unseen' : 'fm-label'} htmlFor={id}>
        {label}
      </label>
      <Select id={id} value={value} onChange={(e) => onChoose(e.target.value as T)}>
        {of.map(([v, text]) => (
          <option key={v} value={v}>
            {text}
          </option>
        ))}
      </Select>
    </div>
  );
}

const plain = (slug: string): string => slug.replaceAll('-', ' ');

/** Several of a fixed list. */
export function Several<T extends string>({
  label,
  value,
  of,
  onChoose,
  none = 'choose',
}: {
  readonly label: string;
  readonly value: readonly T[];
  readonly of: readonly T[];
  readonly onChoose: (value: T[]) => void;
  readonly none?: string;
}) {
  return (
    <Menu
      label={label}
      name={`${label}: ${value.map(plain).join(', ') || none}`}
      className="fm-button fm-several"
      stays
      items={of.map((x) => ({
        label: plain(x),
        isOn: value.includes(x),
        run: () => onChoose(of.filter((y) => (y === x ? !value.includes(x) : value.includes(y)))),
      }))}
    >
      {value.map(plain).join(', ') || <span className="fm-faint">{none}</span>}
    </Menu>
  );
}

/** Moves and removes one entry of a list, for each of its rows. */
export function RowKeys({
  name,
  index,
  count,
  onMove,
  onRemove,
}: {
  readonly name: string;
  readonly index: number;
  readonly count: number;
  readonly onMove?: (to: number) => void;
  readonly onRemove?: () => void;
}) {
  return (
    <span className="fm-row-keys">
      {onMove && (
        <Button
          tone="quiet"
          disabled={index === 0}
          aria-label={`${name}: up`}
          title="Up"
          onClick={() => onMove(index - 1)}
        >
          <Icon name="arrow-up" />
        </Button>
      )}
      {onMove && (
        <Button
          tone="quiet"
          disabled={index === count - 1}
          aria-label={`${name}: down`}
          title="Down"
          onClick={() => onMove(index + 1)}
        >
          <Icon name="arrow-down" />
        </Button>
      )}
      {onRemove && (
        <Button tone="quiet" aria-label={`${name}: remove`} title="Remove" onClick={onRemove}>
          <Icon name="x-lg" />
        </Button>
      )}
    </span>
  );
}

/** A list with one entry somewhere else. */
export function moved<T>(list: readonly T[], from: number, to: number): T[] {
  const rest = list.filter((_, i) => i !== from);
  return [...rest.slice(0, to), list[from] as T, ...rest.slice(to)];
}

/** A list with one entry changed. */
export const changedAt = <T,>(list: readonly T[], at: number, value: T): T[] =>
  list.map((x, i) => (i === at ? value : x));

/** A key that no other of a list has. */
export function freeKey(wish: string, taken: readonly string[]): string {
  const base =
    asNoun(wish)
      .replace(/^[^a-z]+/, '')
      .replace(/^own-/, '') || 'new';
  let key = base;
  for (let n = 2; taken.includes(key); n++) key = `${base}-${n}`;
  return key;
}

/** Several values typed with commas between. */
export const listed = (text: string): string[] => [
  ...new Set(
    text
      .split(',')
      .map((x) => x.trim())
      .filter((x) => x !== ''),
  ),
];
