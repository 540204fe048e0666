import { ArrivalAnalysis, heardFacts, OnsetAnalysis, TruePeakMeter } from '@/core/analysis';
import { NO_METADATA, type SoundWarning } from '@/core/audio';
import { fileFindings, type FindingCode, type KnownFile } from '@/core/findings';
import type { Family } from '@/core/naming';
import { createRandom, type Random } from '@/core/units';
import { labelledClicks, labelledRooms } from './labelled-heard';

export const RATE = 48_000;
const { sin, exp, PI, tanh, abs, max, min, round, sign } = Math;

/** Made sounds in the ways recordings differ: hits, held notes, phrases, noise, tones from a synthesiser. */
export type Voice =
  'drums' | 'bass' | 'plucked' | 'voice' | 'amp' | 'pad' | 'square' | 'hats' | 'organ' | 'room';
export const VOICES: readonly Voice[] = [
  'drums',
  'bass',
  'plucked',
  'voice',
  'amp',
  'pad',
  'square',
  'hats',
  'organ',
  'room',
];

const noise = (random: Random): number => random() * 2 - 1;

/** One voice, mono, peak near `level`, with the noise of a real input (−75 dBFS); begins after a moment of quiet and ends in one. */
export function make(voice: Voice, seed: number, seconds = 4, level = 0.5): Float32Array {
  const random = createRandom(seed);
  const n = round(seconds * RATE);
  const x = new Float64Array(n);
  const events = (every: number, play: (start: number, f: number) => void): void => {
    for (let t = 0.3 + 0.1 * random(); t < seconds - 1.4; t += every * (0.95 + 0.1 * random()))
      play(round(t * RATE), random());
  };
  const add = (start: number, length: number, wave: (t: number, i: number) => number): void => {
    for (let i = 0; i < length && start + i < n; i++)
      x[start + i] = (x[start + i] as number) + wave(i / RATE, i);
  };
  const attack = (t: number, rise: number): number => min(1, t / rise);
  switch (voice) {
    case 'drums':
      events(0.35, (s, f) =>
        add(
          s,
          20_000,
          (t) =>
            attack(t, 0.001) *
            (0.4 + 0.6 * f) *
            exp(-t / 0.06) *
            (sin(2 * PI * (60 + 60 * exp(-t / 0.02)) * t) + 0.5 * noise(random) * exp(-t / 0.02)),
        ),
      );
      break;
    case 'hats':
      events(0.2, (s, f) =>
        add(s, 8000, (t) => attack(t, 0.0005) * (0.3 + 0.7 * f) * exp(-t / 0.03) * noise(random)),
      );
      break;
    case 'bass':
      events(0.5, (s, f) => {
        const hz = 41 + 40 * f;
        add(
          s,
          30_000,
          (t) =>
            attack(t, 0.005) *
            exp(-t / 0.4) *
            min(1, (30_000 / RATE - t) / 0.02) *
            (sin(2 * PI * hz * t) + 0.4 * sin(4 * PI * hz * t) + 0.2 * sin(6 * PI * hz * t)),
        );
      });
      break;
    case 'plucked':
      events(0.4, (s, f) => {
        const hz = 180 + 300 * f;
        add(
          s,
          60_000,
          (t) =>
            attack(t, 0.002) *
            exp(-t / 0.5) *
            min(1, (60_000 / RATE - t) / 0.05) *
            (sin(2 * PI * hz * t) + 0.5 * sin(2 * PI * 2.01 * hz * t) + 0.3 * sin(2 * PI * 3.02 * hz * t)),
        );
      });
      break;
    case 'voice':
      events(0.9, (s, f) => {
        const hz = 150 + 200 * f;
        add(
          s,
          33_000,
          (t) =>
            attack(t, 0.06) *
            min(1, (33_000 / RATE - t) / 0.12) *
            (0.5 + 0.5 * f) *
            (0.7 + 0.3 * sin(2 * PI * 3 * t)) *
            [1, 0.8, 0.6, 0.3, 0.2].reduce(
              (a, g, k) => a + g * sin(2 * PI * hz * (k + 1) * t + 0.3 * (k + 1) * sin(2 * PI * 5.5 * t)),
              0,
            ),
        );
      });
      break;
    case 'amp':
      events(0.7, (s, f) => {
        const hz = 82 + 80 * f;
        add(
          s,
          30_000,
          (t) =>
            attack(t, 0.004) *
            min(1, (30_000 / RATE - t) / 0.05) *
            (tanh(2 * (sin(2 * PI * hz * t) + sin(3 * PI * hz * t + 1))) *
              (0.75 + 0.25 * sin(2 * PI * 0.7 * t + 9 * f)) +
              0.15 * noise(random)),
        );
      });
      break;
    case 'pad': {
      const hz = 200 + 100 * random();
      add(
        round(0.2 * RATE),
        n - round(0.6 * RATE),
        (t) =>
          attack(t, 0.4) *
          min(1, (seconds - 0.6 - t) / 0.4) *
          (sin(2 * PI * hz * t) + sin(2 * PI * 1.503 * hz * t) + 0.8 * sin(2 * PI * 1.26 * hz * t)),
      );
      break;
    }
    case 'square': {
      const hz = 110 * (1 + random());
      add(
        round(0.2 * RATE),
        n - round(0.5 * RATE),
        (t) =>
          attack(t, 0.01) * max(0, min(1, (seconds - 0.5 - t) / 0.02)) * sign(sin(2 * PI * hz * t) + 1e-9),
      );
      break;
    }
    case 'organ': {
      const hz = 130 + 60 * random();
      add(
        round(0.2 * RATE),
        n - round(0.6 * RATE),
        (t) =>
          attack(t, 0.02) *
          min(1, (seconds - 0.6 - t) / 0.05) *
          [1, 0.8, 0.5, 0.4].reduce((a, g, k) => a + g * sin(2 * PI * hz * (k + 1) * t + k), 0) *
          (0.9 + 0.1 * sin(2 * PI * 6 * t)),
      );
      break;
    }
    case 'room':
      events(0.35, (s, f) =>
        add(s, 40_000, (t) => attack(t, 0.004) * (0.4 + 0.6 * f) * exp(-t / 0.25) * noise(random)),
      );
      break;
  }
  const mean = x.reduce((a, v) => a + v, 0) / n;
  for (let i = 0; i < n; i++) x[i] = (x[i] as number) - mean * min(1, i / 9600, (n - i) / 9600);
  const top = x.reduce((m, v) => max(m, abs(v)), 1e-9);
  return Float32Array.from(x, (v) => (v / top) * level + 0.0002 * noise(random));
}

