import type { RecordingView } from '@/contracts';
import { type FarMicFact, type FarMicFile, farMicPairs, sureFarMics } from '@/core/findings';
import type { Change, SessionState, Track } from '@/core/session';

/** Sound in air, m/s. */
const AIR = 343;

/** A microphone over the kit or in its room, as it stands in the session now. */
export interface FarMicRow {
  readonly track: Track;
  /** The snare it is compared with. */
  readonly snare: Track;
  readonly isRoom: boolean;
  /** How much later than the snare's own it hears it, as both are placed; and the way that is. */
  readonly laterSeconds: number;
  readonly metres: number;
  /** As both are turned; null where its sides say otherwise each. */
  readonly polarity: 1 | -1 | null;
}

/** Far microphones of which something is surely known, and those of which nothing is. `tracks`: as they are known so far, whether sorted or not. */
export function farMicRows(
  session: Pick<SessionState, 'sampleRateHz'>,
  tracks: readonly Track[],
  facts: readonly FarMicFact[],
  recordings: readonly Pick<RecordingView, 'id' | 'channels' | 'sampleRateHz'>[],
): { readonly rows: readonly FarMicRow[]; readonly untold: readonly Track[] } {
  const byId = new Map(recordings.map((r) => [r.id, r]));
  const byRecording = new Map(tracks.map((t) => [t.recordingId, t]));
  const sessionHz = session.sampleRateHz ?? 48_000;
  const files = tracks.map((t): FarMicFile => ({
    id: t.recordingId,
    channels: byId.get(t.recordingId)?.channels ?? 1,
    source: t,
  }));
  const rows = sureFarMics(files, facts).flatMap((m): FarMicRow[] => {
    const [track, snare] = [byRecording.get(m.other), byRecording.get(m.leader)];
    if (!track || !snare) return [];
    const laterSeconds =
      m.delaySamples / (byId.get(m.other)?.sampleRateHz ?? sessionHz) +
      (track.startFrames - snare.startFrames) / sessionHz;
    const isTurned = track.inverted !== snare.inverted;
    return [
      {
        track,
        snare,
        isRoom: track.part === 'room',
        laterSeconds,
        metres: Math.max(0, laterSeconds) * AIR,
        polarity: m.polarity === null ? null : isTurned ? (-m.polarity as 1 | -1) : m.polarity,
      },
    ];
  });
  const told = new Set(rows.map((r) => r.track.recordingId));
  const compared = new Set(facts.map((f) => f.other));
  const asked = new Set(farMicPairs(files).map((p) => p.other.id));
  const untold = tracks.filter(({ recordingId: id }) => asked.has(id) && compared.has(id) && !told.has(id));
  return { rows, untold };
}

/**
 * Overheads moved together until they hear the snare with its own microphone, as their mean does: one step for all, so that cymbals
 * keep their width and their place between the sides. Rooms stay: how late they are is their size.
 */
export function togetherEdits(
  session: Pick<SessionState, 'sampleRateHz'>,
  rows: readonly FarMicRow[],
): { readonly bySeconds: number; readonly edits: readonly Change[] } {
  const over = rows.filter((r) => !r.isRoom);
  const bySeconds = over.length === 0 ? 0 : -over.reduce((sum, r) => sum + r.laterSeconds, 0) / over.length;
  const byFrames = Math.round(bySeconds * (session.sampleRateHz ?? 48_000));
  return {
    bySeconds,
    edits:
      byFrames === 0
        ? []
        : over.map(({ track }) => ({
            kind: 'track.change',
            id: track.id,
            fields: { startFrames: track.startFrames + byFrames },
          })),
  };
}

/** Those that are turned over, turned back. */
export const turnEdits = (rows: readonly FarMicRow[]): Change[] =>
  rows
    .filter((r) => r.polarity === -1)
    .map(({ track }) => ({
      kind: 'track.change',
      id: track.id,
      fields: { inverted: !track.inverted },
    }));
