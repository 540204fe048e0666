import {
  collectFindings,
  type Finding,
  type FindingCode,
  type FindingFile,
  type FindingsView,
  type KnownFile,
  type Relations,
} from '../findings';
import type { ReadNames, SourceFields } from '../naming';
import type { Move } from './moves';
import { passingRate } from './rate';
import { isTrack, type SessionState, type Track, type TrackFields } from './state';
import { tracksInOrder } from './views';

/** A recording with all that was found in it. */
export type KnownRecording = Omit<KnownFile, 'source' | 'settled' | 'recordedHz'>;

/** What each recording is: as its track says once something spoke for it, else as all names together read. */
export function sourcesOf(
  session: SessionState,
  recordings: readonly { readonly id: string; readonly receivedName: string }[],
  readNames: ReadNames,
): ReadonlyMap<string, SourceFields> {
  const tracks = tracksByRecording(session);
  // All names are read together, but only where one of them has to speak for itself.
  const silent = recordings.some((r) => (tracks.get(r.id)?.family ?? 'unknown') === 'unknown');
  const readings = silent
    ? readNames(
        recordings.map((r) => r.receivedName),
        session.words,
      )
    : [];
  return new Map(
    recordings.map((r, i) => {
      const track = tracks.get(r.id);
      return [r.id, track && track.family !== 'unknown' ? track : (readings[i] as SourceFields)];
    }),
  );
}

const tracksByRecording = (session: SessionState): ReadonlyMap<string, Track> =>
  new Map(tracksInOrder(session).map((t) => [t.recordingId, t]));

/** Findings of what is in the session. What a remedy has settled is gone, and so is what was taken out; `dismissed` holds the keys put aside. */
export function noticed(
  session: SessionState,
  recordings: readonly KnownRecording[],
  relations: Relations,
  dismissed: ReadonlySet<string>,
  readNames: ReadNames,
  cutOffNotes: readonly string[] = [],
): FindingsView {
  const tracks = tracksByRecording(session);
  const present = recordings.filter((r) => tracks.has(r.id));
  const sources = sourcesOf(session, present, readNames);
  const all = collectFindings(
    present.map((r) => ({
      ...r,
      recordedHz: r.sampleRateHz,
      sampleRateHz: passingRate(tracks.get(r.id), r.sampleRateHz, session.sampleRateHz),
      source: sources.get(r.id) as SourceFields,
      settled: isTouched(tracks.get(r.id) as Track),
    })),
    relations,
    dismissed,
    cutOffNotes.filter((id) => tracks.has(id)),
  );
  const unsettled = (findings: readonly Finding[]): Finding[] =>
    findings
      .map((f) => ({ ...f, files: f.files.filter((p) => !isSettled(session, f, p, tracks)) }))
      .filter((f) => f.files.length > 0);
  return { open: unsettled(all.open), dismissed: all.dismissed };
}

/** Of a session that was worked on: which recordings were there, and which came later. Empty while all is new, or nothing is. */
export function arrivedLater(session: SessionState): ReadonlyMap<string, 'there' | 'later'> {
  const tracks = tracksInOrder(session);
  const there = tracks.filter(isTouched);
  return there.length === 0 || there.length === tracks.length
    ? new Map()
    : new Map(tracks.map((t) => [t.recordingId, isTouched(t) ? 'there' : 'later']));
}

/** Sorted by the house style or by hand. */
const isTouched = (t: Track): boolean => t.family !== 'unknown' || t.byHand.length > 0;

/** Whether what a remedy would do is done, or the tracks it is about are gone. */
function isSettled(
  session: SessionState,
  finding: Finding,
  part: FindingFile,
  tracks: ReadonlyMap<string, Track>,
): boolean {
  const track = tracks.get(part.id);
  const other = part.other === null ? null : tracks.get(part.other);
  if (!track || other === undefined) return true;
  if (finding.remedy === null || finding.remedy === 'take-out' || finding.remedy === 'take-place')
    return false;
  const edits = editsOf(session, tracks, finding, part);
  return edits.every(
    (e) =>
      e.kind === 'track.change' &&
      Object.entries(e.fields).every(
        ([k, v]) => k === 'byHand' || (session.nodes[e.id] as Track)[k as keyof Track] === v,
      ),
  );
}

