'use client';
import { useEffect, useMemo } from 'react';
import type { LaneChoice, Phrase, RibbonPiece } from '@/core/comp';
import { playbackWarp } from '@/core/conform';
import { isTrack, laneTrackId, type Lane, laneTracks, lanesOf, type Track } from '@/core/session';
import { selectOnly, useSession, useWorkbench } from '@/ui/client';
import { usePlayer, usePlayerState, useTakesReady } from '@/ui/listening';
import { compHand, foldTakes, useCompHand } from './comp-hand';
import { type CompRow, compRows, soundingPieces } from './comp-rows';
import { type CompEdits, type TakeFields, useCompEdits } from './use-comp-edits';
import { type Phrases, usePhrases } from './use-phrases';

/** Everything about the packed track in hand, for the rows, the keys and the panel. */
export interface Comp {
  readonly rows: readonly CompRow[];
  /** Null = the current row is no packed track. */
  readonly track: Track | null;
  /** Its takes that one chooses from, by number. */
  readonly lanes: readonly Lane[];
  readonly phrases: Phrases | null;
  readonly phrase: Phrase | null;
  /** The take in hand. */
  readonly lane: Lane | null;
  /** Takes that cannot be heard as the session is listened to: of conformed ones only what sounds is conformed. */
  readonly unheard: readonly Lane[];
  /** The take that is heard in the place of the track; null = as it is put together. */
  readonly heard: Lane | null;
  readonly edits: CompEdits;
  readonly choose: (
    lane: Lane,
    stretch?: { readonly fromSeconds: number; readonly toSeconds: number },
  ) => void;
  readonly moveEdge: (edgeFrames: number, toFrames: number) => void;
  /** Moves where takes meet next to the beginning of the phrase in hand. */
  readonly nudgeEdge: (seconds: number) => void;
  readonly stepPhrase: (by: -1 | 1) => void;
  /** Takes a phrase in hand and goes there. */
  readonly takePhrase: (seconds: number) => void;
  readonly loopPhrase: () => void;
  readonly hear: (lane: Lane | null) => void;
  readonly stepHeard: (by: -1 | 1) => void;
  readonly rate: (by: -1 | 1) => void;
}

/** From the worst to the best; null = nothing said. */
const RATINGS = ['no', null, 'maybe', 'keep'] as const;

export function useComp(): Comp {
  const session = useSession((s) => s.view.session);
  const rateHz = session.sampleRateHz ?? 48_000;
  const unfolded = useCompHand((h) => h.unfolded);
  const laneId = useCompHand((h) => h.laneId);
  const atSeconds = useCompHand((h) => h.atSeconds);
  const currentId = useWorkbench((w) => w.current);
  const player = usePlayer();
  const rows = useMemo(() => compRows(session, unfolded), [session, unfolded]);
  const node = currentId === null ? undefined : session.nodes[currentId];
  const track = isTrack(node) && node.otherLanes.length > 0 ? node : null;
  useTakesReady(track?.id ?? null);
  useEffect(() => compHand.setState({ refused: null }), [track?.id]);
  const phrases = usePhrases(track);
  const edits = useCompEdits(track, phrases);
  const lanes = useMemo(() => {
    const byId = new Map((track ? lanesOf(track) : []).map((l) => [l.id, l]));
    const all = (track ? laneTracks(track) : []).map((t) => byId.get(t.laneId) as Lane);
    const open = all.filter((l) => !l.takeAside);
    return open.length > 0 ? open : all;
  }, [track]);
  const phrase = phraseAt(phrases, atSeconds);
  const lane = (track && lanesOf(track).find((l) => l.id === laneId)) ?? null;
  const hearing = useTakeHearing(track, lanes);
  const takePhrase = (seconds: number): void => {
    compHand.setState({ atSeconds: seconds });
    const there = phraseAt(phrases, seconds);
    if (there && player.state.getState().loop) player.setLoop(there);
    player.seek(there?.fromSeconds ?? seconds);
  };
  const choose: Comp['choose'] = (wanted, stretch = phrase ?? undefined) => {
    if (!track) return;
    if (!stretch) {
      compHand.setState({ refused: 'Take a phrase in hand first: click into a take, or ← →.' });
      return;
    }
    const frames = (s: number): number => Math.round(s * rateHz);
    const choice: LaneChoice = {
      laneId: wanted.id,
      fromFrames: frames(stretch.fromSeconds),
      toFrames: frames(stretch.toSeconds),
    };
    const where = stretch === phrase ? 'a phrase' : 'a stretch';
    edits.choose(`Take ${wanted.takeNumber} of ${track.name} in ${where}`, [choice]);
  };
  return {
    rows,
    track,
    lanes,
    phrases,
    phrase,
    lane,
    edits,
    choose,
    ...useEdges(track, phrase, edits),
    stepPhrase: (by) => {
      const list = phrases?.phrases ?? [];
      const now = phrase ? list.indexOf(phrase) : by > 0 ? -1 : list.length;
      const next = list[Math.max(0, Math.min(list.length - 1, now + by))];
      if (next) takePhrase((next.fromSeconds + next.toSeconds) / 2);
    },
    takePhrase,
    loopPhrase: () => {
      if (!phrase) return;
      player.setLoop(phrase);
      player.seek(phrase.fromSeconds);
      void player.play();
    },
    ...hearing,
    rate: (by) => {
      const rated = lane ?? hearing.heard;
      if (!rated) return;
      const at = RATINGS.indexOf(rated.takeRating);
      const to = RATINGS[Math.max(0, Math.min(RATINGS.length - 1, at + by))] ?? null;
      if (to !== rated.takeRating) edits.changeTake(rated, ratingLabel(rated, to), { takeRating: to });
    },
  };
}

