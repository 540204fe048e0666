import { createRandom, type Random } from '../../src/core/units';
import { SOUND_CLASSES, type SoundKind, type SoundClass, kindOfSound } from '../../src/core/analysis';
import { type MidiEvent, midiOf, TICKS_PER_SECOND } from '../midi';

/** What an example is: one sound, or any of several where nobody could tell them apart. */
export type Label = readonly SoundClass[];

/** Parts of a kit that are played, and then recorded, by themselves. */
export const KIT_PARTS = ['kick', 'snare', 'hat', 'toms', 'cymbals'] as const;

/** One of {@link KIT_PARTS}. */
export type KitPart = (typeof KIT_PARTS)[number];

/** One example: what it is and how it is played on a sound font. */
export interface Phrase {
  readonly label: Label;
  /** General MIDI program from 0; of drums, the kit. */
  readonly program: number;
  readonly isDrums: boolean;
  /** Depth of vibrato by the modulation wheel, 0–127. */
  readonly wheel: number;
  readonly notes: readonly {
    readonly at: number;
    readonly length: number;
    readonly key: number;
    readonly velocity: number;
  }[];
}

/** What is played together: one phrase, or the parts of a kit in the order of {@link KIT_PARTS}. */
export type Block = readonly Phrase[];

/** Seconds of an example, and from one to the next. */
export const PHRASE_SECONDS = 9;
export const SLOT_SECONDS = 11;

const range = (from: number, to: number): number[] =>
  Array.from({ length: to - from + 1 }, (_, i) => from + i);
const allOf = (...kinds: readonly SoundKind[]): Label =>
  SOUND_CLASSES.filter((s) => kinds.includes(kindOfSound(s)));

/** How a group of programs is played: its range, whether notes are held, how often chords. */
interface Manner {
  readonly label: Label;
  readonly programs: readonly number[];
  readonly keys: readonly [number, number];
  readonly isHeld: boolean;
  readonly chords: number;
  /** How many of each program for one of the others. */
  readonly times: number;
}

/** Programs by what a person would call their sound (General MIDI level 1 names them); what is between two may be either. */
const MANNERS: readonly Manner[] = [
  { label: ['bass'], programs: range(32, 39), keys: [28, 50], isHeld: false, chords: 0, times: 3 },
  {
    label: ['plucked'],
    programs: [...range(24, 31), 15, 45, 46, ...range(104, 107)],
    keys: [40, 79],
    isHeld: false,
    chords: 0.45,
    times: 2,
  },
  { label: ['keys'], programs: range(0, 7), keys: [36, 88], isHeld: false, chords: 0.6, times: 3 },
  {
    label: ['mallets'],
    programs: [...range(8, 14), 108, 114],
    keys: [53, 91],
    isHeld: false,
    chords: 0.25,
    times: 2,
  },
  { label: ['organ'], programs: range(16, 20), keys: [40, 84], isHeld: true, chords: 0.6, times: 4 },
  {
    label: ['organ', 'blown'],
    programs: [21, 23],
    keys: [50, 84],
    isHeld: true,
    chords: 0.4,
    times: 2,
  },
  {
    label: ['bowed'],
    programs: [...range(40, 44), 48, 49, 110],
    keys: [40, 88],
    isHeld: true,
    chords: 0.35,
    times: 3,
  },
  {
    label: ['blown'],
    programs: [22, ...range(56, 61), ...range(64, 79), 109, 111],
    keys: [46, 86],
    isHeld: true,
    chords: 0.2,
    times: 1,
  },
  {
    label: ['synth'],
    programs: [62, 63, ...range(80, 84), 86, 88, 89, 90, 92, 93, 94, 95],
    keys: [36, 84],
    isHeld: true,
    chords: 0.5,
    times: 2,
  },
  { label: ['bowed', 'synth'], programs: [50, 51], keys: [48, 84], isHeld: true, chords: 0.5, times: 2 },
  { label: ['choir'], programs: [52, 53, 54], keys: [48, 79], isHeld: true, chords: 0.5, times: 5 },
  {
    label: allOf('voice-like', 'sustained'),
    programs: [85, 91],
    keys: [48, 79],
    isHeld: true,
    chords: 0.3,
    times: 2,
  },
];