/** The edits of a finding's remedy for one of its files; none when there is no remedy or its tracks are gone. Nothing touches a file. */
export const remedyEdits = (
  session: SessionState,
  finding: Pick<Finding, 'remedy'>,
  part: FindingFile,
): Move[] => editsOf(session, tracksByRecording(session), finding, part);

function editsOf(
  session: SessionState,
  tracks: ReadonlyMap<string, Track>,
  finding: Pick<Finding, 'remedy'>,
  part: FindingFile,
): Move[] {
  const track = tracks.get(part.id);
  const other = part.other === null ? undefined : tracks.get(part.other);
  if (!track || (part.other !== null && !other)) return [];
  switch (finding.remedy) {
    case 'make-mono':
      return [change(track, { monoFrom: 'left' })];
    case 'use-live-channel':
      return [change(track, { monoFrom: part.figures.side === 'left' ? 'right' : 'left' })];
    case 'pair':
      return other ? [change(other, { pan: -1 }), change(track, { pan: 1 })] : [];
    case 'flip-polarity':
      return other ? [change(track, { inverted: !other.inverted })] : [];
    case 'shift':
      return other
        ? [
            change(track, {
              startFrames: other.startFrames - framesOf(session, Number(part.figures.delayMs) / 1000),
            }),
          ]
        : [];
    case 'place-by-stamp':
      return [change(track, { startFrames: framesOf(session, Number(part.figures.seconds)) })];
    case 'take-place':
      return other
        ? [
            { kind: 'track.remove', id: track.id },
            {
              kind: 'track.replace',
              id: other.id,
              recordingId: track.recordingId,
              receivedName: track.receivedName,
            },
          ]
        : [];
    case 'as-mix':
      return [change(track, { family: 'reference', part: 'mix' }, { confidence: 1 })];
    case 'as-click':
      return [change(track, { family: 'click', part: 'click' }, { confidence: 1 })];
    case 'take-out':
      return isTrack(session.nodes[track.id]) ? [{ kind: 'track.remove', id: track.id }] : [];
    case null:
      return [];
  }
}

const framesOf = (session: SessionState, seconds: number): number =>
  Math.round(seconds * (session.sampleRateHz ?? 48_000)) + 0;

const change = (track: Track, fields: Partial<TrackFields>, beside: Partial<TrackFields> = {}): Move => ({
  kind: 'track.change',
  id: track.id,
  fields: { ...fields, ...beside, byHand: [...new Set([...track.byHand, ...Object.keys(fields)])] },
});

/** What is noticed of recordings that nothing is lost without: there is no sound in them, or another has the very same. */
const NEEDLESS: ReadonlySet<FindingCode> = new Set(['silent', 'same-bytes', 'same-audio']);

/** A recording nothing is lost without, and why. */
export interface NeedlessRecording {
  readonly id: string;
  readonly code: FindingCode;
  /** The recording it is a copy of; null for silence. */
  readonly other: string | null;
}

/** The recordings of open findings that nothing is lost without; of copies one always stays. */
export function needless(open: readonly Finding[]): NeedlessRecording[] {
  const found = new Map<string, NeedlessRecording>();
  /** What a recording is a copy of in the end. */
  const kept = (id: string): string => {
    const other = found.get(id)?.other ?? null;
    return other === null ? id : kept(other);
  };
  for (const { code, files } of open.filter((f) => NEEDLESS.has(f.code)))
    for (const { id, other } of files)
      if (!found.has(id) && (other === null || kept(other) !== id)) found.set(id, { id, code, other });
  return [...found.values()];
}

/** The edits that take those recordings out of a session. */
export const takeOutEdits = (session: SessionState, which: readonly NeedlessRecording[]): Move[] => {
  const tracks = tracksByRecording(session);
  return which.flatMap(({ id }): Move[] => {
    const track = tracks.get(id);
    return track ? [{ kind: 'track.remove', id: track.id }] : [];
  });
};
