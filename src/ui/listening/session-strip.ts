import { channelsOf, type LaneSound, type Piece, piecesOf, soundingLanes } from '@/core/arrange';
import { type Lane, levelDb, type SessionState, type Track, wayToMix } from '@/core/session';
import type { RecordingView, SoundName } from '@/contracts';
import type { PlayerTrack } from './player';

/** A sound at the session's rate, by its name for the server: `recordings/<id>` or `conformed/<key>`. */
export interface NamedSound extends LaneSound<string> {
  readonly channels: number;
  /** dB more than as it lies there; default 0. */
  readonly gainDb?: number;
}

/** A track as the player hears it: its pieces, level with those of its groups, place in the mix, what the buses on its way do to it. What is only sent is not heard: returns are empty here. Null = its sound is not there. */
export function sessionTrack(
  session: SessionState,
  track: Track,
  soundOf: (lane: Lane) => NamedSound | null | undefined,
): PlayerTrack | null {
  // One of which nothing sounds is there as well: alone, it is silence that is heard.
  if (!soundingLanes(track).some(soundOf)) return null;
  const buses = wayToMix(session, track.busId);
  return {
    id: track.id,
    ...soundOfTrack(track, soundOf),
    inverted: track.inverted,
    gainDb: levelDb(session, track),
    pan: track.pan,
    muted: track.muted || buses === null,
    ...(buses ? { buses } : {}),
  };
}

type Sounding = Pick<PlayerTrack, 'channels' | 'pieces'>;
interface Known {
  readonly sounds: readonly (NamedSound | null)[];
  readonly sounding: Sounding;
}
const KNOWN = new WeakMap<Track, Known>();

const isSame = (a: NamedSound | null | undefined, b: NamedSound | null): boolean =>
  a === b ||
  (!!a &&
    !!b &&
    a.sound === b.sound &&
    a.channels === b.channels &&
    a.lengthFrames === b.lengthFrames &&
    a.gainDb === b.gainDb);

/** What sounds of a track; the same object as long as the track and its sounds are: of many clips none is looked at again for what happens elsewhere. */
function soundOfTrack(track: Track, soundOf: (lane: Lane) => NamedSound | null | undefined): Sounding {
  const sounds = soundingLanes(track).map((lane) => soundOf(lane) ?? null);
  const known = KNOWN.get(track);
  if (known && sounds.every((s, i) => isSame(known.sounds[i], s))) return known.sounding;
  const pieces = piecesOf(track, (lane) => {
    const found = soundOf(lane);
    return found && { sound: found, lengthFrames: found.lengthFrames };
  });
  const sounding = {
    channels: channelsOf(pieces, (s) => s.channels),
    // Polarity is the strip's: turning it over while listening is heard at once.
    pieces: pieces.map((p) => named(p, track.inverted ? -1 : 1)),
  };
  KNOWN.set(track, { sounds, sounding });
  return sounding;
}

/** The one side that is heard is taken where the sound lies. */
const named = (piece: Piece<NamedSound>, polarity: number): Piece<string> => ({
  ...piece,
  sound:
    piece.fromChannel === null
      ? piece.sound.sound
      : `${piece.sound.sound}/${piece.fromChannel === 0 ? 'left' : 'right'}`,
  gain: polarity * piece.gain * (piece.sound.gainDb ? 10 ** (piece.sound.gainDb / 20) : 1),
});

/** Name of a lane's sound for the server, with the side behind it that is heard. */
export const laneSound = ({ recordingId, monoFrom }: Pick<Lane, 'recordingId' | 'monoFrom'>): SoundName =>
  monoFrom === null ? `recordings/${recordingId}` : `recordings/${recordingId}/${monoFrom}`;

/** The sound of a recording at the session's rate; null while it is not there. */
export const recordingSound = (
  recording: Pick<RecordingView, 'id' | 'sessionFrames' | 'channels'> | undefined,
): NamedSound | null =>
  !recording || recording.sessionFrames === null || recording.channels === null
    ? null
    : {
        sound: `recordings/${recording.id}`,
        channels: recording.channels,
        lengthFrames: recording.sessionFrames,
      };
