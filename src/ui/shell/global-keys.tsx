'use client';
import { useRouter } from 'next/navigation';
import { useMemo } from 'react';
import { useShortcuts, type Shortcut } from '@/ui/kit';
import {
  chooseLens,
  doubtfulTracks,
  doubtsOf,
  lensesOf,
  nextDoubtHere,
  onceNamesAreRead,
  STAGES,
  selectOnly,
  tempoInHand,
  useSessionStore,
  workbench,
} from '@/ui/client';
import { LISTEN_KEYS, playWhereItPlays, usePlayer } from '@/ui/listening';

/** How much is heard before a doubtful place. */
const LEAD_SECONDS = 2;

/** Keys that work in every stage. */
export function GlobalKeys() {
  const router = useRouter();
  const store = useSessionStore();
  const player = usePlayer();
  const shortcuts = useMemo((): Shortcut[] => {
    const base = `/sessions/${store.getState().view.id}`;
    const jump = (): void => {
      const { view } = store.getState();
      const walk = nextDoubtHere();
      if (walk) return walk();
      // At Tempo the doubts are places of the map: walk through them, round and round.
      if (window.location.pathname.endsWith('/tempo')) {
        const places = doubtsOf(tempoInHand(view, workbench.getState().tempoPutAside).reading);
        const now = player.state.getState().positionSeconds;
        const next = places.find((p) => p.seconds - LEAD_SECONDS > now + 0.01) ?? places[0];
        if (next) return player.seek(Math.max(0, next.seconds - LEAD_SECONDS));
      }
      onceNamesAreRead(view, toNextDoubt);
    };
    const toNextDoubt = (): void => {
      const doubts = doubtfulTracks(store.getState().view);
      if (doubts.length === 0) return;
      const at = doubts.findIndex((t) => t.id === workbench.getState().current);
      const next = doubts[(at + 1) % doubts.length];
      chooseLens('all', false);
      if (next) selectOnly(next.id);
      router.push(`${base}/sort`);
    };
    /** Without a map there is nothing to click: said, not switched on unseen. */
    const click = (): void => {
      if (store.getState().view.session.map) player.toggleClick();
      else store.setState({ fault: { code: 'tempo.no_map' } });
    };
    return [
      { key: ' ', run: () => void player.toggle() },
      { key: 'c', run: click },
      { key: 'l', run: () => player.toggleLoop() },
      { key: 'd', run: () => player.toggleDim() },
      ...Object.entries(LISTEN_KEYS).map(([key, place]): Shortcut => ({
        key,
        run: () => void playWhereItPlays(store.getState().view, player, place),
      })),
      { key: 'home', mod: true, run: () => player.seek(0) },
      { key: 'z', mod: true, shift: false, run: () => store.getState().undo() },
      { key: 'z', mod: true, shift: true, run: () => store.getState().redo() },
      { key: 'n', run: jump },
      ...STAGES.map((stage, i) => ({
        key: String(i + 1),
        alt: true,
        run: () => router.push(`${base}/${stage}`),
      })),
      ...Array.from('1234567890', (digit): Shortcut => ({
        code: `Digit${digit}`,
        shift: true,
        run: () => {
          const lens = lensesOf(store.getState().view).find((l) => l.digit === digit);
          if (lens) chooseLens(lens.key, false);
        },
      })),
      ...Array.from('1234567890', (digit): Shortcut => ({
        code: `Digit${digit}`,
        shift: true,
        alt: true,
        run: () => {
          const lens = lensesOf(store.getState().view).find((l) => l.digit === digit);
          if (lens) chooseLens(lens.key, true);
        },
      })),
    ];
  }, [router, store, player]);
  useShortcuts(shortcuts);
  return null;
}
