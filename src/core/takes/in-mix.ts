import { percentile } from '../dsp';
import { type Activity, soundsIn } from './activity';

/** How strong each file stands in a mix, stretch after stretch. */
export interface MixWindows {
  /** Length of a stretch. */
  readonly seconds: number;
  /** Linear gain over both sides of every file, for each stretch. */
  readonly gains: readonly (readonly number[])[];
}

/** What a mix says of files that could be takes of each other. */
export type MixSays =
  | { readonly kind: 'one'; readonly file: number; readonly sure: number }
  | { readonly kind: 'in-turn'; readonly files: readonly number[]; readonly sure: number }
  | { readonly kind: 'together'; readonly files: readonly number[]; readonly sure: number }
  | { readonly kind: 'none' | 'unclear' };

/** Stronger than this, of the strongest of them, a file is in the mix; weaker than this it is not. */
const [PRESENT, ABSENT] = [0.27, 0.17];
/** The strongest is in the mix at all above this, of what other files reach. */
const LEAST = 0.12;
/** A file counts in a stretch of which it sounds this share. */
const SOUNDS = 0.4;
/** So many stretches must say something; so large a share of them must agree. */
const [LEAST_WINDOWS, AGREE] = [2, 0.8];

/**
 * Which of some files a mix has. `activity`: where each file sounds. Takes are wanted one at a time, what is meant to sound
 * together is there together.
 */
export function askMix(
  files: readonly number[],
  { seconds, gains }: MixWindows,
  activity: readonly (Activity | null)[],
): MixSays {
  const isSounding = (k: number, w: number): boolean => {
    const own = activity[k];
    return own !== null && own !== undefined && soundsIn(own, w * seconds, (w + 1) * seconds) >= SOUNDS;
  };
  const gainsOf = (k: number): number[] =>
    gains.flatMap((all, w) => (isSounding(k, w) ? [all[k] as number] : []));
  const strength = (k: number): number => {
    const own = gainsOf(k);
    return own.length === 0 ? 0 : percentile(own, 0.75);
  };
  const strongest = Math.max(...files.map(strength));
  const usual = usualOf(files, activity, strength);
  if (strongest <= LEAST * (usual ?? 1)) return { kind: 'none' };
  const times = new Map<number, number>();
  const stretches = gains.flatMap((all, w): Stretch[] => {
    const sounding = files.filter((k) => isSounding(k, w));
    const present = sounding.filter((k) => (all[k] as number) > PRESENT * strongest);
    for (const k of present) times.set(k, (times.get(k) ?? 0) + 1);
    // Where a single one sounds, it cannot be told from a take that was left.
    if (sounding.length < 2 || present.length === 0) return [];
    const isOpen = sounding.some((k) => !present.includes(k) && (all[k] as number) > ABSENT * strongest);
    return [{ present, isOpen }];
  });
  return verdict({ ...counted(stretches), times, of: (k) => gainsOf(k).length });
}

/** Which of the files are there in a stretch in which more than one sounds. */
interface Stretch {
  readonly present: readonly number[];
  /** Of another it cannot be said. */
  readonly isOpen: boolean;
}

/** A stretch between one that has only the first and one that has only the second is where they change over: it says nothing. */
function counted(stretches: readonly Stretch[]): Pick<Counts, 'one' | 'more' | 'open'> {
  let [one, more, open] = [0, 0, 0];
  stretches.forEach((s, i) => {
    const [before, after] = [stretches[i - 1]?.present, stretches[i + 1]?.present];
    const isChange =
      before?.length === 1 && after?.length === 1 && before[0] !== after[0] && s.present.length <= 2;
    if (isChange && (s.isOpen || s.present.length === 2)) return;
    if (s.isOpen) open++;
    else if (s.present.length === 1) one++;
    else more++;
  });
  return { one, more, open };
}

interface Counts {
  readonly one: number;
  readonly more: number;
  readonly open: number;
  /** Stretches in which each file is there. */
  readonly times: ReadonlyMap<number, number>;
  /** Stretches in which a file sounds. */
  readonly of: (file: number) => number;
}

function verdict({ one, more, open, times, of }: Counts): MixSays {
  const all = one + more + open;
  if (all < LEAST_WINDOWS) return { kind: 'unclear' };
  const there = [...times].sort((a, b) => b[1] - a[1]);
  if (more >= AGREE * all)
    return { kind: 'together', files: there.map(([k]) => k).sort((a, b) => a - b), sure: more / all };
  if (one < AGREE * all) return { kind: 'unclear' };
  const [first] = there as [[number, number]];
  const often = there.filter(([k, n]) => n >= 0.15 * of(k));
  return often.length > 1
    ? { kind: 'in-turn', files: often.map(([k]) => k).sort((a, b) => a - b), sure: one / all }
    : { kind: 'one', file: first[0], sure: one / all };
}

/** What files beside these reach in the mix; null where there are none. */
function usualOf(
  files: readonly number[],
  activity: readonly (Activity | null)[],
  strength: (k: number) => number,
): number | null {
  const others = activity.flatMap((a, k) => (a && a.count > 0 && !files.includes(k) ? [strength(k)] : []));
  return others.length > 0 ? percentile(others, 0.5) : null;
}
