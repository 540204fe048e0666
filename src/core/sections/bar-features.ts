import { CHROMA_PER_SECOND, PITCH_CLASSES, SKETCH_BANDS, SKETCH_PER_SECOND } from '../analysis';
import type { Family } from '../naming';
import { median, percentile } from '../dsp';
import { clip } from './bar-math';
import { placedSound } from './placed-sound';
import type { SectionTrack } from './section-track';

/** Rhythm: parts of a bar, and ranges of the spectrum. */
export const RHYTHM_SLOTS = 8;
export const RHYTHM_RANGES = 3;
/** Parts of a bar in which chords, and a melody, are looked at. */
export const CHORD_SLOTS = 4;
export const MELODY_SLOTS = 8;
/** A track plays where it is less than so far below its loud bars, dB. */
const PLAYING_DB = 30;
/** Attacks lie a little before the line they belong to, s. */
const EARLY_SECONDS = 0.03;
/** Sketches: decibels a step, and the step of full scale. */
const DB_PER_STEP = 0.5;

/** What plays chords. */
const CHORDAL = new Set<Family>(['guitars', 'keys', 'synths', 'strings', 'brass', 'winds', 'unknown']);
const DRUMS = new Set<Family>(['drums', 'percussion']);

/** One track, bar by bar. */
export interface TrackBars {
  readonly family: Family;
  readonly part: string | null;
  /** Share of what the track counts for: microphones of a kit together as one player. */
  readonly weight: number;
  /** How much it plays, 0–1, a bar. */
  readonly activity: Float32Array;
  /** Level by band against the band's loud bars, 0–1, bar by bar. */
  readonly timbre: Float32Array;
  /** Rises of level by part of the bar and range, about 0–1.5, bar by bar. */
  readonly rhythm: Float32Array;
  /** Level, dB, a bar. */
  readonly levelDb: Float32Array;
}

/** Pitch classes by part of the bar, each of unit length or less, the song's mean mostly taken off. */
export interface PitchBars {
  readonly slots: number;
  readonly values: Float32Array;
}

/** A song, bar by bar. */
export interface BarFeatures {
  readonly count: number;
  readonly tracks: readonly TrackBars[];
  readonly harmony: PitchBars;
  readonly bass: PitchBars;
  readonly melody: PitchBars;
  /** Whether the lead voice sounds, 0–1, a bar. */
  readonly voice: Float32Array;
  /** Whether there is a lead voice at all. */
  readonly hasVoice: boolean;
  /** Hits of the drums a bar. */
  readonly hits: Float32Array;
  /** Brightness of the kit at the beginning of each bar, dB over the song's median. */
  readonly crash: Float32Array;
  /** Toms in a bar, 0–1. */
  readonly toms: Float32Array;
  /** Level of all tracks together, dB, a bar. */
  readonly levelDb: Float32Array;
}

/** Features of bars between lines, s; one line more than bars. */
export function barFeatures(tracks: readonly SectionTrack[], lines: readonly number[]): BarFeatures {
  const seconds = lines.at(-1) ?? 0;
  const heard = tracks.flatMap((track): Heard[] => {
    const { levels, chroma } = placedSound(track, seconds);
    const level = frameLevels(levels);
    return level.every((x) => x <= SILENT_DB) ? [] : [{ track, levels, chroma, level }];
  });
  const sizes = new Map<string, number>();
  for (const { track } of heard) sizes.set(playerOf(track), (sizes.get(playerOf(track)) ?? 0) + 1);
  const bars = heard.map((h) => trackBars(h, lines, 1 / Math.sqrt(sizes.get(playerOf(h.track)) ?? 1)));
  const count = Math.max(0, lines.length - 1);
  const leads = leadsOf(heard);
  const voiceBars = bars.filter((_, i) => leads.includes(heard[i] as Heard));
  return {
    count,
    tracks: bars,
    harmony: pitchBars(
      heard.filter((h) => CHORDAL.has(h.track.family)),
      lines,
      CHORD_SLOTS,
    ),
    bass: pitchBars(
      heard.filter((h) => h.track.family === 'bass'),
      lines,
      CHORD_SLOTS,
    ),
    melody: pitchBars(leads, lines, MELODY_SLOTS),
    voice: Float32Array.from({ length: count }, (_, i) =>
      Math.max(0, ...voiceBars.map((b) => clip((b.activity[i] as number) * 2 - 0.4, 0, 1))),
    ),
    hasVoice: leads.length > 0,
    hits: drumHits(bars, count),
    crash: crashes(heard, lines),
    toms: Float32Array.from({ length: count }, (_, i) =>
      Math.max(0, ...bars.filter((b) => b.part === 'tom').map((b) => b.activity[i] as number)),
    ),
    levelDb: Float32Array.from({ length: count }, (_, i) =>
      toDb(bars.reduce((sum, b) => sum + 10 ** ((b.levelDb[i] as number) / 10), 0)),
    ),
  };
}

