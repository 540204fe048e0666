import type { SessionView } from '@/contracts';
import { acceptedReading, leastCertain, type RatedPlace, ratedPlaces, type TempoReading } from '@/core/tempo';

type Known = Pick<SessionView, 'session' | 'tempo'>;

/** Which tempo is looked at: a new detection, or the session's map. */
export interface TempoInHand {
  /** Null before anything was found or accepted. */
  readonly reading: TempoReading | null;
  /** The newest detection, untouched. */
  readonly found: TempoReading | null;
  /** Job of the newest detection; empty = none. */
  readonly jobId: string;
  /** The detection is shown, not the session's map. */
  readonly isNew: boolean;
  readonly hasAccepted: boolean;
}

/** What is shown at Tempo: the newest detection until it is accepted or put aside (`putAside` = its job), else the session's map. */
export function tempoInHand({ session, tempo }: Known, putAside: string | null): TempoInHand {
  const jobId = tempo?.jobId ?? '';
  const found = tempo ? (tempo.result as TempoReading) : null;
  const accepted = acceptedReading(session, found);
  const isNew =
    found !== null && (accepted === null || (session.mapFacts?.foundBy !== jobId && putAside !== jobId));
  return { reading: isNew ? found : accepted, found, jobId, isNew, hasAccepted: accepted !== null };
}

/** The places of a reading most worth a listen, doubtful bar lines among them, without those found right. */
export const doubtsOf = (reading: TempoReading | null): RatedPlace[] =>
  reading === null ? [] : leastCertain(ratedPlaces(reading), { checked: reading.checked ?? [] });
