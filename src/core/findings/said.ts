import type { SoundMetadata } from '../audio';
import { factsInName } from '../naming';

/** What names and files say of the song, each value once. */
export interface SaidFact {
  readonly kind: 'title' | 'artist' | 'tempo' | 'key' | 'meter' | 'rate' | 'depth';
  /** In one spelling; a tempo in pulses a minute. */
  readonly value: string;
  /** Names of files or folders that say so, and files with it inside. */
  readonly inNames: number;
  readonly inFiles: number;
}

const KINDS: readonly SaidFact['kind'][] = ['title', 'artist', 'tempo', 'key', 'meter', 'rate', 'depth'];

/** Collects what the names and the files of a delivery say, most often said first within each kind. Claims: nothing is applied by itself. */
export function saidFacts(
  files: readonly {
    readonly receivedName: string;
    readonly metadata: SoundMetadata;
    /** What it says of the tempo was set aside. */ readonly noTempo?: boolean;
  }[],
): SaidFact[] {
  const found = new Map<
    string,
    { kind: SaidFact['kind']; value: string; inNames: number; inFiles: number }
  >();
  const add = (kind: SaidFact['kind'], value: string, where: 'inNames' | 'inFiles'): void => {
    const key = `${kind} ${value.toLowerCase()}`;
    const fact = found.get(key) ?? { kind, value, inNames: 0, inFiles: 0 };
    fact[where]++;
    found.set(key, fact);
  };
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
