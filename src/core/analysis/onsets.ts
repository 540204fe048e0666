import { Fft, hannWindow, percentile } from '../dsp';
import { growing } from '../units';
import { AROUND_SECONDS, type Attacks, attacksOf, beginOf, isAttack } from './attacks';
import { CHROMA_PER_SECOND, HarmonyAnalysis, PITCH_CLASSES } from './harmony';
import { type PitchWidth, PitchWidthAnalysis } from './pitch-width';
import { SKETCH_BANDS, SKETCH_PER_SECOND, SketchBuilder, type SoundSketch } from './sketch';

/** Onset values a second. */
export const ONSETS_PER_SECOND = 200;

/** Strength of attacks over time in three ranges; entry n is centred on n / 200 s. */
export interface OnsetCurves {
  /** Below 180 Hz. */
  readonly low: Float32Array;
  /** 180 Hz – 2.5 kHz. */
  readonly mid: Float32Array;
  /** Above 2.5 kHz. */
  readonly high: Float32Array;
}

/** All that the detection of tempo and bars asks of a recording. */
export interface RhythmCurves extends OnsetCurves {
  readonly attacks: Attacks;
  /** Pitch classes, see {@link HarmonyAnalysis}; empty for recordings heard before they were kept. */
  readonly chroma: Float32Array;
}

/** 21 ms at 24 kHz. */
const WINDOW = 512;
const BANDS = SKETCH_BANDS;
const LOW_EDGE_HZ = 40;
const TOP_EDGE_HZ = 12_000;
/** Rise is taken over this many entries: 10 ms, about the attack of a plucked string. */
const LAG = 2;
/** Compression; above the noise of a quiet track, below its attacks (own; flat between 300 and 3000 on the made sessions). */
const GAMMA = 1000;

const floats = () => growing((n) => new Float32Array(n));

/**
 * Band-wise log spectral flux of a stream, mono sum, and by the way a sketch of it, its pitch and its width. Rates are averaged down to 22–24 kHz first: attacks lose nothing by it (measured on the made sessions), the pass half its time.
 * Source: log-compressed flux after Klapuri et al. 2006 / Grosche & Müller 2011, from memory; bands and lag own.
 */
export class OnsetAnalysis {
  private readonly decimate: number;
  private readonly rateHz: number;
  private readonly fft = new Fft(WINDOW);
  private readonly window = hannWindow(WINDOW);
  private readonly re = new Float64Array(WINDOW);
  private readonly im = new Float64Array(WINDOW);
  /** Bins of each band, half-open. */
  private readonly ranges: readonly { readonly from: number; readonly to: number }[];
  private readonly history: Float64Array[] = [];
  private spare: Float64Array = new Float64Array(BANDS);
  private readonly energies = new Float64Array(BANDS);
  /** Energy of a full-scale sine in a window after Hann, its three bins together. */
  private readonly drawn = new SketchBuilder(ONSETS_PER_SECOND / SKETCH_PER_SECOND, 1.5 * (WINDOW / 4) ** 2);
  private readonly curves = { low: floats(), mid: floats(), high: floats() };
  private readonly split: readonly [number, number];
  /** Mono samples not yet out of reach; entry 0 is frame `base`. */
  private pending: Float32Array;
  private base: number;
  private next = 0;
  /** Sum of the newest entry of the curves. */
  private rise = 0;
  private carry = new Float32Array(0);
  private readonly pitched: PitchWidthAnalysis;
  private readonly harmony: HarmonyAnalysis;
  private readonly begins: number[] = [];
  /** Entries of the curves that are attacks. */
  private readonly found: number[] = [];
  private readonly recent = [0, 0];

  constructor(sampleRateHz: number) {
    this.pitched = new PitchWidthAnalysis(sampleRateHz);
    this.decimate = Math.max(1, Math.floor(sampleRateHz / 22_050));
    this.rateHz = sampleRateHz / this.decimate;
    this.harmony = new HarmonyAnalysis(this.rateHz);
    const top = Math.min(TOP_EDGE_HZ, this.rateHz / 2);
    const edges = Array.from({ length: BANDS + 1 }, (_, i) =>
      Math.round((LOW_EDGE_HZ * (top / LOW_EDGE_HZ) ** (i / BANDS) * WINDOW) / this.rateHz),
    );
    this.ranges = edges.slice(0, BANDS).map((edge, b) => {
      const from = Math.max(1, edge);
      return { from, to: Math.max(from + 1, edges[b + 1] as number) };
    });
    const bandOf = (hz: number): number => edges.findIndex((e) => (e * this.rateHz) / WINDOW >= hz);
    this.split = [bandOf(180), bandOf(2500)];
    this.pending = new Float32Array(WINDOW / 2);
    this.base = -WINDOW / 2;
  }

