import {
  BestFit,
  completeFacts,
  likeness,
  type MicExcerpt,
  mixFit,
  type MixPart,
  OnsetAnalysis,
  relateMics,
  type SoundSketch,
} from '@/core/analysis';
import { NO_METADATA } from '@/core/audio';
import {
  collectFindings,
  type FindingCode,
  type KnownFile,
  isTurnedOver,
  mayBeMix,
  pairFact,
  type Relations,
} from '@/core/findings';
import { findMicGroups, findPairs, readNames } from '@/core/naming';
import { createRandom, type Random } from '@/core/units';
import { factsAcross } from '@/engine';
import { everyNth, make, RATE, scale, type Voice, VOICES } from './labelled';

/** A file of a made delivery: what differs from a plain one, and its sound where that matters. */
type Made = { readonly name: string; readonly samples?: Float32Array } & Partial<Omit<KnownFile, 'source'>>;

/** A made delivery with what must be noticed, as `code name`; nothing else may be. */
export interface LabelledDelivery {
  readonly name: string;
  /** Made when asked for: most sets use a part of all. */
  readonly files: () => readonly Made[];
  readonly expected: readonly string[];
  readonly allowed: readonly FindingCode[];
}

const { round, min } = Math;
const NAMES = [
  'Kick.wav',
  'Snare.wav',
  'Bass.wav',
  'Gtr.wav',
  'Keys.wav',
  'Lead Vox.wav',
  'Fiddle.wav',
  'Trumpet.wav',
  'Shaker.wav',
  'Banjo.wav',
];
const FRAMES = 48_000 * 180;
const noise = (random: Random): number => random() * 2 - 1;
const facts = (change: object): KnownFile['facts'] =>
  completeFacts({
    peakDbfs: -8,
    rmsDbfs: -20,
    integratedLufs: -24,
    dcOffset: 0,
    clippedRuns: 0,
    firstSoundSeconds: 1,
    lastSoundSeconds: 170,
    dualMono: false,
    channelPeaksDbfs: [-8],
    ...change,
  });

const drawn = new WeakMap<Float32Array, SoundSketch>();

/** The sketch of a sound; a band's are used again and again. */
function sketchOf(x: Float32Array): SoundSketch {
  const known = drawn.get(x);
  if (known) return known;
  const pass = new OnsetAnalysis(RATE);
  pass.push([x]);
  pass.finish();
  const sketch = pass.sketch();
  drawn.set(x, sketch);
  return sketch;
}

