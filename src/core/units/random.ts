/** A repeatable source of numbers in [0, 1). */
export type Random = () => number;

// Named once: this is called for every sample of made sounds.
const { imul } = Math;

/** Seeded generator (mulberry32, public domain; from memory): same seed, same numbers. */
export function createRandom(seed: number): Random {
  let state = seed >>> 0;
  return () => {
    state = (state + 0x6d2b79f5) >>> 0;
    let t = state;
    t = imul(t ^ (t >>> 15), t | 1);
    t ^= t + imul(t ^ (t >>> 7), t | 61);
    return ((t ^ (t >>> 14)) >>> 0) / 4294967296;
  };
}
