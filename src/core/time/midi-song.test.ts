import { fileKind } from '../audio';
import { createRandom } from '../units';
import { noteFacts, pitchName, readMidi, readMidiSong, writeMidi } from './index';

// Files byte by byte after MMA RP-001 v1.0.
const u32 = (n: number): number[] => [(n >>> 24) & 255, (n >> 16) & 255, (n >> 8) & 255, n & 255];
const chunk = (id: string, body: readonly number[]): number[] => [
  ...[...id].map((c) => c.charCodeAt(0)),
  ...u32(body.length),
  ...body,
];
const END = [0, 0xff, 0x2f, 0];
const file = (format: number, division: number, ...tracks: readonly (readonly number[])[]): Uint8Array =>
  Uint8Array.from([
    ...chunk('MThd', [0, format, 0, tracks.length, division >> 8, division & 255]),
    ...tracks.flatMap((t) => chunk('MTrk', t)),
  ]);
const named = (name: string): number[] => [
  0,
  0xff,
  0x03,
  name.length,
  ...[...name].map((c) => c.charCodeAt(0)),
];
const songOf = (bytes: Uint8Array) => {
  const read = readMidiSong(bytes);
  if (!read.ok) throw new Error(read.error.code);
  return read.value;
};

it('reads a track a row, with running status, velocity 0 as an end, and what nobody ended lasting to the end', () => {
  const song = songOf(
    file(
      1,
      96,
      [...named('Lanterns'), 0, 0xff, 0x51, 3, 0x07, 0xa1, 0x20, 0, 0xff, 0x58, 4, 3, 2, 24, 8, ...END],
      [
        ...named('Bass'),
        0,
        0x91,
        40,
        100,
        48,
        40,
        0,
        0,
        43,
        90,
        48,
        0x81,
        43,
        64,
        0,
        0x91,
        45,
        80,
        96,
        0xb1,
        7,
        100,
        ...END,
      ],
      [...named('Nothing'), 0, 0xb0, 7, 100, ...END],
    ),
  );
  expect(song.ppq).toBe(96);
  expect(song.tracks.map((t) => t.name)).toEqual(['Bass']);
  expect(song.tracks[0]?.notes).toEqual([
    { tick: 0, lengthTicks: 48, pitch: 40, velocity: 100, channel: 1 },
    { tick: 48, lengthTicks: 48, pitch: 43, velocity: 90, channel: 1 },
    { tick: 96, lengthTicks: 96, pitch: 45, velocity: 80, channel: 1 },
  ]);
  expect(song.meters).toEqual([{ tick: 0, numerator: 3, denominator: 4 }]);
  expect(noteFacts(song, song.tracks[0] as (typeof song.tracks)[number])).toEqual({
    cutOff: false,
    notes: 3,
    lowestPitch: 40,
    highestPitch: 45,
    firstSeconds: 0,
    lastSeconds: 1,
    tempoSaid: true,
  });
});

it('takes a file of one track apart by channels; channel 10 is drums, a program gives its group (General MIDI)', () => {
  const song = songOf(
    file(0, 96, [
      ...named('All of it'),
      0,
      0xc0,
      33,
      0,
      0x90,
      40,
      100,
      0,
      0x99,
      36,
      100,
      96,
      0x80,
      40,
      0,
      0,
      0x89,
      36,
      0,
      ...END,
    ]),
  );
  expect(song.tracks.map((t) => [t.name, t.notes.length])).toEqual([
    ['Bass', 1],
    ['Drums', 1],
  ]);
  // One channel alone keeps the name of its track.
  expect(
    songOf(file(0, 96, [...named('Solo'), 0, 0x90, 40, 100, 96, 0x80, 40, 0, ...END])).tracks.map(
      (t) => t.name,
    ),
  ).toEqual(['Solo']);
});

it('two notes of one pitch over each other end in the order they began', () => {
  const [track] = songOf(file(1, 96, [0, 0x90, 60, 100, 10, 60, 50, 10, 60, 0, 10, 60, 0, ...END])).tracks;
  expect(track?.notes.map((n) => [n.tick, n.lengthTicks, n.velocity])).toEqual([
    [0, 20, 100],
    [10, 20, 50],
  ]);
});