/** All that is found between the files, by the same steps as the worker takes. */
function relationsOf(
  files: readonly KnownFile[],
  samplesOf: (id: string) => Float32Array | undefined,
): Relations {
  const relation = (a: KnownFile, b: KnownFile): ReturnType<typeof relateMics> => {
    const [x, y] = [samplesOf(a.id), samplesOf(b.id)];
    if (!x || !y) return null;
    const excerpts: MicExcerpt[] = [];
    for (let at = 0; at + 32_768 <= min(x.length, y.length); at += 32_768)
      excerpts.push({ leader: x.subarray(at, at + 32_768), other: y.subarray(at, at + 32_768) });
    return relateMics(excerpts, RATE);
  };
  const sources = files.map((f) => f.source);
  const at = (i: number): KnownFile => files[i] as KnownFile;
  const mics = findMicGroups(sources).flatMap(([leader, ...others]) =>
    others.flatMap((o) => {
      const r = relation(at(leader as number), at(o));
      return r ? [{ leader: at(leader as number).id, other: at(o).id, ...r }] : [];
    }),
  );
  const pairs = findPairs(
    readNames(files.map((f) => f.receivedName)),
    files.map((f) => f.lengthFrames),
  ).map((p) => ({
    left: at(p.left).id,
    right: at(p.right).id,
    ...pairFact(relation(at(p.left), at(p.right))),
  }));
  const twins = files.flatMap((a, i) =>
    files.slice(i + 1).flatMap((b) => {
      const [x, y] = [samplesOf(a.id), samplesOf(b.id)];
      if (!x || !y || x.length !== y.length) return [];
      const fit = new BestFit();
      fit.push(x, y);
      const r = fit.result();
      return r && r.residualDb <= -60
        ? [
            {
              a: a.id,
              b: b.id,
              gainDb: Number((20 * Math.log10(Math.abs(r.gain))).toFixed(3)) + 0,
              polarity: r.gain < 0 ? (-1 as const) : (1 as const),
              residualDb: Number.isFinite(r.residualDb) ? r.residualDb : null,
            },
          ]
        : [];
    }),
  );
  const sketches = new Map(
    files.flatMap((f): [string, SoundSketch][] => {
      const x = samplesOf(f.id);
      return x ? [[f.id, sketchOf(x)]] : [];
    }),
  );
  const parts = files.flatMap((f): (MixPart & { id: string })[] => {
    const sketch = sketches.get(f.id);
    return sketch
      ? [{ id: f.id, sketch, startSeconds: 0, group: f.source.family === 'unknown' ? f.id : f.source.family }]
      : [];
  });
  const mixes = parts
    .filter((p) => mayBeMix(files.find((f) => f.id === p.id) as KnownFile))
    .flatMap((p) => {
      const fit = mixFit(p, parts);
      return fit ? [{ id: p.id, ...fit }] : [];
    });
  const alikes = files
    .filter((f) => !f.settled)
    .flatMap((f) =>
      files
        .filter((o) => o.settled)
        .flatMap((o) => {
          const [a, b] = [sketches.get(o.id), sketches.get(f.id)];
          const l = a && b ? likeness(a, b, 120) : null;
          return l ? [{ fresh: f.id, settled: o.id, ...l }] : [];
        }),
    );
  const { together } = factsAcross(parts, { candidates: [], pairs: [], singles: parts.map((p) => p.id) });
  for (const [leader, other] of together) {
    const file = (id: string): KnownFile => files.find((f) => f.id === id) as KnownFile;
    const isNamed = [...mics, ...pairs.map((p) => ({ leader: p.left, other: p.right }))].some(
      (m) => [m.leader, m.other].includes(leader) && [m.leader, m.other].includes(other),
    );
    const r = isNamed ? null : relation(file(leader), file(other));
    if (r && isTurnedOver(r)) mics.push({ leader, other, ...r });
  }
  return { twins, mics, pairs, mixes, alikes, farMics: [] };
}

/** What is noticed in a delivery, as `code name`. */
export function noticedIn(delivery: LabelledDelivery): string[] {
  const files = delivery.files();
  const sources = readNames(files.map((f) => f.name));
  const heard = files.map((f, i): KnownFile => ({
    id: f.name,
    receivedName: f.name,
    settled: false,
    sha256: `sha of ${f.name}`,
    sampleRateHz: RATE,
    channels: 1,
    bitDepth: 24,
    encoding: 's24',
    lengthFrames: f.samples?.length ?? FRAMES,
    lossy: false,
    metadata: NO_METADATA,
    warnings: [],
    facts: facts({}),
    truePeakDbtp: null,
    heard: null,
    ...f,
    source: sources[i] as KnownFile['source'],
  }));
  return collectFindings(
    heard,
    relationsOf(heard, (id) => files.find((f) => f.name === id)?.samples),
  ).open.flatMap((f) => f.files.map((p) => `${f.code} ${p.id}`));
}

