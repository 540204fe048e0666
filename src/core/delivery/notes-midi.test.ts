import { emptySession, ROOT, applyChanges, type Change, type SessionState } from '../session';
import { DEFAULT_STYLE, newTrack } from '../style';
import { createSongMap, type MidiSong, readMidiSong, type SongMapFile, writeMidi } from '../time';
import { createRandom } from '../units';
import { notesBefore, notesMidi, planPackage, type PackagePlan } from './index';

const RATE = 48_000;
const SECONDS = 20;
/** A performance: first downbeat at 0.7 s, tempo wandering. */
const played: SongMapFile = {
  schemaVersion: 1,
  points: Array.from({ length: 40 }, (_, i) => ({
    quarters: i,
    seconds: 0.7 + i * 0.5 + 0.02 * Math.sin(i),
  })),
  meters: [{ bar: 1, numerator: 4, denominator: 4 }],
};

function planOf(
  tiedTo: 'bars' | 'time',
  map: SongMapFile | null,
  startFrames = 0,
  cutBars: number | null = null,
): { plan: PackagePlan; session: SessionState } {
  const edits: Change[] = [
    { kind: 'session.rate', sampleRateHz: RATE },
    { kind: 'track.add', track: newTrack('s', 'Bass.wav', {}, DEFAULT_STYLE), parentId: ROOT, index: 0 },
    {
      kind: 'track.add',
      track: { ...newTrack('n', 'Song.mid/Bass', { tiedTo }, DEFAULT_STYLE), startFrames },
      parentId: ROOT,
      index: 1,
    },
    ...(map ? [{ kind: 'map.replace', map, facts: null } as const] : []),
    { kind: 'session.cut', bars: cutBars },
  ];
  const made = applyChanges(emptySession('Slip'), edits);
  if (!made.ok) throw new Error(made.code);
  const plan = planPackage(
    made.session,
    [{ laneId: 'lane-s', channels: 1, lengthFrames: SECONDS * RATE }],
    DEFAULT_STYLE,
    'Slip_v1',
  );
  if (!plan.ok) throw new Error(plan.error.code);
  return { plan: plan.value, session: made.session };
}
/** Notes at given quarters of a file at 100 BPM that becomes 120 after four quarters. */
function song(quarters: readonly number[], ppq = 480): MidiSong {
  const bytes = writeMidi({
    name: 'x',
    ppq,
    anchors: [
      { quarters: 0, seconds: 0 },
      { quarters: 4, seconds: 2.4 },
      { quarters: 64, seconds: 32.4 },
    ],
    meters: [{ quarters: 0, numerator: 3, denominator: 4 }],
    markers: [],
    tracks: [
      {
        name: 'Bass',
        events: quarters.flatMap((q, i) => [
          { tick: Math.round(q * ppq), status: 0x90, meta: null, body: Uint8Array.of(30 + i, 100) },
          { tick: Math.round((q + 0.25) * ppq), status: 0x80, meta: null, body: Uint8Array.of(30 + i, 0) },
        ]),
      },
    ],
  });
  const read = readMidiSong(bytes);
  if (!read.ok) throw new Error(read.error.code);
  return read.value;
}
function made(
  tiedTo: 'bars' | 'time',
  s: MidiSong,
  map: SongMapFile | null,
  startFrames = 0,
): { plan: PackagePlan; out: MidiSong } {
  const { plan } = planOf(tiedTo, map, startFrames);
  const bytes = notesMidi(
    plan,
    plan.notes[0] as PackagePlan['notes'][number],
    s,
    s.tracks[0] as MidiSong['tracks'][number],
    map,
  );
  const read = readMidiSong(bytes);
  if (!read.ok) throw new Error(read.error.code);
  return { plan, out: read.value };
}
const HALF_TICK_SECONDS = 0.5 / 960; // at 60 BPM, the slowest here

it('plans notes as files of their own, outside the common length', () => {
  const { plan } = planOf('time', played);
  expect(plan.notes).toEqual([
    { path: 'data/notes/Other_Bass.mid', trackId: 'n', name: 'Bass', tiedTo: 'time', startFrames: 0 },
  ]);
  expect(plan.files.map((f) => f.trackId)).toEqual(['s', null]);
});

