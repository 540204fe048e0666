import type { Conflict, SessionState } from '@/core/session';
import { formatDb } from '@/ui/kit';

const FIELDS: Readonly<Record<string, string>> = {
  artist: 'artist',
  busId: 'output',
  clips: 'what sounds in a version',
  color: 'colour',
  compId: 'version that sounds',
  conform: 'conforming',
  'conform.bpm': 'tempo of the conforming',
  'conform.heard': 'what is heard',
  'conform.keep': 'bars that keep their tempo',
  content: 'tempo map',
  cutBars: 'bar it begins from',
  fadeInFrames: 'fade in',
  fadeInShape: 'shape of the fade in',
  fadeOutFrames: 'fade out',
  fadeOutShape: 'shape of the fade out',
  family: 'family',
  fromFrames: 'where a stretch of it begins',
  gainDb: 'level',
  inverted: 'polarity',
  monoFrom: 'side that stands for both',
  muted: 'mute',
  name: 'name',
  notes: 'notes',
  key: 'key',
  number: 'number',
  off: 'a stretch of it, silent or not',
  outputBusId: 'output',
  pan: 'pan',
  part: 'part',
  place: 'folder',
  position: 'place of the microphone',
  recordingId: 'recording',
  removed: 'there or not',
  role: 'role',
  rows: 'rows in it',
  sampleRateHz: 'sample rate',
  seconds: 'time',
  sends: 'sends',
  side: 'side',
  slipFrames: 'what was moved inside it',
  startFrames: 'begin',
  style: 'house style',
  takeAside: 'take put aside or not',
  takeName: 'name of the take',
  takeNote: 'note on the take',
  takeNumber: 'number of the take',
  takeRating: 'rating of the take',
  timekeepers: 'tracks that keep the time',
  toFrames: 'where a stretch of it ends',
};

/** What a contradiction is about: “Kick: name”. */
export function conflictSubject({ record, field }: Conflict): string {
  const what = FIELDS[field] ?? (field.startsWith('conform.treatments') ? 'treatment when conformed' : field);
  if (record.kind === 'song') return `Session: ${what}`;
  return `${record.name || record.kind}: ${what}`;
}

/** One side of a contradiction in words. */
export function conflictValue(field: string, value: unknown, session: SessionState): string {
  if (value === null || value === undefined) return 'none';
  if (typeof value === 'boolean') return value ? 'on' : 'off';
  if (field === 'busId' || field === 'outputBusId') return session.buses[value as string]?.name ?? 'nowhere';
  if (field === 'gainDb') return `${formatDb(value as number)} dB`;
  if (field === 'place') return value === '' ? 'outside any folder' : String(value as string);
  if (typeof value === 'string' || typeof value === 'number') return String(value);
  return Array.isArray(value) ? `${value.length} ${value.length === 1 ? 'entry' : 'entries'}` : 'another one';
}