/** Deliveries with something between their files, twelve and more of each kind, and what comes close. */
export function labelledDeliveries(): LabelledDelivery[] {
  const out: LabelledDelivery[] = [];
  const put: Put = (name, files, expected = [], allowed = []) => {
    out.push({ name, files: typeof files === 'function' ? files : () => files, expected, allowed });
  };
  const plain = (count = 6): Made[] => NAMES.slice(0, count).map((name) => ({ name }));
  /** The plain files, one of them changed. */
  const with1 = (k: number, change: Partial<Made>): Made[] =>
    plain(6 + (k % 4)).map((f, i) => (i === k % 6 ? { ...f, ...change } : f));
  const nameAt = (k: number): string => NAMES[k % 6] as string;
  for (let k = 0; k < 12; k++) {
    const rate = [44_100, 96_000, 88_200, 32_000][k % 4] as number;
    put(`rate ${k}`, with1(k, { sampleRateHz: rate, lengthFrames: round((FRAMES * rate) / RATE) }), [
      `rate-differs ${nameAt(k)}`,
    ]);
    put(
      `all at ${rate} ${k}`,
      plain().map((f) => ({ ...f, sampleRateHz: rate })),
    );
    put(
      `depth ${k}`,
      with1(k, k % 2 ? { bitDepth: 16, encoding: 's16' } : { bitDepth: 32, encoding: 'f32' }),
      [`depth-differs ${nameAt(k)}`],
    );
    put(
      `half of either depth ${k}`,
      plain().map((f, i) => (i % 2 ? { ...f, bitDepth: 16, encoding: 's16' } : f)),
    );
    const seconds = [-60, -3, -0.5, -0.02, 0.004, 0.05, 1, 7, 30, -0.005, 0.3, -12][k] as number;
    put(`length ${seconds}`, with1(k, { lengthFrames: FRAMES + round(seconds * RATE) }), [
      `length-differs ${nameAt(k)}`,
    ]);
    put(`a millisecond longer ${k}`, with1(k, { lengthFrames: FRAMES + 10 + 6 * (k % 12) }));
    put(
      `each as long as its sound ${k}`,
      plain().map((f, i) => ({ ...f, lengthFrames: FRAMES - 48_000 * (i * 3 + k) })),
    );
    const stamp = (at: number): Partial<Made> => ({
      metadata: { ...NO_METADATA, timeReferenceFrames: round(at * RATE) },
    });
    const start = 3600 * (k % 5);
    put(
      `stamps ${k}`,
      with1(k, {}).map((f, i) => ({ ...f, ...stamp(start + (i === k % 6 ? 0.01 + k * 1.7 : 0)) })),
      [`starts-later ${nameAt(k)}`],
    );
    put(
      `stamps alike ${k}`,
      with1(k, {}).map((f) => ({ ...f, ...stamp(start) })),
    );
    if (k < 4) put(`one stamp ${k}`, with1(k, stamp(start + 2)));
    put(
      `the same file twice ${k}`,
      [...plain(6), { name: `Print ${k} again.wav`, sha256: `sha of ${nameAt(k)}` }],
      [`same-bytes Print ${k} again.wav`],
      ['reference'],
    );
    const warning = [
      { code: 'sound.truncated', expectedFrames: FRAMES * 2, foundFrames: FRAMES },
      { code: 'sound.size_missing', foundFrames: FRAMES },
      { code: 'sound.second_data_ignored', byteOffset: 4000 },
      { code: 'sound.damaged', reason: 'invalid frame' },
    ] as const;
    (['truncated', 'size-missing', 'second-data-ignored', 'damaged'] as const).forEach((code, w) =>
      put(`${code} ${k}`, with1(k, { warnings: [warning[w] as NonNullable<Made['warnings']>[number]] }), [
        `${code} ${nameAt(k)}`,
      ]),
    );
    put(`lossy ${k}`, with1(k, { lossy: true, bitDepth: 16 }), [`lossy ${nameAt(k)}`]);
    put(
      `tempo claim ${k}`,
      with1(k, {
        metadata: {
          ...NO_METADATA,
          tempoClaims: [
            { bpm: 120 - k, source: 'loop-info', beats: null },
          ] as unknown as typeof NO_METADATA.tempoClaims,
        },
      }),
      [`tempo-claim ${nameAt(k)}`],
    );
  }
  named(put, plain);
  sounding(put);
  together(put);
  return out;
}

type Put = (
  name: string,
  files: readonly Made[] | (() => readonly Made[]),
  expected?: readonly string[],
  allowed?: readonly FindingCode[],
) => void;

