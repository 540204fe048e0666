import { CHROMA_PER_SECOND, PITCH_CLASSES } from '../analysis';
import { percentile } from '../dsp';
import type { TempoTrack } from './reading';

const { abs, max, min, round, sqrt } = Math;

/** What a hit says about the bar: who plays it. `harmony` are attacks at which the chord or bass note changes. */
export type Role =
  'kick' | 'snare' | 'hat' | 'crash' | 'percussion' | 'bass' | 'chords' | 'line' | 'harmony' | 'click';

/** Hits of one role, in order; `strength` 0–1. */
export interface Stream {
  readonly role: Role;
  readonly seconds: readonly number[];
  readonly strength: readonly number[];
  /** They swell into their notes rather than strike them: what was heard of them flickers. */
  readonly swells: boolean;
  /** The hits of each player, in order. */
  readonly own: readonly OwnHit[];
}

/** A hit of one track, s; `s` its strength, 0–1; `track` its index. */
interface OwnHit {
  readonly t: number;
  readonly s: number;
  readonly track: number;
}

/** Hits weaker than this share of a track's strong ones are bleed or decay (own). */
const BLEED = 0.34;
/** Strings and held sounds flicker more. */
const FLICKER = 0.5;
/** Rises are logarithmic: the power brings accents out again (own, from sessions of our own making). */
const ACCENT = 2.5;
/** Nobody strikes one instrument faster than this. */
const APART_SECONDS = 0.055;
/** Two microphones of one source, or two players together, are one hit. */
export const TOGETHER_SECONDS = 0.02;

type Band = 'low' | 'mid' | 'high';
interface Listens {
  readonly role: Role;
  /** How much the rise in each range counts. */
  readonly bands: Readonly<Record<Band, number>>;
}
const all = { low: 1, mid: 1, high: 1 };
const KICK: Listens = { role: 'kick', bands: { low: 1, mid: 0.15, high: 0 } };
const SNARE: Listens = { role: 'snare', bands: { low: -0.4, mid: 1, high: 0.5 } };
const HAT: Listens = { role: 'hat', bands: { low: 0, mid: 0.1, high: 1 } };
const PARTS: Readonly<Record<string, readonly Listens[]>> = {
  kick: [KICK],
  snare: [{ role: 'snare', bands: { low: 0, mid: 1, high: 1 } }],
  clap: [{ role: 'snare', bands: { low: 0, mid: 1, high: 1 } }],
  rim: [{ role: 'snare', bands: { low: 0, mid: 1, high: 1 } }],
  hihat: [HAT],
  ride: [HAT],
  cymbal: [{ role: 'crash', bands: { low: 0, mid: 0.5, high: 1 } }],
  tom: [],
  overhead: [SNARE, HAT, KICK],
  room: [],
  kit: [KICK, SNARE, HAT],
  loop: [KICK, SNARE, HAT],
  cajon: [KICK, SNARE],
  djembe: [KICK, SNARE],
  'frame-drum': [KICK, SNARE],
  'hand-drum': [KICK, SNARE],
  bodhran: [KICK, SNARE],
  shaker: [{ role: 'percussion', bands: all }],
  tambourine: [{ role: 'percussion', bands: all }],
};

const BASS: Listens = { role: 'bass', bands: { low: 1, mid: 0.7, high: 0.2 } };
/** Those of strings, brass and winds who play the bass (common practice, no source). */
const DEEP: ReadonlySet<string> = new Set(['cello', 'tuba', 'bassoon']);

/** What a track is listened to for; nothing = it says nothing about time. */
function listensOf(track: TempoTrack): readonly Listens[] {
  const part = track.part !== null ? PARTS[track.part] : undefined;
  switch (track.family) {
    case 'drums':
      return part ?? [KICK, SNARE, HAT];
    case 'percussion':
      return part ?? [{ role: 'percussion', bands: all }];
    case 'bass':
      return [BASS];
    case 'guitars':
    case 'keys':
    case 'synths':
      return [{ role: 'chords', bands: all }];
    case 'strings':
    case 'brass':
    case 'winds':
      return [DEEP.has(track.part ?? '') ? BASS : { role: 'chords', bands: all }];
    case 'lead-vocal':
    case 'backing-vocal':
      return [{ role: 'line', bands: all }];
    case 'click':
      return [{ role: 'click', bands: all }];
    // Nobody knows what it is: its ranges stand for those who would play there.
    case 'unknown':
      return [
        { role: 'kick', bands: { low: 1, mid: 0, high: 0 } },
        { role: 'chords', bands: { low: 0, mid: 1, high: 0 } },
        { role: 'hat', bands: { low: 0, mid: 0, high: 1 } },
      ];
    default:
      return [];
  }
}

const HARMONIC: ReadonlySet<string> = new Set([
  'bass',
  'guitars',
  'keys',
  'synths',
  'strings',
  'brass',
  'winds',
  'unknown',
]);

