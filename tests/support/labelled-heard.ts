import { Fft } from '@/core/dsp';
import { createRandom, type Random } from '@/core/units';
import type { Labelled } from './labelled';

const RATE = 48_000;
const { sin, exp, PI, min, max, round, sqrt, abs } = Math;
const noise = (random: Random): number => random() * 2 - 1;
function peakTo(x: Float64Array, level: number, random: Random): Float32Array {
  let top = 1e-9;
  for (const v of x) top = max(top, abs(v));
  const out = new Float32Array(x.length);
  for (let i = 0; i < x.length; i++) out[i] = ((x[i] as number) / top) * level + 0.0001 * noise(random);
  return out;
}
const transforms = new Map<number, Fft>();

/** The product of two spectra back in time: what a room makes of a dry sound. */
export function convolve(x: Float32Array, room: Float32Array): Float32Array {
  const size = 2 ** Math.ceil(Math.log2(x.length + room.length));
  const fft = transforms.get(size) ?? new Fft(size);
  transforms.set(size, fft);
  const [re, im, outRe, outIm] = [0, 1, 2, 3].map(() => new Float64Array(size)) as [
    Float64Array,
    Float64Array,
    Float64Array,
    Float64Array,
  ];
  re.set(x);
  im.set(room);
  fft.transformInto(re, im);
  const at = (v: Float64Array, k: number): number => v[k] as number;
  for (let k = 0; k < size; k++) {
    const m = (size - k) % size;
    const [aRe, aIm, bRe, bIm] = [
      (at(re, k) + at(re, m)) / 2,
      (at(im, k) - at(im, m)) / 2,
      (at(im, k) + at(im, m)) / 2,
      (at(re, m) - at(re, k)) / 2,
    ];
    outRe[k] = aRe * bRe - aIm * bIm;
    outIm[k] = -(aRe * bIm + aIm * bRe);
  }
  fft.transformInto(outRe, outIm);
  return Float32Array.from({ length: x.length }, (_, i) => at(outRe, i) / size);
}

/** A room or an effect: noise that falls by 60 dB in `seconds`, energy 1, after `delayMs`. */
export function roomResponse(seconds: number, delayMs: number, random: Random): Float32Array {
  const delay = round((delayMs * RATE) / 1000);
  const h = Float32Array.from({ length: delay + round(1.2 * seconds * RATE) }, (_, i) =>
    i < delay ? 0 : noise(random) * 10 ** ((-3 * (i - delay)) / RATE / seconds),
  );
  const energy = sqrt(h.reduce((s, v) => s + v * v, 0));
  return h.map((v) => v / energy);
}

/** Somebody sings or blows in phrases, with pauses; dry. `fadeSeconds`: how long notes die at the end of a phrase. */
export function phrasesOf(seed: number, seconds: number, fadeSeconds = 0.09): Float32Array {
  const random = createRandom(seed);
  const x = new Float64Array(round(seconds * RATE));
  for (let t = 0.4; t < seconds - 4;) {
    for (let n = 2 + Math.floor(4 * random()), k = 0; k < n; k++) {
      const hz = 180 * 2 ** (Math.floor(10 * random()) / 12);
      const long = 0.25 + 0.4 * random();
      const fade = k === n - 1 ? fadeSeconds : 0.05;
      const level = 0.6 + 0.4 * random();
      const from = round(t * RATE);
      for (let i = 0; i < (long + fade) * RATE && from + i < x.length; i++) {
        const s = i / RATE;
        const shape = min(1, s / 0.04) * min(1, (long + fade - s) / fade);
        const air = 0.04 * noise(random);
        x[from + i] =
          (x[from + i] as number) +
          level *
            shape *
            (air +
              [1, 0.8, 0.7, 0.45, 0.3, 0.2, 0.12, 0.08].reduce(
                (a, g, h) => a + g * sin(2 * PI * hz * (h + 1) * s + 0.25 * (h + 1) * sin(2 * PI * 5.3 * s)),
                0,
              ));
      }
      t += long + 0.03;
    }
    t += 1.8 + 1.2 * random();
  }
  return peakTo(x, 0.5, random);
}

