'use client';
import { loudestStretch, phrases } from '@/core/analysis';
import type { SessionView } from '@/contracts';
import { isTrack } from '@/core/session';
import { loadTrackPeaks, useSessionStore, workbench } from '@/ui/client';
import { Button, Kbd } from '@/ui/kit';
import type { Player } from './player';
import { usePlayer, usePlayerState } from './player-context';

/** Where in a track to listen. */
export type ListenFrom = 'loudest' | 'first' | 'next';

const ENVELOPE_FRAMES = 1024;
const LOUDEST_SECONDS = 4;
const BEFORE_SECONDS = 0.2;

/** Goes to where the selected track plays and plays from there; whether alone or with all others stays as it is. */
export async function playWhereItPlays(
  view: SessionView,
  player: Player,
  place: ListenFrom,
  trackId = workbench.getState().current,
): Promise<void> {
  const track = trackId === null ? undefined : view.session.nodes[trackId];
  if (!isTrack(track)) return;
  const rate = view.session.sampleRateHz ?? 48_000;
  const found = await loadTrackPeaks(track, view.recordings, rate, ENVELOPE_FRAMES);
  if (!found) return;
  const { peaks, startSeconds: start } = found;
  const begins = phrases(peaks, peaks.sampleRateHz).map((p) => p.from + start);
  const now = player.state.getState().positionSeconds;
  const at =
    place === 'loudest'
      ? loudestStretch(peaks, peaks.sampleRateHz, LOUDEST_SECONDS) + start
      : place === 'first'
        ? begins[0]
        : (begins.find((p) => p > now + BEFORE_SECONDS + 0.05) ?? begins[0]);
  if (at === undefined) return;
  player.seek(Math.max(0, at - BEFORE_SECONDS));
  await player.play();
}

/** Keys of the places, wherever a track is selected. */
export const LISTEN_KEYS = { g: 'loudest', f: 'first', p: 'next' } as const satisfies Readonly<
  Record<string, ListenFrom>
>;
const NAMES: Readonly<Record<ListenFrom, string>> = {
  loudest: 'Loudest',
  first: 'First sound',
  next: 'Next phrase',
};

/** Goes to where a track plays, one button and key each; alone or in context. */
export function WhereItPlays({ trackId }: { readonly trackId: string }) {
  const store = useSessionStore();
  const player = usePlayer();
  const alone = usePlayerState((s) => s.soloIds.size === 1 && s.soloIds.has(trackId));
  return (
    <div className="fm-where" role="group" aria-label="Where it plays">
      {Object.entries(LISTEN_KEYS).map(([key, place]) => (
        <Button
          key={key}
          onClick={() => void playWhereItPlays(store.getState().view, player, place, trackId)}
        >
          <Kbd>{key.toUpperCase()}</Kbd> {NAMES[place]}
        </Button>
      ))}
      <Button
        tone="quiet"
        isOn={alone}
        onClick={() => player.setSolo(alone ? new Set() : new Set([trackId]))}
      >
        <Kbd>S</Kbd> Alone
      </Button>
    </div>
  );
}
