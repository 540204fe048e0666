import { createRandom, type Random } from '@/core/units';

/** A note: begin and length in seconds, MIDI pitch, velocity 1–127. */
export interface Note {
  readonly seconds: number;
  readonly lengthSeconds: number;
  readonly pitch: number;
  readonly velocity: number;
}

/** Instruments of the score. */
export type Part =
  | 'kick'
  | 'snare'
  | 'hat'
  | 'tomHigh'
  | 'tomFloor'
  | 'cymbal'
  | 'handDrum'
  | 'bass'
  | 'banjo'
  | 'guitar'
  | 'concertina'
  | 'fiddle'
  | 'hornHigh'
  | 'hornLow'
  | 'lead'
  | 'backingHigh'
  | 'backingLow';

/** The whole song as notes, with where its beats truly are. */
export interface Score {
  readonly parts: Readonly<Record<Part, readonly Note[]>>;
  /** Every quarter, s. */
  readonly beats: readonly number[];
  /** Indices into `beats` of the bar lines. */
  readonly downbeats: readonly number[];
  readonly lengthSeconds: number;
}

const FIRST_NOTE_SECONDS = 5.4;
/** Bars of the song: section and chord (root pitch class, minor); one bar of two beats before the last refrain. */
const FORM = [
  ...section('verse', ['Dm', 'Dm', 'F', 'C', 'Dm', 'Bb', 'C', 'Dm']),
  ...section('refrain', ['F', 'C', 'Gm', 'Dm', 'F', 'C', 'Am', 'Dm']),
  ...section('verse', ['Dm', 'Dm', 'F', 'C', 'Gm', 'Bb', 'C', 'C']),
  { kind: 'turn', chord: 'A', beats: 2 },
  ...section('refrain', ['F', 'C', 'Gm', 'Dm', 'Bb', 'C', 'A', 'Dm']),
] as const;

function section(
  kind: 'verse' | 'refrain',
  chords: readonly string[],
): { kind: string; chord: string; beats: number }[] {
  return chords.map((chord) => ({ kind, chord, beats: 4 }));
}

const CHORDS: Readonly<Record<string, readonly [number, number, number]>> = {
  Dm: [2, 5, 9],
  F: [5, 9, 0],
  C: [0, 4, 7],
  Gm: [7, 10, 2],
  Bb: [10, 2, 5],
  Am: [9, 0, 4],
  A: [9, 1, 4],
};
const SCALE = [2, 4, 5, 7, 9, 10, 0];

/** Writes the song; all chance comes from the seed. */
export function writeScore(seed = 4610): Score {
  const random = createRandom(seed);
  const beats: number[] = [];
  const downbeats: number[] = [];
  let at = FIRST_NOTE_SECONDS;
  let drift = 0;
  for (const bar of FORM) {
    downbeats.push(beats.length);
    for (let b = 0; b < bar.beats; b++) {
      beats.push(at);
      drift = 0.85 * drift + (random() - 0.5) * 0.9;
      // The band pushes into the refrains and leans back in the verses.
      const lean = bar.kind === 'refrain' ? 2.2 : bar.kind === 'turn' ? -1 : -1.2;
      at += 60 / (103 + lean + 1.6 * Math.sin(beats.length / 13) + drift);
    }
  }
  downbeats.push(beats.length);
  beats.push(at);
  const parts = Object.fromEntries(PARTS.map((p) => [p, [] as Note[]])) as unknown as Record<Part, Note[]>;
  const player = new Players(parts, beats, random);
  FORM.forEach((bar, i) => player.bar(bar, downbeats[i] as number, FORM[i + 1]?.kind !== bar.kind));
  player.lastChord(beats.length - 1);
  return { parts, beats, downbeats, lengthSeconds: at + 6.5 };
}

const PARTS: readonly Part[] = [
  'kick',
  'snare',
  'hat',
  'tomHigh',
  'tomFloor',
  'cymbal',
  'handDrum',
  'bass',
  'banjo',
  'guitar',
  'concertina',
  'fiddle',
  'hornHigh',
  'hornLow',
  'lead',
  'backingHigh',
  'backingLow',
];

/** The nine of them, bar by bar. */
class Players {
  private melody = 3;

  constructor(
    private readonly parts: Record<Part, Note[]>,
    private readonly beats: readonly number[],
    private readonly random: Random,
  ) {}

  private time(beat: number): number {
    const i = Math.min(this.beats.length - 1, Math.floor(beat));
    const a = this.beats[i] as number;
    const b = this.beats[i + 1] ?? a + 0.6;
    return a + (b - a) * (beat - i);
  }

  private play(
    part: Part,
    beat: number,
    lengthBeats: number,
    pitch: number,
    velocity: number,
    looseness = 0.006,
  ): void {
    const seconds = this.time(beat) + (this.random() + this.random() - 1) * 1.7 * looseness;
    this.parts[part].push({
      seconds,
      lengthSeconds: Math.max(0.06, this.time(beat + lengthBeats) - this.time(beat) - 0.02),
      pitch,
      velocity: Math.max(20, Math.min(124, Math.round(velocity + (this.random() - 0.5) * 14))),
    });
  }