/** Reverb printed on phrases, and what comes close: dry, short rooms, echoes, long fades, bleed under it. */
export function labelledRooms(): Labelled[] {
  const out: Labelled[] = [];
  const put = (
    name: string,
    expected: Labelled['expected'],
    sound: () => Float32Array,
    allowed: Labelled['allowed'] = [],
  ): void => {
    out.push({
      name,
      expected,
      allowed,
      channels: () => [sound()],
      bitDepth: 32,
      family: (['lead-vocal', 'backing-vocal', 'brass', 'winds'] as const)[out.length % 4],
    });
  };
  const wet = (seed: number, seconds: number, db: number, delayMs: number): Float32Array => {
    const dry = phrasesOf(seed, 24);
    const gain = 10 ** (db / 20);
    const tail = convolve(dry, roomResponse(seconds, delayMs, createRandom(seed + 500)));
    return dry.map((v, i) => 0.7 * (v + gain * (tail[i] as number)));
  };
  [1.1, 1.3, 1.5, 1.8, 2.1, 2.4, 2.8, 1.2, 1.6, 2.0, 1.4, 1.9, 2.2, 1.7].forEach((seconds, k) =>
    put(`reverb ${seconds} s ${k}`, ['reverb'], () => wet(600 + k, seconds, -4 - (k % 5) * 2, (k % 4) * 12)),
  );
  for (let k = 0; k < 6; k++) put(`dry phrases ${k}`, [], () => phrasesOf(620 + k, 24));
  [0.2, 0.3, 0.4, 0.5, 0.35, 0.45].forEach((seconds, k) =>
    put(`room of ${seconds} s`, [], () => wet(630 + k, seconds, -6, 3)),
  );
  for (let k = 0; k < 4; k++)
    put(`echoes ${k}`, [], () => {
      const dry = phrasesOf(640 + k, 24);
      const by = round((0.28 + 0.06 * k) * RATE);
      const x = dry.slice();
      for (let i = by; i < x.length; i++) x[i] = (x[i] as number) + 0.4 * (x[i - by] as number);
      return x.map((v) => 0.8 * v);
    });
  for (let k = 0; k < 4; k++)
    put(`notes that die slowly ${k}`, [], () => phrasesOf(650 + k, 24, 0.5 + 0.2 * k));
  for (let k = 0; k < 4; k++)
    put(`bleed under phrases ${k}`, [], () => {
      const other = phrasesOf(670 + k, 24);
      return phrasesOf(660 + k, 24).map((v, i) => v + 0.03 * (other[i] as number));
    });
  return out;
}

