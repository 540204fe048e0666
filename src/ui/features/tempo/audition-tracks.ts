import { AUDITION_TRACKS } from '@/contracts';
import { isHeard, pathOf, type SessionState, type Track, soundTracks } from '@/core/session';

/** Tracks, or folders heard as one sum, in an audition. */
export const AUDITION_VOICES = 6;

/** What an audition is of: the tracks in solo, each folder counting as one; without a solo one of each family in order, then the next. */
export function auditionTracks(session: SessionState, solo: ReadonlySet<string>): Track[] {
  if (solo.size > 0) {
    const chosen = soundTracks(session).filter((t) => solo.has(t.id));
    if (chosen.length <= AUDITION_VOICES) return chosen;
    const voiceOf = (t: Track): string => pathOf(session, t.id)[0] ?? t.id;
    const voices = [...new Set(chosen.map(voiceOf))].slice(0, AUDITION_VOICES);
    return chosen.filter((t) => voices.includes(voiceOf(t))).slice(0, AUDITION_TRACKS);
  }
  const audible = soundTracks(session).filter((t) => isHeard(session, t));
  const out: Track[] = [];
  for (const t of audible) if (!out.some((o) => o.family === t.family)) out.push(t);
  for (const t of audible) if (!out.includes(t)) out.push(t);
  return out.slice(0, AUDITION_VOICES);
}
