import type { MapFacts } from '../session';

/** A pulse and how sure it is, 0–1. */
interface RatedPulse {
  readonly seconds: number;
  readonly confidence: number;
}

const DOUBTFUL_BELOW = 0.75;
const APART_SECONDS = 4;

/** The places of a map most worth a listen: least certain first chosen, none within four seconds of another or of one that was found right, at most `most`; in order of time. `below` = what counts as doubtful. */
export function leastCertain(pulses: readonly RatedPulse[], { most = 5, below = DOUBTFUL_BELOW, checked = [] }: { readonly most?: number; readonly below?: number; readonly checked?: MapFacts['checked'] } = {}): RatedPulse[] {
  const isRight = (p: RatedPulse): boolean => checked.some((c) => c.right && Math.abs(c.seconds - p.seconds) <= APART_SECONDS);
  const sorted = pulses.filter((p) => p.confidence < below && !isRight(p)).sort((a, b) => a.confidence - b.confidence);
  const kept: RatedPulse[] = [];
  for (const p of sorted) if (kept.length < most && kept.every((k) => Math.abs(k.seconds - p.seconds) > APART_SECONDS)) kept.push(p);
  return kept.sort((a, b) => a.seconds - b.seconds);
}