it('a file that counts in time: 25 frames of 40 ticks are 1000 ticks a second, tempo does not matter (formats: E7 28)', () => {
  const song = songOf(
    file(1, 0xe728, [
      0,
      0xff,
      0x51,
      3,
      0x0f,
      0x42,
      0x40,
      0x87,
      0x68,
      0x90,
      60,
      100,
      0x83,
      0x74,
      60,
      0,
      ...END,
    ]),
  );
  expect(song.ppq).toBeNull();
  expect(song.toSeconds(1000)).toBe(1);
  expect(song.tracks[0]?.notes[0]).toMatchObject({ tick: 1000, lengthTicks: 500 });
  // 29.97 frames a second, drop frame: 30000/1001.
  expect(songOf(file(1, 0xe364, [0, 0x90, 60, 1, 1, 60, 0, ...END])).toSeconds(30_000 * 100)).toBeCloseTo(
    1001,
    9,
  );
});

it('a name in no known encoding is read a character a byte, an exclusive event and a lyric stay', () => {
  const song = songOf(
    file(1, 96, [
      0,
      0xff,
      0x03,
      4,
      0x47,
      0xfc,
      0x72,
      0x74,
      0,
      0xf0,
      3,
      0x7e,
      1,
      0xf7,
      0,
      0xff,
      0x05,
      2,
      0x4c,
      0x61,
      0,
      0x90,
      60,
      1,
      1,
      60,
      0,
      ...END,
    ]),
  );
  expect(song.tracks[0]?.name).toBe('Gürt');
  expect(song.tracks[0]?.events.map((e) => [e.status, e.meta])).toEqual([
    [0xf0, null],
    [0xff, 5],
    [0x90, null],
    [0x90, null],
  ]);
});

it('what is written reads back: names, notes, exclusive events of any length, and the tempo track before them', () => {
  const long = new Uint8Array(200_000).fill(5);
  const bytes = writeMidi({
    name: 'Slip',
    ppq: 960,
    anchors: [
      { quarters: 0, seconds: 0 },
      { quarters: 4, seconds: 2.5 },
    ],
    meters: [{ quarters: 0, numerator: 4, denominator: 4 }],
    markers: [{ quarters: 1, text: 'Verse' }],
    tracks: [
      {
        name: 'Bass',
        events: [
          { tick: 960, status: 0x80, meta: null, body: Uint8Array.of(40, 0) },
          { tick: 0, status: 0x90, meta: null, body: Uint8Array.of(40, 99) },
          { tick: 5, status: 0xf0, meta: null, body: long },
        ],
      },
    ],
  });
  const song = songOf(bytes);
  expect(song.tracks[0]?.name).toBe('Bass');
  expect(song.tracks[0]?.notes).toEqual([{ tick: 0, lengthTicks: 960, pitch: 40, velocity: 99, channel: 0 }]);
  expect(song.tracks[0]?.events.find((e) => e.status === 0xf0)?.body).toHaveLength(200_000);
  expect(song.toSeconds(4 * 960)).toBeCloseTo(2.5, 6);
  const read = readMidi(bytes);
  expect(read.ok && read.value.markers).toEqual([{ tick: 960, text: 'Verse' }]);
});

it('a file in which 200,000 notes of one pitch hang is read like any other: in time that grows with its length', () => {
  const many = 200_000;
  const track = [0, 0x90, 60, 1, ...Array.from({ length: many - 1 }, () => [0, 60, 1]).flat(), 96, 60, 0];
  const bytes = Uint8Array.from(
    [
      ...file(1, 96).subarray(0, 10),
      0,
      1,
      0,
      96,
      ...[0x4d, 0x54, 0x72, 0x6b],
      ...u32(track.length + END.length),
    ].concat(track, END),
  );
  const notes = songOf(bytes).tracks[0]?.notes ?? [];
  expect(notes).toHaveLength(many);
  expect(notes.every((n) => n.lengthTicks === 96)).toBe(true);
});

it('running status goes on after a meta and an exclusive event', () => {
  const notes = songOf(
    file(1, 96, [
      ...[0, 0x90, 60, 100],
      ...[0, 0xff, 0x01, 2, 0x68, 0x69],
      ...[24, 62, 100],
      ...[0, 0xf0, 2, 1, 0xf7],
      ...[24, 60, 0, 0, 62, 0],
      ...END,
    ]),
  ).tracks[0]?.notes;
  expect(notes?.map((n) => [n.pitch, n.tick, n.lengthTicks])).toEqual([
    [60, 0, 48],
    [62, 24, 24],
  ]);
});

