/** A pulse and how sure it is, 0–1. */
interface RatedPulse {
  readonly seconds: number;
  readonly confidence: number;
}

const DOUBTFUL_BELOW = 0.75;
const APART_SECONDS = 4;

/** The places of a map most worth a listen: least certain first chosen, none within four seconds of another, at most `most`; in order of time. */
export function leastCertain(pulses: readonly RatedPulse[], most = 5): RatedPulse[] {
  const sorted = pulses.filter((p) => p.confidence < DOUBTFUL_BELOW).sort((a, b) => a.confidence - b.confidence);
  const kept: RatedPulse[] = [];
  for (const p of sorted) if (kept.length < most && kept.every((k) => Math.abs(k.seconds - p.seconds) > APART_SECONDS)) kept.push(p);
  return kept.sort((a, b) => a.seconds - b.seconds);
}
