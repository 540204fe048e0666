'use client';
import { useEffect, useState } from 'react';

interface Peaks {
  readonly framesPerEntry: number;
  readonly minMax: Int16Array;
}

const cache = new Map<string, Promise<Peaks | null>>();
const ready = new Map<string, Peaks>();

/** A waveform at one resolution; null while there is none. */
export function loadPeaks(recordingId: string, framesPerEntry: number): Promise<Peaks | null> {
  const key = `${recordingId}/${framesPerEntry}`;
  const found = cache.get(key);
  if (found) return found;
  const promise = fetch(`/api/recordings/${recordingId}/peaks?frames=${framesPerEntry}`)
    .then(async (response) => {
      if (!response.ok) throw new Error('no peaks yet');
      const bytes = await response.arrayBuffer();
      const peaks = { framesPerEntry: new DataView(bytes).getUint32(0, true), minMax: new Int16Array(bytes, 4) };
      ready.set(key, peaks);
      return peaks;
    })
    .catch(() => {
      cache.delete(key);
      return null;
    });
  cache.set(key, promise);
  return promise;
}

/** Waveforms of recordings at one resolution, as they come in; what is not there yet is missing from the map. */
export function usePeaks(recordingIds: readonly string[], framesPerEntry: number): ReadonlyMap<string, Peaks> {
  const [, setCount] = useState(0);
  const key = recordingIds.join();
  useEffect(() => {
    let live = true;
    const ids = key === '' ? [] : key.split(',');
    for (const id of ids) if (!ready.has(`${id}/${framesPerEntry}`)) void loadPeaks(id, framesPerEntry).then((peaks) => { if (live && peaks) setCount((n) => n + 1); });
    return () => { live = false; };
  }, [key, framesPerEntry]);
  const map = new Map<string, Peaks>();
  for (const id of recordingIds) {
    const peaks = ready.get(`${id}/${framesPerEntry}`);
    if (peaks) map.set(id, peaks);
  }
  return map;
}