const SWELLING = ' swelling';
/** How clearly those begin who swell into a note rather than strike it (common practice, no source). */
const SWELLS: Readonly<Partial<Record<TempoTrack['family'], number>>> = {
  synths: 0.5,
  strings: 0.35,
  brass: 0.6,
  winds: 0.5,
};

/** Hits of a track for one role: those that stand out of its own, with their strength against the strong ones. */
export function hitsOf(
  track: TempoTrack,
  bands: Readonly<Record<Band, number>>,
  least = BLEED,
): { seconds: number[]; strength: number[] } {
  const { seconds, low, mid, high } = track.curves.attacks;
  const raw = Array.from(seconds, (_, i) =>
    max(
      0,
      bands.low * (low[i] as number) + bands.mid * (mid[i] as number) + bands.high * (high[i] as number),
    ),
  );
  const audible = raw.filter((x) => x > 0.5);
  if (audible.length === 0) return { seconds: [], strength: [] };
  const top = percentile(audible, 0.98);
  const strong = percentile(
    audible.filter((x) => x >= 0.4 * top),
    0.88,
  );
  // Low strings flicker at their own pitch: of attacks close together only the strongest is one.
  const rules = (i: number): boolean => {
    const x = raw[i] as number;
    const t = seconds[i] as number;
    for (let k = i - 1; k >= 0 && t - (seconds[k] as number) < APART_SECONDS; k--)
      if ((raw[k] as number) >= x) return false;
    for (let k = i + 1; k < raw.length && (seconds[k] as number) - t < APART_SECONDS; k++)
      if ((raw[k] as number) > x) return false;
    return true;
  };
  const kept = raw
    .map((_, i) => i)
    .filter((i) => (raw[i] as number) > 0.5 && (raw[i] as number) >= least * strong && rules(i));
  return {
    seconds: kept.map((i) => seconds[i] as number),
    strength: kept.map((i) => min(1, (raw[i] as number) / strong) ** ACCENT),
  };
}

/** All that a track is heard to strike, whatever it is listened to for; strengths 0–1. Empty for what says nothing about time. */
export function playedHits(track: TempoTrack): Pick<Stream, 'seconds' | 'strength'> {
  const least = HARMONIC.has(track.family) ? FLICKER : BLEED;
  return merged(
    listensOf(track).flatMap(({ bands }) => {
      const hits = hitsOf(track, bands, least);
      return hits.seconds.map((t, i) => ({ t, s: hits.strength[i] as number }));
    }),
  );
}

/** Nobody knows what it is, or only that it is of a kit. */
const isVague = ({ family, part }: TempoTrack): boolean =>
  family === 'unknown' || (family === 'drums' && part === null);

/** All hits by role, over the tracks that say something; `weights` by track (0 = leave out). */
export function streamsOf(tracks: readonly TempoTrack[], weights: readonly number[]): Stream[] {
  const byRole = new Map<string, OwnHit[]>();
  const put = (role: string, track: number, hits: { seconds: number[]; strength: number[] }): void => {
    const list = byRole.get(role) ?? [];
    hits.seconds.forEach((t, i) => list.push({ t, s: hits.strength[i] as number, track }));
    byRole.set(role, list);
  };
  const close = new Set(
    tracks.filter((t, i) => (weights[i] as number) > 0 && t.family === 'drums').map((t) => t.part),
  );
  tracks.forEach((track, i) => {
    if ((weights[i] as number) <= 0) return;
    for (const { role, bands } of listensOf(track)) {
      // Where a piece has its own microphone, the distant ones only blur it, and so does what nobody knows.
      if (
        (track.part === 'overhead' || isVague(track)) &&
        ((role === 'kick' && close.has('kick')) ||
          (role === 'snare' && close.has('snare')) ||
          (role === 'hat' && close.has('hihat')))
      )
        continue;
      const hits = hitsOf(track, bands, HARMONIC.has(track.family) || role === 'line' ? FLICKER : BLEED);
      const clear = SWELLS[track.family] ?? 1;
      put(clear < 1 ? role + SWELLING : role, i, { ...hits, strength: hits.strength.map((x) => clear * x) });
    }
  });
  const streams = [...byRole].map(([name, list]) => ({
    ...merged(list),
    own: list,
    role: name.split(' ')[0] as Role,
    swells: name.endsWith(SWELLING),
  }));
  return [
    ...streams,
    changesOf(tracks.map((t, i) => ((weights[i] as number) > 0 && HARMONIC.has(t.family) ? t : null))),
  ].filter((s) => s.seconds.length > 0);
}

