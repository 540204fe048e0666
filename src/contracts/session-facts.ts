import type { Finding } from '@/core/findings';
import { noticed, type KnownRecording } from '@/core/session';
import type { HouseStyle, TrackFacts } from '@/core/style';
import type { RecordingView, SessionView } from './views';

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

/** What was noticed in a session. */
export const noticedIn = (view: SessionView): ReturnType<typeof noticed> =>
  noticed(
    view.session,
    view.recordings.flatMap((r) => knownRecording(r) ?? []),
    view.relations,
    new Set(view.dismissals.map((d) => d.key)),
  );

/** What is known of the tracks of a session besides their names, for conditions; `open` are its open findings. */
export function trackFactsOf(
  view: SessionView,
  open: readonly Finding[],
): (track: { readonly recordingId: string }) => TrackFacts {
  const recordings = new Map(view.recordings.map((r) => [r.id, r]));
  const codes = new Map<string, string[]>();
  for (const f of open)
    for (const part of f.files)
      for (const id of [part.id, part.other])
        if (id !== null) codes.set(id, [...(codes.get(id) ?? []), f.code]);
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