const KITS = [0, 8, 16, 24, 25, 32, 40];
/** Keys of drums played alone (General MIDI percussion map). */
const MEMBERS: readonly {
  readonly label: Label;
  readonly keys: readonly number[];
  readonly times: number;
}[] = [
  { label: ['kick'], keys: [35, 36], times: 2 },
  { label: ['snare'], keys: [38, 40], times: 2 },
  { label: ['snare'], keys: [37, 38, 40], times: 1 },
  { label: allOf('drums'), keys: [39], times: 1 },
  { label: ['hat'], keys: [42, 44, 46], times: 3 },
  { label: ['toms'], keys: [41, 43, 45, 47, 48, 50], times: 2 },
  { label: ['toms'], keys: [41, 43], times: 1 },
  { label: ['cymbals'], keys: [49, 57, 55, 51, 59, 53], times: 2 },
  { label: ['hand-percussion'], keys: [60, 61, 62, 63, 64], times: 3 },
  { label: ['hand-percussion'], keys: [65, 66], times: 1 },
  { label: ['hand-percussion'], keys: [54], times: 2 },
  { label: ['hand-percussion'], keys: [69, 70, 82], times: 2 },
  { label: ['hand-percussion'], keys: [56, 67, 68], times: 2 },
  { label: ['hand-percussion'], keys: [75, 76, 77], times: 1 },
  { label: ['hand-percussion'], keys: [73, 74, 80, 81], times: 1 },
];
/** Keys of the parts of a kit. */
const PART_KEYS: Readonly<Record<KitPart, readonly number[]>> = {
  kick: [36, 35],
  snare: [38, 40],
  hat: [42, 46, 44],
  toms: [48, 47, 45, 43],
  cymbals: [49, 51, 57, 59],
};

const anyOf = <T>(list: readonly T[], random: Random): T => list[Math.floor(random() * list.length)] as T;

/** Blocks of every program of General MIDI, the same for the same seed; `per`: how many of each. */
export function instrumentBlocks(seed: number, per: number): Block[] {
  const random = createRandom(seed);
  const out: Block[] = [];
  for (const manner of MANNERS)
    for (const program of manner.programs)
      for (let k = 0; k < Math.ceil(per * manner.times); k++)
        out.push([
          {
            label: manner.label,
            program,
            isDrums: false,
            wheel: manner.isHeld && random() < 0.5 ? Math.floor(80 * random()) : 0,
            notes: melody(manner, random),
          },
        ]);
  for (const { label, keys, times } of MEMBERS)
    for (let k = 0; k < Math.ceil(per * times * 2); k++)
      out.push([
        { label, program: anyOf(KITS, random), isDrums: true, wheel: 0, notes: beats(keys, random) },
      ]);
  return out;
}

/** Grooves of whole kits, part by part, so that each can be recorded by its own microphone. */
export function kitBlocks(seed: number, count: number, isGeneralMidi = true): Block[] {
  const random = createRandom(seed);
  return Array.from({ length: count }, () => {
    const program = isGeneralMidi ? anyOf(KITS, random) : 0;
    const played = groove(random);
    return KIT_PARTS.map((part) => ({
      label: [part],
      program,
      // A font of one kit has it where others have a piano.
      isDrums: isGeneralMidi,
      wheel: 0,
      notes: played[part],
    }));
  });
}

function melody({ keys: [low, high], isHeld, chords: share }: Manner, random: Random): Phrase['notes'] {
  const pulse = 60 / (60 + 100 * random());
  const chords = random() < share;
  const lengths = isHeld ? [0.25, 0.5, 1, 1, 2, 4] : [0.25, 0.5, 0.5, 1, 1, 2];
  const center = low + (high - low) * (0.2 + 0.6 * random());
  const shape = anyOf(
    [
      [0, 4, 7],
      [0, 3, 7],
      [0, 7, 12],
      [0, 5, 9],
      [-12, 0, 4, 7],
      [0, 4],
    ],
    random,
  );
  const notes: { at: number; length: number; key: number; velocity: number }[] = [];
  const scale = [0, 2, 4, 5, 7, 9, 11];
  const loud = 45 + 50 * random();
  const legato = isHeld ? 0.75 + 0.25 * random() : 0.5 + 0.5 * random();
  let degree = 0;
  for (let at = 0.1; at < PHRASE_SECONDS - 0.3;) {
    const length = Math.min(anyOf(lengths, random) * pulse, PHRASE_SECONDS - at);
    degree = Math.max(-6, Math.min(6, degree + Math.floor(random() * 5) - 2));
    const root = Math.round(center) + 12 * Math.floor(degree / 7) + (scale[((degree % 7) + 7) % 7] as number);
    if (random() > 0.12)
      for (const step of chords ? shape : [0])
        notes.push({
          at: at + 0.012 * random(),
          length: length * legato,
          key: Math.max(low, Math.min(high + 7, root + step)),
          velocity: Math.min(127, Math.floor(loud + 30 * random())),
        });
    at += length;
  }
  return notes;
}

