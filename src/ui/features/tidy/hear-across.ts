import { type HeardTrack, hearTracks, type TidyTrack } from '@/core/tidy';
import type { FromShare, HearShare } from './tidy-messages';

/** So many workers at most, with at least so many tracks for each: less is not worth the copies. */
const [MOST_WORKERS, LEAST_TRACKS] = [6, 4];

const helpers = new Set<Worker>();

/** Lets go of what helpers are at work on. */
export function stopHelpers(): void {
  for (const helper of helpers) helper.terminate();
  helpers.clear();
}

/** Hears tracks on as many threads as there are; `told` is called behind each. What a helper cannot do is done here. */
export async function hearAcross(
  tracks: readonly TidyTrack[],
  told: (done: number) => void,
): Promise<HeardTrack[]> {
  const shares = sharesOf(tracks.length, navigator.hardwareConcurrency || 1);
  if (shares.length === 1) return hearTracks(tracks, told);
  let done = 0;
  const one = (): void => told(++done);
  // None is heard here meanwhile: helpers begin only while this thread is free.
  const answers = await Promise.all(
    shares.map((which) => askHelper({ kind: 'hear-share', tracks, which }, one)),
  );
  const heard = new Map<number, HeardTrack>();
  shares.forEach((which, k) => {
    const found = answers[k] ?? hearTracks(tracks, one, which);
    which.forEach((at, i) => heard.set(at, found[i] as HeardTrack));
  });
  return tracks.map((_, i) => heard.get(i) as HeardTrack);
}

/** Which tracks each of the threads hears: every so-manieth, as what costs most stands together. */
export function sharesOf(tracks: number, threads: number): readonly (readonly number[])[] {
  const count = Math.max(1, Math.min(MOST_WORKERS, threads, Math.floor(tracks / LEAST_TRACKS)));
  return Array.from({ length: count }, (_, k) =>
    Array.from({ length: Math.ceil((tracks - k) / count) }, (_, i) => k + i * count),
  );
}

/** Another worker of this kind at work on a share; null where it failed. */
function askHelper(share: HearShare, one: () => void): Promise<readonly HeardTrack[] | null> {
  return new Promise((answer) => {
    const helper = new Worker(self.location.href, { type: 'module' });
    helpers.add(helper);
    const end = (heard: readonly HeardTrack[] | null): void => {
      helper.terminate();
      helpers.delete(helper);
      answer(heard);
    };
    helper.onmessage = ({ data }: MessageEvent<FromShare>) =>
      data.kind === 'share-on' ? one() : end(data.heard);
    helper.onerror = (event) => {
      event.preventDefault();
      end(null);
    };
    helper.postMessage(share);
  });
}
