import type { CheckFacts } from '@/core/delivery';
import { codesByFile, type Finding } from '@/core/findings';
import type { ReadNames } from '@/core/naming';
import { noticed, type KnownRecording, sourcesOf, tracksInOrder } from '@/core/session';
import { type HouseStyle, namesFor, type TrackFacts } from '@/core/style';
import { gridAgreement, type TempoReading, timekeepersOf } from '@/core/tempo';
import { createSongMap } from '@/core/time';
import type { AskedNames } from './names';
import type { PlayedHits, RecordingView, SessionView } from './views';

/** A recording with all that was found in it; null while it is still arriving. */
export function knownRecording(r: RecordingView): KnownRecording | null {
  if (
    r.state !== 'ready' ||
    !r.facts ||
    r.sha256 === null ||
    r.sampleRateHz === null ||
    r.channels === null ||
    r.lengthFrames === null
  )
    return null;
  return {
    id: r.id,
    receivedName: r.receivedName,
    sha256: r.sha256,
    sampleRateHz: r.sampleRateHz,
    channels: r.channels,
    bitDepth: r.bitDepth ?? 0,
    encoding: r.encoding ?? '',
    lengthFrames: r.lengthFrames,
    lossy: r.lossy,
    metadata: r.metadata,
    warnings: r.warnings,
    facts: r.facts,
    truePeakDbtp: r.truePeakDbtp,
    heard: r.heard,
  };
}

/** Whether a file was to be a recording and could not be taken; what is none of itself (a text, a picture) is not missed. */
export const isRefused = (r: Pick<RecordingView, 'state' | 'fault'>): boolean =>
  r.state === 'failed' && r.fault?.code !== 'file.no_recording';

/** What was noticed in a session. */
export const noticedIn = (view: SessionView, readNames: ReadNames): ReturnType<typeof noticed> =>
  noticed(
    view.session,
    view.recordings.flatMap((r) => knownRecording(r) ?? []),
    view.relations,
    new Set(view.dismissals.map((d) => d.key)),
    readNames,
    view.recordings.filter((r) => r.notes?.cutOff).map((r) => r.id),
  );

/** The lists of names that are read for a session's page: its tracks, and what came in where one of it has to speak for itself. */
export function namesAskedBy(view: Pick<SessionView, 'session' | 'style' | 'recordings'>): AskedNames[] {
  const asked: Parameters<ReadNames>[] = [namesFor(view.session, view.style)];
  const inSession = new Set(tracksInOrder(view.session).map((t) => t.recordingId));
  const present = view.recordings.filter((r) => inSession.has(r.id) && knownRecording(r) !== null);
  sourcesOf(view.session, present, (...list) => {
    asked.push(list);
    return [];
  });
  return asked.map(([names, own = [], junk = []]) => ({ names, own, junk }));
}

/** How the timekeepers lie to the session's map; null without hits or map. */
function gridOf(view: SessionView, hits: readonly PlayedHits[] | null): CheckFacts['grid'] {
  const { map } = view.session;
  if (!map || !hits) return null;
  const keepers = new Set(
    timekeepersOf(view.session, (view.tempo?.result as TempoReading | undefined)?.timekeepers ?? null).map(
      (t) => t.id,
    ),
  );
  const seconds = hits.filter((h) => keepers.has(h.trackId)).flatMap((h) => h.seconds);
  return gridAgreement(
    createSongMap(map.points, map.meters),
    seconds.sort((a, b) => a - b),
  );
}

/** Recordings whose findings are not complete: under way, or given up (their listening failed or was cancelled). */
export function uncomparedOf(view: SessionView): { readonly count: number; readonly isUnderWay: boolean } {
  const inSession = new Set(tracksInOrder(view.session).map((t) => t.recordingId));
  const ready = view.recordings.filter((r) => r.state === 'ready' && inSession.has(r.id));
  const open = new Set(
    view.jobs.filter((j) => j.state === 'queued' || j.state === 'running').map((j) => j.kind),
  );
  const count = open.has('session.relate') ? ready.length : ready.filter((r) => !r.listened).length;
  return { count, isUnderWay: open.has('session.relate') || open.has('recording.listen') };
}

/** What is known of a session's recordings, for the checks before a package; the same for the page and for the package itself. `hits` null = not there yet. */
export function checkFactsOf(
  view: SessionView,
  hits: readonly PlayedHits[] | null,
  readNames: ReadNames,
): CheckFacts {
  const names = new Map(tracksInOrder(view.session).map((t) => [t.recordingId, t.name]));
  const received = new Map(view.recordings.map((r) => [r.id, r.receivedName]));
  return {
    failedRecordings: view.recordings.filter(isRefused).length,
    arrivingRecordings: view.recordings.filter((r) => r.state === 'waiting' || r.state === 'arriving').length,
    uncompared: uncomparedOf(view),
    grid: gridOf(view, hits),
    findings: noticedIn(view, readNames).open,
    nameOf: (id) => names.get(id) ?? received.get(id) ?? id,
  };
}

/** What is known of the tracks of a session besides their names, for conditions; `open` are its open findings. */
export function trackFactsOf(
  view: SessionView,
  open: readonly Finding[],
): (track: { readonly recordingId: string }) => TrackFacts {
  const recordings = new Map(view.recordings.map((r) => [r.id, r]));
  const codes = codesByFile(open);
  return ({ recordingId }) => ({
    channels: recordings.get(recordingId)?.channels ?? null,
    findings: codes.get(recordingId) ?? [],
    heard: recordings.get(recordingId)?.heard?.as ?? null,
  });
}

/** Whether a style asks for more than names of a session; of recordings not heard yet it need not know more. */
export const asksMore = (view: SessionView, style: HouseStyle): boolean =>
  style.rules.length + style.sends.length > 0 ||
  style.folders.some((f) => f.when !== null) ||
  view.recordings.some((r) => r.heard?.as);
