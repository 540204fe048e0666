import { beginOf } from '../arrange';
import { asConformed } from '../conform';
import { type SessionState, soundTracks } from '../session';
import type { HouseStyle } from '../style';
import { createSongMap, type Meter, type SongMap } from '../time';

/** Up to so many bars lead in so that a number somebody set for the first bar holds in a program where tick 0 is bar 1. */
const MOST_FOR_NUMBER = 8;

/**
 * Whole bars of a package before the first downbeat: at least the style's, more when sound lies before it; the same for
 * what was played and what was conformed, so that a bar has one number. 0 without a map. `session` = as played.
 */
export function leadInBars(session: SessionState, style: Pick<HouseStyle, 'leadInBars'>): number {
  if (!session.map) return 0;
  if (session.cutBars !== null) return session.cutBars;
  const versions = session.conform ? [session, asConformed(session)] : [session];
  const needed = Math.max(style.leadInBars, ...versions.map(neededBars));
  const number = session.map.meters[0]?.number;
  return number !== undefined && number - 1 > needed && number - 1 <= MOST_FOR_NUMBER ? number - 1 : needed;
}

/** Bars that sound before the first downbeat takes. */
function neededBars(session: SessionState): number {
  if (!session.map || session.sampleRateHz === null) return 0;
  const { tempo, meters } = createSongMap(session.map.points, session.map.meters);
  const firstDownbeat = tempo.toSeconds(0);
  const bar = tempo.toSeconds(meters.barToQuarters(2)) - firstDownbeat;
  // A hair of tolerance: sound that ends exactly on the bar line needs no further bar.
  return Math.ceil((firstDownbeat + framesBefore(session) / session.sampleRateHz) / bar - 1e-6);
}

/** What sounds before the common zero needs silence in front of all others, frames. */
export const framesBefore = (session: SessionState): number =>
  Math.max(0, ...soundTracks(session).map((t) => -(beginOf(t) ?? 0)));

/** What people call the first bar: what somebody set, else its number in a program where tick 0 of the package is bar 1. */
const firstBarNumber = (session: SessionState, style: Pick<HouseStyle, 'leadInBars'>): number =>
  session.map?.meters[0]?.number ?? leadInBars(session, style) + 1;

/** The map of a session with its bars called as in the package; null without one. `shown`: another version of the session (as conformed) that is shown with the same numbers. */
export function numberedMap(
  session: SessionState,
  style: Pick<HouseStyle, 'leadInBars'>,
  shown: Pick<SessionState, 'map'> = session,
): SongMap | null {
  if (!shown.map) return null;
  return createSongMap(shown.map.points, numbered(shown.map.meters, firstBarNumber(session, style)));
}

/** Meters whose first bar is called by a number. */
const numbered = (meters: readonly Meter[], number: number): readonly Meter[] =>
  meters.map((m, i) => (i === 0 ? { ...m, number: number + m.bar - 1 } : m));
