import { useMemo } from 'react';
import type { RecordingView } from '@/contracts';
import type { PeakLevel } from '@/core/analysis';
import { arrangedPeaks, type LaneSound, piecesOf, soundingLanes, type SoundPeaks } from '@/core/arrange';
import { isUncut, type Lane, type Track } from '@/core/session';
import { loadPeaks, usePeaks } from './peaks';
import { useSession } from './session-store';

/** The waveform of a track as it sounds, and where in the song it begins. */
export interface TrackPeaks {
  readonly peaks: SoundPeaks;
  readonly startSeconds: number;
}

const timed = new WeakMap<PeakLevel, SoundPeaks>();
/** Peaks with their rate: the same object for the same peaks. */
function atRate(own: PeakLevel, sampleRateHz: number): SoundPeaks {
  const known = timed.get(own);
  if (known?.sampleRateHz === sampleRateHz) return known;
  const made = { ...own, sampleRateHz };
  timed.set(own, made);
  return made;
}

/** What pictures are drawn from. */
interface DrawnFrom {
  readonly recordings: ReadonlyMap<string, RecordingView>;
  /** By recording, at one resolution. */
  readonly peaks: ReadonlyMap<string, PeakLevel>;
  /** Of the session. */
  readonly sampleRateHz: number;
  readonly framesPerEntry: number;
}

interface Made {
  readonly parts: readonly unknown[];
  readonly value: TrackPeaks | null;
}
const pictures = new WeakMap<Track, Map<number, Made>>();

/** What is drawn of a track; the same object as long as what it is made of is. */
function pictureOf(track: Track, from: DrawnFrom): TrackPeaks | null {
  const { recordings, peaks, sampleRateHz, framesPerEntry } = from;
  const lanes = soundingLanes(track);
  const parts = [
    sampleRateHz,
    ...lanes.flatMap(({ recordingId: id }) => {
      const r = recordings.get(id);
      return [peaks.get(id), r?.passingHz, r?.sessionFrames];
    }),
  ];
  const made = pictures.get(track) ?? new Map<number, Made>();
  pictures.set(track, made);
  const known = made.get(framesPerEntry);
  if (known && known.parts.every((p, i) => p === parts[i])) return known.value;
  const value = makePicture(track, from);
  made.set(framesPerEntry, { parts, value });
  return value;
}

function makePicture(
  track: Track,
  { recordings, peaks, sampleRateHz, framesPerEntry }: DrawnFrom,
): TrackPeaks | null {
  const peaksOf = (id: string): SoundPeaks | null => {
    const [own, rate] = [peaks.get(id), recordings.get(id)?.passingHz];
    return own && rate ? atRate(own, rate) : null;
  };
  if (isUncut(track)) {
    const own = peaksOf(track.recordingId);
    return own && { peaks: own, startSeconds: track.startFrames / sampleRateHz };
  }
  const pieces = piecesOf(track, laneSounds(recordings));
  if (!pieces.some((p) => peaksOf(p.sound))) return null;
  const { startFrames, ...drawn } = arrangedPeaks(pieces, peaksOf, { sampleRateHz, framesPerEntry });
  return { peaks: drawn, startSeconds: startFrames / sampleRateHz };
}

/** Where the sound of a lane lies, by its recording; null while it is not there. */
export const laneSounds =
  (recordings: ReadonlyMap<string, Pick<RecordingView, 'sessionFrames'>>) =>
  ({ recordingId }: Lane): LaneSound<string> | null => {
    const lengthFrames = recordings.get(recordingId)?.sessionFrames ?? null;
    return lengthFrames === null ? null : { sound: recordingId, lengthFrames };
  };

const idsOf = (tracks: readonly Track[]): string[] => [
  ...new Set(tracks.flatMap((t) => soundingLanes(t).map((l) => l.recordingId))),
];

/** Waveforms of tracks as they sound, at one resolution, as they come in; what is not there yet is missing from the map. */
export function useTrackPeaks(
  tracks: readonly Track[],
  framesPerEntry: number,
): ReadonlyMap<string, TrackPeaks> {
  const recordings = useSession((s) => s.view.recordings);
  const rate = useSession((s) => s.view.session.sampleRateHz) ?? 48_000;
  const byId = useMemo(() => new Map(recordings.map((r) => [r.id, r])), [recordings]);
  const peaks = usePeaks(
    useMemo(() => idsOf(tracks), [tracks]),
    framesPerEntry,
  );
  return useMemo(
    () =>
      new Map(
        tracks.flatMap((t) => {
          const found = pictureOf(t, { recordings: byId, peaks, sampleRateHz: rate, framesPerEntry });
          return found ? [[t.id, found] as const] : [];
        }),
      ),
    [tracks, byId, peaks, rate, framesPerEntry],
  );
}

/** The same of one track, once it is there; null = there is none. */
export async function loadTrackPeaks(
  track: Track,
  recordings: readonly RecordingView[],
  sampleRateHz: number,
  framesPerEntry: number,
): Promise<TrackPeaks | null> {
  const found = await Promise.all(
    idsOf([track]).map(async (id) => [id, await loadPeaks(id, framesPerEntry)] as const),
  );
  const peaks = new Map(found.flatMap(([id, level]) => (level ? [[id, level] as const] : [])));
  const byId = new Map(recordings.map((r) => [r.id, r]));
  return pictureOf(track, { recordings: byId, peaks, sampleRateHz, framesPerEntry });
}
