import type { SoundMetadata } from '../audio';
import { factsInName, factsInText } from '../naming';

/** What names and files say of the song, each value once. */
export interface SaidFact {
  readonly kind: 'title' | 'artist' | 'tempo' | 'key' | 'meter' | 'rate' | 'depth';
  /** In one spelling; a tempo in pulses a minute. */
  readonly value: string;
  /** Names of files or folders that say so, and files with it inside. */
  readonly inNames: number;
  readonly inFiles: number;
  /** The notes of the sender say so. */
  readonly inNotes: boolean;
}

const KINDS: readonly SaidFact['kind'][] = ['title', 'artist', 'tempo', 'key', 'meter', 'rate', 'depth'];

/** Collects what the names and the files of a delivery say, and the sender's notes, most often said first within each kind. Claims: nothing is applied by itself. */
export function saidFacts(
  files: readonly {
    readonly receivedName: string;
    readonly metadata: SoundMetadata;
    /** What it says of the tempo was set aside. */ readonly noTempo?: boolean;
  }[],
  notes = '',
): SaidFact[] {
  const found = new Map<
    string,
    { kind: SaidFact['kind']; value: string; inNames: number; inFiles: number; inNotes: boolean }
  >();
  const add = (kind: SaidFact['kind'], value: string, where: 'inNames' | 'inFiles' | 'inNotes'): void => {
    const key = `${kind} ${value.toLowerCase()}`;
    const fact = found.get(key) ?? { kind, value, inNames: 0, inFiles: 0, inNotes: false };
    if (where === 'inNotes') fact.inNotes = true;
    else fact[where]++;
    found.set(key, fact);
  };
  for (const f of factsInText(notes)) add(f.kind, f.value, 'inNotes');
  for (const { receivedName, metadata, noTempo = false } of files) {
    for (const f of factsInName(receivedName))
      if (f.kind !== 'tempo' || !noTempo) add(f.kind, f.value, 'inNames');
    for (const c of noTempo ? [] : new Set(metadata.tempoClaims.map((t) => String(t.bpm))))
      add('tempo', c, 'inFiles');
    for (const t of metadata.texts)
      if (t.kind === 'artist' || t.kind === 'key' || t.kind === 'title') add(t.kind, t.text, 'inFiles');
  }
  // A title of its own in every file is the track's name, not the song's.
  const usable = [...found.values()].filter((f) => f.kind !== 'title' || f.inFiles > 1);
  return usable.sort(
    (a, b) => KINDS.indexOf(a.kind) - KINDS.indexOf(b.kind) || b.inNames + b.inFiles - a.inNames - a.inFiles,
  );
}
