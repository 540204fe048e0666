import { completeFacts } from '../analysis';
import { NO_METADATA } from '../audio';
import {
  collectFindings,
  FINDING_CODES,
  findingDetail,
  findingKey,
  findingMeans,
  findingTitle,
  type KnownFile,
  NO_RELATIONS,
  pairFact,
  askMissing,
  questionsToSender,
  type Relations,
  saidFacts,
} from './index';

const facts = completeFacts({
  peakDbfs: -8,
  rmsDbfs: -20,
  integratedLufs: -24,
  dcOffset: 0,
  clippedRuns: 0,
  firstSoundSeconds: 1,
  lastSoundSeconds: 60,
  dualMono: false,
  channelPeaksDbfs: [-8],
});
const file = (id: string, change: Partial<KnownFile> = {}): KnownFile => ({
  id,
  receivedName: `${id}.wav`,
  settled: false,
  sha256: `${id}z`.padEnd(64, '0'),
  sampleRateHz: 48_000,
  channels: 1,
  bitDepth: 24,
  encoding: 's24',
  lengthFrames: 48_000 * 80,
  lossy: false,
  metadata: NO_METADATA,
  warnings: [],
  facts,
  truePeakDbtp: null,
  heard: null,
  source: { family: 'unknown', part: null, role: null, number: null, position: null, side: null },
  ...change,
});
const codes = (files: readonly KnownFile[], relations: Relations = NO_RELATIONS): string[] =>
  collectFindings(files, relations).open.map((f) => f.code);

it('says nothing about a clean delivery', () => {
  expect(codes(Array.from({ length: 40 }, (_, i) => file(`f${i}`)))).toEqual([]);
});

it('says the same about many files once, worst first', () => {
  const clipped = { ...facts, clippedRuns: 3, clippedPlaces: [{ seconds: 2, frames: 5 }] };
  const found = collectFindings(
    [
      file('a', { facts: { ...facts, dualMono: true }, channels: 2 }),
      file('b', { facts: clipped }),
      file('c', { facts: clipped }),
      file('d', { warnings: [{ code: 'sound.truncated', expectedFrames: 9, foundFrames: 8 }] }),
    ],
    NO_RELATIONS,
  ).open;
  expect(found.map((f) => [f.severity, f.code, f.files.length])).toEqual([
    ['problem', 'truncated', 1],
    ['check', 'clipped', 2],
    ['note', 'dual-mono', 1],
  ]);
  expect(found[1]?.files[0]).toMatchObject({
    id: 'b',
    figures: { runs: 3, longestMs: 0.1 },
    places: [{ seconds: 2, frames: 5 }],
  });
});

it('puts aside what a person put aside, until the sound changes', () => {
  const one = file('a', { facts: { ...facts, peakDbfs: null } });
  const [silent] = collectFindings([one], NO_RELATIONS).open;
  const key = findingKey('silent', silent!.files[0]!, () => one.sha256);
  expect(key).toMatch(/^[a-z-]{2,40}( \w{64}){1,2}$/);
  const after = (f: KnownFile) => {
    const v = collectFindings([f], NO_RELATIONS, new Set([key]));
    return [v.open.length, v.dismissed.length];
  };
  expect(after(one)).toEqual([0, 1]);
  expect(after({ ...one, sha256: 'f'.repeat(64) })).toEqual([1, 0]);
});

it('names what is unlike the others: rate, depth, length, time stamp; needs a rule to break', () => {
  const others = [file('a'), file('b'), file('c')];
  expect(codes([...others, file('d', { sampleRateHz: 44_100, lengthFrames: 44_100 * 80 })])).toEqual([
    'rate-differs',
  ]);
  expect(codes([...others, file('d', { bitDepth: 16, encoding: 's16' })])).toEqual(['depth-differs']);
  expect(codes([...others, file('d', { bitDepth: 32, encoding: 'f32' })])).toEqual(['depth-differs']);
  expect(codes([...others, file('d', { lengthFrames: 48_000 * 79 })])).toEqual(['length-differs']);
  expect(codes([...others, file('d', { lengthFrames: 48_000 * 80 + 40 })])).toEqual([]);
  expect(codes([file('a'), file('b', { lengthFrames: 9000 }), file('c', { lengthFrames: 99_000 })])).toEqual(
    [],
  );
  const stamped = (id: string, seconds: number): KnownFile =>
    file(id, { metadata: { ...NO_METADATA, timeReferenceFrames: seconds * 48_000 } });
  const found = collectFindings(
    [stamped('a', 36_000), stamped('b', 36_000), stamped('c', 36_002.5)],
    NO_RELATIONS,
  ).open;
  expect(found).toMatchObject([
    { code: 'starts-later', remedy: 'place-by-stamp', files: [{ id: 'c', figures: { seconds: 2.5 } }] },
  ]);
});

