import { readLevelsParts } from '@/core/analysis';
import { type HeardTrack, hearTracks, placedLevels, proposeCuts, type TidyTrack } from '@/core/tidy';
import { hearAcross, stopHelpers } from './hear-across';
import type { FromShare, FromTidyWorker, HearShare, ToTidyWorker, TrackToHear } from './tidy-messages';

/** Recordings in one request: some MB of levels. */
const AT_ONCE = 16;

let heard: readonly HeardTrack[] = [];
let newest = 0;
/** What the page was told of each track: it draws only what changes. */
const told = new Map<string, string>();
let wanted: Extract<ToTidyWorker, { readonly kind: 'propose' }> | null = null;

const tell = (message: FromTidyWorker): void => self.postMessage(message);

self.onmessage = ({ data }: MessageEvent<ToTidyWorker>) => {
  if (data.kind === 'hear') void hear(data.run, data.tracks);
  else if (data.kind === 'hear-share') hearShare(data);
  else {
    // Of many that came while one was worked at, only the last counts.
    if (wanted === null) setTimeout(propose);
    wanted = data;
  }
};

/** As a helper of another worker. */
function hearShare({ tracks, which }: HearShare): void {
  const answer = (message: FromShare): void => self.postMessage(message);
  const heard = hearTracks(tracks, () => answer({ kind: 'share-on' }), which);
  answer({ kind: 'share-heard', heard });
}

function propose(): void {
  const asked = wanted;
  wanted = null;
  if (asked?.run !== newest) return;
  const begin = performance.now();
  const proposals = proposeCuts(heard, ({ id }) => asked.own[id] ?? asked.settings, new Set(asked.apart));
  const changed = proposals.filter((p) => {
    const text = JSON.stringify(p);
    if (told.get(p.id) === text) return false;
    told.set(p.id, text);
    return true;
  });
  const ids = proposals.map((p) => p.id);
  tell({ kind: 'proposals', run: asked.run, ids, changed, tookMs: performance.now() - begin });
}

async function hear(run: number, tracks: readonly TrackToHear[]): Promise<void> {
  newest = run;
  heard = [];
  // Answers to an older run may not have been taken.
  told.clear();
  stopHelpers();
  try {
    const found = await fetchTracks(tracks);
    if (run !== newest) return;
    const of = found.length;
    tell({ kind: 'heard', run, done: 0, of });
    const all = await hearAcross(found, (done) => {
      // The last is told once all are together.
      if (run === newest && done < of) tell({ kind: 'heard', run, done, of });
    });
    if (run !== newest) return;
    heard = all;
    tell({ kind: 'heard', run, done: of, of });
  } catch {
    if (run === newest) tell({ kind: 'failed', run });
  }
}

async function fetchTracks(tracks: readonly TrackToHear[]): Promise<TidyTrack[]> {
  const found: TidyTrack[] = [];
  for (let at = 0; at < tracks.length; at += AT_ONCE) {
    const part = tracks.slice(at, at + AT_ONCE);
    const response = await fetch('/api/levels', {
      method: 'POST',
      headers: { 'content-type': 'application/json' },
      body: JSON.stringify({ recordings: part.map((t) => t.recordingId) }),
    });
    if (!response.ok) throw new Error(`levels: ${response.status}`);
    const levels = readLevelsParts(new Uint8Array(await response.arrayBuffer()));
    part.forEach((t, i) => {
      const own = levels[i];
      if (own) found.push({ ...t, levels: placedLevels(own, t) });
    });
  }
  return found;
}