/** A stretch of a song's bars as a song of its own. */
export function barsBetween(bars: BarFeatures, from: number, to: number): BarFeatures {
  const part = (values: Float32Array): Float32Array => {
    const width = values.length / Math.max(1, bars.count);
    return values.subarray(from * width, to * width);
  };
  const pitch = ({ slots, values }: PitchBars): PitchBars => ({ slots, values: part(values) });
  return {
    count: to - from,
    tracks: bars.tracks.map((t) => ({
      ...t,
      activity: part(t.activity),
      timbre: part(t.timbre),
      rhythm: part(t.rhythm),
      levelDb: part(t.levelDb),
    })),
    harmony: pitch(bars.harmony),
    bass: pitch(bars.bass),
    melody: pitch(bars.melody),
    voice: part(bars.voice),
    hasVoice: bars.hasVoice,
    hits: part(bars.hits),
    crash: part(bars.crash),
    toms: part(bars.toms),
    levelDb: part(bars.levelDb),
  };
}

const SILENT_DB = -80;
const toDb = (power: number): number => 10 * Math.log10(Math.max(power, 1e-12));

interface Heard {
  readonly track: SectionTrack;
  readonly levels: Uint8Array;
  readonly chroma: Float32Array;
  /** Level of all bands, dB, a frame. */
  readonly level: Float32Array;
}

/** Tracks that are one player: a kit's microphones, else a family. */
const playerOf = ({ family }: SectionTrack): string => family;

/** The lead voice; where there is none, the other voices. */
function leadsOf(heard: readonly Heard[]): readonly Heard[] {
  const lead = heard.filter((h) => h.track.family === 'lead-vocal');
  return lead.length > 0 ? lead : heard.filter((h) => h.track.family === 'backing-vocal');
}

const POWER_OF_STEP = Float64Array.from({ length: 256 }, (_, step) =>
  step === 0 ? 0 : 10 ** ((-120 + DB_PER_STEP * step) / 10),
);

function frameLevels(levels: Uint8Array): Float32Array {
  return Float32Array.from({ length: levels.length / SKETCH_BANDS }, (_, n) => {
    let power = 0;
    for (let b = 0; b < SKETCH_BANDS; b++)
      power += POWER_OF_STEP[levels[n * SKETCH_BANDS + b] as number] as number;
    return toDb(power);
  });
}

/** Frames of a stretch of the song, at least one. */
function framesOf(from: number, to: number, perSecond: number): readonly [number, number] {
  const first = Math.max(0, Math.round(from * perSecond));
  return [first, Math.max(first + 1, Math.round(to * perSecond))];
}

function trackBars(heard: Heard, lines: readonly number[], weight: number): TrackBars {
  const count = lines.length - 1;
  const bandDb = new Float32Array(count * SKETCH_BANDS);
  const levelDb = new Float32Array(count);
  for (let i = 0; i < count; i++) {
    const [first, end] = framesOf(lines[i] as number, lines[i + 1] as number, SKETCH_PER_SECOND);
    let all = 0;
    for (let b = 0; b < SKETCH_BANDS; b++) {
      let power = 0;
      for (let n = first; n < end; n++)
        power += POWER_OF_STEP[heard.levels[n * SKETCH_BANDS + b] ?? 0] as number;
      power /= end - first;
      all += power;
      bandDb[i * SKETCH_BANDS + b] = toDb(power);
    }
    levelDb[i] = toDb(all);
  }
  const loud = percentile(levelDb, 0.95);
  const bandLoud = Array.from({ length: SKETCH_BANDS }, (_, b) =>
    percentile(
      bandDb.filter((_value, k) => k % SKETCH_BANDS === b),
      0.95,
    ),
  );
  const playing = (db: number, top: number): number => clip((db - top + PLAYING_DB) / PLAYING_DB, 0, 1);
  return {
    family: heard.track.family,
    part: heard.track.part,
    weight,
    activity: levelDb.map((db) => playing(db, loud)),
    timbre: bandDb.map((db, k) => playing(db, Math.max(bandLoud[k % SKETCH_BANDS] as number, loud - 40))),
    rhythm: rhythmOf(heard, lines),
    levelDb,
  };
}

/** Below so much under a range's peak nothing rises, dB; frames over which a rise is taken. */
const [RISE_FLOOR_DB, RISE_FRAMES] = [45, 2];

function rhythmOf({ levels }: Heard, lines: readonly number[]): Float32Array {
  const count = lines.length - 1;
  const frames = levels.length / SKETCH_BANDS;
  const per = SKETCH_BANDS / RHYTHM_RANGES;
  const out = new Float32Array(count * RHYTHM_SLOTS * RHYTHM_RANGES);
  for (let range = 0; range < RHYTHM_RANGES; range++) {
    const db = Float32Array.from({ length: frames }, (_, n) => {
      let power = 0;
      for (let b = range * per; b < (range + 1) * per; b++)
        power += POWER_OF_STEP[levels[n * SKETCH_BANDS + b] as number] as number;
      return toDb(power);
    });
    const floor = percentile(db, 0.999) - RISE_FLOOR_DB;
    const at = (n: number): number => Math.max(floor, n >= 0 ? (db[n] ?? -120) : -120);
    for (let i = 0; i < count; i++)
      for (let slot = 0; slot < RHYTHM_SLOTS; slot++) {
        const [from, to] = slotOf(lines, i, slot / RHYTHM_SLOTS, (slot + 1) / RHYTHM_SLOTS);
        const [first, end] = framesOf(from - EARLY_SECONDS, to - EARLY_SECONDS, SKETCH_PER_SECOND);
        let most = 0;
        for (let n = first; n < end; n++) most = Math.max(most, at(n) - at(n - RISE_FRAMES));
        out[(i * RHYTHM_SLOTS + slot) * RHYTHM_RANGES + range] = most;
      }
  }
  const usual = Math.max(3, percentile(out, 0.95));
  return out.map((x) => Math.min(1.5, x / usual));
}