export const scale = (x: Float32Array, gain: number): Float32Array => x.map((v) => v * gain);
export const quantise = (x: Float32Array, bits: number): Float32Array => {
  const s = 2 ** (bits - 1);
  return x.map((v) => max(-s, min(s - 1, round(v * s))) / s);
};
const fade = (x: Float32Array, ms: number): Float32Array => {
  const f = round((ms * RATE) / 1000);
  return x.map((v, i) => v * min(1, i / f, (x.length - 1 - i) / f));
};

/** Frames at which the level is high: where a cut would be heard. */
function loudFrame(x: Float32Array, random: Random): number {
  const top = x.reduce((m, v) => max(m, abs(v)), 0);
  for (;;) {
    const i = 4000 + Math.floor(random() * (x.length - 8000));
    let near = 0;
    for (let k = -240; k < 240; k++) near = max(near, abs(x[i + k] as number));
    if (near > 0.3 * top) return i;
  }
}

/** A look-ahead limiter with make-up: level evened out to a ceiling within 5 ms. */
export function limited(x: Float32Array, drive: number, ceiling: number): Float32Array {
  const look = 240;
  const gains = new Float64Array(x.length);
  // Largest of each window, by a queue of candidates that falls.
  const queue: number[] = [];
  for (let end = 0; end < x.length + look; end++) {
    if (end < x.length) {
      while (queue.length > 0 && abs(x[queue.at(-1) as number] as number) <= abs(x[end] as number))
        queue.pop();
      queue.push(end);
    }
    const i = end - look;
    if (i < 0) continue;
    while ((queue[0] as number) < i - look) queue.shift();
    const top = drive * abs(x[queue[0] as number] as number);
    gains[i] = top > ceiling ? ceiling / top : 1;
  }
  let g = 1;
  return x.map((v, i) => {
    const wanted = gains[i] as number;
    g = wanted < g ? wanted : min(wanted, g + 0.0002);
    return max(-ceiling, min(ceiling, v * drive * g));
  });
}

