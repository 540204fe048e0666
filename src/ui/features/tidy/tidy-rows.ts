import type { RecordingView, SessionView } from '@/contracts';
import { type FadeShape, isEntire, type Lane, soundTracks, type Track } from '@/core/session';
import type { SortProposal } from '@/core/style';
import {
  originOf,
  cutLane,
  DOUBTFUL,
  isSameCut,
  silencedStretches,
  without,
  type Stretch,
  type TidyChoice,
  type TidyPiece,
  type HandTrack,
  type TidyProposal,
  toldClips,
  type ToldClip,
  withChoices,
} from '@/core/tidy';
import { LEVELS_PER_SECOND } from '@/core/analysis';
import { knownTracks } from './known-tracks';
import type { TrackToHear } from './tidy-messages';

/** A piece of a track as it is shown. */
export interface ShownPiece extends Stretch {
  readonly keeps: boolean;
  /** It is there, and silent. */
  readonly isSilenced: boolean;
  readonly reason: TidyPiece['reason'];
  /** Somebody should listen to it. */
  readonly isDoubtful: boolean;
  /** Where in the levels it lies, frames of 20 ms from the common beginning; null = it is what was cut before. */
  readonly span: { readonly from: number; readonly to: number } | null;
}

/** A fade of a piece as it is now. */
export interface ShownFade extends Stretch {
  readonly isIn: boolean;
  readonly shape: FadeShape;
}

/** Why nothing is proposed for a track, besides what the proposal says. */
export type LeftBecause = 'arranged' | 'waiting' | 'missing';

/** A track at Tidy. */
export interface TidyRow {
  readonly track: Track;
  /** The same with the lengths of its lanes, for the tools. */
  readonly hand: HandTrack;
  readonly lane: Lane | null;
  /** Of the lane's sound; 0 where it is not there. */
  readonly lengthFrames: number;
  readonly proposal: TidyProposal | null;
  readonly leftBecause: LeftBecause | null;
  /** What is proposed, with what was decided by hand; empty without a proposal. */
  readonly proposed: readonly ShownPiece[];
  /** What the picture shows: what is proposed where that will be done or is all there is, else what was cut. */
  readonly pieces: readonly ShownPiece[];
  /** Fades of what the picture shows; of what is only proposed none: they are no longer than its pads. */
  readonly fades: readonly ShownFade[];
  /** Whether the proposal will be done; null = there is none that would change anything. */
  readonly ticked: boolean | null;
}

/** What a person decided, by track. */
export interface Decided {
  readonly choices: Readonly<Record<string, readonly TidyChoice[]>>;
  readonly ticks: Readonly<Record<string, boolean>>;
}

/** The tracks whose levels can be looked at, as the worker is to hear them. */
export function tracksToHear(
  { session, recordings }: Pick<SessionView, 'session' | 'recordings'>,
  proposal: SortProposal,
): TrackToHear[] {
  const byId = new Map(recordings.map((r) => [r.id, r]));
  const rate = session.sampleRateHz;
  const known = knownTracks(session, proposal);
  const tracks = known.map((k) => k.track);
  const origin = originOf(tracks);
  return tracks.flatMap((track, i): TrackToHear[] => {
    const lane = cutLane(track);
    const r = lane && byId.get(lane.recordingId);
    if (!lane || !r?.hasLevels || rate === null || r.passingHz === null || r.sampleRateHz === null) return [];
    return [
      {
        id: track.id,
        recordingId: r.id,
        family: track.family,
        part: track.part,
        source: known[i]?.source ?? null,
        startSeconds: (lane.startFrames - origin) / rate,
        speed: r.passingHz / r.sampleRateHz,
      },
    ];
  });
}

/** Recordings that sound and whose levels are not known yet. */
export const withoutLevels = ({ recordings }: Pick<SessionView, 'recordings'>): RecordingView[] =>
  recordings.filter((r) => r.state === 'ready' && r.container !== 'midi' && !r.hasLevels);

/** Edges of a cut are the same within so many seconds: a cut that was put to the sample is still the one that was proposed. */
const SAME_SECONDS = 0.2;

