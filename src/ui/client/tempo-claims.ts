import type { RecordingView, SessionView } from '@/contracts';
import { type SaidFact, saidFacts } from '@/core/findings';
import { factsInName } from '@/core/naming';
import { createSongMap, pulseQuarters, pulseTempi, type SongMapFile } from '@/core/time';

const key = (sha256: string): string => `tempo-claim ${sha256}`;

/** Whether a recording, by its name or inside, claims a tempo. */
const claims = (r: RecordingView): boolean =>
  r.metadata.tempoClaims.length > 0 || factsInName(r.receivedName).some((f) => f.kind === 'tempo');

/** Recordings that claim a tempo a person has not set aside. */
export function claimingTempo(view: SessionView): readonly RecordingView[] {
  const aside = new Set(view.dismissals.map((d) => d.key));
  return view.recordings.filter(
    (r) => r.state === 'ready' && r.sha256 !== null && claims(r) && !aside.has(key(r.sha256)),
  );
}

/** Recordings whose claims were set aside. */
export function tempoSetAside(view: SessionView): readonly RecordingView[] {
  const claiming = new Set(claimingTempo(view).map((r) => r.id));
  return view.recordings.filter(
    (r) => r.state === 'ready' && r.sha256 !== null && claims(r) && !claiming.has(r.id),
  );
}

/** Names under which the claims of these recordings are put aside. */
export const tempoClaimKeys = (recordings: readonly RecordingView[]): string[] => [
  ...new Set(recordings.flatMap((r) => (r.sha256 === null ? [] : [key(r.sha256)]))),
];

/** What names and files say of the song, without tempi that were set aside. */
export function saidOf(view: SessionView): readonly SaidFact[] {
  const aside = new Set(tempoSetAside(view).map((r) => r.id));
  return saidFacts(
    view.recordings.filter((r) => r.state === 'ready').map((r) => ({ ...r, noTempo: aside.has(r.id) })),
    view.session.notes,
  );
}

/** Where it is said, in words. */
export const saidWhere = ({ inNames, inFiles, inNotes }: SaidFact): string =>
  [
    inNotes ? 'in the notes' : '',
    inNames > 0 ? `in ${inNames} ${inNames === 1 ? 'name' : 'names'}` : '',
    inFiles > 0 ? `inside ${inFiles} ${inFiles === 1 ? 'file' : 'files'}` : '',
  ]
    .filter((t) => t !== '')
    .join(', ');

const AGREES = 0.005;

/** How a claimed tempo stands beside the map, in words to go on with; half and double are the same claim, counted otherwise. Empty without a map. */
export function besideMap(bpm: number, file: SongMapFile | null): string {
  if (!file) return '';
  const map = createSongMap(file.points, file.meters);
  const tempi = pulseTempi(map).sort((a, b) => a - b);
  const middle = tempi[Math.floor(tempi.length / 2)] ?? 0;
  // Files count quarters, also where a pulse is not one.
  const inQuarters = middle * pulseQuarters(map.meters.meterAt(1));
  const factor = [1, 2, 0.5].find((k) =>
    [middle, inQuarters].some((tempo) => Math.abs(bpm * k - tempo) <= AGREES * tempo),
  );
  return factor === 1
    ? ', as in the map'
    : factor === undefined
      ? `; the map has ${middle.toFixed(1)}`
      : ', half or double of the map';
}