/** Hearing one take after the other in the place of the track. */
function useTakeHearing(
  track: Track | null,
  all: readonly Lane[],
): Pick<Comp, 'heard' | 'hear' | 'stepHeard' | 'unheard'> {
  const player = usePlayer();
  const heardId = usePlayerState((s) => s.heardTake);
  const view = useSession((s) => s.view);
  const isHearable = useMemo(() => {
    const ready = new Set(view.recordings.flatMap((r) => (r.state === 'ready' ? [r.id] : [])));
    const conformed = new Set((view.conform?.ready ?? []).map((c) => c.laneId));
    const asConformed = playbackWarp(view.session) !== null;
    return (l: Lane): boolean => ready.has(l.recordingId) && (!asConformed || conformed.has(l.id));
  }, [view]);
  const lanes = all.filter(isHearable);
  const idOf = (lane: Lane | null): string | null => (lane && track ? laneTrackId(track.id, lane.id) : null);
  return {
    heard: lanes.find((l) => idOf(l) === heardId) ?? null,
    unheard: all.filter((l) => !isHearable(l)),
    hear: (lane) => player.hearTake(idOf(lane)),
    stepHeard: (by) => {
      // Through all takes, and the track as it is put together between the last and the first; keys come faster than the page is drawn.
      const order = [null, ...lanes.map(idOf)];
      const at = Math.max(0, order.indexOf(player.state.getState().heardTake));
      player.hearTake(order[(at + by + order.length) % order.length] ?? null);
    },
  };
}

/** How a rating stands in the history. */
export const ratingLabel = ({ takeNumber }: Lane, to: TakeFields['takeRating']): string =>
  to === null || to === undefined ? `Take ${takeNumber}: not rated` : `Take ${takeNumber}: ${to}`;

const phraseAt = (phrases: Phrases | null, seconds: number | null): Phrase | null =>
  seconds === null
    ? null
    : (phrases?.phrases.find((p) => seconds >= p.fromSeconds && seconds < p.toSeconds) ?? null);

/** A key moves an edge that is so near to the phrase in hand, s. */
const NEAR_SECONDS = 2;

/** Moving where one take goes over to the next: the one that grows takes from the other. */
function useEdges(
  track: Track | null,
  phrase: Phrase | null,
  edits: CompEdits,
): Pick<Comp, 'moveEdge' | 'nudgeEdge'> {
  const recordings = useSession((s) => s.view.recordings);
  const rateHz = useSession((s) => s.view.session.sampleRateHz) ?? 48_000;
  const pieces = (): readonly RibbonPiece[] =>
    track ? soundingPieces(track, new Map(recordings.map((r) => [r.id, r.sessionFrames ?? 0]))) : [];
  const moveEdge: Comp['moveEdge'] = (edge, to) => {
    const [left, right] = [
      pieces().find((p) => p.toFrames === edge),
      pieces().find((p) => p.fromFrames === edge),
    ];
    if (!track || !left || !right || edge === to) return;
    const [fromFrames, toFrames] = to > edge ? [edge, to] : [to, edge];
    const { laneId } = to > edge ? left : right;
    edits.choose(`Move where takes of ${track.name} meet`, [{ laneId, fromFrames, toFrames }], true);
  };
  return {
    moveEdge,
    nudgeEdge: (seconds) => {
      const at = (phrase?.fromSeconds ?? Infinity) * rateHz;
      const all = pieces();
      const edges = all.flatMap((p, i) =>
        all[i - 1]?.toFrames === p.fromFrames && all[i - 1]?.laneId !== p.laneId ? [p.fromFrames] : [],
      );
      const near = edges.sort((a, b) => Math.abs(a - at) - Math.abs(b - at))[0];
      if (near === undefined || Math.abs(near - at) > NEAR_SECONDS * rateHz)
        return compHand.setState({ refused: 'No takes meet near the beginning of the phrase in hand.' });
      moveEdge(near, near + Math.round(seconds * rateHz));
    },
  };
}

/** Walks the rows: tracks, and the takes of those that are unfolded. */
export function walkRows(rows: readonly CompRow[], current: string | null, by: number): void {
  const { laneId } = compHand.getState();
  const now = rows.findIndex((r) => r.track.id === current && (r.lane?.id ?? null) === laneId);
  const next = rows[Math.max(0, Math.min(rows.length - 1, now + by))];
  if (next) takeRow(next);
}

/** Takes a row in hand. */
export function takeRow({ track, lane }: CompRow): void {
  selectOnly(track.id);
  compHand.setState({ laneId: lane?.id ?? null });
}

/** Shows the takes of the current track, or hides them. */
export const turnFold = (track: Track): void =>
  foldTakes(track.id, compHand.getState().unfolded.has(track.id));
