'use client';
import { useEffect, useRef, useState } from 'react';
import { array, object, string } from 'yup';
import { NOTHING_IN_HAND, type Workbench, workbench } from './workbench';

const placeKey = (sessionId: string): string => `fernmoss-place-${sessionId}`;

const id = string().min(1).max(200);
const ids = array(id.required()).max(5000).required();
const placeSchema = object({
  current: id.nullable().defined(),
  column: id.nullable().defined(),
  selected: ids,
  folded: ids,
  lenses: ids,
  filter: string().max(500).defined(),
}).noUnknown();

/** What a person has in hand, as it is kept; sets become lists. */
const placeOf = (w: Workbench): object => ({
  current: w.current,
  column: w.column,
  selected: [...w.selected],
  folded: [...w.folded],
  lenses: [...w.lenses],
  filter: w.filter,
});

/** What was kept; nothing where it cannot be read. */
function readPlace(kept: string | null): Partial<Workbench> {
  try {
    const { current, column, selected, folded, lenses, filter } = placeSchema.validateSync(
      JSON.parse(kept ?? ''),
      { strict: true },
    );
    const sets = { selected: new Set(selected), folded: new Set(folded), lenses: new Set(lenses) };
    return { current, column, filter, anchor: current, ...sets };
  } catch {
    return {};
  }
}

/** Keeps what one has in hand over reloads and ways back, a session at a time, in this tab. */
export function useKeptPlace(sessionId: string): void {
  useEffect(() => {
    const key = placeKey(sessionId);
    workbench.setState({ ...NOTHING_IN_HAND, ...readPlace(window.sessionStorage.getItem(key)) });
    return workbench.subscribe((w) => window.sessionStorage.setItem(key, JSON.stringify(placeOf(w))));
  }, [sessionId]);
}

/** A state of the page that a reload keeps, in this tab: `first` until another is chosen; `read` makes it of what was kept, undefined where that is none. */
function useKept<T extends string | number>(
  key: string,
  first: T,
  read: (kept: string | null) => T | undefined,
): readonly [T, (value: T) => void] {
  const [value, setValue] = useState<T>(first);
  const reader = useRef(read);
  useEffect(() => {
    const found = reader.current(window.sessionStorage.getItem(key));
    // After the first paint: what the server sends knows nothing of this tab.
    if (found !== undefined) setValue(found);
  }, [key]);
  return [
    value,
    (next) => {
      setValue(next);
      window.sessionStorage.setItem(key, String(next));
    },
  ];
}

/** A kept state that is one of `of`, the first until another is chosen. */
export const useKeptState = <T extends string>(
  key: string,
  of: readonly [T, ...T[]],
): readonly [T, (value: T) => void] => useKept<T>(key, of[0], (kept) => of.find((v) => v === kept));

/** A kept number, never less than `least`. */
export const useKeptNumber = (
  key: string,
  first: number,
  least: number,
): readonly [number, (value: number) => void] =>
  useKept(key, first, (kept) => {
    const number = Number(kept);
    return Number.isFinite(number) && number >= least ? number : undefined;
  });
