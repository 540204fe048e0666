'use client';
import { useMemo } from 'react';
import {
  levelsOfPeaks,
  type Phrase,
  phrasesAlong,
  phrasesOf,
  type RatedTake,
  type TakeLevels,
} from '@/core/comp';
import { lanesOf, type Lane, type Track } from '@/core/session';
import { usePeaks, useSession } from '@/ui/client';
import { useCompHand } from './comp-hand';

/** Peaks that levels are taken from: some 20 ms. */
const FRAMES_PER_ENTRY = 1024;
/** A section begins at the rest that is so near, s. */
const SECTION_REACH = 1.5;

/** A track as it can be put together. */
export interface Phrases {
  /** What is put together as one: phrases, or sections. */
  readonly phrases: readonly Phrase[];
  /** Frames of the session at which all takes rest. */
  readonly rests: readonly number[];
  readonly takes: readonly RatedTake[];
}

/** Phrases of a track by all its takes; null while the sound of one has not come. */
export function usePhrases(track: Track | null): Phrases | null {
  const recordings = useSession((s) => s.view.recordings);
  const rateHz = useSession((s) => s.view.session.sampleRateHz) ?? 48_000;
  const markers = useSession((s) => s.view.session.markers);
  const by = useCompHand((h) => h.by);
  const lanes = useMemo((): readonly Lane[] => (track ? lanesOf(track) : []), [track]);
  const peaks = usePeaks(
    useMemo(() => lanes.map((l) => l.recordingId), [lanes]),
    FRAMES_PER_ENTRY,
  );
  const takes = useMemo(() => {
    const found = lanes.flatMap((lane): RatedTake[] => {
      const own = peaks.get(lane.recordingId);
      const recording = recordings.find((r) => r.id === lane.recordingId);
      if (!own || !recording?.passingHz || recording.sessionFrames === null) return [];
      const levels: TakeLevels = levelsOfPeaks(
        { ...own, sampleRateHz: recording.passingHz },
        lane.startFrames / rateHz,
      );
      const toFrames = lane.startFrames + recording.sessionFrames;
      return [{ lane, levels, fromFrames: lane.startFrames, toFrames }];
    });
    return found.length === lanes.length && found.length > 0 ? found : null;
  }, [lanes, peaks, recordings, rateHz]);
  return useMemo(() => {
    if (!takes) return null;
    // What was put aside says nothing of where the part rests.
    const used = takes.filter((t) => !t.lane.takeAside);
    const found = phrasesOf((used.length > 0 ? used : takes).map((t) => t.levels));
    const rests = found.filter((p) => p.isRestAtEnd).map((p) => Math.round(p.toSeconds * rateHz));
    const phrases =
      by === 'section' && markers.length > 0
        ? phrasesAlong(
            found,
            markers.map((m) => m.seconds),
            SECTION_REACH,
          )
        : found;
    return { phrases, rests, takes };
  }, [takes, by, markers, rateHz]);
}
