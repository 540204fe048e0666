import type { RecordingView } from '@/contracts';
import { pieceGainDb } from '@/core/matching';
import { levelDb, NOWHERE, type SessionState, soundTracks, type Track } from '@/core/session';
import { LEVEL_RANGE } from '@/ui/strips';

/** What the ladder of levels is read in: loudness over the whole, or the highest sample. */
export const LADDER_SCALES = ['loudness', 'peak'] as const;
export type LadderScale = (typeof LADDER_SCALES)[number];

/** Ends of a ladder, its unit, and how far its rungs stand apart, dB. */
interface Ladder {
  readonly unit: string;
  readonly from: number;
  readonly to: number;
  readonly rung: number;
}

export const LADDERS: Readonly<Record<LadderScale, Ladder>> = {
  loudness: { unit: 'LUFS', from: -60, to: 0, rung: 12 },
  // What is over full scale is to be seen.
  peak: { unit: 'dBFS', from: -48, to: 12, rung: 12 },
};

/** Where a track stands on a ladder when its level adds nothing, pieces turned up or down with it; in words, why it stands nowhere. */
export function soundingAt(
  scale: LadderScale,
  track: Track,
  recordings: ReadonlyMap<string, RecordingView>,
): number | string {
  const facts = recordings.get(track.recordingId)?.facts;
  const own = (scale === 'loudness' ? facts?.integratedLufs : facts?.peakDbfs) ?? null;
  if (own !== null) return own + pieceGainDb(track);
  if (!facts) return 'not listened to yet';
  return facts.peakDbfs === null ? 'silent' : 'too short or too soft for a loudness';
}

/** About how loud what comes to each bus is, LUFS: as if none had anything in common with another, whatever is panned; buses to which nothing comes are missing. */
export function loudnessAtBuses(
  session: SessionState,
  recordings: ReadonlyMap<string, RecordingView>,
): ReadonlyMap<string, number> {
  const powers = new Map<string, number>();
  for (const track of soundTracks(session)) {
    const at = soundingAt('loudness', track, recordings);
    if (typeof at === 'string' || track.muted) continue;
    let lufs = at + levelDb(session, track);
    let busId = track.busId;
    while (busId !== null && busId !== NOWHERE) {
      const bus = session.buses[busId];
      if (!bus) break;
      powers.set(busId, (powers.get(busId) ?? 0) + 10 ** (lufs / 10));
      if (bus.muted) break;
      lufs += bus.gainDb;
      busId = bus.outputBusId;
    }
  }
  return new Map([...powers].map(([id, power]) => [id, 10 * Math.log10(power)]));
}

/** Share of a ladder at a value; what lies beyond its ends is put there. */
export const placeOn = ({ from, to }: Ladder, value: number): number =>
  Math.max(0, Math.min(1, (value - from) / (to - from)));

/** A track's own level when its mark is pulled by a share of the ladder: in tenths of a dB, within what can be typed. */
export function pulledLevel({ from, to }: Ladder, gainDb: number, byShare: number): number {
  const { min, max } = LEVEL_RANGE;
  const wanted = gainDb + byShare * (to - from);
  // What stands beyond an end is not pulled further out.
  return Math.round(10 * Math.max(Math.min(min, gainDb), Math.min(Math.max(max, gainDb), wanted))) / 10;
}

/** Share of the way from left to right of a pan, and a pan pulled by a share of it, in hundredths. */
export const placeOfPan = (pan: number): number => (pan + 1) / 2;
export const pulledPan = (pan: number, byShare: number): number =>
  Math.round(100 * Math.max(-1, Math.min(1, pan + 2 * byShare))) / 100;
