/** One stroke of the click. */
export interface ClickBeat {
  /** Moment in the file, s. */
  readonly seconds: number;
  /** Stronger and higher: a downbeat. */
  readonly accent: boolean;
}

const SECONDS = 0.03;
const ACCENT_HZ = 1760;
const PLAIN_HZ = 1175;
const PEAK = 0.5; // −6 dBFS
const BLOCK = 65_536;

/** The click as mono blocks covering `lengthFrames`; each stroke begins at its exact moment, between samples too. */
export function* renderClick(beats: readonly ClickBeat[], sampleRateHz: number, lengthFrames: number): Generator<readonly Float32Array[]> {
  const span = Math.ceil(SECONDS * sampleRateHz);
  let first = 0;
  for (let start = 0; start < lengthFrames; start += BLOCK) {
    const out = new Float32Array(Math.min(BLOCK, lengthFrames - start));
    for (let b = first; b < beats.length; b++) {
      const beat = beats[b] as ClickBeat;
      const begin = beat.seconds * sampleRateHz;
      if (begin >= start + out.length) break;
      if (begin + span < start) {
        first = b + 1;
        continue;
      }
      const from = Math.max(start, Math.ceil(begin));
      for (let i = from; i < Math.min(start + out.length, begin + span); i++) {
        const age = (i - begin) / sampleRateHz;
        // A cosine begins with its peak: the edge is the moment.
        out[i - start] = (out[i - start] as number) + (beat.accent ? PEAK : PEAK * 0.7) * Math.cos(2 * Math.PI * (beat.accent ? ACCENT_HZ : PLAIN_HZ) * age) * Math.exp((-6 * age) / SECONDS);
      }
    }
    yield [out];
  }
}
