'use client';
import { useEffect, useMemo, useSyncExternalStore } from 'react';
import { MAX_PEAKS } from '@/contracts';
import { decodePeakParts, type PeakLevel } from '@/core/analysis';

const cache = new Map<string, Promise<PeakLevel | null>>();
const ready = new Map<string, PeakLevel>();

interface Wish {
  readonly id: string;
  readonly done: (peaks: PeakLevel | null) => void;
}
/** Waveforms asked for in this moment, by resolution: they go in one request. */
const wishes = new Map<number, Wish[]>();
/** Recordings in one request: an answer of so many is unpacked well below a frame's time. */
const AT_ONCE = Math.min(MAX_PEAKS, 24);

/** A waveform at one resolution; null while there is none. */
export function loadPeaks(recordingId: string, framesPerEntry: number): Promise<PeakLevel | null> {
  const key = `${recordingId}/${framesPerEntry}`;
  const found = cache.get(key);
  if (found) return found;
  const promise = new Promise<PeakLevel | null>((done) => {
    const open = wishes.get(framesPerEntry);
    if (open) open.push({ id: recordingId, done });
    else {
      wishes.set(framesPerEntry, [{ id: recordingId, done }]);
      setTimeout(() => void fetchWishes(framesPerEntry));
    }
  }).then((peaks) => {
    if (peaks) ready.set(key, peaks);
    else cache.delete(key);
    return peaks;
  });
  cache.set(key, promise);
  return promise;
}

async function fetchWishes(framesPerEntry: number): Promise<void> {
  const asked = wishes.get(framesPerEntry) ?? [];
  wishes.delete(framesPerEntry);
  // One after the other: sound that is to be heard comes over the same few connections.
  for (let at = 0; at < asked.length; at += AT_ONCE) {
    const part = asked.slice(at, at + AT_ONCE);
    const levels = await fetch('/api/peaks', {
      method: 'POST',
      headers: { 'content-type': 'application/json' },
      body: JSON.stringify({ recordings: part.map((w) => w.id), framesPerEntry }),
    }).then(
      async (r) => (r.ok ? decodePeakParts(new Uint8Array(await r.arrayBuffer())) : []),
      () => [],
    );
    part.forEach((w, i) => w.done(levels[i] ?? null));
    // What came is shown at once, all of a request together. Promises of the wishes settle first.
    tellSoon();
  }
}

const listeners = new Set<() => void>();
let arrived = 0;

/** While many come in, all that asks is drawn again so often and no more, ms. */
const TELL_EVERY_MS = 50;
let told = false;

function tellSoon(): void {
  if (told) return;
  told = true;
  setTimeout(() => {
    told = false;
    tell();
  }, TELL_EVERY_MS);
}

function tell(): void {
  arrived += 1;
  listeners.forEach((l) => l());
}

function subscribe(listener: () => void): () => void {
  listeners.add(listener);
  return () => listeners.delete(listener);
}

/** Waveforms of recordings at one resolution, as they come in; what is not there yet is missing from the map. */
export function usePeaks(
  recordingIds: readonly string[],
  framesPerEntry: number,
): ReadonlyMap<string, PeakLevel> {
  const tick = useSyncExternalStore(
    subscribe,
    () => arrived,
    () => 0,
  );
  const key = recordingIds.join();
  useEffect(() => {
    for (const id of key === '' ? [] : key.split(',')) void loadPeaks(id, framesPerEntry);
  }, [key, framesPerEntry]);
  // The same map until something came: what is drawn from it is drawn once.
  return useMemo(() => {
    const map = new Map<string, PeakLevel>();
    for (const id of key === '' ? [] : key.split(',')) {
      const peaks = ready.get(`${id}/${framesPerEntry}`);
      if (peaks) map.set(id, peaks);
    }
    return map;
    // `tick` says that there is more in `ready`.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [key, framesPerEntry, tick]);
}