/** Clicks without a name, and what pulses like one: hats, shakers, kicks, bass. */
export function labelledClicks(): Labelled[] {
  const out: Labelled[] = [];
  const put = (
    name: string,
    expected: Labelled['expected'],
    sound: () => Float32Array,
    allowed: Labelled['allowed'] = [],
  ): void => {
    out.push({ name, expected, allowed, channels: () => [sound()], bitDepth: 32 });
  };
  type Sound = (t: number, random: Random) => number;
  const beep =
    (hz: number, ms: number): Sound =>
    (t) =>
      t < ms / 1000 ? sin(2 * PI * hz * t) * min(1, t / 0.0005, (ms / 1000 - t) / 0.002) : 0;
  const block =
    (hz: number): Sound =>
    (t) =>
      exp(-t / 0.012) * (sin(2 * PI * hz * t) + 0.4 * sin(2 * PI * 2.7 * hz * t));
  const grain = Float32Array.from(
    { length: 0.25 * RATE + 1 },
    (
      (random) => () =>
        noise(random)
    )(createRandom(77)),
  );
  // A sample played again and again is the same to the last bit.
  const tick: Sound = (t) => exp(-t / 0.004) * (grain[round(t * RATE)] as number);
  const low =
    (hz: number): Sound =>
    (t) =>
      exp(-t / 0.09) * sin(2 * PI * hz * t);
  const seconds = 22;
  const play = (
    seed: number,
    hits: (add: (t: number, gain: number, sound: Sound) => void, random: Random) => void,
  ): (() => Float32Array) => {
    return () => {
      const random = createRandom(seed);
      const x = new Float64Array(seconds * RATE);
      hits((t, gain, sound) => {
        const from = round(t * RATE);
        for (let i = 0; i < 0.25 * RATE && from + i < x.length; i++)
          x[from + i] = (x[from + i] as number) + gain * sound(i / RATE, random);
      }, random);
      return peakTo(x, 0.45, random);
    };
  };
  const pulses = (bpm: number, wander: number, each: (t: number, n: number) => void): void => {
    for (let t = 0.2, n = 0; t < seconds - 0.5; n++) {
      each(t, n);
      t += 60 / (bpm * (1 + wander * sin(n / 9)));
    }
  };
  const kinds: readonly [string, number, number, (n: number) => readonly [number, Sound]][] = [
    ['beeps', 96, 0, (n) => (n % 4 ? [0.7, beep(1000, 20)] : [1, beep(1500, 20)])],
    ['beeps in three', 142, 0, (n) => (n % 3 ? [0.6, beep(880, 30)] : [1, beep(1760, 30)])],
    ['one beep', 117.5, 0, () => [1, beep(1200, 15)]],
    ['blocks', 84, 0, (n) => [n % 4 ? 0.7 : 1, block(900)]],
    ['two blocks', 128, 0, (n) => (n % 4 ? [0.8, block(800)] : [1, block(1200)])],
    ['ticks', 104, 0, () => [1, tick]],
    ['ticks, accents louder', 76, 0, (n) => [n % 4 ? 0.5 : 1, tick]],
    ['beeps that follow the band', 110, 0.03, (n) => (n % 4 ? [0.7, beep(1000, 20)] : [1, beep(1500, 20)])],
    ['blocks that follow the band', 90, 0.05, () => [1, block(1000)]],
    [
      'eighths',
      180,
      0,
      (n) => (n % 8 === 0 ? [1, beep(1600, 20)] : n % 2 ? [0.4, beep(1000, 15)] : [0.8, beep(1000, 15)]),
    ],
    ['slow', 52, 0, () => [1, beep(700, 40)]],
    ['in seven', 208, 0, (n) => (n % 7 ? [0.7, beep(900, 15)] : [1, beep(1350, 15)])],
    ['in five', 132, 0.01, (n) => (n % 5 ? [0.7, block(700)] : [1, block(1050)])],
    ['high ticks', 150, 0, (n) => (n % 4 ? [0.7, beep(3000, 5)] : [1, beep(4000, 5)])],
  ];
  kinds.forEach(([name, bpm, wander, of], k) =>
    put(
      `click: ${name}`,
      ['heard-click'],
      play(700 + k, (add) => pulses(bpm, wander, (t, n) => add(t, ...of(n)))),
    ),
  );
  for (let k = 0; k < 3; k++) {
    put(
      `hats of a hand ${k}`,
      [],
      play(720 + k, (add, random) =>
        pulses(180 + 20 * k, 0, (t) =>
          add(
            t + 0.008 * noise(random),
            0.3 + 0.7 * random(),
            (s, r) => exp(-s / (0.02 + 0.02 * k)) * noise(r),
          ),
        ),
      ),
    );
    put(
      `hats of a machine, with rests ${k}`,
      [],
      play(730 + k, (add) =>
        pulses(170 + 15 * k, 0, (t, n) => {
          if ((n >> 4) % 3 !== 2 && n % 8 !== 5) add(t, n % 2 ? 0.6 : 1, tick);
        }),
      ),
    );
    put(
      `four on the floor ${k}`,
      [],
      play(740 + k, (add) =>
        pulses(118 + 6 * k, 0, (t) =>
          add(t, 1, (s) => exp(-s / 0.07) * sin(2 * PI * (52 + 80 * exp(-s / 0.02)) * s)),
        ),
      ),
    );
    put(
      `bass in eighths ${k}`,
      [],
      play(750 + k, (add) => pulses(220, 0, (t, n) => add(t, 1, low(60 + 20 * (n % (2 + k)))))),
      ['dc-offset'],
    );
    put(
      `shaker ${k}`,
      [],
      play(760 + k, (add, random) =>
        pulses(360 + 40 * k, 0, (t, n) =>
          add(
            t + 0.006 * noise(random),
            n % 2 ? 0.4 + 0.2 * random() : 0.8 + 0.2 * random(),
            (s, r) => min(1, s / 0.02) * exp(-s / 0.03) * noise(r),
          ),
        ),
      ),
    );
    put(
      `hits now and then ${k}`,
      [],
      play(770 + k, (add, random) => {
        for (let t = 0.5; t < seconds - 1; t += 0.4 + 2 * random()) add(t, 1, block(600 + 100 * k));
      }),
    );
    put(
      `a tune on blocks ${k}`,
      [],
      play(780 + k, (add, random) =>
        pulses(160, 0, (t) =>
          add(t, 0.7 + 0.3 * random(), block(400 * 2 ** (Math.floor(12 * random()) / 12))),
        ),
      ),
    );
  }
  return out;
}