  /** Takes the next planar frames; nothing of them is kept. */
  push(channels: readonly Float32Array[]): void {
    this.pitched.push(channels);
    const frames = channels[0]?.length ?? 0;
    const held = this.carry.length;
    const mono = new Float32Array(held + frames);
    mono.set(this.carry);
    if (channels.length === 1) mono.set(channels[0] as Float32Array, held);
    else
      for (const samples of channels) {
        const share = 1 / channels.length;
        for (let i = 0; i < frames; i++)
          mono[held + i] = (mono[held + i] as number) + (samples[i] as number) * share;
      }
    const whole = Math.floor(mono.length / this.decimate);
    this.carry = mono.slice(whole * this.decimate);
    this.take(this.decimate === 1 ? mono : averaged(mono, this.decimate, whole));
  }

  /** Curves, attacks and harmony after the last block. */
  finish(): RhythmCurves {
    this.take(new Float32Array(WINDOW / 2), true);
    const curves = {
      low: this.curves.low.toArray(),
      mid: this.curves.mid.toArray(),
      high: this.curves.high.toArray(),
    };
    const strengths = (curve: Float32Array): Float32Array =>
      Float32Array.from(this.found, (n) => curve[n] as number);
    return {
      ...curves,
      attacks: {
        seconds: Float64Array.from(this.begins),
        low: strengths(curves.low),
        mid: strengths(curves.mid),
        high: strengths(curves.high),
      },
      chroma: this.harmony.finish(),
    };
  }

  /** Pitch and stereo width, after {@link finish}. */
  pitchWidth(): PitchWidth {
    return this.pitched.finish();
  }

  /** The sketch, after {@link finish}. */
  sketch(): SoundSketch {
    return this.drawn.finish();
  }

  private take(samples: Float32Array, last = false): void {
    if (!last) this.harmony.push(samples);
    const joined = new Float32Array(this.pending.length + samples.length);
    joined.set(this.pending);
    joined.set(samples, this.pending.length);
    const limit = this.base + joined.length;
    const startOf = (n: number): number => Math.round((n * this.rateHz) / ONSETS_PER_SECOND) - WINDOW / 2;
    // Two windows go through one complex transform; the last odd one goes with silence.
    while (startOf(this.next) + WINDOW <= limit) {
      const second = startOf(this.next + 1);
      const both = second + WINDOW <= limit;
      if (!both && !last) break;
      this.transform(joined, startOf(this.next) - this.base, both ? second - this.base : null);
      this.collect(1);
      this.findAttack(this.next, joined);
      if (both) {
        this.collect(-1);
        this.findAttack(this.next + 1, joined);
      }
      this.next += both ? 2 : 1;
    }
    const keep =
      Math.round((this.next * this.rateHz) / ONSETS_PER_SECOND - AROUND_SECONDS.before * this.rateHz) -
      WINDOW / 2 -
      this.base;
    this.pending = joined.slice(Math.max(0, Math.min(keep, joined.length)));
    this.base += Math.max(0, Math.min(keep, joined.length));
  }

  /** Looks whether the entry before `n` was an attack, now that what follows is known, and finds where it begins. */
  private findAttack(n: number, joined: Float32Array): void {
    const { recent } = this;
    const here = this.rise;
    if (n > 0 && isAttack(recent[0] as number, recent[1] as number, here)) {
      this.found.push(n - 1);
      // The rise between n − LAG and n belongs to the moment between them.
      const peak = Math.round(((n - 1 - LAG / 2) * this.rateHz) / ONSETS_PER_SECOND) - this.base;
      this.begins.push(Math.max(0, (this.base + beginOf(joined, peak, this.rateHz)) / this.rateHz));
    }
    recent[0] = recent[1] as number;
    recent[1] = here;
  }

