import { type NameReading, stripExtension } from '../naming';
import { same } from './merge';
import type { Move } from './moves';
import { isTrack, type SessionState, type Track } from './state';

/** One side of a recording that was joined of two, as it was. */
export interface JoinedSide {
  readonly recordingId: string;
  readonly receivedName: string;
  readonly name: string;
  readonly monoFrom: Track['monoFrom'];
  /** Frames of the session after the earlier of the two. */
  readonly delayFrames: number;
  /** Turned over against the left. */
  readonly inverted: boolean;
}

/** What joining needs to know of a recording. */
export interface PairRecording {
  readonly sampleRateHz: number | null;
  readonly channels: number | null;
}

/** Why two tracks are no pair that can be joined. */
export type PairFault = 'same' | 'notes' | 'not-ready' | 'channels' | 'rate' | 'level' | 'cut';

/** Two tracks of a mono sound each, recorded at one rate and set to one level, can become one of two channels. Null = they can. */
export function pairFault(
  left: Track,
  right: Track,
  recordingOf: (id: string) => PairRecording | undefined,
): PairFault | null {
  const [a, b] = [recordingOf(left.recordingId), recordingOf(right.recordingId)];
  if (left.id === right.id) return 'same';
  if (left.tiedTo !== null || right.tiedTo !== null) return 'notes';
  if (!a?.sampleRateHz || !b?.sampleRateHz) return 'not-ready';
  if ((a.channels !== 1 && left.monoFrom === null) || (b.channels !== 1 && right.monoFrom === null))
    return 'channels';
  if (a.sampleRateHz !== b.sampleRateHz || left.keepsSamples !== right.keepsSamples) return 'rate';
  if (left.gainDb !== right.gainDb) return 'level';
  return isCutAlike(left, right) ? null : 'cut';
}

/** Whether the same stretches of both sound, in the same way. */
function isCutAlike(left: Track, right: Track): boolean {
  if (left.otherLanes.length + right.otherLanes.length > 0) return false;
  const stretches = (t: Track): readonly unknown[] => t.clips.map(({ id: _id, laneId: _lane, ...c }) => c);
  return same(stretches(left), stretches(right));
}

/** Which of two tracks is the left one: by side, by what their names, read together, say, by pan, else the first. */
export function leftFirst(
  a: Track,
  b: Track,
  said: readonly Pick<NameReading, 'side'>[],
): readonly [left: Track, right: Track] {
  const [x, y] = [a.side ?? said[0]?.side ?? null, b.side ?? said[1]?.side ?? null];
  return x === 'right' || y === 'left' || (x === y && a.pan > b.pan) ? [b, a] : [a, b];
}

/** Words of the sides, standing alone. */
const SIDES = [
  ['left', 'right'],
  ['lt', 'rt'],
  ['l', 'r'],
  ['links', 'rechts'],
] as const;
const without = (name: string, word: string): string =>
  name.replace(new RegExp(`(?<!\\p{L})${word}(?!\\p{L})`, 'iu'), '');
const tidied = (name: string): string =>
  name
    .replace(/[([{]\s*[)\]}]/g, '')
    .replace(/([\s_.·-])[\s_.·-]+/g, '$1')
    .replace(/^[\s_.·-]+|[\s_.·-]+$/g, '');

/** What two names of a pair have in common, without the word for the side: `Gtr dbl L.wav`, `Gtr dbl R.wav` → `Gtr dbl`. */
export function commonName(a: string, b: string): string {
  const [x, y] = [stripExtension(a), stripExtension(b)];
  for (const [left, right] of SIDES)
    if (without(x, left) !== x && without(x, left) === without(y, right))
      return tidied(without(x, left)) || x;
  let n = 0;
  while (n < x.length && n < y.length && x[n] === y[n]) n++;
  let k = 0;
  while (k < x.length - n && k < y.length - n && x[x.length - 1 - k] === y[y.length - 1 - k]) k++;
  return tidied(`${x.slice(0, n)}${x.slice(x.length - k)}`) || x;
}