it('a file in RIFF wrapping is the file in it', () => {
  const inner = file(1, 96, [0, 0x90, 60, 100, 96, 60, 0, ...END]);
  const le = (n: number): number[] => u32(n).reverse();
  const ascii = (text: string): number[] => [...text].map((c) => c.charCodeAt(0));
  const body = [
    ...ascii('RMID'),
    ...[...ascii('LIST'), ...le(3), 1, 2, 3, 0],
    ...[...ascii('data'), ...le(inner.length), ...inner],
  ];
  const wrapped = Uint8Array.from([...ascii('RIFF'), ...le(body.length), ...body]);
  expect(songOf(wrapped).tracks).toEqual(songOf(inner).tracks);
  expect(fileKind(wrapped)).toBe('midi');
  expect(readMidiSong(wrapped.subarray(0, 30)).ok).toBe(false);
});

it('takes what is there of a file that breaks off, and says so', () => {
  const whole = file(
    1,
    96,
    [...named('T'), ...END],
    [...named('Bass'), 0, 0x90, 40, 100, 96, 40, 0, 0, 41, 100, 96, 41, 0, ...END],
  );
  expect(songOf(whole).cutOff).toBe(false);
  for (let left = whole.length - 1; left > whole.length - 9; left--) {
    const cut = songOf(whole.subarray(0, left));
    expect(cut.cutOff).toBe(true);
    expect(cut.tracks[0]?.notes[0]).toMatchObject({ tick: 0, lengthTicks: 96, pitch: 40 });
  }
  // A track that the head counts and that never came; without any notes there is nothing to take.
  const [first, second] = [named('T'), [...named('Bass'), 0, 0x90, 40, 100, 96, 40, 0, ...END]];
  const three = file(1, 96, [...first, ...END], second, second);
  expect(songOf(three.subarray(0, three.length - second.length - 8))).toMatchObject({ cutOff: true });
  const empty = whole.subarray(0, 14 + 8 + named('T').length + END.length);
  expect(readMidiSong(empty)).toEqual({ ok: false, error: { code: 'midi.broken' } });
});

it('refuses what is no MIDI, or no MIDI inside, in kind', () => {
  const codes = [
    Uint8Array.of(1, 2, 3),
    file(1, 0),
    file(1, 0xe000),
    file(1, 96, [0, 0x90, 60]),
    file(1, 96, [0, 60, 60]),
    file(1, 96, [0x80, 0x80, 0x80, 0x80, 0x80]),
  ].map((b) => {
    const r = readMidiSong(b);
    return r.ok ? 'ok' : r.error.code;
  });
  expect(codes).toEqual([
    'midi.not_midi',
    'midi.broken',
    'midi.broken',
    'midi.broken',
    'midi.broken',
    'midi.broken',
  ]);
});

it('never breaks over 20,000 mutated files (seed 7): a song or a fault, and the times of a song rise', () => {
  const random = createRandom(7);
  const good = file(
    1,
    96,
    [...named('T'), 0, 0xff, 0x51, 3, 7, 0xa1, 0x20, ...END],
    [
      ...named('Bass'),
      0,
      0x91,
      40,
      100,
      48,
      40,
      0,
      0,
      0xf0,
      2,
      1,
      0xf7,
      0,
      0xe1,
      0,
      64,
      48,
      0x91,
      41,
      1,
      10,
      41,
      0,
      ...END,
    ],
  );
  const seen = { ok: 0, fault: 0 };
  for (let n = 0; n < 20_000; n++) {
    const bytes = Uint8Array.from(
      good.subarray(0, random() < 0.3 ? Math.floor(random() * good.length) : good.length),
    );
    for (let k = Math.floor(random() * 5); k >= 0; k--)
      if (bytes.length > 0) bytes[Math.floor(random() * bytes.length)] = Math.floor(random() * 256);
    const read = readMidiSong(bytes);
    seen[read.ok ? 'ok' : 'fault']++;
    if (read.ok)
      for (const t of read.value.tracks)
        for (const note of t.notes)
          if (!(read.value.toSeconds(note.tick + note.lengthTicks) >= read.value.toSeconds(note.tick)))
            throw new Error(`time runs back in file ${n}`);
  }
  expect(seen.ok).toBeGreaterThan(1000);
  expect(seen.fault).toBeGreaterThan(1000);
});

it('names pitches with middle C as C4 (common practice, no source)', () =>
  expect([60, 69, 21, 61].map(pitchName)).toEqual(['C4', 'A4', 'A0', 'C♯4']));
