import type { Family } from '../naming';

/** What is known of a track that is to be balanced. */
export interface RoughTrack {
  readonly family: Family;
  readonly part: string | null;
  readonly role: string | null;
  readonly position: string | null;
  readonly side: string | null;
  readonly number: number | null;
  readonly channels: number;
  readonly integratedLufs: number | null;
}

/** Level and pan of a track. */
export interface RoughStrip {
  readonly gainDb: number;
  readonly pan: number;
}

/** Loudness of each family in a first listen, LUFS before the mix bus is brought to its headroom; common practice, no source: voice forward, kick and snare carry, what surrounds them under. */
const USUAL_LUFS: Readonly<Record<Family, number>> = {
  'lead-vocal': -20,
  'backing-vocal': -27,
  drums: -25,
  percussion: -29,
  bass: -22,
  guitars: -26,
  keys: -27,
  synths: -27,
  strings: -27,
  brass: -26,
  winds: -26,
  mains: -24,
  effects: -30,
  unknown: -27,
  reference: -Infinity,
  click: -Infinity,
};
const PARTS_LUFS: Readonly<Record<string, number>> = {
  kick: -22,
  snare: -23,
  tom: -27,
  hihat: -32,
  overhead: -28,
  room: -32,
  ride: -31,
  cymbal: -30,
};
/** A second microphone of a source, under the first, dB. */
const SECOND_MIC_DB: Readonly<Record<string, number>> = {
  out: -4,
  bottom: -6,
  room: -8,
  far: -8,
  sub: -8,
  trigger: -60,
};
const [MOST_UP_DB, MOST_DOWN_DB] = [24, -30];

/** How far the sides of a pair stand apart: what surrounds fully, what belongs to one instrument less. */
function pairWidth({ family, part }: RoughTrack): number {
  if (family === 'mains' || part === 'overhead' || part === 'room') return 0.9;
  return family === 'keys' || family === 'synths' ? 0.7 : 0.6;
}

/** Levels and pans for a first listen: by role and measured loudness. What is doubled goes left and right. */
export function roughBalance(tracks: readonly RoughTrack[]): RoughStrip[] {
  const pans = pansOf(tracks);
  return tracks.map((t, i) => ({ gainDb: roughGain(t), pan: pans[i] as number }));
}

function roughGain(t: RoughTrack): number {
  const usual = (t.family === 'drums' ? PARTS_LUFS[t.part ?? ''] : undefined) ?? USUAL_LUFS[t.family];
  if (t.integratedLufs === null || !Number.isFinite(usual)) return 0;
  const wanted = usual + (SECOND_MIC_DB[t.position ?? ''] ?? 0) - t.integratedLufs;
  return Math.round(10 * Math.max(MOST_DOWN_DB, Math.min(MOST_UP_DB, wanted))) / 10;
}

/** Families of which several stand to the left and right in turn. */
const SPREAD: readonly Family[] = [
  'guitars',
  'backing-vocal',
  'percussion',
  'brass',
  'strings',
  'winds',
  'keys',
  'synths',
];
const SPREAD_WIDTHS = [0.6, 0.35, 0.8];

function pansOf(tracks: readonly RoughTrack[]): number[] {
  const pans = tracks.map((t): number | null => {
    if (t.channels > 1) return 0;
    if (t.side === 'left') return -pairWidth(t);
    if (t.side === 'right') return pairWidth(t);
    // As the audience sees the kit.
    if (t.family === 'drums')
      return t.part === 'hihat' ? 0.25 : t.part === 'ride' ? -0.3 : t.part === 'tom' ? null : 0;
    return SPREAD.includes(t.family) ? null : 0;
  });
  spreadToms(tracks, pans);
  for (const family of SPREAD) {
    const free = tracks.flatMap((t, i) => (t.family === family && pans[i] === null ? [i] : []));
    // One alone stays in the middle of its own, a little aside; what is left over in an odd number is the middle.
    free.forEach((i, k) => {
      const isLast = k === free.length - 1 && free.length % 2 === 1;
      const width = SPREAD_WIDTHS[Math.floor(k / 2) % SPREAD_WIDTHS.length] as number;
      pans[i] = isLast ? 0 : k % 2 === 0 ? -width : width;
    });
  }
  return pans.map((p) => p ?? 0);
}

function spreadToms(tracks: readonly RoughTrack[], pans: (number | null)[]): void {
  const toms = tracks
    .flatMap((t, i) =>
      t.part === 'tom' && pans[i] === null ? [{ i, at: t.number ?? (t.position === 'low' ? 9 : 5) }] : [],
    )
    .sort((a, b) => a.at - b.at);
  toms.forEach(({ i }, k) => {
    pans[i] = toms.length === 1 ? 0.1 : 0.4 - (0.8 * k) / (toms.length - 1);
  });
}