/** What names alone tell. */
function named(put: Put, plain: (count?: number) => Made[]): void {
  [
    'Rough Mix.wav',
    'rough_02.wav',
    'REF mix.wav',
    'Reference.wav',
    'Master v3.wav',
    'Guide Vox.wav',
    'scratch vocal.wav',
    'Talkback.wav',
    'Mixdown.wav',
    'gde.wav',
    'slate.wav',
    '2 Mix.wav',
  ].forEach((name) =>
    put(`by name ${name}`, [...plain(), { name }], [`reference ${name}`], ['missing-number']),
  );
  [
    'Click.wav',
    'CLK.wav',
    'metronome.wav',
    'click track.wav',
    'Klick.wav',
    'Metro.wav',
    '01_click.wav',
    'Click 120bpm.wav',
    'metronom.wav',
    'CLICK_48k.wav',
    'click (mono).wav',
    'Clk 1.wav',
  ].forEach((name) => put(`by name ${name}`, [...plain(), { name }], [`click ${name}`]));
  const bases = [
    'OH',
    'Piano',
    'Room',
    'Organ',
    'Acc Gtr',
    'Strings',
    'Synth Pad',
    'Overheads',
    'BV',
    'Rhodes',
    'Accordion',
    'Choir',
  ];
  bases.forEach((base, k) => {
    const [l, r] = k % 2 ? [`${base} L.wav`, `${base} R.wav`] : [`${base}_L.wav`, `${base}_R.wav`];
    put(`${base} right missing`, [...plain(5), { name: l }], [`missing-side ${l}`]);
    put(`${base} complete`, [...plain(5), { name: l }, { name: r }], [`pair ${r}`]);
  });
  [
    'Tom',
    'Gtr',
    'BV',
    'Horn',
    'Conga',
    'Synth',
    'Cello',
    'Trumpet',
    'Violin',
    'Elec Gtr',
    'Perc',
    'Sax',
  ].forEach((base) => {
    put(
      `${base} 2 missing`,
      [{ name: 'Kick.wav' }, { name: 'Bass.wav' }, { name: `${base} 1.wav` }, { name: `${base} 3.wav` }],
      [`missing-number ${base} 3.wav`],
    );
    put(`${base} 1 to 3`, [
      { name: 'Kick.wav' },
      { name: 'Bass.wav' },
      ...[1, 2, 3].map((n) => ({ name: `${base} ${n}.wav` })),
    ]);
  });
  const versions: readonly (readonly [string, string])[] = [
    ['Bass.wav', 'Bass_v2.wav'],
    ['Bass.wav', 'bass.wav'],
    ['Gtr.wav', 'Gtr NEW.wav'],
    ['Lead Vox.wav', 'Lead Vox comp final.wav'],
    ['Keys.wav', 'Keys_fixed.wav'],
    ['Snare.wav', 'snare take 3.wav'],
    ['Fiddle.wav', 'Violin_03.wav'],
    ['Kick.wav', 'KICK redo.wav'],
    ['Bass.wav', 'E Bass.wav'],
    ['Lead Vox.wav', 'Lead Vox_20250301.wav'],
    ['Gtr.wav', 'gtr t2.wav'],
    ['Keys.wav', 'Keys update.wav'],
  ];
  versions.forEach(([old, fresh]) =>
    put(
      `${fresh} for ${old}`,
      [...plain(7).map((f) => ({ ...f, settled: true })), { name: fresh }],
      [`replaces ${fresh}`],
    ),
  );
  ['Tenor Sax.wav', 'Harp.wav', 'Cajon.wav', 'Elec Gtr 2.wav', 'Organ.wav', 'Choir.wav'].forEach((fresh) =>
    put(`${fresh} is new`, [...plain(7).map((f) => ({ ...f, settled: true })), { name: fresh }]),
  );
}

/** Heard through another microphone: later, turned over or not, filtered, with its own noise. */
function through(
  x: Float32Array,
  {
    delay,
    polarity,
    dull = 0.3,
    hiss = 0.002,
    bleed,
  }: {
    readonly delay: number;
    readonly polarity: 1 | -1;
    readonly dull?: number;
    readonly hiss?: number;
    readonly bleed?: Float32Array;
  },
  random: Random,
): Float32Array {
  let low = 0;
  return x.map((_, i) => {
    low += (1 - dull) * ((x[i - delay] ?? 0) - low);
    return polarity * 0.8 * low + hiss * noise(random) + (bleed ? 0.1 * (bleed[i] as number) : 0);
  });
}

/** What is made the first time it is asked for. */
function once<T>(make: () => T): () => T {
  let made: T | undefined;
  return () => (made ??= make());
}