/** A share of a bar, s. */
function slotOf(lines: readonly number[], bar: number, from: number, to: number): readonly [number, number] {
  const [a, b] = [lines[bar] as number, lines[bar + 1] as number];
  return [a + from * (b - a), a + to * (b - a)];
}

/** A slot quieter than this share of the loudest is not blown up; share of the song's mean that is taken off. */
const [QUIET_SHARE, MEAN_SHARE] = [0.15, 0.7];

function pitchBars(heard: readonly Heard[], lines: readonly number[], slots: number): PitchBars {
  const count = lines.length - 1;
  const values = new Float32Array(count * slots * PITCH_CLASSES);
  for (const { chroma } of heard) {
    const own = new Float32Array(values.length);
    for (let i = 0; i < count; i++)
      for (let s = 0; s < slots; s++) {
        const [from, to] = slotOf(lines, i, s / slots, (s + 1) / slots);
        const [first, end] = framesOf(from, to, CHROMA_PER_SECOND);
        for (let n = first; n < end; n++)
          for (let k = 0; k < PITCH_CLASSES; k++) {
            const at = (i * slots + s) * PITCH_CLASSES + k;
            own[at] = (own[at] as number) + (chroma[n * PITCH_CLASSES + k] ?? 0) / (end - first);
          }
      }
    const usual = Math.max(1e-6, percentile(own, 0.9));
    for (let k = 0; k < own.length; k++) values[k] = (values[k] as number) + (own[k] as number) / usual;
  }
  return { slots, values: centred(values) };
}

/** Each slot of unit length at most, and most of the mean of all taken off. */
function centred(values: Float32Array): Float32Array {
  const slots = values.length / PITCH_CLASSES;
  const lengths = Float32Array.from({ length: slots }, (_, s) =>
    Math.hypot(...values.subarray(s * PITCH_CLASSES, (s + 1) * PITCH_CLASSES)),
  );
  const least = QUIET_SHARE * lengths.reduce((m, x) => Math.max(m, x), 1e-9);
  const out = values.map((x, k) => x / Math.max(least, lengths[Math.floor(k / PITCH_CLASSES)] as number));
  const middle = Float32Array.from({ length: PITCH_CLASSES }, (_, k) => {
    let sum = 0;
    for (let s = 0; s < slots; s++) sum += out[s * PITCH_CLASSES + k] as number;
    return slots === 0 ? 0 : sum / slots;
  });
  return out.map((x, k) => x - MEAN_SHARE * (middle[k % PITCH_CLASSES] as number));
}

/** Parts of a bar in which a drum is struck clearly. */
function drumHits(tracks: readonly TrackBars[], count: number): Float32Array {
  const kit = tracks.filter((t) => DRUMS.has(t.family));
  return Float32Array.from({ length: count }, (_, i) => {
    let hits = 0;
    for (const t of kit)
      for (let k = 0; k < RHYTHM_SLOTS * RHYTHM_RANGES; k++)
        if ((t.rhythm[i * RHYTHM_SLOTS * RHYTHM_RANGES + k] as number) > 0.5) hits += t.weight ** 2;
    return hits;
  });
}

/** Bands of cymbals; share of the bar in which a crash is looked for. */
const [BRIGHT_FROM, CRASH_SHARE] = [18, 0.25];
const CYMBALS = new Set(['overhead', 'room', 'cymbal', 'kit', 'crash', 'ride']);

function crashes(heard: readonly Heard[], lines: readonly number[]): Float32Array {
  const count = lines.length - 1;
  const kit = heard.filter((h) => h.track.family === 'drums');
  const far = kit.filter((h) => h.track.part !== null && CYMBALS.has(h.track.part));
  const bright = Float32Array.from({ length: count }, (_, i) => {
    const [from, to] = slotOf(lines, i, 0, CRASH_SHARE);
    const [first, end] = framesOf(from, to, SKETCH_PER_SECOND);
    let power = 0;
    for (const { levels } of far.length > 0 ? far : kit)
      for (let n = first; n < end; n++)
        for (let b = BRIGHT_FROM; b < SKETCH_BANDS; b++)
          power += POWER_OF_STEP[levels[n * SKETCH_BANDS + b] ?? 0] as number;
    return toDb(power / (end - first));
  });
  const usual = median(bright);
  return bright.map((db) => clip(db - usual, -20, 20));
}
