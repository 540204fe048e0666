import type { RecordingView } from '@/contracts';
import { type FarMicFact, sureFarMics } from '@/core/findings';
import { type Change, type SessionState, soundTracks, type Track } from '@/core/session';

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

/** Far microphones of which something is surely known, and those of which nothing is. */
export function farMicRows(
  session: SessionState,
  facts: readonly FarMicFact[],
  recordings: readonly Pick<RecordingView, 'id' | 'sampleRateHz'>[],
): { readonly rows: readonly FarMicRow[]; readonly untold: readonly Track[] } {
  const tracks = soundTracks(session);
  const byRecording = new Map(tracks.map((t) => [t.recordingId, t]));
  const rates = new Map(recordings.map((r) => [r.id, r.sampleRateHz]));
  const sessionHz = session.sampleRateHz ?? 48_000;
  const rows = sureFarMics(facts).flatMap((m): FarMicRow[] => {
    const [track, snare] = [byRecording.get(m.other), byRecording.get(m.leader)];
    if (!track || !snare) return [];
    const laterSeconds =
      m.delaySamples / (rates.get(m.other) ?? sessionHz) +
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
  const told = new Set(rows.map((r) => r.track.id));
  const asked = new Set(facts.map((f) => f.other));
  return { rows, untold: tracks.filter((t) => asked.has(t.recordingId) && !told.has(t.id)) };
}

/**
 * Overheads moved together until they hear the snare with its own microphone, as their mean does: one step for all, so that cymbals
 * keep their width and their place between the sides. Rooms stay: how late they are is their size.
 */
export function togetherEdits(
  session: SessionState,
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

/** Those that are turned over, turned back; overheads all or none, as most of them say. */
export function turnEdits(rows: readonly FarMicRow[]): Change[] {
  const over = rows.filter((r) => !r.isRoom && r.polarity !== null);
  const isOverTurned = over.filter((r) => r.polarity === -1).length * 2 > over.length;
  return rows
    .filter((r) => (r.isRoom ? r.polarity === -1 : isOverTurned))
    .map(({ track }) => ({
      kind: 'track.change',
      id: track.id,
      fields: { inverted: !track.inverted },
    }));
}