/** How both sides stand now, to be had again by splitting. */
export function sidesOf(left: Track, right: Track): readonly [JoinedSide, JoinedSide] {
  const first = Math.min(left.startFrames, right.startFrames);
  const side = (t: Track): JoinedSide => ({
    recordingId: t.recordingId,
    receivedName: t.receivedName,
    name: t.name,
    monoFrom: t.monoFrom,
    delayFrames: t.startFrames - first,
    inverted: t.inverted !== left.inverted,
  });
  return [side(left), side(right)];
}

/** The left track takes the joined recording and the middle; the right one goes. */
export function joinEdits(
  left: Track,
  right: Track,
  joined: { readonly recordingId: string; readonly receivedName: string },
): Move[] {
  return [
    { kind: 'track.replace', id: left.id, ...joined },
    {
      kind: 'track.change',
      id: left.id,
      fields: {
        name: commonName(left.name, right.name),
        side: null,
        pan: 0,
        monoFrom: null,
        startFrames: Math.min(left.startFrames, right.startFrames),
        // The sound stays where it is: so do its edges.
        clips: left.clips,
        byHand: left.byHand.filter((f) => f !== 'pan' && f !== 'side'),
      },
    },
    { kind: 'track.remove', id: right.id },
  ];
}

const EXTENSION = /\.[A-Za-z0-9]{2,5}$/;

/** `Piano.wav` → `Piano left.wav`: what names are read from says the side. */
const sideName = (receivedName: string, side: 'left' | 'right'): string =>
  `${stripExtension(receivedName)} ${side}${EXTENSION.exec(receivedName)?.[0] ?? ''}`;

/** One stereo track as two mono ones: what it was joined of, else the two sides of its file. */
export function splitEdits(
  session: SessionState,
  track: Track,
  joined: readonly [JoinedSide, JoinedSide] | null,
): Move[] {
  const sides: readonly [JoinedSide, JoinedSide] =
    joined ??
    ((['left', 'right'] as const).map((side): JoinedSide => ({
      recordingId: track.recordingId,
      receivedName: sideName(track.receivedName, side),
      name: `${track.name} ${side === 'left' ? 'L' : 'R'}`,
      monoFrom: side,
      delayFrames: 0,
      inverted: false,
    })) as unknown as readonly [JoinedSide, JoinedSide]);
  const place = Object.entries(session.children).find(([, ids]) => ids.includes(track.id));
  if (!place) return [];
  const fields = (
    s: JoinedSide,
    side: 'left' | 'right',
  ): Pick<Track, 'name' | 'side' | 'pan' | 'monoFrom' | 'startFrames' | 'inverted' | 'clips'> => ({
    name: s.name,
    side,
    pan: side === 'left' ? -1 : 1,
    monoFrom: s.monoFrom,
    startFrames: track.startFrames + s.delayFrames,
    clips: track.clips,
    inverted: track.inverted !== s.inverted,
  });
  const [left, right] = sides;
  return [
    { kind: 'track.replace', id: track.id, recordingId: left.recordingId, receivedName: left.receivedName },
    { kind: 'track.change', id: track.id, fields: fields(left, 'left') },
    {
      kind: 'track.add',
      track: {
        ...track,
        ...fields(right, 'right'),
        id: freeTrackId(session, right.recordingId),
        recordingId: right.recordingId,
        receivedName: right.receivedName,
      },
      parentId: place[0],
      index: place[1].indexOf(track.id) + 1,
    },
  ];
}

function freeTrackId(session: SessionState, recordingId: string): string {
  let id = recordingId;
  for (let n = 2; session.nodes[id]; n++) id = `${recordingId}-${n}`;
  return id;
}

/** A track that can be split: a stereo sound with both its sides in use. */
export const canSplit = (track: Track, recording: PairRecording | undefined): boolean =>
  isTrack(track) &&
  track.tiedTo === null &&
  track.otherLanes.length === 0 &&
  track.monoFrom === null &&
  recording?.channels === 2;