it('tells the same bytes, the same sound and the same take apart', () => {
  const twin = { gainDb: -6.02, polarity: -1, residualDb: -95 } as const;
  expect(codes([file('a'), file('b', { sha256: file('a').sha256 })])).toEqual(['same-bytes']);
  expect(codes([file('a'), file('b')], { ...NO_RELATIONS, twins: [{ a: 'a', b: 'b', ...twin }] })).toEqual([
    'same-take',
  ]);
  expect(
    codes([file('a'), file('b')], {
      ...NO_RELATIONS,
      twins: [{ a: 'a', b: 'b', gainDb: 0, polarity: 1, residualDb: null }],
    }),
  ).toEqual(['same-audio']);
  expect(
    codes([file('a'), file('b')], { ...NO_RELATIONS, twins: [{ a: 'a', b: 'b', ...twin, residualDb: -40 }] }),
  ).toEqual([]);
});

it('speaks of microphones only when sure, in samples, milliseconds and centimetres (sound in air: 343 m/s at 20 °C)', () => {
  const mic = (change: object) =>
    ({
      ...NO_RELATIONS,
      mics: [
        {
          leader: 'a',
          other: 'b',
          delaySamples: 48,
          polarity: -1,
          correlation: -0.7,
          confidence: 0.9,
          ...change,
        } as const,
      ],
    }) as Relations;
  const found = collectFindings([file('a'), file('b')], mic({})).open;
  expect(found.map((f) => [f.code, f.remedy])).toEqual([
    ['mic-polarity', 'flip-polarity'],
    ['mic-delay', 'shift'],
  ]);
  expect(found[1]?.files[0]?.figures).toMatchObject({ delaySamples: 48, delayMs: 1, delayCm: 34.3 });
  expect(codes([file('a'), file('b')], mic({ confidence: 0.4 }))).toEqual([]);
  expect(codes([file('a'), file('b')], mic({ delaySamples: 3 }))).toEqual(['mic-polarity']);
});

it('believes a pair when it is one playing, calls two takes two takes, and says nothing between', () => {
  const pair = (correlation: number) => ({
    ...NO_RELATIONS,
    pairs: [{ left: 'a', right: 'b', ...pairFact({ correlation }) }],
  });
  expect(codes([file('a'), file('b')], pair(-0.5))).toEqual(['pair']);
  expect(codes([file('a'), file('b')], pair(0.03))).toEqual(['pair-unrelated']);
  expect(pairFact({ correlation: 0.15 }).related).toBeNull();
});

it('has words for everything, and asks the sender only what the sender knows', () => {
  for (const code of FINDING_CODES)
    expect([findingTitle(code).length > 3, findingMeans(code).length > 10]).toEqual([true, true]);
  const cut = file('a', { facts: { ...facts, abruptEndDbfs: -12, dualMono: true }, channels: 2 });
  const text = questionsToSender(collectFindings([cut], NO_RELATIONS).open, () => 'Vox_03.wav', 'Low Water');
  expect(text).toContain('“Low Water”');
  expect(text).toContain(
    '1. These end in the middle of a sound. Is the end missing?\n   Vox_03.wav (−12 dBFS at the last sample)',
  );
  expect(text).not.toContain('2.');
  expect(questionsToSender([], () => '', '')).toBe('');
  const asked = questionsToSender([], () => '', 'Low Water', [
    askMissing('Rough 3.mp3', [{ fromSeconds: 64, toSeconds: 96.4, range: 'low end' }]),
  ]);
  expect(asked).toContain('a question:');
  expect(asked).toContain('Rough 3.mp3, 1:04 to 1:36 (low end)');
  expect(
    findingDetail('same-take', {
      id: 'b',
      other: 'a',
      figures: { gainDb: -6.02, polarity: 'turned over', residualDb: -95 },
      places: [],
    }),
  ).toBe('−6.0 dB, polarity inverted, residual −95 dB');
});