/** All tracks that sound, in the order of the sheet. */
export function tidyRows(
  { session, recordings }: Pick<SessionView, 'session' | 'recordings'>,
  proposals: ReadonlyMap<string, TidyProposal>,
  decided: Decided,
): TidyRow[] {
  const byId = new Map(recordings.map((r) => [r.id, r]));
  const rate = session.sampleRateHz ?? 48_000;
  const origin = originOf(soundTracks(session));
  return soundTracks(session).map((track): TidyRow => {
    const proposal = proposals.get(track.id);
    const { [track.id]: choices } = decided.choices;
    const { [track.id]: tick } = decided.ticks;
    const of = [recordings, proposal, choices, tick, origin, rate];
    const known = KNOWN_ROWS.get(track);
    if (known && of.every((x, i) => x === known.of[i])) return known.row;
    const lane = cutLane(track);
    const lengthOf = ({ recordingId }: Lane): number => byId.get(recordingId)?.sessionFrames ?? 0;
    const hand = { track, lengthOf };
    const lengthFrames = lane ? lengthOf(lane) : 0;
    const row =
      lane && lengthFrames > 0 && proposal
        ? proposedRow({ hand, lane, lengthFrames, proposal }, decided, { origin, rate })
        : leftRow(hand, lane, lengthFrames);
    KNOWN_ROWS.set(track, { of, row });
    return row;
  });
}

/** The last row of each track, and what it was made of: while one changes, the others are drawn no more. */
const KNOWN_ROWS = new WeakMap<Track, { readonly of: readonly unknown[]; readonly row: TidyRow }>();

const leftRow = (hand: HandTrack, lane: Lane | null, lengthFrames: number): TidyRow => ({
  ...{ track: hand.track, hand, lane, lengthFrames, proposed: [], ticked: null, proposal: null },
  leftBecause: lane === null ? 'arranged' : lengthFrames === 0 ? 'missing' : 'waiting',
  pieces: asCut(hand, lane, lengthFrames),
  fades: fadesOf(hand),
});

function proposedRow(
  of: {
    readonly hand: HandTrack;
    readonly lane: Lane;
    readonly lengthFrames: number;
    readonly proposal: TidyProposal;
  },
  { choices, ticks }: Decided,
  { origin, rate }: { readonly origin: number; readonly rate: number },
): TidyRow {
  const { hand, lane, lengthFrames, proposal } = of;
  const { track } = hand;
  const pieces = withChoices(proposal.pieces, choices[track.id] ?? []);
  const proposed = withSilence(
    shownPieces(pieces, { lane, lengthFrames, origin, rate }),
    silencedStretches(track, lane, lengthFrames),
  );
  const now = asCut(hand, lane, lengthFrames);
  const isDone = isSameCut(kept(proposed), kept(now), SAME_SECONDS * rate);
  const ticked = isDone ? null : (ticks[track.id] ?? isEntire(track));
  const isShown = ticked === true || (isDone && isEntire(track));
  return {
    ...{ track, hand, lane, lengthFrames, proposal, proposed, ticked },
    leftBecause: null,
    pieces: isShown ? proposed : now,
    fades: isShown && !isDone ? [] : fadesOf(hand),
  };
}

function fadesOf(hand: HandTrack): ShownFade[] {
  return toldClips(hand).flatMap((c): ShownFade[] => [
    ...(c.fadeInFrames > 0
      ? [
          {
            fromFrames: c.fromFrames,
            toFrames: c.fromFrames + c.fadeInFrames,
            isIn: true,
            shape: c.fadeInShape,
          },
        ]
      : []),
    ...(c.fadeOutFrames > 0
      ? [
          {
            fromFrames: c.toFrames - c.fadeOutFrames,
            toFrames: c.toFrames,
            isIn: false,
            shape: c.fadeOutShape,
          },
        ]
      : []),
  ]);
}

/** Whether a row is still to be decided about: its doubts are walked through. */
const isOpen = ({ track, proposal, ticked }: TidyRow): boolean =>
  proposal !== null && ticked !== false && (ticked === true || isEntire(track));

/** A doubtful piece of a row. */
export interface Doubt {
  readonly row: TidyRow;
  readonly piece: ShownPiece;
}

/** What somebody should listen to, row by row; of rows that are cut together each place once. */
export function doubtsOf(rows: readonly TidyRow[]): Doubt[] {
  const seen = new Set<string>();
  return rows.filter(isOpen).flatMap((row) =>
    row.pieces.flatMap((piece): Doubt[] => {
      if (!piece.isDoubtful) return [];
      const group = row.proposal?.group ?? null;
      const key = `${group} ${piece.span?.from}`;
      if (group !== null && seen.has(key)) return [];
      seen.add(key);
      return [{ row, piece }];
    }),
  );
}

