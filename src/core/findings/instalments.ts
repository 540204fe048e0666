import { stripExtension } from '../naming';
import { roundTo } from '../units';
import type { AlikeFact, Finding, FindingFile, KnownFile } from './finding';

/** Levels, lengths and beginnings that differ by less are the same. */
const SAME_SECONDS = 0.002;
const SAME_LU = 0.3;

/** Words that say which version of a thing it is, not what it is. Common practice, no source. */
const VERSION = /^(new|final|fix|fixed|update|updated|comp|alt|redo|copy|print)$/;
const COUNTED = /^(v|ver|version|rev|take|tk|t)(\d*)$/;
/** A padded number is what a recorder counted, a long one a date; a plain one tells two guitars apart. */
const COUNTER = /^(0\d+|\d{4,})$/;

const wordsOf = (name: string): string[] =>
  stripExtension(name.split(/[\\/]/).at(-1) ?? '')
    .normalize('NFD')
    .replace(/\p{M}/gu, '')
    .toLowerCase()
    .split(/[^\p{L}\p{N}]+/u)
    .filter((w) => w !== '');
const stemOf = (name: string): string => wordsOf(name).join(' ');
const coreOf = (name: string): string => {
  const words = wordsOf(name);
  return words
    .filter(
      (w, i) =>
        !VERSION.test(w) &&
        !COUNTED.test(w) &&
        !COUNTER.test(w) &&
        !(/^\d+$/.test(w) && COUNTED.exec(words[i - 1] ?? '')?.[2] === ''),
    )
    .join(' ');
};
const sourceOf = ({ source: s }: KnownFile): string =>
  JSON.stringify([s.family, s.part, s.role, s.position, s.side, s.number]);

/** Later arrivals that look meant for a track that is there: by the same name, another version of it, the one track of the same kind, or by playing the same. Each is named for one track at most. */
export function replacements(files: readonly KnownFile[], alikes: readonly AlikeFact[] = []): Finding[] {
  const fresh = files.filter((f) => !f.settled);
  if (fresh.length === 0 || fresh.length === files.length) return [];
  const there = files.filter((f) => f.settled).map(namedOf);
  const parts = fresh.flatMap((f): FindingFile[] => {
    const others = there.filter((o) => o.file.sha256 !== f.sha256);
    const [old, how] = matchOf(namedOf(f), others);
    if (old) return [{ id: f.id, other: old.id, figures: { how, ...differences(f, old) }, places: [] }];
    const heard = alikeOf(f, others, alikes);
    return heard
      ? [
          {
            id: f.id,
            other: heard.file.id,
            figures: {
              how: 'it plays the same',
              ...(heard.laterSeconds === 0 ? {} : { laterSeconds: heard.laterSeconds }),
              ...differences(f, heard.file),
            },
            places: [],
          },
        ]
      : [];
  });
  return parts.length === 0
    ? []
    : [{ code: 'replaces', severity: 'check', remedy: 'take-place', files: parts }];
}

/** A file with its name taken apart once. */
interface Named {
  readonly file: KnownFile;
  readonly stem: string;
  readonly core: string;
  readonly kind: string;
}

const namedOf = (file: KnownFile): Named => ({
  file,
  stem: stemOf(file.receivedName),
  core: coreOf(file.receivedName),
  kind: sourceOf(file),
});

function matchOf(
  { file, stem, core, kind: source }: Named,
  there: readonly Named[],
): readonly [KnownFile | null, string] {
  const only = (list: readonly Named[]): KnownFile | null =>
    list.length === 1 ? (list[0] as Named).file : null;
  const same = only(there.filter((o) => o.stem === stem));
  if (same) return [same, 'the same name'];
  const version = core === '' ? null : only(there.filter((o) => o.core === core));
  if (version) return [version, 'another version by name'];
  const kind =
    file.source.part === null || file.source.family === 'unknown'
      ? null
      : only(there.filter((o) => o.kind === source));
  return [kind, 'the one track of this kind'];
}

/** Microphones of one source play alike too: what follows two tracks nearly as well names neither. */
const ALIKE = 0.93;
const ALIKE_AHEAD = 0.01;

function alikeOf(
  file: KnownFile,
  there: readonly Named[],
  alikes: readonly AlikeFact[],
): { readonly file: KnownFile; readonly laterSeconds: number } | null {
  const [first, second] = alikes
    .filter((a) => a.fresh === file.id && there.some((o) => o.file.id === a.settled))
    .sort((a, b) => b.correlation - a.correlation);
  if (!first || first.correlation < ALIKE || (second && first.correlation - second.correlation < ALIKE_AHEAD))
    return null;
  return {
    file: (there.find((o) => o.file.id === first.settled) as Named).file,
    laterSeconds: first.laterSeconds,
  };
}

/** In what the newer differs; what is alike is left out. */
function differences(file: KnownFile, old: KnownFile): Record<string, number> {
  const found: Record<string, number> = {};
  const length = file.lengthFrames / file.sampleRateHz - old.lengthFrames / old.sampleRateHz;
  if (Math.abs(length) > SAME_SECONDS) found.lengthSeconds = roundTo(length, 3);
  const first =
    file.facts.firstSoundSeconds !== null && old.facts.firstSoundSeconds !== null
      ? file.facts.firstSoundSeconds - old.facts.firstSoundSeconds
      : 0;
  if (Math.abs(first) > SAME_SECONDS) found.firstSoundSeconds = roundTo(first, 3);
  const loudness =
    file.facts.integratedLufs !== null && old.facts.integratedLufs !== null
      ? file.facts.integratedLufs - old.facts.integratedLufs
      : 0;
  if (Math.abs(loudness) > SAME_LU) found.loudnessLu = roundTo(loudness, 1);
  if (file.sampleRateHz !== old.sampleRateHz) found.rateHz = file.sampleRateHz;
  return found;
}