type Channels = readonly Float32Array[];

/** A made recording with what must be noticed about it; nothing else may be. */
export interface Labelled {
  readonly name: string;
  readonly expected: readonly FindingCode[];
  /** Would be right as well, and need not be said. */
  readonly allowed: readonly FindingCode[];
  /** Made when asked for: most sets use a part of all. */
  readonly channels: () => Channels;
  readonly bitDepth: number;
  readonly warnings?: readonly SoundWarning[];
  /** What its name says; missing = nothing. */
  readonly family?: Family;
}

/** What a finding is made from, and what comes close to it without being it. */
export function labelledSet(): Labelled[] {
  const out: Labelled[] = [];
  const put: Put = (name, expected, given, bitDepth = 24, allowed = []) => {
    const channels = (): Channels => {
      const exact = typeof given === 'function' ? given() : given;
      return bitDepth === 32 ? exact : exact.map((c) => quantise(c, bitDepth));
    };
    out.push({ name, expected, allowed, channels, bitDepth });
  };
  out.push(...labelledClicks(), ...labelledRooms());
  const plain = VOICES;
  plain.forEach((v, k) => {
    const random = createRandom(900 + k);
    const x = make(v, 10 + k);
    const y = make(v, 50 + k);
    for (let r = 0; r < 3; r++)
      put(`clean ${v} ${r}`, [], () =>
        r === 2 ? [make(v, 100 + k), make(v, 200 + k)] : [make(v, 100 * r + k, 4, 0.2 + 0.3 * r)],
      );
    put(`16 bit ${v}`, [], [x], 16);
    put(`padded from 16 ${v}`, ['sixteen-in-more'], [quantise(x, 16)]);
    if (k < 4) put(`padded from 16, stereo ${v}`, ['sixteen-in-more'], [quantise(x, 16), quantise(y, 16)]);
    put(`20 bit inside ${v}`, [], [quantise(x, 20)]);
    put(`one side 16 bit ${v}`, [], [quantise(x, 16), y]);
    // Clipping: converter at full scale, and earlier, turned down after.
    if (v !== 'square') {
      put(`clipped ${v}`, ['clipped'], [scale(x, 2.6).map((s) => max(-1, min(32767 / 32768, s)))], 24, [
        'dc-offset',
        'limited',
      ]);
      put(
        `clipped a little ${v}`,
        ['clipped'],
        [scale(x, 2.3).map((s) => max(-1, min(1 - 2 ** -23, s)))],
        24,
        ['dc-offset', 'limited'],
      );
      put(
        `clipped and turned down ${v}`,
        ['flat-tops'],
        [
          scale(
            scale(x, 2.6).map((s) => max(-1, min(1, s))),
            0.61,
          ),
        ],
        24,
        ['dc-offset', 'limited'],
      );
      if (k < 6)
        put(
          `clipped and turned far down ${v}`,
          ['flat-tops'],
          [
            scale(
              scale(y, 3).map((s) => max(-1, min(1, s))),
              0.33,
            ),
          ],
          24,
          ['dc-offset', 'limited'],
        );
      put(`touches full scale ${v}`, [], [scale(x, 1.998)], 24, ['inter-sample-overs']);
    }
    put(`offset ${v}`, ['dc-offset'], [x.map((s) => s * 0.8 + 0.01 * (1 + k / 3) * (k % 2 ? 1 : -1))]);
    put(`small offset ${v}`, ['dc-offset'], [x.map((s) => s * 0.8 - 0.006)]);
    put(`tiny offset ${v}`, [], [x.map((s) => s * 0.8 + 0.0012)]);
    put(`left dead ${v}`, ['dead-channel'], [new Float32Array(x.length), x]);
    put(`right only hiss ${v}`, ['dead-channel'], [x, x.map(() => 0.0003 * noise(random))]);
    put(`right quiet but playing ${v}`, [], [x, scale(y, 0.02)]);
    put(`dual mono ${v}`, ['dual-mono'], [x, x]);
    put(`dual mono with dither ${v}`, ['dual-mono'], [x, x.map((s) => s + (random() - random()) * 2 ** -22)]);
    put(`nearly mono ${v}`, [], [x, x.map((s, i) => s * 0.98 + 0.05 * (y[i] as number))]);
    put(`same but half a dB ${v}`, [], [x, scale(x, 0.944)]);
    // Dropouts: buffers of zeros, one or several; pauses and mutes with fades are none.
    for (const [frames, times] of [
      [64, 1],
      [256, 3],
      [1024, 2],
      [4096, 1],
    ] as const) {
      const hurt = x.slice();
      const at: number[] = [];
      while (at.length < times) {
        const f = loudFrame(x, random);
        if (at.every((a) => abs(a - f) > 12_000 || times === 1)) at.push(f);
      }
      for (const a of at) hurt.fill(0, a, min(hurt.length - 3000, a + frames));
      // A gap whose end falls into a pause is heard as a cut end only.
      const audible = at.some((a) => {
        let m = 0;
        for (let q = a + frames; q < a + frames + 240; q++) m = max(m, abs(x[q] ?? 0));
        return m > 0.05;
      });
      if (audible) put(`dropout ${frames} × ${times} ${v}`, ['dropouts'], [hurt]);
    }
    mutes(x, v, put);
    const at = loudFrame(x, random);
    if (v !== 'square') edges(x, y, v, at, loudFrame(y, random), put);
    put(`silent ${v}`, ['silent'], [new Float32Array(20_000 + k)]);
    if (k < 4)
      put(
        `silent, both sides ${v}`,
        ['silent'],
        [new Float32Array(30_000 + k), new Float32Array(30_000 + k)],
        24,
        ['dual-mono'],
      );
    if (k < 4) put(`nearly silent, both sides ${v}`, ['nearly-silent'], [scale(x, 0.003), scale(y, 0.0025)]);
    put(`nearly silent ${v}`, ['nearly-silent'], [scale(x, 0.0045)]);
    put(`quiet ${v}`, [], [scale(x, 0.02)]);
    if (['drums', 'voice', 'plucked', 'bass', 'room', 'hats'].includes(v)) {
      put(`limited hard ${v}`, ['limited'], () => [limited(make(v, 70 + k, 5), 8, 0.9)], 24, [
        'inter-sample-overs',
        'dc-offset',
      ]);
      put(`limited ${v}`, ['limited'], () => [limited(make(v, 80 + k, 5), 5, 0.5)], 24, ['dc-offset']);
      put(`limiter that hardly works ${v}`, [], () => [limited(make(v, 90 + k, 5), 1.2, 0.55)], 24, [
        'flat-tops',
      ]);
    }
    // One hit over and over, as a machine plays it: the same peak always.
    const hit = x.slice(max(0, at - 2000), at + 10_000).map((s, i) => s * min(1, i / 50) * exp(-i / 3000));
    const loop = new Float32Array(5 * RATE).map(() => 0.0002 * noise(random));
    for (let s = 5000; s + hit.length < loop.length; s += 17_231)
      hit.forEach((h, i) => {
        loop[s + i] = (loop[s + i] as number) + h;
      });
    if (k < 6)
      put(
        `low steady tone ${v}`,
        [],
        [
          loop.map(
            (s, i) =>
              s * 0 +
              0.4 * sin((2 * PI * (40 + 9 * k) * i) / RATE) * min(1, i / 4800, (loop.length - i) / 4800) +
              0.0002 * noise(random),
          ),
          new Float32Array(loop.length).map(() => 0.0002 * noise(random)),
        ],
        24,
        ['dead-channel'],
      );
    if (k < 6)
      put(
        `low pure tone, 16 bit ${v}`,
        [],
        [
          loop.map(
            (_, i) =>
              0.4 * sin((2 * PI * (27 + 11 * k) * i) / RATE) * min(1, i / 4800, (loop.length - i) / 4800),
          ),
        ],
        16,
      );
    if (v !== 'square') put(`one hit repeated ${v}`, [], [loop], 24, ['dc-offset']);
    // Overs between samples: a tone at a quarter of the rate, sampled at 45°.
    const over = x.map(
      (s, i) =>
        0.5 * s +
        (i > 70_000 && i < 70_400
          ? 0.8 * sin((PI / 2) * i + PI / 4) * min(1, (i - 70_000) / 60, (70_400 - i) / 60) * 1.32
          : 0),
    );
    const most = over.reduce((m, s) => max(m, abs(s)), 0);
    if (v !== 'square') put(`over ${v}`, ['inter-sample-overs'], [scale(over, 0.99 / most)]);
    if (v !== 'square' && k < 6)
      put(`over beside sound ${v}`, ['inter-sample-overs'], [scale(over, 0.97 / most), scale(y, 0.5)]);
    if (v !== 'square') put(`no over ${v}`, [], [scale(over, 0.6 / most)]);
  });
  return out;
}

