import { useEffect, useMemo, useReducer } from 'react';
import { parseHouseStyle, type StyleIssue } from '@/contracts';
import type { HouseStyle } from '@/core/style';

/** A style being changed: nothing is kept until it is saved. */
export interface StyleDraft {
  readonly style: HouseStyle;
  /** What must be mended before it can be kept. */
  readonly issues: readonly StyleIssue[];
  readonly canUndo: boolean;
  readonly canRedo: boolean;
  readonly isChanged: boolean;
  readonly change: (fields: Partial<HouseStyle>) => void;
  readonly undo: () => void;
  readonly redo: () => void;
  /** Begins again from a style that is kept. */
  readonly reset: (style: HouseStyle) => void;
}

interface State {
  readonly past: readonly HouseStyle[];
  readonly now: HouseStyle;
  readonly future: readonly HouseStyle[];
}

type Action =
  | { readonly kind: 'change'; readonly fields: Partial<HouseStyle> }
  | { readonly kind: 'undo' | 'redo' }
  | { readonly kind: 'reset'; readonly style: HouseStyle };

const MOST_STEPS = 200;

function step(state: State, action: Action): State {
  const { past, now, future } = state;
  if (action.kind === 'reset') return { past: [], now: action.style, future: [] };
  if (action.kind === 'change')
    return { past: [...past.slice(-MOST_STEPS), now], now: { ...now, ...action.fields }, future: [] };
  const [from, to] = action.kind === 'undo' ? [past, future] : [future, past];
  const next = action.kind === 'undo' ? from.at(-1) : from[0];
  if (!next) return state;
  return action.kind === 'undo'
    ? { past: past.slice(0, -1), now: next, future: [now, ...to] }
    : { past: [...to, now], now: next, future: future.slice(1) };
}

/** What was left unsaved survives a reload of the page. */
const storeKey = (id: string, version: number): string => `fernmoss-style-draft ${id} ${version}`;

function stored(key: string): HouseStyle | null {
  try {
    const parsed = parseHouseStyle(JSON.parse(window.sessionStorage.getItem(key) ?? 'null') as unknown);
    return parsed.ok ? parsed.value.style : null;
  } catch {
    return null;
  }
}

/** The draft of one version of a style. */
export function useStyleDraft(id: string, kept: HouseStyle): StyleDraft {
  const [state, dispatch] = useReducer(step, { past: [], now: kept, future: [] });
  const key = storeKey(id, kept.version);
  // After the first picture, which must be the server's.
  useEffect(() => {
    const left = stored(key);
    if (left) dispatch({ kind: 'change', fields: left });
  }, [key]);
  const isChanged = useMemo(() => JSON.stringify(state.now) !== JSON.stringify(kept), [state.now, kept]);
  useEffect(() => {
    if (isChanged) window.sessionStorage.setItem(key, JSON.stringify(state.now));
    else if (state.past.length + state.future.length > 0) window.sessionStorage.removeItem(key);
  }, [key, isChanged, state]);
  const issues = useMemo(() => {
    const parsed = parseHouseStyle(state.now);
    return parsed.ok ? [] : parsed.error.issues;
  }, [state.now]);
  return {
    style: state.now,
    issues,
    isChanged,
    canUndo: state.past.length > 0,
    canRedo: state.future.length > 0,
    change: (fields) => dispatch({ kind: 'change', fields }),
    undo: () => dispatch({ kind: 'undo' }),
    redo: () => dispatch({ kind: 'redo' }),
    reset: (style) => dispatch({ kind: 'reset', style }),
  };
}