  private transform(samples: Float32Array, first: number, second: number | null): void {
    const { re, im, window } = this;
    for (let i = 0; i < WINDOW; i++) {
      re[i] = (samples[first + i] as number) * (window[i] as number);
      im[i] = second === null ? 0 : (samples[second + i] as number) * (window[i] as number);
    }
    this.fft.transformInto(re, im);
  }

  /** Takes one of the two spectra: its even part belongs to the first window (`sign` 1), its odd part to the second (−1). */
  private collect(sign: 1 | -1): void {
    const { re, im, ranges } = this;
    const bands = this.spare;
    for (let b = 0; b < BANDS; b++) {
      const { from, to } = ranges[b] as { from: number; to: number };
      let energy = 0;
      for (let k = from; k < to; k++) {
        const a = (re[k] as number) + sign * (re[WINDOW - k] as number);
        const b = (im[k] as number) - sign * (im[WINDOW - k] as number);
        energy += (a * a + b * b) / 4;
      }
      this.energies[b] = energy;
      bands[b] = Math.log1p((GAMMA * Math.sqrt(energy)) / WINDOW);
    }
    this.drawn.push(this.energies);
    const before = this.history.length >= LAG ? this.history[this.history.length - LAG] : undefined;
    let [low, mid, high] = [0, 0, 0];
    if (before)
      for (let b = 0; b < BANDS; b++) {
        const d = (bands[b] as number) - (before[b] as number);
        if (d <= 0) continue;
        if (b < this.split[0]) low += d;
        else if (b < this.split[1]) mid += d;
        else high += d;
      }
    this.rise = low + mid + high;
    this.curves.low.push(low);
    this.curves.mid.push(mid);
    this.curves.high.push(high);
    this.history.push(bands);
    this.spare = this.history.length > LAG ? (this.history.shift() as Float64Array) : new Float64Array(BANDS);
  }
}

/** Mean of every `by` samples. */
function averaged(mono: Float32Array, by: number, count: number): Float32Array {
  const out = new Float32Array(count);
  const share = 1 / by;
  if (by === 2)
    for (let i = 0, p = 0; i < count; i++, p += 2)
      out[i] = ((mono[p] as number) + (mono[p + 1] as number)) * share;
  else
    for (let i = 0, p = 0; i < count; i++) {
      let sum = 0;
      for (let k = 0; k < by; k++) sum += mono[p++] as number;
      out[i] = sum * share;
    }
  return out;
}

/** What was heard of a recording that begins later (or, negative, earlier) than the song: curves moved by whole entries, attacks exactly; played at another speed, drawn out or together. */
export function moveOnsets(rhythm: RhythmCurves, seconds: number, speed = 1): RhythmCurves {
  if (seconds === 0 && speed === 1) return rhythm;
  const move = (x: Float32Array, by: number): Float32Array => {
    if (by < 0) return x.slice(-by);
    const out = new Float32Array(x.length + by);
    out.set(x, by);
    return out;
  };
  const curve = (x: Float32Array): Float32Array =>
    move(speed === 1 ? x : atSpeed(x, speed), Math.round(seconds * ONSETS_PER_SECOND));
  const { attacks } = rhythm;
  const moved = attacks.seconds.map((t) => t / speed + seconds);
  const from = moved.findIndex((t) => t >= 0);
  const keep = <T extends Float32Array | Float64Array>(x: T): T => x.slice(from < 0 ? x.length : from) as T;
  return {
    low: curve(rhythm.low),
    mid: curve(rhythm.mid),
    high: curve(rhythm.high),
    attacks: {
      seconds: keep(moved),
      low: keep(attacks.low),
      mid: keep(attacks.mid),
      high: keep(attacks.high),
    },
    chroma: moveChroma(rhythm.chroma, seconds, speed),
  };
}