type Put = (
  name: string,
  expected: readonly FindingCode[],
  channels: Channels | (() => Channels),
  bitDepth?: number,
  allowed?: readonly FindingCode[],
) => void;

/** Beginnings and ends in the middle of a sound, and faded ones; `at` and `again` are loud places of the two takes. */
function edges(x: Float32Array, y: Float32Array, v: Voice, at: number, again: number, put: Put): void {
  if (x.length - at > 20_000)
    put(`begins cut ${v}`, ['abrupt-start'], [cutNear(x, at, 'start')], 24, ['dc-offset']);
  put(`ends cut ${v}`, ['abrupt-end'], [cutNear(x, max(24_000, at), 'end')], 24, ['dc-offset']);
  if (y.length - again > 20_000)
    put(`begins cut, another take ${v}`, ['abrupt-start'], [cutNear(y, again, 'start')], 24, ['dc-offset']);
  put(
    `ends cut, both sides ${v}`,
    ['abrupt-end'],
    [cutNear(y, max(24_000, again), 'end'), scale(cutNear(y, max(24_000, again), 'end'), 0.7)],
    24,
    ['dc-offset'],
  );
  put(`faded in and out ${v}`, [], [fade(x.slice(at > 96_000 ? at - 60_000 : at, x.length - 20_000), 30)]);
}