/** What two recordings have to do with each other. */
function sounding(put: Put): void {
  const voices = VOICES.filter((v) => v !== 'square' && v !== 'organ' && v !== 'pad');
  for (let k = 0; k < 22; k++) {
    const random = createRandom(3000 + k);
    const v = voices[k % voices.length] as Voice;
    const x = once(() => make(v, 310 + k));
    const other = once(() => make(v, 410 + k));
    const gain = [0.5, 0.25, 0.9, 0.1, 0.7, 0.33][k % 6] as number;
    put(
      `same audio ${k}`,
      () => [
        { name: 'Bass.wav', samples: x() },
        { name: 'Keys.wav', samples: x() },
      ],
      ['same-audio Keys.wav'],
    );
    put(
      `same take at ${gain} ${k}`,
      () => [
        { name: 'Bass.wav', samples: x() },
        {
          name: 'Keys.wav',
          samples: scale(x(), k % 2 ? -gain : gain).map((s) => s + 2 ** -18 * noise(random)),
        },
      ],
      ['same-take Keys.wav'],
    );
    put(`same take through something ${k}`, () => [
      { name: 'Bass.wav', samples: x() },
      { name: 'Keys.wav', samples: through(x(), { delay: 0, polarity: 1, dull: 0.4, hiss: 0 }, random) },
    ]);
    put(`two takes ${k}`, () => [
      { name: 'Bass.wav', samples: x() },
      { name: 'Keys.wav', samples: other() },
    ]);
    // Sides: one source with a little of its own on either, or the same part played twice.
    const wide = (): Float32Array =>
      through(x(), { delay: k % 5, polarity: 1, dull: 0.1, bleed: other() }, random);
    put(
      `sides of one ${k}`,
      () => [
        { name: 'Piano L.wav', samples: x() },
        { name: 'Piano R.wav', samples: wide() },
      ],
      ['pair Piano R.wav'],
      ['mic-delay'],
    );
    if (v === 'voice' || v === 'plucked' || v === 'amp' || v === 'bass')
      put(
        `sides played twice ${k}`,
        () => [
          { name: 'Gtr L.wav', samples: x() },
          { name: 'Gtr R.wav', samples: other() },
        ],
        ['pair-unrelated Gtr R.wav'],
      );
    const delay = [9, 14, 40, 96, 120, 200, 61, 33, 150, 75, 300, 18, 27, 480][k % 14] as number;
    if (v === 'drums' || v === 'hats' || v === 'room' || v === 'plucked') {
      put(
        `turned over ${k}`,
        () => [
          { name: 'Snare top.wav', samples: x() },
          { name: 'Snare btm.wav', samples: through(x(), { delay: 2, polarity: -1 }, random) },
        ],
        ['mic-polarity Snare btm.wav'],
      );
      put(
        `later by ${delay} ${k}`,
        () => [
          { name: 'Kick in.wav', samples: x() },
          { name: 'Kick out.wav', samples: through(x(), { delay, polarity: 1, bleed: other() }, random) },
        ],
        ['mic-delay Kick out.wav'],
      );
      put(`hardly apart ${k}`, () => [
        { name: 'Kick in.wav', samples: x() },
        { name: 'Kick out.wav', samples: through(x(), { delay: k % 4, polarity: 1 }, random) },
      ]);
      put(`nothing to do with each other ${k}`, () => [
        { name: 'Kick in.wav', samples: x() },
        { name: 'Kick out.wav', samples: make('hats', 510 + k) },
      ]);
    }
  }
}

