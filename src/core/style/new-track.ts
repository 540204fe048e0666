import { stripExtension, toSafeText } from '../naming';
import { asTrack, type Track } from '../session';
import type { HouseStyle } from './house-style';

/** The track a recording, or a track of notes, becomes when it arrives: named as received, coloured as unknown, at the common zero. Its id is the recording's. */
export function newTrack(
  recordingId: string,
  receivedName: string,
  content: { readonly dualMono?: boolean; readonly tiedTo?: Track['tiedTo'] },
  style: HouseStyle,
): Track {
  const name = toSafeText(stripExtension(receivedName.split(/[\\/]/).at(-1) ?? ''), 120) || 'Unnamed';
  return asTrack({
    kind: 'track',
    id: recordingId,
    recordingId,
    receivedName,
    startFrames: 0,
    name,
    family: 'unknown',
    part: null,
    role: null,
    position: null,
    side: null,
    number: null,
    color: style.colors.unknown,
    busId: null,
    sends: [],
    gainDb: 0,
    pan: 0,
    muted: false,
    inverted: false,
    monoFrom: null,
    keepsSamples: false,
    tiedTo: content.tiedTo ?? null,
    confidence: 0,
    byHand: [],
    evidence: content.dualMono
      ? [{ kind: 'sound', text: 'left = right', means: 'a stereo file that is really mono' }]
      : [],
  });
}
