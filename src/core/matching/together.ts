import type { Family } from '../naming';
import { isKitMic } from '../tidy';

/** What tells which recordings were made together. */
export interface RecordedSource {
  readonly family: Family;
  readonly part: string | null;
  /** Recordings of one source share it; null = on its own. */
  readonly source: string | null;
}

/** Of each recording what it was made together with: a kit, the microphones over an ensemble, a source; null = on its own. */
export function recordedTogether(tracks: readonly RecordedSource[]): (string | null)[] {
  const keys = tracks.map((t) => (isKitMic(t) ? 'kit' : t.family === 'mains' ? 'mains' : t.source));
  return keys.map((key) => (keys.filter((k) => k === key).length > 1 ? key : null));
}
