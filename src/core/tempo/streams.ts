import { CHROMA_PER_SECOND, PITCH_CLASSES } from '../analysis';
import { percentile } from '../dsp';
import type { TempoTrack } from './reading';

const { max, min, round, sqrt } = Math;

/** What a hit says about the bar: who plays it. `harmony` are attacks at which the chord or bass note changes. */
export type Role = 'kick' | 'snare' | 'hat' | 'crash' | 'percussion' | 'bass' | 'chords' | 'line' | 'harmony' | 'click';

/** Hits of one role, in order; `strength` 0–1. */
export interface Stream {
  readonly role: Role;
  readonly seconds: readonly number[];
  readonly strength: readonly number[];
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
const TOGETHER_SECONDS = 0.02;

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
  kick: [KICK], snare: [{ role: 'snare', bands: { low: 0, mid: 1, high: 1 } }], clap: [{ role: 'snare', bands: { low: 0, mid: 1, high: 1 } }], rim: [{ role: 'snare', bands: { low: 0, mid: 1, high: 1 } }],
  hihat: [HAT], ride: [HAT], cymbal: [{ role: 'crash', bands: { low: 0, mid: 0.5, high: 1 } }], tom: [], overhead: [SNARE, HAT, KICK], room: [], kit: [KICK, SNARE, HAT], loop: [KICK, SNARE, HAT],
  cajon: [KICK, SNARE], djembe: [KICK, SNARE], 'frame-drum': [KICK, SNARE], 'hand-drum': [KICK, SNARE], bodhran: [KICK, SNARE],
  shaker: [{ role: 'percussion', bands: all }], tambourine: [{ role: 'percussion', bands: all }],
};

/** What a track is listened to for; nothing = it says nothing about time. */
function listensOf(track: TempoTrack): readonly Listens[] {
  const part = track.part !== null ? PARTS[track.part] : undefined;
  switch (track.family) {
    case 'drums': return part ?? [KICK, SNARE, HAT];
    case 'percussion': return part ?? [{ role: 'percussion', bands: all }];
    case 'bass': return [{ role: 'bass', bands: { low: 1, mid: 0.7, high: 0.2 } }];
    case 'guitars': case 'keys': case 'synths': return [{ role: 'chords', bands: all }];
    case 'strings': case 'brass': case 'winds': return [{ role: 'chords', bands: all }];
    case 'lead-vocal': case 'backing-vocal': return [{ role: 'line', bands: all }];
    case 'click': return [{ role: 'click', bands: all }];
    // Nobody knows what it is: its ranges stand for those who would play there.
    case 'unknown': return [{ role: 'kick', bands: { low: 1, mid: 0, high: 0 } }, { role: 'chords', bands: { low: 0, mid: 1, high: 0 } }, { role: 'hat', bands: { low: 0, mid: 0, high: 1 } }];
    default: return [];
  }
}

const HARMONIC: ReadonlySet<string> = new Set(['bass', 'guitars', 'keys', 'synths', 'strings', 'brass', 'winds', 'unknown']);

/** How clearly those begin who swell into a note rather than strike it (common practice, no source). */
const SWELLS: Readonly<Partial<Record<TempoTrack['family'], number>>> = { synths: 0.5, strings: 0.35, brass: 0.6, winds: 0.5 };

/** Hits of a track for one role: those that stand out of its own, with their strength against the strong ones. */
export function hitsOf(track: TempoTrack, bands: Readonly<Record<Band, number>>, least = BLEED): { seconds: number[]; strength: number[] } {
  const { seconds, low, mid, high } = track.curves.attacks;
  const raw = Array.from(seconds, (_, i) => max(0, bands.low * (low[i] as number) + bands.mid * (mid[i] as number) + bands.high * (high[i] as number)));
  const audible = raw.filter((x) => x > 0.5);
  if (audible.length === 0) return { seconds: [], strength: [] };
  const top = percentile(audible, 0.98);
  const strong = percentile(audible.filter((x) => x >= 0.4 * top), 0.88);
  // Low strings flicker at their own pitch: of attacks close together only the strongest is one.
  const rules = (i: number): boolean => {
    const x = raw[i] as number;
    const t = seconds[i] as number;
    for (let k = i - 1; k >= 0 && t - (seconds[k] as number) < APART_SECONDS; k--) if ((raw[k] as number) >= x) return false;
    for (let k = i + 1; k < raw.length && (seconds[k] as number) - t < APART_SECONDS; k++) if ((raw[k] as number) > x) return false;
    return true;
  };
  const kept = raw.map((_, i) => i).filter((i) => (raw[i] as number) > 0.5 && (raw[i] as number) >= least * strong && rules(i));
  return { seconds: kept.map((i) => seconds[i] as number), strength: kept.map((i) => min(1, (raw[i] as number) / strong) ** ACCENT) };
}