/** The tracks that are cut with one: itself, and those of its group. */
export function togetherWith(rows: readonly TidyRow[], trackIds: Iterable<string>): string[] {
  const ids = new Set(trackIds);
  const groups = new Set(
    rows.flatMap((r) => (ids.has(r.track.id) && r.proposal?.group ? [r.proposal.group] : [])),
  );
  return rows
    .filter((r) => ids.has(r.track.id) || (r.proposal?.group && groups.has(r.proposal.group)))
    .map((r) => r.track.id);
}

/** What of pieces stays; neighbours that meet are one: between them nothing was cut. */
export function kept(pieces: readonly ShownPiece[]): Stretch[] {
  const out: Stretch[] = [];
  for (const { keeps, fromFrames, toFrames } of pieces) {
    if (!keeps) continue;
    const last = out.at(-1);
    if (last && last.toFrames >= fromFrames)
      out[out.length - 1] = { fromFrames: last.fromFrames, toFrames: Math.max(last.toFrames, toFrames) };
    else out.push({ fromFrames, toFrames });
  }
  return out;
}

/** The pieces of a track as it is now, and what is out between them; frames two share, crossing over, are the later one's. */
function asCut(hand: HandTrack, lane: Lane | null, lengthFrames: number): ShownPiece[] {
  const clips = toldClips(hand);
  const out: ShownPiece[] = [];
  const piece = (fromFrames: number, toFrames: number, clip: ToldClip | null): void => {
    if (toFrames > fromFrames)
      out.push({
        ...{ fromFrames, toFrames, keeps: clip !== null && !clip.off, isSilenced: clip?.off === true },
        ...{ reason: clip ? 'sound' : 'silence', isDoubtful: false, span: null },
      });
  };
  let at = lane ? lane.startFrames : (clips[0]?.fromFrames ?? 0);
  for (const [i, clip] of clips.entries()) {
    piece(at, clip.fromFrames, null);
    const end = Math.min(clip.toFrames, clips[i + 1]?.fromFrames ?? Infinity);
    piece(clip.fromFrames, end, clip);
    at = Math.max(at, end);
  }
  if (lane) piece(at, lane.startFrames + lengthFrames, null);
  return out;
}

/** Pieces with what was silenced before: that stays silent, whatever is proposed. */
const withSilence = (pieces: readonly ShownPiece[], silenced: readonly Stretch[]): ShownPiece[] =>
  silenced.length === 0
    ? [...pieces]
    : [
        ...pieces.flatMap((p) => without(p, silenced).map((s): ShownPiece => ({ ...p, ...s }))),
        ...silenced.map((s): ShownPiece => ({
          ...s,
          ...{ keeps: false, isSilenced: true, reason: 'sound', isDoubtful: false, span: null },
        })),
      ].sort((a, b) => a.fromFrames - b.fromFrames);

/** Levels begin and end to half a frame of 20 ms: an edge so near to an end of a lane is that end, s. */
const END_SECONDS = 0.03;

/** Pieces of a proposal in the session's frames, inside of their lane. */
function shownPieces(
  pieces: readonly TidyPiece[],
  {
    lane,
    lengthFrames,
    origin,
    rate,
  }: {
    readonly lane: Lane;
    readonly lengthFrames: number;
    readonly origin: number;
    readonly rate: number;
  },
): ShownPiece[] {
  const [begin, end] = [lane.startFrames, lane.startFrames + lengthFrames];
  const near = END_SECONDS * rate;
  const place = (frame: number): number => {
    const at = Math.round(origin + (frame * rate) / LEVELS_PER_SECOND);
    return at < begin + near ? begin : at > end - near ? end : at;
  };
  return pieces.flatMap((p): ShownPiece[] => {
    const [fromFrames, toFrames] = [place(p.from), place(p.to)];
    if (toFrames <= fromFrames) return [];
    return [
      {
        ...{ fromFrames, toFrames, keeps: p.keeps, isSilenced: false, reason: p.reason },
        isDoubtful: p.confidence < DOUBTFUL,
        span: { from: p.from, to: p.to },
      },
    ];
  });
}

/** What a row takes out: seconds, and in how many places. */
export function goneOf(
  { pieces }: TidyRow,
  rate: number,
): { readonly seconds: number; readonly places: number } {
  const gone = pieces.filter((p) => !p.keeps);
  return {
    seconds: gone.reduce((sum, p) => sum + p.toFrames - p.fromFrames, 0) / rate,
    places: gone.length,
  };
}
