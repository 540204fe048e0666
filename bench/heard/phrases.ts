import { createRandom, type Random } from '../../src/core/units';
import type { HeardKind } from '../../src/core/analysis';
import { type MidiEvent, midiOf, TICKS_PER_SECOND } from '../midi';

/** One example: what it is and how it is played on a sound font. */
export interface Phrase {
  readonly kind: HeardKind;
  /** General MIDI program from 0; of drums, the kit. */
  readonly program: number;
  readonly isDrums: boolean;
  readonly notes: readonly {
    readonly at: number;
    readonly length: number;
    readonly key: number;
    readonly velocity: number;
  }[];
}

/** Seconds of an example, and from one to the next. */
export const PHRASE_SECONDS = 9;
export const SLOT_SECONDS = 11;

const range = (from: number, to: number): number[] =>
  Array.from({ length: to - from + 1 }, (_, i) => from + i);
/** Programs by what a person would call their sound (General MIDI level 1 names them; what is between two kinds is left out). */
const PROGRAMS: Readonly<Record<Exclude<HeardKind, 'drums'>, readonly number[]>> = {
  bass: range(32, 39),
  plucked: [...range(0, 7), ...range(9, 13), 15, ...range(24, 28), 45, 46, ...range(104, 108)],
  sustained: [
    ...range(16, 23),
    ...range(40, 43),
    ...range(48, 51),
    ...range(56, 61),
    ...range(64, 79),
    80,
    81,
    82,
    88,
    89,
    90,
    93,
    94,
    95,
  ],
  'voice-like': [52, 53, 54, 85, 91],
};
const KITS = [0, 8, 16, 24, 25, 32, 40];
const MEMBERS: readonly (readonly number[])[] = [
  [35, 36],
  [38, 40],
  [37, 39],
  [42, 44, 46],
  [41, 43, 45, 47, 48, 50],
  [49, 57, 55, 51, 59],
  [60, 61, 62, 63, 64],
  [54, 69, 70],
  [56, 67, 68, 75, 76, 77],
  [36, 38, 42, 46],
  [36, 38, 42, 49, 45, 47],
  [35, 40, 44, 51, 48, 43],
];

/** Phrases for training or testing, the same for the same seed; `per`: how many of each program. */
export function phrases(seed: number, per: number): Phrase[] {
  const random = createRandom(seed);
  const out: Phrase[] = [];
  for (const [kind, programs] of Object.entries(PROGRAMS) as [
    Exclude<HeardKind, 'drums'>,
    readonly number[],
  ][])
    // Few programs sound like voices: each is played more often.
    for (const program of programs)
      for (let k = 0; k < per * (kind === 'voice-like' ? 4 : kind === 'bass' ? 3 : 1); k++)
        out.push({ kind, program, isDrums: false, notes: melody(kind, random) });
  for (const members of MEMBERS)
    for (let k = 0; k < per * 2; k++)
      out.push({
        kind: 'drums',
        program: KITS[Math.floor(random() * KITS.length)] as number,
        isDrums: true,
        notes: beats(members, random),
      });
  return out;
}

const RANGES: Readonly<Record<Exclude<HeardKind, 'drums'>, readonly [number, number]>> = {
  bass: [28, 50],
  plucked: [45, 84],
  sustained: [48, 84],
  'voice-like': [48, 76],
};

function melody(kind: Exclude<HeardKind, 'drums'>, random: Random): Phrase['notes'] {
  const [low, high] = RANGES[kind];
  const pulse = 60 / (70 + 80 * random());
  const chords = kind !== 'bass' && random() < (kind === 'voice-like' ? 0.3 : 0.45);
  const lengths =
    kind === 'sustained' || kind === 'voice-like'
      ? [0.5, 1, 1, 2, 4]
      : kind === 'bass'
        ? [0.5, 0.5, 1, 1, 2]
        : [0.25, 0.5, 0.5, 1, 2];
  const center = low + (high - low) * (0.25 + 0.5 * random());
  const notes: { at: number; length: number; key: number; velocity: number }[] = [];
  const scale = [0, 2, 4, 5, 7, 9, 11];
  let degree = 0;
  for (let at = 0.1; at < PHRASE_SECONDS - 0.3;) {
    const beats = lengths[Math.floor(random() * lengths.length)] as number;
    const length = Math.min(beats * pulse, PHRASE_SECONDS - at);
    degree = Math.max(-6, Math.min(6, degree + Math.floor(random() * 5) - 2));
    const root = Math.round(center) + 12 * Math.floor(degree / 7) + (scale[((degree % 7) + 7) % 7] as number);
    const velocity = 60 + Math.floor(60 * random());
    if (random() > 0.12)
      for (const step of chords ? [0, 4, 7] : [0])
        notes.push({
          at,
          length: length * (0.7 + 0.28 * random()),
          key: Math.max(low, Math.min(high + 12, root + step)),
          velocity,
        });
    at += length;
  }
  return notes;
}

function beats(members: readonly number[], random: Random): Phrase['notes'] {
  const pulse = 60 / (70 + 80 * random()) / (members.length > 3 ? 2 : random() < 0.5 ? 2 : 4);
  const likely = 0.35 + 0.5 * random();
  const notes: { at: number; length: number; key: number; velocity: number }[] = [];
  for (let at = 0.1, n = 0; at < PHRASE_SECONDS - 0.2; at += pulse, n++)
    for (const key of members.length > 3
      ? members
      : [members[Math.floor(random() * members.length)] as number])
      if (random() < (members.length > 3 ? likely * 0.6 : likely) || n % 8 === 0)
        notes.push({
          at: at + 0.006 * random(),
          length: 0.12,
          key,
          velocity: 50 + Math.floor(75 * random()),
        });
  return notes;
}

/** All phrases one after the other as one Standard MIDI File. */
export function phrasesMidi(list: readonly Phrase[]): Uint8Array {
  const events: MidiEvent[] = [];
  list.forEach((p, slot) => {
    const channel = p.isDrums ? 9 : 0;
    const start = slot * SLOT_SECONDS;
    const tick = (s: number): number => Math.round((start + s) * TICKS_PER_SECOND);
    events.push({ tick: tick(0), order: 1, bytes: [0xc0 | channel, p.program] });
    for (const n of p.notes) {
      events.push({ tick: tick(n.at), order: 2, bytes: [0x90 | channel, n.key, n.velocity] });
      events.push({ tick: tick(n.at + n.length), order: 0, bytes: [0x80 | channel, n.key, 64] });
    }
    // What still rings is not heard in the next.
    events.push({ tick: tick(SLOT_SECONDS - 0.5), order: 0, bytes: [0xb0 | channel, 120, 0] });
  });
  return midiOf(events, TICKS_PER_SECOND);
}
