import type { RecordingView } from '@/contracts';
import type { TableOrder } from '@/ui/kit';

/** What recordings can be sorted by. */
export type RecordingColumn =
  'name' | 'state' | 'rate' | 'depth' | 'channels' | 'length' | 'peak' | 'loudness' | 'size';

const collator = new Intl.Collator('en', { numeric: true });
const plain = (text: string): string => text.normalize('NFD').replace(/\p{M}/gu, '').toLowerCase();

/** Recordings whose names have all words of a search. */
export function foundRecordings<R extends Pick<RecordingView, 'receivedName'>>(
  recordings: readonly R[],
  search: string,
): readonly R[] {
  const words = plain(search).split(/\s+/u).filter(Boolean);
  return words.length === 0
    ? recordings
    : recordings.filter((r) => words.every((w) => plain(r.receivedName).includes(w)));
}

/** What needs a person comes first. */
const STATES: readonly RecordingView['state'][] = ['failed', 'waiting', 'arriving', 'ready'];

const KEYS: Readonly<Record<RecordingColumn, (r: RecordingView) => string | number | null>> = {
  name: (r) => r.receivedName,
  state: (r) => STATES.indexOf(r.state),
  rate: (r) => r.sampleRateHz,
  depth: (r) => r.bitDepth,
  channels: (r) => r.channels,
  length: (r) =>
    r.lengthFrames === null || r.sampleRateHz === null ? null : r.lengthFrames / r.sampleRateHz,
  peak: (r) => r.facts?.peakDbfs ?? null,
  loudness: (r) => r.facts?.integratedLufs ?? null,
  size: (r) => r.sizeBytes,
};

/** Recordings in an order; alike ones by name, those it says nothing of last either way. Null = as they came. */
export function orderedRecordings(
  recordings: readonly RecordingView[],
  order: TableOrder<RecordingColumn> | null,
): readonly RecordingView[] {
  if (!order) return recordings;
  const key = KEYS[order.by];
  const sign = order.down ? -1 : 1;
  return [...recordings].sort((a, b) => {
    const [x, y] = [key(a), key(b)];
    if (x === null || y === null) return Number(x === null) - Number(y === null);
    const apart = typeof x === 'number' ? x - Number(y) : collator.compare(x, String(y));
    return sign * apart || collator.compare(a.receivedName, b.receivedName);
  });
}