/** Entry by entry the nearest there was; an octave and more of speed leaves the classes wrong, and where they change right. */
function moveChroma(chroma: Float32Array, seconds: number, speed: number): Float32Array {
  const entries = chroma.length / PITCH_CLASSES;
  const out = new Float32Array(
    Math.max(0, Math.round(entries / speed + seconds * CHROMA_PER_SECOND)) * PITCH_CLASSES,
  );
  for (let n = 0; n < out.length / PITCH_CLASSES; n++) {
    const from = Math.round((n - seconds * CHROMA_PER_SECOND) * speed);
    if (from >= 0 && from < entries)
      out.set(chroma.subarray(from * PITCH_CLASSES, (from + 1) * PITCH_CLASSES), n * PITCH_CLASSES);
  }
  return out;
}

/** An entry is the strongest rise of what falls into its time: no attack is lost between two. */
function atSpeed(x: Float32Array, speed: number): Float32Array {
  const out = new Float32Array(Math.round(x.length / speed));
  for (let i = 0; i < out.length; i++) {
    const from = Math.min(x.length - 1, Math.round(i * speed));
    let most = x[from] ?? 0;
    for (let k = from + 1; k < Math.round((i + 1) * speed) && k < x.length; k++)
      most = Math.max(most, x[k] as number);
    out[i] = most;
  }
  return out;
}

/**
 * What was heard as a blob, little-endian: u32 count, then low, mid, high as float32; then u32 count of attacks, their seconds
 * as float64, low, mid, high as float32; then u32 count of chroma values and these as float32.
 */
export function encodeOnsets(rhythm: RhythmCurves): Uint8Array {
  const { attacks, chroma } = rhythm;
  const [n, a] = [rhythm.low.length, attacks.seconds.length];
  const bytes = new Uint8Array(4 + 12 * n + 4 + 20 * a + 4 + 4 * chroma.length);
  const v = new DataView(bytes.buffer);
  let at = 0;
  const count = (x: number): void => {
    v.setUint32(at, x, true);
    at += 4;
  };
  const floats = (x: Float32Array): void =>
    x.forEach((y) => {
      v.setFloat32(at, y, true);
      at += 4;
    });
  count(n);
  [rhythm.low, rhythm.mid, rhythm.high].forEach(floats);
  count(a);
  attacks.seconds.forEach((t) => {
    v.setFloat64(at, t, true);
    at += 8;
  });
  [attacks.low, attacks.mid, attacks.high].forEach(floats);
  count(chroma.length);
  floats(chroma);
  return bytes;
}

/** What was heard, from a blob; one from before attacks were kept has those of its curves. Throws RangeError when it is none. */
export function readOnsets(bytes: Uint8Array): RhythmCurves {
  const v = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  let at = 0;
  const room = (size: number): void => {
    if (at + size > bytes.length) throw new RangeError('not an onset blob');
  };
  const count = (): number => {
    room(4);
    at += 4;
    return v.getUint32(at - 4, true);
  };
  const floats = (n: number): Float32Array => {
    room(4 * n);
    at += 4 * n;
    return Float32Array.from({ length: n }, (_, i) => v.getFloat32(at - 4 * n + 4 * i, true));
  };
  const n = count();
  const curves = { low: floats(n), mid: floats(n), high: floats(n) };
  if (at === bytes.length)
    return { ...curves, attacks: attacksOf(curves, ONSETS_PER_SECOND), chroma: new Float32Array(0) };
  const a = count();
  room(8 * a);
  const seconds = Float64Array.from({ length: a }, (_, i) => v.getFloat64(at + 8 * i, true));
  at += 8 * a;
  const attacks = { seconds, low: floats(a), mid: floats(a), high: floats(a) };
  const chroma = floats(count());
  if (at !== bytes.length) throw new RangeError('not an onset blob');
  return { ...curves, attacks, chroma };
}

/** Attacks weaker than this share of a track's strong ones are its decay. */
const LAST_ATTACK_SHARE = 0.15;

/** Moment of the last clear attack of a track, seconds; null when there is none. */
export function lastAttackSeconds(curves: OnsetCurves): number | null {
  const sum = curves.low.map((v, i) => v + (curves.mid[i] as number) + (curves.high[i] as number));
  const strong = percentile(
    sum.filter((v) => v > 0),
    0.99,
  );
  for (let i = sum.length - 1; i >= 0 && strong > 0; i--)
    if ((sum[i] as number) > LAST_ATTACK_SHARE * strong) return i / ONSETS_PER_SECOND;
  return null;
}
