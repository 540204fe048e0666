import { basename, join } from 'node:path';
import { faultText } from '@/contracts';
import { readNames } from '@/core/naming';
import { kindKnown } from '@/core/style';
import { type PlacedFile, runTask } from '@/engine';
import { type InspectedSound, threadPath } from './sound-files';

type Inspected = Extract<InspectedSound['outcome'], { readonly ok: true }>['value'];
/** A sound of a delivery that can be used. */
export interface UsableSound {
  readonly file: string;
  /** At the rate of most files. */
  readonly path: string;
  readonly value: Inspected;
  readonly isLossy: boolean;
}

/** A file with what its name and its sound say it is. */
export interface KnownSound extends UsableSound {
  readonly reading: ReturnType<typeof readNames>[number] | null;
  readonly kind: ReturnType<typeof kindKnown>;
}

/** What names and sounds say the files are. */
export function knownSounds(usable: readonly UsableSound[]): KnownSound[] {
  const readings = readNames(usable.map((u) => basename(u.file)));
  return usable.map((u, i) => {
    const reading = readings[i] ?? null;
    return { ...u, reading, kind: kindKnown(null, reading, u.value.listening?.heard ?? null) };
  });
}

/** All files of a folder begin together. */
export const atStart = ({ path }: UsableSound): PlacedFile => ({ path, startFrames: 0 });

/** Files at the rate of most of them; others are converted into the folder. */
export async function atOneRate(sounds: readonly InspectedSound[], folder: string): Promise<UsableSound[]> {
  const ready = sounds.flatMap(({ file, path, about, outcome }): UsableSound[] =>
    outcome.ok ? [{ file, path, value: outcome.value, isLossy: about?.lossy === true }] : [],
  );
  const counts = new Map<number, number>();
  for (const { value } of ready)
    counts.set(value.header.sampleRateHz, (counts.get(value.header.sampleRateHz) ?? 0) + 1);
  const rate = [...counts].sort((a, b) => b[1] - a[1])[0]?.[0];
  const out: UsableSound[] = [];
  for (const [i, u] of ready.entries()) {
    if (rate === undefined || u.value.header.sampleRateHz === rate) {
      out.push(u);
      continue;
    }
    const outPath = join(folder, `${i}.wav`);
    const made = await runTask(
      'convert',
      { path: u.path, outPath, toHz: rate },
      { threadPath: threadPath() },
    );
    if (!made.ok) throw new Error(`${u.file}: ${faultText(made.error)}`);
    out.push({ ...u, path: outPath });
  }
  return out;
}

/** A file whose name says it belongs to no track is a mix from this share on, and one that is called a mix from this: something is missing. */
const [PROBABLY, CALLED] = [0.5, 0.4];

/** The file that is the mix of the others; null where none is. */
export async function mixAmong(usable: readonly KnownSound[]): Promise<number | null> {
  const families = usable.map((u) => u.kind.family);
  const isCalledMix = ({ kind }: KnownSound): boolean => kind.family === 'reference' && kind.part === 'mix';
  if (usable.length < (usable.some(isCalledMix) ? 3 : 4)) return null;
  const isReference = (k: number): boolean => families[k] === 'reference';
  const all = await runTask(
    'mixes',
    {
      paths: usable.map((u) => u.path),
      // A close microphone is mono, and lies where the others do.
      maybeLater: usable.flatMap((u, k) =>
        isReference(k) || u.isLossy || u.value.header.channels === 2 ? [k] : [],
      ),
    },
    { threadPath: threadPath() },
  );
  const found = all
    .map((likeness, k) => ({ ...likeness, k }))
    .filter(
      (l) =>
        l.isMix ||
        (isReference(l.k) && l.share > PROBABLY && l.carriers.length >= 3 && l.spread >= 1.5) ||
        // One voice may be most of it.
        (isCalledMix(usable[l.k] as KnownSound) && l.share > CALLED && l.carriers.length >= 2),
    )
    // A microphone over a kit is the sum of those in it, and no mix of the song.
    .filter((l) => !l.carriers.every((c) => families[c] === families[l.k]))
    .sort((a, b) => b.carriers.length - a.carriers.length || b.share - a.share);
  return found[0]?.k ?? null;
}