/** All hits by role, over the tracks that say something; `weights` by track (0 = leave out). */
export function streamsOf(tracks: readonly TempoTrack[], weights: readonly number[]): Stream[] {
  const byRole = new Map<Role, { t: number; s: number }[]>();
  const put = (role: Role, hits: { seconds: number[]; strength: number[] }): void => {
    const list = byRole.get(role) ?? [];
    hits.seconds.forEach((t, i) => list.push({ t, s: hits.strength[i] as number }));
    byRole.set(role, list);
  };
  const close = new Set(tracks.filter((t, i) => (weights[i] as number) > 0 && t.family === 'drums').map((t) => t.part));
  tracks.forEach((track, i) => {
    if ((weights[i] as number) <= 0) return;
    for (const { role, bands } of listensOf(track)) {
      // Where a piece has its own microphone, the distant ones only blur it.
      if (track.part === 'overhead' && ((role === 'kick' && close.has('kick')) || (role === 'snare' && close.has('snare')) || (role === 'hat' && close.has('hihat')))) continue;
      const hits = hitsOf(track, bands, HARMONIC.has(track.family) || role === 'line' ? FLICKER : BLEED);
      const clear = SWELLS[track.family] ?? 1;
      put(role, { ...hits, strength: hits.strength.map((x) => clear * x) });
    }
    if (HARMONIC.has(track.family)) put('harmony', changesOf(track));
  });
  return [...byRole].map(([role, list]) => merged(role, list)).filter((s) => s.seconds.length > 0);
}

/** Hits of several tracks as those of one: near ones count once, with the strongest. */
function merged(role: Role, list: { t: number; s: number }[]): Stream {
  list.sort((a, b) => a.t - b.t);
  const seconds: number[] = [];
  const strength: number[] = [];
  for (let i = 0; i < list.length; ) {
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
  return { role, seconds, strength };
}

/** Chords change no faster than this. */
const CHANGE_APART_SECONDS = 0.25;
/** How far before and after an attack the classes of pitch are compared, entries of the chroma. */
const COMPARED = 4;

/** Attacks of a track at which its notes change, with how much they do. */
function changesOf(track: TempoTrack): { seconds: number[]; strength: number[] } {
  const { chroma } = track.curves;
  const entries = chroma.length / PITCH_CLASSES;
  const hits = hitsOf(track, all, FLICKER);
  const out = { seconds: [] as number[], strength: [] as number[] };
  const found: { readonly t: number; readonly change: number }[] = [];
  if (entries === 0) return out;
  const sumOf = (from: number, to: number): number[] => {
    const v = new Array<number>(PITCH_CLASSES).fill(0);
    for (let n = max(0, from); n <= min(entries - 1, to); n++) for (let c = 0; c < PITCH_CLASSES; c++) v[c] = (v[c] as number) + (chroma[n * PITCH_CLASSES + c] as number);
    return v;
  };
  hits.seconds.forEach((t) => {
    const at = t * CHROMA_PER_SECOND;
    // The windows of 0.35 s begin to mix two chords before and after: one entry is left out on each side.
    const before = sumOf(round(at) - 1 - COMPARED, round(at) - 2);
    const after = sumOf(round(at) + 2, round(at) + 1 + COMPARED);
    const size = (v: readonly number[]): number => sqrt(v.reduce((a, x) => a + x * x, 0));
    const [a, b] = [size(before), size(after)];
    if (b < 1e-5) return;
    const alike = a < 1e-5 ? 0.5 : before.reduce((s, x, c) => s + x * (after[c] as number), 0) / (a * b);
    found.push({ t, change: max(0, 1 - alike) });
  });
  // A change is seen from the attacks around it too: only where it is largest is it one.
  found.forEach(({ t, change }, i) => {
    if (change < 0.15) return;
    for (let k = i - 1; k >= 0 && t - (found[k] as { t: number }).t < CHANGE_APART_SECONDS; k--) if ((found[k] as { change: number }).change >= change) return;
    for (let k = i + 1; k < found.length && (found[k] as { t: number }).t - t < CHANGE_APART_SECONDS; k++) if ((found[k] as { change: number }).change > change) return;
    out.seconds.push(t);
    out.strength.push(min(1, change / 0.6));
  });
  return out;
}
