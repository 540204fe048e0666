import { LEVELS_PER_SECOND } from '../analysis';
import type { Change, Lane, SessionState } from '../session';
import { soundTracks } from '../session';
import { beforeSong } from './before-song';
import { type TidyChoice, withChoices } from './choices';
import { originOf, type Stretch } from './cut-clips';
import { trimmedTo, type TrimFades } from './hand-clips';
import type { NothingBecause, TidyProposal } from './propose';
import { DOUBTFUL, type TidyPiece } from './reasons';
import type { Span } from './spans';

/** From the first note of all tracks to where the last one has died away, in frames of 20 ms. */
export interface SongSpan extends Span {
  /** Tracks that begin and end it. */
  readonly firstId: string;
  readonly lastId: string;
  /** The first of them sounds from the first frame of its recording on, the last to the end of its own: more is not told. */
  readonly isFromBegin: boolean;
  readonly isToEnd: boolean;
}

/** What is left whole for these reasons says nothing of where the song is. */
const TELLS_NOTHING: readonly (NothingBecause | null)[] = ['reference', 'silent', 'even', 'below-threshold'];

/** Where the song lies in what was recorded: by all sounds that are no doubt wanted, or were decided to stay (`choices`, by track), without what was said before; null where no track tells. */
export function songSpan(
  proposals: readonly TidyProposal[],
  choices: Readonly<Record<string, readonly TidyChoice[]>> = {},
): SongSpan | null {
  const talkTo = beforeSong(proposals)?.to ?? 0;
  const sounds = proposals.flatMap(({ id, pieces, begins, ends, nothingBecause }) => {
    if (TELLS_NOTHING.includes(nothingBecause)) return [];
    const own = choices[id] ?? [];
    const end = (pieces.at(-1) as TidyPiece).to;
    return withChoices(pieces, own).flatMap((p) => {
      if (!p.keeps) return [];
      const said = own.filter((c) => c.keeps && c.from < p.to && c.to > p.from);
      if (said.length === 0 && (p.confidence < DOUBTFUL || p.to <= talkTo)) return [];
      // Without the pads of what was found; what was said stays goes to its edges.
      const from = begins.find((at) => at >= p.from && at < p.to) ?? p.from;
      const to = ends.findLast((at) => at > p.from && at <= p.to) ?? p.to;
      const last = Math.max(to, ...said.map((c) => Math.min(c.to, p.to)));
      return [
        {
          id,
          from: Math.min(Math.max(talkTo, from), ...said.map((c) => Math.max(c.from, p.from))),
          to: last,
          isToEnd: last >= end,
        },
      ];
    });
  });
  const [one] = sounds;
  if (!one) return null;
  const first = sounds.reduce((a, b) => (b.from < a.from ? b : a), one);
  const last = sounds.reduce((a, b) => (b.to > a.to ? b : a), one);
  return {
    from: first.from,
    to: last.to,
    firstId: first.id,
    lastId: last.id,
    isFromBegin: first.from === 0,
    isToEnd: last.isToEnd,
  };
}

/** A moment of the levels, as a frame of the session. */
export const sessionFrame = (session: SessionState, levelFrame: number): number =>
  Math.round(
    originOf(soundTracks(session)) + (levelFrame * (session.sampleRateHz ?? 48_000)) / LEVELS_PER_SECOND,
  );

/** Takes off all tracks what lies before and after a stretch; what is kept silent stays, and so do the sender's mix and a click. Empty where nothing lies outside. */
export const trimToSong = (
  session: SessionState,
  lengthOf: (lane: Lane) => number,
  { stretch, fades }: { readonly stretch: Stretch; readonly fades: TrimFades },
): Change[] =>
  soundTracks(session).flatMap((track): Change[] => {
    if (track.family === 'reference' || track.family === 'click') return [];
    const clips = trimmedTo({ track, lengthOf }, stretch, fades);
    return clips ? [{ kind: 'track.cut', id: track.id, clips }] : [];
  });
