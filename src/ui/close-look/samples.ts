'use client';
import { useEffect, useSyncExternalStore } from 'react';
import { fetchSound } from '@/ui/client';

/** Frames of a piece that is fetched and kept as one. */
const TILE_FRAMES = 16_384;
/** Pieces kept, about 8 MB in stereo. */
const MOST_TILES = 64;
/** Pieces asked for at once. */
const MOST_ASKED = 40;

const tiles = new Map<string, readonly Float32Array[]>();
const asked = new Set<string>();

const listeners = new Set<() => void>();
/** Counts the pieces that came. */
let arrived = 0;

function subscribe(listener: () => void): () => void {
  listeners.add(listener);
  return () => listeners.delete(listener);
}

/** Samples of a stretch, channels apart; a piece not there yet is missing. */
export interface SampleView {
  readonly fromFrame: number;
  readonly toFrame: number;
  /** Channel `c` at a frame; null where nothing is there (yet). */
  at(channel: number, frame: number): number | null;
  readonly channels: number;
}

/** Frames `[fromFrame, toFrame)` of a sound, as they come in; null = none are wanted. */
export function useSamples(sound: string | null, fromFrame: number, toFrame: number): SampleView | null {
  // A piece may have been asked for by a look that has moved on since: whoever is there now hears of it.
  useSyncExternalStore(
    subscribe,
    () => arrived,
    () => 0,
  );
  const first = Math.max(0, Math.floor(fromFrame / TILE_FRAMES));
  const last = Math.floor(Math.max(0, toFrame - 1) / TILE_FRAMES);
  useEffect(() => {
    if (sound === null) return;
    const missing = Array.from(
      { length: Math.min(MOST_ASKED, last - first + 1) },
      (_, i) => first + i,
    ).filter((t) => !tiles.has(`${sound} ${t}`) && !asked.has(`${sound} ${t}`));
    if (missing.length === 0) return;
    for (const t of missing) asked.add(`${sound} ${t}`);
    void fetchSound(missing.map((t) => ({ sound, from: t * TILE_FRAMES, count: TILE_FRAMES })))
      .then(
        (parts) => missing.forEach((t, i) => keep(`${sound} ${t}`, parts[i] ?? [])),
        () => undefined,
      )
      .finally(() => {
        for (const t of missing) asked.delete(`${sound} ${t}`);
        arrived += 1;
        listeners.forEach((l) => l());
      });
  }, [sound, first, last]);
  if (sound === null) return null;
  const of = new Map(
    Array.from({ length: Math.min(MOST_ASKED, last - first + 1) }, (_, i) => [
      first + i,
      tiles.get(`${sound} ${first + i}`),
    ]),
  );
  return {
    fromFrame: Math.max(0, fromFrame),
    toFrame,
    channels: Math.max(0, ...[...of.values()].map((t) => t?.length ?? 0)),
    at: (channel, frame) => of.get(Math.floor(frame / TILE_FRAMES))?.[channel]?.[frame % TILE_FRAMES] ?? null,
  };
}

/** The oldest go first. */
function keep(key: string, channels: readonly Float32Array[]): void {
  tiles.set(key, channels);
  for (const old of tiles.keys()) {
    if (tiles.size <= MOST_TILES) break;
    tiles.delete(old);
  }
}