it('tied to time, every note keeps its moment against the sound, whatever the map (seed 3)', () => {
  const random = createRandom(3);
  const s = song(
    Array.from({ length: 30 }, () => Math.round(random() * 480 * 24) / 480).sort((a, b) => a - b),
  );
  for (const startFrames of [0, 4800]) {
    const { plan, out } = made('time', s, played, startFrames);
    const shift = (plan.padFrames + startFrames) / RATE;
    const got = (out.tracks[0]?.notes ?? []).map((n) => [n.pitch, out.toSeconds(n.tick)] as const);
    for (const n of s.tracks[0]?.notes ?? [])
      expect(
        Math.abs((got.find(([p]) => p === n.pitch)?.[1] ?? 99) - s.toSeconds(n.tick) - shift),
      ).toBeLessThan(HALF_TICK_SECONDS + 1e-5);
  }
});

it('tied to bars, every note keeps its place from the first downbeat on', () => {
  const quarters = [0, 1, 2.5, 7.75, 20];
  const { plan, out } = made('bars', song(quarters), played);
  expect(out.tracks[0]?.notes.map((n) => n.tick / 960 - plan.leadInQuarters)).toEqual(quarters);
  const { tempo } = createSongMap(played.points, played.meters);
  for (const [i, n] of (out.tracks[0]?.notes ?? []).entries())
    expect(out.toSeconds(n.tick) - plan.padFrames / RATE).toBeCloseTo(
      tempo.toSeconds(quarters[i] as number),
      4,
    );
});

it.each([0, 1])(
  'cut to %i bars before the first, notes that begin earlier go, with their ends, and the others keep their moments',
  (bars) => {
    const map = { ...played, points: played.points.map((p) => ({ ...p, seconds: p.seconds + 4 })) };
    const { plan } = planOf('time', map, 0, bars);
    const quarters = [0, 1, 2.5, 3.9, 5, 7.75, 20];
    const s = song(quarters);
    const [file, track] = [
      plan.notes[0] as PackagePlan['notes'][number],
      s.tracks[0] as MidiSong['tracks'][number],
    ];
    const begins = -plan.padFrames / RATE;
    const kept = track.notes.filter((n) => s.toSeconds(n.tick) >= begins);
    expect(kept.length).toBeLessThan(quarters.length);
    expect(notesBefore(plan, file, s, track, map)).toBe(quarters.length - kept.length);
    const read = readMidiSong(notesMidi(plan, file, s, track, map));
    if (!read.ok) throw new Error(read.error.code);
    expect(read.value.tracks[0]?.notes.map((n) => n.pitch)).toEqual(kept.map((n) => n.pitch));
    expect(read.value.tracks[0]?.events.length).toBe(2 * kept.length);
    // Before the first downbeat the lead-in has one tempo, that of its first bar: within it they keep their distance to it.
    for (const [i, n] of kept.entries())
      expect(
        Math.abs(
          read.value.toSeconds(read.value.tracks[0]?.notes[i]?.tick ?? 0) - (s.toSeconds(n.tick) - begins),
        ),
      ).toBeLessThan(HALF_TICK_SECONDS + 1e-5);
  },
);

it('conformed, notes tied to time go to the bars where they were played', () => {
  const { plan } = planOf('time', {
    schemaVersion: 1,
    points: [
      { quarters: 0, seconds: 0.5 },
      { quarters: 40, seconds: 20.5 },
    ],
    meters: played.meters,
  });
  const s = song([0.5, 3, 9]);
  const read = readMidiSong(
    notesMidi(
      plan,
      plan.notes[0] as PackagePlan['notes'][number],
      s,
      s.tracks[0] as MidiSong['tracks'][number],
      played,
    ),
  );
  const { tempo } = createSongMap(played.points, played.meters);
  const got = read.ok
    ? (read.value.tracks[0]?.notes ?? []).map((n) => n.tick / 960 - plan.leadInQuarters)
    : [];
  s.tracks[0]?.notes.forEach((n, i) => {
    if (s.toSeconds(n.tick) > 0.7) expect(got[i]).toBeCloseTo(tempo.toQuarters(s.toSeconds(n.tick)), 2);
  });
});

it('without a map the tempo of the file stays, and a silence put in front moves it along', () => {
  const s = song([0, 3.5, 4, 12]);
  for (const startFrames of [0, 12_000]) {
    const { out } = made('time', s, null, startFrames);
    for (const [i, n] of (s.tracks[0]?.notes ?? []).entries())
      expect(out.toSeconds(out.tracks[0]?.notes[i]?.tick ?? 0)).toBeCloseTo(
        s.toSeconds(n.tick) + startFrames / RATE,
        4,
      );
    expect(out.meters[0]).toMatchObject({ tick: 0, numerator: 3, denominator: 4 });
  }
});