describe('instalments', () => {
  const old = (id: string, receivedName: string, change: Partial<KnownFile> = {}): KnownFile =>
    file(id, { receivedName, settled: true, ...change });
  const found = (files: readonly KnownFile[]) =>
    collectFindings(files, NO_RELATIONS)
      .open.find((f) => f.code === 'replaces')
      ?.files.map((p) => [p.id, p.other, p.figures.how]) ?? [];
  const there = [old('v', 'LV_main_comp.wav'), old('b', 'BV high.wav'), old('k', 'KICK in_03.wav')];
  it('matches the same name, another version, the one track of a kind; new things stay new', () => {
    expect(found([...there, file('n', { receivedName: 'mail 2/LV_main_comp.wav' })])).toEqual([
      ['n', 'v', 'the same name'],
    ]);
    expect(found([...there, file('n', { receivedName: 'LV main comp v2.aif' })])).toEqual([
      ['n', 'v', 'another version by name'],
    ]);
    expect(found([...there, file('n', { receivedName: 'kick_in_new.wav' })])).toEqual([
      ['n', 'k', 'another version by name'],
    ]);
    const voice = {
      family: 'lead-vocal',
      part: 'vocal',
      role: 'lead',
      number: null,
      position: null,
      side: null,
    } as const;
    expect(
      found([
        old('v', 'Anna 4.wav', { source: voice }),
        file('n', { receivedName: 'lead voice sung again.wav', source: voice }),
      ]),
    ).toEqual([['n', 'v', 'the one track of this kind']]);
    expect(found([...there, file('n', { receivedName: 'Trumpet.wav' })])).toEqual([]);
    expect(found([...there, file('n', { receivedName: 'rec0011.wav' })])).toEqual([]);
  });
  it('never guesses between two, and never within one delivery', () => {
    expect(
      found([old('a', 'Gtr 1.wav'), old('b', 'Gtr 2.wav'), file('n', { receivedName: 'Gtr 3.wav' })]),
    ).toEqual([]);
    expect(found([old('a', 'Gtr 1.wav'), file('n', { receivedName: 'Gtr 2.wav' })])).toEqual([]);
    expect(found([old('a', 'Gtr take 1.wav'), file('n', { receivedName: 'Gtr take 2.wav' })])).toEqual([
      ['n', 'a', 'another version by name'],
    ]);
    expect(
      found([file('a', { receivedName: 'Vox.wav' }), file('n', { receivedName: 'Vox v2.wav' })]),
    ).toEqual([]);
  });
  it('says what differs', () => {
    const before = old('v', 'Vox.wav');
    const after = file('n', {
      receivedName: 'Vox.wav',
      lengthFrames: 44_100 * 81,
      sampleRateHz: 44_100,
      facts: { ...facts, firstSoundSeconds: 1.5, integratedLufs: -21 },
    });
    const part = collectFindings([before, after], NO_RELATIONS).open.find((f) => f.code === 'replaces')!
      .files[0]!;
    expect(findingDetail('replaces', part)).toBe(
      'the same name, +1.00 s long, first sound +0.500 s, +3.0 LU, 44.1 kHz',
    );
  });
});

it('leaves out the tempo of files where it was set aside, wherever it stands', () => {
  const file = (receivedName: string, bpm: number | null, noTempo: boolean) => ({
    receivedName,
    noTempo,
    metadata: {
      ...NO_METADATA,
      tempoClaims: bpm === null ? [] : [{ bpm, beats: null, source: 'bext' as const }],
    },
  });
  const tempi = (files: Parameters<typeof saidFacts>[0]): string[] =>
    saidFacts(files)
      .filter((f) => f.kind === 'tempo')
      .map((f) => `${f.value} ${f.inNames} ${f.inFiles}`);
  expect(tempi([file('Kick_96bpm.wav', 120, false), file('Bass_96bpm.wav', null, false)])).toEqual([
    '96 2 0',
    '120 0 1',
  ]);
  expect(tempi([file('Kick_96bpm.wav', 120, true), file('Bass_96bpm.wav', null, false)])).toEqual(['96 1 0']);
});

