import { LEVEL_BANDS } from '@/core/analysis';
import { hearTracks, type TidyTrack } from '@/core/tidy';
import { createRandom } from '@/core/units';
import { hearAcross, sharesOf } from './hear-across';
import type { FromShare, HearShare } from './tidy-messages';

const FRAMES = 600;
const tracks = Array.from({ length: 9 }, (_, k): TidyTrack => {
  const random = createRandom(k + 1);
  // Noise, and something louder in the middle third.
  const level = (n: number): number => 60 + 8 * random() + (n > 200 && n < 400 ? 90 : 0);
  return {
    id: `t${k}`,
    levels: {
      frames: FRAMES,
      bands: Uint8Array.from({ length: FRAMES * LEVEL_BANDS }, (_, i) => level(Math.floor(i / LEVEL_BANDS))),
      total: Uint8Array.from({ length: FRAMES }, (_, n) => level(n)),
    },
    family: 'guitars',
    part: null,
    source: null,
  };
});

let fails = false;
let made = 0;
/** A helper as the browser would have it, on this thread. */
class FakeWorker {
  onmessage: ((event: { data: FromShare }) => void) | null = null;
  onerror: ((event: { preventDefault: () => void }) => void) | null = null;
  constructor() {
    made++;
  }
  postMessage({ tracks: all, which }: HearShare): void {
    setTimeout(() => {
      if (fails) this.onerror?.({ preventDefault: () => undefined });
      else this.onmessage?.({ data: { kind: 'share-heard', heard: hearTracks(all, undefined, which) } });
    });
  }
  terminate(): void {
    this.onmessage = null;
  }
}

beforeEach(() => {
  made = 0;
  Object.assign(globalThis, { Worker: FakeWorker, self: { location: { href: 'worker.js' } } });
  Object.defineProperty(globalThis, 'navigator', { value: { hardwareConcurrency: 8 }, configurable: true });
});

it.each([false, true])(
  'hears on several threads what one hears, in order (helpers fail: %s)',
  async (does) => {
    fails = does;
    const found = await hearAcross(tracks, () => undefined);
    expect(made).toBe(2);
    expect(found).toEqual(hearTracks(tracks));
  },
);

it('shares every track once, and few of them with nobody', () => {
  for (const count of [0, 1, 7, 8, 40, 300])
    for (const threads of [1, 2, 16]) {
      const shares = sharesOf(count, threads);
      expect(shares.flat().sort((a, b) => a - b)).toEqual(Array.from({ length: count }, (_, i) => i));
      expect(shares.length).toBeLessThanOrEqual(Math.max(1, Math.min(6, threads, count / 4)));
    }
});