/** Hits of several tracks as those of one: near ones count once, with the strongest. */
function merged<T extends { readonly t: number; readonly s: number }>(
  list: T[],
): Pick<Stream, 'seconds' | 'strength'> {
  list.sort((a, b) => a.t - b.t);
  const seconds: number[] = [];
  const strength: number[] = [];
  for (let i = 0; i < list.length;) {
    let [sum, weight, top] = [0, 0, 0];
    const first = (list[i] as { t: number }).t;
    for (; i < list.length && (list[i] as { t: number }).t - first <= TOGETHER_SECONDS; i++) {
      const { t, s } = list[i] as { t: number; s: number };
      sum += s * t;
      weight += s;
      top = max(top, s);
    }
    seconds.push(sum / weight);
    strength.push(top);
  }
  return { seconds, strength };
}

/** Chords change no faster than this; a far larger change is seen from further. */
const CHANGE_APART_SECONDS = 0.45;
const SHADOW_SECONDS = 1;
const SHADOW_TIMES = 1.5;
/** How far before and after an attack the classes of pitch are compared, entries of the chroma: notes of a broken chord change what is near, a new chord changes both. */
const NEAR = 4;
const FAR = 12;

/** Attacks at which the chord changes, heard over all that play chords or basses together, with how much it does; null = a track that does not. */
function changesOf(tracks: readonly (TempoTrack | null)[]): Stream {
  const chroma = sumOfChroma(tracks.filter((t) => t !== null));
  const entries = chroma.length / PITCH_CLASSES;
  const own = tracks.flatMap((track, k): OwnHit[] => {
    if (!track) return [];
    const hits = hitsOf(track, all, FLICKER);
    return hits.seconds.map((t, i) => ({
      t,
      s: (SWELLS[track.family] ?? 1) * (hits.strength[i] as number),
      track: k,
    }));
  });
  const attacks = merged(own);
  // Sums from the start: any stretch is a difference of two.
  const sums = new Float64Array((entries + 1) * PITCH_CLASSES);
  for (let k = 0; k < chroma.length; k++)
    sums[k + PITCH_CLASSES] = (sums[k] as number) + (chroma[k] as number);
  const change = (at: number, reach: number): number => {
    // The windows of 0.35 s begin to mix two chords before and after: one entry is left out on each side.
    const [a0, a1, b0, b1] = [at - 1 - reach, at - 1, at + 2, at + 2 + reach].map(
      (n) => PITCH_CLASSES * max(0, min(entries, n)),
    ) as [number, number, number, number];
    let [aa, bb, ab] = [0, 0, 0];
    for (let c = 0; c < PITCH_CLASSES; c++) {
      const a = (sums[a1 + c] as number) - (sums[a0 + c] as number);
      const b = (sums[b1 + c] as number) - (sums[b0 + c] as number);
      aa += a * a;
      bb += b * b;
      ab += a * b;
    }
    return bb < 1e-9 ? 0 : aa < 1e-9 ? 0.5 : max(0, 1 - ab / sqrt(aa * bb));
  };
  const found = attacks.seconds.map((t, i) => {
    const at = round(t * CHROMA_PER_SECOND);
    const far = change(at, FAR);
    return { t, near: change(at, NEAR), far, rank: far * (0.65 + 0.35 * (attacks.strength[i] as number)) };
  });
  // A change is seen from the attacks around it too: only where it is largest is it one.
  const changes = found.filter(({ t, far, rank }, i) => {
    if (far < 0.15) return false;
    const isBelow = (k: number, even: boolean): boolean => {
      const other = found[k] as { t: number; rank: number };
      return abs(other.t - t) < CHANGE_APART_SECONDS
        ? other.rank > rank || (even && other.rank === rank)
        : other.rank > SHADOW_TIMES * rank;
    };
    for (let k = i - 1; k >= 0 && t - (found[k] as { t: number }).t < SHADOW_SECONDS; k--)
      if (isBelow(k, true)) return false;
    for (let k = i + 1; k < found.length && (found[k] as { t: number }).t - t < SHADOW_SECONDS; k++)
      if (isBelow(k, false)) return false;
    return true;
  });
  return {
    ...merged(changes.map(({ t, near, far }) => ({ t, s: min(1, min(near, far) / 0.6) }))),
    role: 'harmony',
    swells: false,
    own,
  };
}

/** Pitch classes of all together, each track at its own level. */
function sumOfChroma(tracks: readonly TempoTrack[]): Float32Array {
  const out = new Float32Array(max(0, ...tracks.map((t) => t.curves.chroma.length)));
  for (const {
    curves: { chroma },
  } of tracks) {
    let sum = 0;
    for (let k = 0; k < chroma.length; k++) sum += (chroma[k] as number) ** 2;
    const scale = sum > 0 ? 1 / sqrt(sum / chroma.length) : 0;
    for (let k = 0; k < chroma.length; k++) out[k] = (out[k] as number) + scale * (chroma[k] as number);
  }
  return out;
}
