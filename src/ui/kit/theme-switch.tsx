'use client';
import { useCallback, useSyncExternalStore } from 'react';
import { IconButton } from './button';
import { Icon } from './icon';

const KEY = 'fernmoss-theme';
const listeners = new Set<() => void>();

/** Follows the system unless a person chose; `data-bs-theme` on the root is the truth. */
const read = (): 'light' | 'dark' => (document.documentElement.dataset.bsTheme === 'dark' ? 'dark' : 'light');

function subscribe(listener: () => void): () => void {
  listeners.add(listener);
  const system = window.matchMedia('(prefers-color-scheme: dark)');
  const follow = (): void => {
    if (!window.localStorage.getItem(KEY)) apply(system.matches ? 'dark' : 'light');
  };
  system.addEventListener('change', follow);
  return () => {
    listeners.delete(listener);
    system.removeEventListener('change', follow);
  };
}

function apply(theme: 'light' | 'dark'): void {
  document.documentElement.dataset.bsTheme = theme;
  listeners.forEach((l) => l());
}

/** The theme in force and how to change it. */
export function useTheme(): { readonly theme: 'light' | 'dark'; readonly toggle: () => void } {
  const theme = useSyncExternalStore(subscribe, read, () => 'light' as const);
  const toggle = useCallback(() => {
    const next = read() === 'dark' ? 'light' : 'dark';
    window.localStorage.setItem(KEY, next);
    apply(next);
  }, []);
  return { theme, toggle };
}

/** The themes there are to choose; `system` follows the computer. */
export const THEMES = ['system', 'light', 'dark'] as const;
export type Theme = (typeof THEMES)[number];

/** The theme that was chosen, and choosing one. */
export function useChosenTheme(): readonly [Theme, (theme: Theme) => void] {
  const chosen = useSyncExternalStore(
    subscribe,
    () => THEMES.find((t) => t === window.localStorage.getItem(KEY)) ?? 'system',
    () => 'system' as const,
  );
  const choose = useCallback((theme: Theme) => {
    if (theme === 'system') window.localStorage.removeItem(KEY);
    else window.localStorage.setItem(KEY, theme);
    const isDark = window.matchMedia('(prefers-color-scheme: dark)').matches;
    apply(theme === 'system' ? (isDark ? 'dark' : 'light') : theme);
  }, []);
  return [chosen, choose];
}

/** Button between the light theme (paper) and the dark one (dusk). */
export function ThemeSwitch() {
  const { theme, toggle } = useTheme();
  return (
    <IconButton label={theme === 'dark' ? 'Light theme' : 'Dark theme'} onClick={toggle}>
      <Icon name={theme === 'dark' ? 'sun' : 'moon'} />
    </IconButton>
  );
}
