'use client';
import type { SoundName } from '@/contracts';
import { useEffect, useSyncExternalStore } from 'react';
import { gainAt, partIn, type Piece } from '@/core/arrange';
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

/** Samples of a stretch of a track as it sounds, channels apart; frames are those of the session. */
export interface SampleView {
  readonly fromFrame: number;
  readonly toFrame: number;
  /** Whether all that sounds here has come. */
  readonly isThere: boolean;
  /** Channel `c` at a frame; null where nothing sounds. */
  at(channel: number, frame: number): number | null;
  readonly channels: number;
}

/** A stretch of a piece in the song. */
interface Part {
  readonly piece: Piece<string>;
  readonly fromFrames: number;
  readonly soundFrames: number;
  readonly count: number;
}

const partsIn = (pieces: readonly Piece<string>[], from: number, to: number): Part[] =>
  pieces.flatMap((piece) => {
    const part = partIn(piece, from, to);
    return part ? [{ piece, ...part }] : [];
  });

const tilesOf = ({ piece, soundFrames, count }: Part): string[] => {
  const first = Math.floor(soundFrames / TILE_FRAMES);
  const last = Math.floor((soundFrames + count - 1) / TILE_FRAMES);
  return Array.from({ length: last - first + 1 }, (_, i) => `${piece.sound} ${first + i}`);
};

/** Frames `[fromFrame, toFrame)` of what pieces come to, as their sounds come in; null = none are wanted. */
export function useSamples(
  pieces: readonly Piece<string>[] | null,
  fromFrame: number,
  toFrame: number,
): SampleView | null {
  // A piece may have been asked for by a look that has moved on since: whoever is there now hears of it.
  useSyncExternalStore(
    subscribe,
    () => arrived,
    () => 0,
  );
  const parts = pieces ? partsIn(pieces, fromFrame, toFrame) : [];
  const wanted = [...new Set(parts.flatMap(tilesOf))].slice(0, MOST_ASKED);
  const key = wanted.join();
  useEffect(() => fetchTiles(key === '' ? [] : key.split(',')), [key]);
  if (!pieces) return null;
  const drawn = parts.map((part) => ({
    ...part,
    firstTile: Math.floor(part.soundFrames / TILE_FRAMES),
    tiles: tilesOf(part).map((name) => tiles.get(name)),
  }));
  return {
    fromFrame,
    toFrame,
    isThere: parts.length > 0 && wanted.every((name) => tiles.has(name)),
    channels: Math.max(0, ...drawn.flatMap((d) => d.tiles.map((t) => t?.length ?? 0))),
    at(channel, frame) {
      let sum: number | null = null;
      for (const { piece, fromFrames, soundFrames, count, firstTile, tiles: own } of drawn) {
        if (frame < fromFrames || frame >= fromFrames + count) continue;
        const at = soundFrames + frame - fromFrames;
        const tile = own[Math.floor(at / TILE_FRAMES) - firstTile];
        // One channel stands for both of a track of two.
        const sample = tile?.[Math.min(channel, tile.length - 1)]?.[at % TILE_FRAMES];
        if (sample !== undefined) sum = (sum ?? 0) + sample * gainAt(piece, frame);
      }
      return sum;
    },
  };
}

/** Asks for tiles that are neither there nor under way. */
function fetchTiles(names: readonly string[]): void {
  const missing = names.filter((name) => !tiles.has(name) && !asked.has(name));
  if (missing.length === 0) return;
  for (const name of missing) asked.add(name);
  const wishes = missing.map((name) => {
    const [sound = '', tile] = name.split(' ');
    return { sound: sound as SoundName, from: Number(tile) * TILE_FRAMES, count: TILE_FRAMES };
  });
  void fetchSound(wishes)
    .then(
      (parts) => missing.forEach((name, i) => keep(name, parts[i] ?? [])),
      () => undefined,
    )
    .finally(() => {
      for (const name of missing) asked.delete(name);
      arrived += 1;
      listeners.forEach((l) => l());
    });
}

/** The oldest go first. */
function keep(key: string, channels: readonly Float32Array[]): void {
  tiles.set(key, channels);
  for (const old of tiles.keys()) {
    if (tiles.size <= MOST_TILES) break;
    tiles.delete(old);
  }
}