/** A band, and what is made of it: its mix under a name that says nothing, the kit's sum, another take of a track. */
function together(put: Put): void {
  const parts: readonly (readonly [string, Voice])[] = [
    ['Kick.wav', 'drums'],
    ['Hats.wav', 'hats'],
    ['Bass.wav', 'bass'],
    ['Gtr.wav', 'plucked'],
    ['Lead Vox.wav', 'voice'],
    ['Organ.wav', 'organ'],
    ['Elec Gtr.wav', 'amp'],
  ];
  const sum = (list: readonly Float32Array[], gains: readonly number[]): Float32Array =>
    (list[0] as Float32Array).map((_, i) =>
      list.reduce((s, x, k) => s + (gains[k] as number) * (x[i] as number), 0),
    );
  const lateBy = (frames: number, x: Float32Array): Float32Array =>
    x.map((_, i) => (i < frames ? 0 : (x[i - frames] as number)));
  const titles = ['Low Water.wav', 'bounce 3.wav', 'export_2.wav', 'lanterns.wav', 'v7.wav', 'rec0011.wav'];
  for (let k = 0; k < 12; k++) {
    const random = createRandom(4000 + k);
    const band = parts.slice(0, 5 + (k % 3));
    const sounds = once(() => band.map(([, v], i) => make(v, 600 + 10 * k + i, 12, 0.4)));
    const files = (): Made[] => band.map(([name], i) => ({ name, samples: sounds()[i] }));
    const gains = band.map(() => 0.25 + 0.75 * random());
    // A mix is often pressed a little, equalised, and begins elsewhere.
    const pressed = (): Float32Array => sum(sounds(), gains).map((s) => Math.tanh(1.5 * s) / 1.5);
    const later = k % 3 === 2 ? round(0.9 * RATE) : 0;
    const name = titles[k % titles.length] as string;
    put(`mix ${k}`, () => [...files(), { name, samples: lateBy(later, pressed()) }], [`heard-mix ${name}`]);
    put(`only the kit ${k}`, () => [...files(), { name, samples: sum(sounds().slice(0, 2), [0.8, 0.6]) }]);
    put(`another instrument ${k}`, () => [
      ...files(),
      { name, samples: make(k % 2 ? 'voice' : 'plucked', 900 + k, 12) },
    ]);
    const settled = (): Made[] => files().map((f) => ({ ...f, settled: true }));
    const chosen = k % band.length;
    const fresh = `Audio ${20 + k}.wav`;
    const redone = (): Float32Array =>
      through(
        sounds()[chosen] as Float32Array,
        { delay: (k % 4) * 12_000, polarity: 1, dull: 0.5, hiss: 0.001 },
        random,
      ).map((s) => Math.tanh(2 * s) / 2);
    put(
      `${band[chosen]?.[0]} again through something ${k}`,
      () => [...settled(), { name: fresh, samples: redone() }],
      [`replaces ${fresh}`],
      ['missing-number'],
    );
    put(
      `another playing of ${band[chosen]?.[0]} ${k}`,
      () => [
        ...settled(),
        { name: fresh, samples: make((band[chosen] as (typeof parts)[number])[1], 950 + k, 12) },
      ],
      [],
      ['missing-number'],
    );
  }
}

/** Right, missed and false findings over the deliveries; a false one is any that was neither wanted nor allowed; over every `nth` delivery of each kind. */
export function scoreDeliveries(nth = 1): {
  readonly rows: readonly {
    readonly code: string;
    readonly wanted: number;
    readonly missed: readonly string[];
    readonly falseIn: readonly string[];
  }[];
  readonly deliveries: number;
  readonly recall: number;
  readonly falseAlarms: number;
} {
  const rows = new Map<string, { wanted: number; missed: string[]; falseIn: string[] }>();
  const row = (line: string) => {
    const code = line.split(' ')[0] as string;
    const r = rows.get(code) ?? { wanted: 0, missed: [], falseIn: [] };
    rows.set(code, r);
    return r;
  };
  const set = everyNth(labelledDeliveries(), nth);
  let withFalse = 0;
  for (const item of set) {
    const found = noticedIn(item);
    for (const line of item.expected) {
      row(line).wanted++;
      if (!found.includes(line)) row(line).missed.push(item.name);
    }
    const wrong = found.filter(
      (line) => !item.expected.includes(line) && !item.allowed.includes(line.split(' ')[0] as FindingCode),
    );
    for (const line of wrong) row(line).falseIn.push(item.name);
    if (wrong.length > 0) withFalse++;
  }
  const all = [...rows.values()];
  const wanted = all.reduce((n, r) => n + r.wanted, 0);
  return {
    rows: [...rows].map(([code, r]) => ({ code, ...r })).sort((a, b) => (a.code < b.code ? -1 : 1)),
    deliveries: set.length,
    recall: 1 - all.reduce((n, r) => n + r.missed.length, 0) / wanted,
    falseAlarms: withFalse / set.length,
  };
}