/** Silence that was made with care: no dropouts. */
function mutes(x: Float32Array, v: Voice, put: Put): void {
  const muted = x.slice();
  for (let i = 60_000; i < 90_000; i++)
    muted[i] = (muted[i] as number) * max(0, max(1 - (i - 60_000) / 240, 1 - (90_000 - i) / 240));
  put(`muted with 5 ms fades ${v}`, [], [muted]);
  const gated = x.map((s, i) => {
    let m = 0;
    for (let q = max(0, i - 400); q < min(x.length, i + 2400); q += 40) m = max(m, abs(x[q] as number));
    return m > 0.004 ? s : 0;
  });
  put(`gated ${v}`, [], [gated]);
}

/** Cut where the sound is not just crossing zero. */
function cutNear(x: Float32Array, at: number, kind: 'start' | 'end'): Float32Array {
  const top = x.reduce((m, v) => max(m, abs(v)), 0);
  let i = at;
  while (i < x.length - 5000 && abs(x[i] as number) < 0.08 * top) i++;
  return kind === 'start' ? x.slice(i) : x.slice(0, i + 1);
}

/** A made recording as the passes would hear it. */
export function heard(item: Labelled, id = item.name): KnownFile {
  const channels = item.channels();
  const arrival = new ArrivalAnalysis(RATE, channels.length);
  const frames = channels[0]?.length ?? 0;
  for (let at = 0; at < frames; at += 65_536) arrival.push(channels.map((c) => c.subarray(at, at + 65_536)));
  const { facts } = arrival.finish();
  // As the listening pass has it: only where the sample peak is high.
  const peak = new TruePeakMeter(RATE, channels.length);
  if ((facts.peakDbfs ?? -99) > -6) peak.push(channels);
  return {
    id,
    receivedName: id,
    settled: false,
    sha256: id,
    sampleRateHz: RATE,
    channels: channels.length,
    bitDepth: item.bitDepth,
    encoding: item.bitDepth === 32 ? 'f32' : `s${item.bitDepth}`,
    lengthFrames: frames,
    lossy: false,
    metadata: NO_METADATA,
    warnings: item.warnings ?? [],
    facts,
    heard: frames > LISTENED_FROM ? listen(channels) : null,
    truePeakDbtp: (facts.peakDbfs ?? -99) > -6 ? peak.truePeakDbtp() : null,
    source: {
      family: item.family ?? 'unknown',
      part: null,
      role: null,
      number: null,
      position: null,
      side: null,
    },
  };
}