it('collects what names and files say of the song, each value once, most often said first', () => {
  const said = (receivedName: string, metadata: Partial<KnownFile['metadata']> = {}) => ({
    receivedName,
    metadata: { ...NO_METADATA, ...metadata },
  });
  const tag = (kind: 'title' | 'artist', text: string) => ({ kind, text, source: 'id3' }) as const;
  expect(
    saidFacts([
      said('Low Water 96bpm/Kick.wav', { texts: [tag('title', 'Low Water'), tag('artist', 'Nine')] }),
      said('Low Water 96bpm/Vox.wav', {
        texts: [tag('title', 'low water')],
        tempoClaims: [
          { bpm: 120, beats: null, source: 'id3' },
          { bpm: 120, beats: null, source: 'tag' },
        ],
      }),
      said('Gtr.wav', { texts: [tag('title', 'Gtr')] }),
    ]),
  ).toEqual([
    { kind: 'title', value: 'Low Water', inNames: 0, inFiles: 2, inNotes: false },
    { kind: 'artist', value: 'Nine', inNames: 0, inFiles: 1, inNotes: false },
    { kind: 'tempo', value: '96', inNames: 2, inFiles: 0, inNotes: false },
    { kind: 'tempo', value: '120', inNames: 0, inFiles: 1, inNotes: false },
  ]);
});

it('reads what the sender writes in the notes', () => {
  expect(
    saidFacts([], 'Recorded at 96 bpm in Gm, 24 bit. The tuba is a bit late.').map((f) => [
      f.kind,
      f.value,
      f.inNotes,
    ]),
  ).toEqual([
    ['tempo', '96', true],
    ['key', 'G minor', true],
    ['depth', '24', true],
  ]);
  expect(saidFacts([], 'A bass, B guitar and C: Am I late? Be at 9.')).toEqual([]);
  expect(saidFacts([], 'Key: Am, I think; I am sure.').map((f) => f.value)).toEqual(['A minor']);
});

describe('time stamps', () => {
  const stamped = (id: string, seconds: number | null, lengthSeconds = 80): KnownFile =>
    file(id, {
      lengthFrames: lengthSeconds * 48_000,
      ...(seconds === null
        ? {}
        : { metadata: { ...NO_METADATA, timeReferenceFrames: Math.round(seconds * 48_000) } }),
    });
  const offsets = (files: readonly KnownFile[]): (readonly [string, unknown])[] =>
    collectFindings(files, NO_RELATIONS)
      .open.filter((f) => f.code === 'starts-later')
      .flatMap((f) => f.files.map((p) => [p.id, p.figures.seconds] as const));
  const plain = Array.from({ length: 10 }, (_, i) => stamped(`p${i}`, null));
  it('two stamped overdubs among many without: the hour is the zero', () => {
    expect(offsets([...plain, stamped('x', 3612.5, 20), stamped('y', 3630.25, 12)])).toEqual([
      ['x', 12.5],
      ['y', 30.25],
    ]);
    expect(offsets([...plain, stamped('x', 12.5, 20)])).toEqual([['x', 12.5]]);
  });
  it('a stamped file as long as the song gives the zero', () => {
    expect(offsets([...plain, stamped('long', 3605), stamped('x', 3617.5, 20)])).toEqual([['x', 12.5]]);
  });
  it('what most share is the zero, also against an earlier one', () => {
    const all = [stamped('a', 3600), stamped('b', 3600), stamped('c', 3600), stamped('d', 3598)];
    expect(offsets(all)).toEqual([['d', -2]]);
  });
  it('a stamp that places a file outside the song says nothing', () => {
    expect(offsets([...plain, stamped('clock', 52_331, 20)])).toEqual([]);
    expect(offsets([stamped('a', 3600), stamped('b', 3600), stamped('none', 0)])).toEqual([]);
    expect(offsets([...plain, stamped('zero', 0)])).toEqual([]);
  });
});

it('floats above full scale have their tops; integers at full scale have not', () => {
  const hot = {
    facts: { ...facts, peakDbfs: 4.1, clippedRuns: 3, clippedPlaces: [{ seconds: 2, frames: 5 }] },
  };
  expect(codes([file('a', { ...hot, encoding: 'f32' })])).toEqual(['above-full-scale']);
  expect(codes([file('a', { ...hot, facts: { ...hot.facts, peakDbfs: 0 } })])).toEqual(['clipped']);
  // Floats that were clipped at full scale and go nowhere above it.
  expect(codes([file('a', { ...hot, encoding: 'f32', facts: { ...hot.facts, peakDbfs: 0 } })])).toEqual([
    'clipped',
  ]);
});
