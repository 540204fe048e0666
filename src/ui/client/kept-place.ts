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

/** A state of the page that a reload keeps, in this tab: one of `of`, the first until something is chosen. */
export function useKeptState<T extends string>(
  key: string,
  of: readonly [T, ...T[]],
): readonly [T, (value: T) => void] {
  const [value, setValue] = useState<T>(of[0]);
  const known = useRef(of);
  useEffect(() => {
    const kept = window.sessionStorage.getItem(key);
    const found = known.current.find((v) => v === kept);
    // After the first paint: what the server sends knows nothing of this tab.

    if (found !== undefined) setValue(found);
  }, [key]);
  return [
    value,
    (next) => {
      setValue(next);
      window.sessionStorage.setItem(key, next);
    },
  ];
}

/** The same of a number: `first` until another is chosen, never less than `least`. */
export function useKeptNumber(
  key: string,
  first: number,
  least: number,
): readonly [number, (value: number) => void] {
  const [value, setValue] = useState(first);
  const known = useRef(least);
  useEffect(() => {
    const kept = Number(window.sessionStorage.getItem(key));
    const found = kept >= known.current ? kept : undefined;
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