const stroke = (at: number, key: number, velocity: number, random: Random): Phrase['notes'][number] => ({
  at: Math.max(0, at + 0.006 * random()),
  length: 0.12,
  key,
  velocity: Math.max(20, Math.min(127, Math.floor(velocity + 20 * (random() - 0.5)))),
});

function beats(keys: readonly number[], random: Random): Phrase['notes'] {
  const pulse = 60 / (70 + 80 * random()) / anyOf([1, 2, 2, 4], random);
  const likely = 0.3 + 0.6 * random();
  const loud = 60 + 50 * random();
  const mine = random() < 0.5 ? [anyOf(keys, random)] : keys;
  const notes: Phrase['notes'][number][] = [];
  for (let at = 0.1, n = 0; at < PHRASE_SECONDS - 0.2; at += pulse, n++)
    if (random() < likely || n % 8 === 0) notes.push(stroke(at, anyOf(mine, random), loud, random));
  return notes;
}

/** A beat of two or three bars' length again and again, with a fill or two. */
function groove(random: Random): Record<KitPart, Phrase['notes'][number][]> {
  const eighth = 30 / (64 + 100 * random());
  const out: Record<KitPart, Phrase['notes'][number][]> = {
    kick: [],
    snare: [],
    hat: [],
    toms: [],
    cymbals: [],
  };
  const put = (part: KitPart, at: number, velocity: number, which = 0): void => {
    const keys = PART_KEYS[part];
    out[part].push(stroke(at, keys[which % keys.length] as number, velocity, random));
  };
  const inBar = anyOf([8, 8, 8, 6, 12], random);
  const kicks = Array.from({ length: inBar }, (_, i) => i === 0 || random() < 0.25);
  const back = inBar === 6 ? [3] : inBar === 12 ? [6] : random() < 0.3 ? [4] : [2, 6];
  const isRide = random() < 0.3;
  const hatStep = anyOf([1, 1, 2, 0.5], random);
  const opens = random() < 0.4;
  const fillEvery = anyOf([2, 3, 4], random);
  for (let at = 0.1, bar = 0; at < PHRASE_SECONDS - 0.3; at += inBar * eighth, bar++) {
    const isFill = bar % fillEvery === fillEvery - 1;
    if (bar % 4 === 0) put('cymbals', at, 105, anyOf([0, 2], random));
    for (let i = 0; i < inBar; i++) {
      const here = at + i * eighth;
      if (here > PHRASE_SECONDS - 0.2) break;
      if (isFill && i >= inBar - 4) {
        for (const half of [0, 0.5])
          if (random() < 0.8) put('toms', here + half * eighth, 95, Math.floor((i - inBar + 4) % 4));
        continue;
      }
      if (kicks[i]) put('kick', here, 100);
      if (back.includes(i)) put('snare', here, 105);
      else if (random() < 0.1) put('snare', here + 0.5 * eighth, 45);
    }
    for (let i = 0; i < inBar; i += hatStep) {
      const here = at + i * eighth;
      if (here > PHRASE_SECONDS - 0.2) break;
      if (isRide) put('cymbals', here, i % 2 === 0 ? 85 : 65, 1);
      else put('hat', here, i % 2 === 0 ? 85 : 65, opens && i === inBar - 1 ? 1 : 0);
    }
    if (isRide) for (const i of back) put('hat', at + i * eighth, 60, 2);
  }
  return out;
}

/** All phrases one after the other as one Standard MIDI File. */
export function phrasesMidi(list: readonly Phrase[]): Uint8Array {
  const events: MidiEvent[] = [];
  list.forEach((p, slot) => {
    const channel = p.isDrums ? 9 : 0;
    const start = slot * SLOT_SECONDS;
    const tick = (s: number): number => Math.round((start + s) * TICKS_PER_SECOND);
    events.push({ tick: tick(0), order: 1, bytes: [0xc0 | channel, p.program] });
    events.push({ tick: tick(0), order: 1, bytes: [0xb0 | channel, 1, p.wheel] });
    for (const n of p.notes) {
      events.push({ tick: tick(n.at), order: 2, bytes: [0x90 | channel, n.key, n.velocity] });
      events.push({ tick: tick(n.at + n.length), order: 0, bytes: [0x80 | channel, n.key, 64] });
    }
    // What still rings is not heard in the next.
    events.push({ tick: tick(SLOT_SECONDS - 0.5), order: 0, bytes: [0xb0 | channel, 120, 0] });
  });
  return midiOf(events, TICKS_PER_SECOND);
}