  bar(bar: { kind: string; chord: string; beats: number }, start: number, lastOfSection: boolean): void {
    const chord = CHORDS[bar.chord] as readonly [number, number, number];
    const refrain = bar.kind === 'refrain';
    this.kit(bar.beats, start, refrain, lastOfSection);
    const [root, third, fifth] = chord;
    const low = root < 4 ? 36 + root : 24 + root;
    for (let b = 0; b < bar.beats; b += 2) {
      this.play('bass', start + b, 1.6, b === 0 ? low + 4 - 4 : low + 7, 98);
      if (refrain && b + 1.5 < bar.beats) this.play('bass', start + b + 1.5, 0.45, low + 7, 84);
    }
    for (let e = 0; e < bar.beats * 2; e++) {
      const tone = [root, third, fifth, third][e % 4] as number;
      this.play('banjo', start + e / 2, 0.5, 60 + tone, e % 2 === 0 ? 96 : 78);
      if (e % 2 === 0 || refrain)
        chord.forEach((p, k) =>
          this.play(
            'guitar',
            start + e / 2 + k * 0.012,
            0.45,
            50 + ((p + 12 - 2) % 12) + (k === 0 ? 0 : 2),
            e % 4 === 0 ? 92 : 68,
            0.004,
          ),
        );
    }
    chord.forEach((p) => this.play('concertina', start, bar.beats, 60 + p, refrain ? 84 : 66, 0.014));
    this.tune(bar, start, chord, refrain);
  }

  private kit(count: number, start: number, refrain: boolean, lastOfSection: boolean): void {
    for (let b = 0; b < count; b++) {
      if (b % 2 === 0) this.play('kick', start + b, 0.3, 36, b === 0 ? 112 : 100, 0.004);
      else this.play('snare', start + b, 0.3, 38, 106, 0.004);
      if (refrain && b === 2) this.play('kick', start + b + 0.5, 0.3, 36, 84, 0.005);
      const fill = lastOfSection && b === count - 1;
      for (const half of [0, 0.5])
        if (!fill)
          this.play(
            'hat',
            start + b + half + (half > 0 ? 0.03 : 0),
            0.2,
            b % 2 === 1 && half > 0 && refrain ? 46 : 42,
            half === 0 ? 88 : 66,
            0.005,
          );
      if (fill)
        [0, 0.25, 0.5, 0.75].forEach((q, k) =>
          this.play(k < 2 ? 'tomHigh' : 'tomFloor', start + b + q, 0.4, k < 2 ? 48 : 43, 96 + 4 * k, 0.005),
        );
      for (const q of [0, 0.5, 0.75])
        this.play('handDrum', start + b + q, 0.25, q === 0 ? 64 : 63, q === 0 ? 92 : 70, 0.008);
    }
    if (refrain && this.random() < 0.3) this.play('cymbal', start, 2, 49, 98, 0.004);
  }

  private tune(
    bar: { kind: string; beats: number },
    start: number,
    chord: readonly [number, number, number],
    refrain: boolean,
  ): void {
    const [root, third, fifth] = chord;
    for (let b = 0; b < bar.beats;) {
      const length = this.random() < 0.45 ? 0.5 : this.random() < 0.6 ? 1 : 2;
      const span = Math.min(length, bar.beats - b);
      this.melody =
        b === 0
          ? nearest(this.melody, chord)
          : Math.max(0, Math.min(11, this.melody + Math.round((this.random() - 0.5) * 3.4)));
      const pitch = 62 + scaleStep(this.melody);
      this.play('fiddle', start + b, span, pitch + 12, 88, 0.012);
      if (bar.kind !== 'turn' && this.random() < 0.86)
        this.play('lead', start + b + 0.04, span, pitch, 96, 0.016);
      if (refrain && span >= 1) {
        this.play('backingHigh', start + b, span, pitch + 4, 74, 0.018);
        this.play('backingLow', start + b, span, pitch - 5, 72, 0.02);
      }
      b += span;
    }
    if (refrain) {
      this.play('hornHigh', start, bar.beats - 0.5, 57 + ((third + 12 - 9) % 12), 86, 0.012);
      this.play('hornLow', start, bar.beats - 0.5, 50 + ((root + 12 - 2) % 12), 84, 0.014);
      if (bar.beats === 4) this.play('hornHigh', start + 3.5, 0.5, 57 + ((fifth + 12 - 9) % 12), 90, 0.012);
    }
  }

  /** All hold; nothing follows. */
  lastChord(beat: number): void {
    this.play('kick', beat, 0.5, 36, 112);
    this.play('cymbal', beat, 6, 49, 104);
    this.play('bass', beat, 8, 38, 100);
    const all: readonly (readonly [Part, number])[] = [
      ['banjo', 62],
      ['banjo', 69],
      ['guitar', 50],
      ['guitar', 57],
      ['guitar', 62],
      ['concertina', 62],
      ['concertina', 65],
      ['concertina', 69],
      ['fiddle', 74],
      ['hornHigh', 65],
      ['hornLow', 50],
      ['lead', 69],
      ['backingHigh', 74],
      ['backingLow', 65],
    ];
    for (const [part, pitch] of all) this.play(part, beat, 7, pitch, 90, 0.02);
  }
}

const scaleStep = (degree: number): number =>
  (SCALE[degree % 7] as number) - 2 + (SCALE[degree % 7] === 0 ? 12 : 0) + 12 * Math.floor(degree / 7);

function nearest(degree: number, chord: readonly number[]): number {
  for (const d of [0, 1, -1, 2, -2])
    if (degree + d >= 0 && chord.includes((scaleStep(degree + d) + 2) % 12)) return degree + d;
  return degree;
}
