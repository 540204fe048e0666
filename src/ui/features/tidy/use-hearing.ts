'use client';
import { useCallback, useEffect, useState } from 'react';
import { wholeTrack } from '@/core/tidy';
import { applyChanges, isTrack, type Lane, type Track } from '@/core/session';
import { type Cut, cutChanges } from './apply-cuts';
import { useSessionStore } from '@/ui/client';
import { recordingSound, sessionTrack, usePlayer, usePlayerState } from '@/ui/listening';
import { aroundCuts, goneCuts, inRow, piecesInRow } from './hear-cuts';
import { tidyHand } from './tidy-hand';
import { kept, type ShownPiece, type TidyRow } from './tidy-rows';

/** What is listened to: the places around the cuts as they would sound, or only what goes. */
export type HeardPart = 'around' | 'gone';

/** Listening to the cuts of a track. */
export interface Hearing {
  readonly part: HeardPart | null;
  /** Hears a part of a row, of one piece of it if that is given; the same again ends it. */
  readonly toggle: (part: HeardPart, row: TidyRow, piece: ShownPiece | null) => void;
  readonly stop: () => void;
}

export function useHearing(): Hearing {
  const store = useSessionStore();
  const player = usePlayer();
  const isTrying = usePlayerState((s) => s.trying);
  const [asked, setAsked] = useState<HeardPart | null>(null);
  const stop = useCallback(() => {
    setAsked(null);
    void player.tryOut(null);
  }, [player]);
  useEffect(() => () => void player.tryOut(null), [player]);
  const toggle = (part: HeardPart, row: TidyRow, piece: ShownPiece | null): void => {
    if (isTrying && asked === part) return stop();
    const { lane, lengthFrames } = row;
    const { view } = store.getState();
    const { session } = view;
    if (!lane || lengthFrames === 0) return;
    const rateHz = session.sampleRateHz ?? 48_000;
    const whole = { fromFrames: lane.startFrames, toFrames: lane.startFrames + lengthFrames };
    const stays = kept(row.pieces);
    const all = part === 'around' ? aroundCuts(stays, whole, rateHz) : goneCuts(stays, whole);
    const near = piece && all.filter((p) => p.toFrames > piece.fromFrames && p.fromFrames < piece.toFrames);
    const places = near && near.length > 0 ? near : all;
    const [first, last] = [places[0], places.at(-1)];
    const soundOf = ({ recordingId }: Lane) =>
      recordingSound(view.recordings.find((r) => r.id === recordingId));
    const shown = part === 'gone' ? wholeTrack(row.track) : asShown({ row, kept: stays });
    const track = shown && sessionTrack(session, shown, soundOf);
    if (!first || !last || !track) return stop();
    const row_ = inRow(places, rateHz);
    setAsked(part);
    void player.tryOut({
      tracks: [{ ...track, muted: false, pieces: piecesInRow(track.pieces, row_, rateHz) }],
      time: row_.time,
      fromSeconds: first.fromFrames / rateHz,
      toSeconds: last.toFrames / rateHz,
    });
  };
  /** The track as the picture shows it. */
  const asShown = (cut: Cut): Track | null => {
    const { view } = store.getState();
    const changed = applyChanges(view.session, cutChanges([cut], tidyHand.getState())(view));
    const track = changed.ok ? changed.session.nodes[cut.row.track.id] : undefined;
    return isTrack(track) ? track : null;
  };
  return { part: isTrying ? asked : null, toggle, stop };
}