/** Shorter ones have no click and no phrases to speak of: the pass over them would only take time. */
const LISTENED_FROM = 10 * RATE;

function listen(channels: readonly Float32Array[]): KnownFile['heard'] {
  const pass = new OnsetAnalysis(RATE);
  pass.push(channels);
  const onsets = pass.finish();
  return heardFacts(onsets, pass.sketch(), pass.pitchWidth());
}

/** Every `nth` of what is expected to show the same: quick, with something of each kind. */
export function everyNth<T extends { readonly expected: readonly string[] }>(
  set: readonly T[],
  nth: number,
): T[] {
  const seen = new Map<string, number>();
  return set.filter(({ expected }) => {
    const kinds = expected.map((line) => line.split(' ')[0]).join(' ');
    const count = seen.get(kinds) ?? 0;
    seen.set(kinds, count + 1);
    return count % nth === 0;
  });
}

/** Right, missed and false findings of each code over the set, or over every `nth` of each kind. */
export function scoreLabelled(nth = 1): {
  readonly rows: readonly {
    readonly code: string;
    readonly wanted: number;
    readonly missed: readonly string[];
    readonly falseIn: readonly string[];
  }[];
  readonly files: number;
  readonly recall: number;
  readonly falseAlarms: number;
} {
  const set = everyNth(labelledSet(), nth);
  const rows = new Map<string, { wanted: number; missed: string[]; falseIn: string[] }>();
  const row = (code: string) => {
    const r = rows.get(code) ?? { wanted: 0, missed: [], falseIn: [] };
    rows.set(code, r);
    return r;
  };
  let withFalse = 0;
  for (const item of set) {
    const codes = new Set(fileFindings(heard(item)).map((f) => f.code));
    for (const code of item.expected) {
      row(code).wanted++;
      if (!codes.has(code)) row(code).missed.push(item.name);
    }
    const wrong = [...codes].filter((c) => !item.expected.includes(c) && !item.allowed.includes(c));
    for (const code of wrong) row(code).falseIn.push(item.name);
    if (wrong.length > 0) withFalse++;
  }
  const wanted = [...rows.values()].reduce((n, r) => n + r.wanted, 0);
  const missed = [...rows.values()].reduce((n, r) => n + r.missed.length, 0);
  return {
    rows: [...rows].map(([code, r]) => ({ code, ...r })).sort((a, b) => (a.code < b.code ? -1 : 1)),
    files: set.length,
    recall: 1 - missed / wanted,
    falseAlarms: withFalse / set.length,
  };
}
