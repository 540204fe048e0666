import { plainTrack } from '../../../tests/support/random-edits';
import {
  applyChanges,
  emptySession,
  NOWHERE,
  ROOT,
  type Change,
  type SessionState,
  type Track,
} from '../session';
import { DEFAULT_STYLE, fileNameFor } from '../style';
import { asConformed } from '../conform';
import { type Meter, type MidiRead, readMidi } from '../time';
import { createRandom } from '../units';
import {
  type CheckFacts,
  checkSession,
  manifestText,
  numberedMap,
  markersCsv,
  parseManifest,
  parseTable,
  planPackage,
  projectXml,
  tempoMidi,
  tracksCsv,
  whatWasDone,
} from './index';

const track = (id: string, name: string, family: Track['family'] = 'drums'): Track => ({
  ...plainTrack(id),
  recordingId: id,
  receivedName: `${name}.wav`,
  name,
  family,
  color: '#336699',
  gainDb: -3,
  pan: 0.5,
  confidence: 1,
});

function session(edits: readonly Change[] = []): SessionState {
  const made = applyChanges(emptySession('A & B', 'The <Nine>'), [
    { kind: 'session.rate', sampleRateHz: 48_000 },
    { kind: 'bus.add', bus: { id: 'b', name: 'Drums', color: null, outputBusId: null }, index: 0 },
    {
      kind: 'folder.add',
      folder: { kind: 'folder', id: 'f', name: 'Drums', color: '#112233', busId: 'b' },
      parentId: ROOT,
      index: 0,
    },
    { kind: 'track.add', track: { ...track('k', 'Kick "In"'), busId: 'b' }, parentId: 'f', index: 0 },
    { kind: 'track.add', track: track('m', 'Rough Mix', 'reference'), parentId: ROOT, index: 1 },
    ...edits,
  ]);
  if (!made.ok) throw new Error(made.code);
  return made.session;
}

const sources = [
  { laneId: 'lane-k', channels: 1, lengthFrames: 48_000 * 60 },
  { laneId: 'lane-m', channels: 2, lengthFrames: 48_000 * 61 + 7 },
];
/** A wandering map whose first downbeat lies after 7 s of talk. */
function talkMap(seed: number): Change {
  const random = createRandom(seed);
  const points = [{ quarters: 0, seconds: 7.123456 }];
  for (let q = 1; q < 90; q++)
    points.push({ quarters: q, seconds: (points.at(-1)?.seconds ?? 0) + 0.55 + 0.04 * random() });
  return {
    kind: 'map.replace',
    map: {
      schemaVersion: 1,
      points,
      meters: [
        { bar: 1, numerator: 4, denominator: 4 },
        { bar: 5, numerator: 2, denominator: 4 },
        { bar: 6, numerator: 4, denominator: 4 },
      ],
    },
    facts: null,
  };
}

const NOTHING_KNOWN: CheckFacts = {
  failedRecordings: 0,
  arrivingRecordings: 0,
  uncompared: { count: 0, isUnderWay: false },
  grid: null,
  findings: [],
  nameOf: (id) => id,
};

const plan = (s: SessionState) => {
  const planned = planPackage(s, sources, DEFAULT_STYLE, 'Nine_A-B_v1');
  if (!planned.ok) throw new Error(planned.error.code);
  return planned.value;
};

const MARKED: Change = {
  kind: 'markers.set',
  markers: [
    { id: 'marker-b', name: 'Chorus, "big"', seconds: 30 },
    { id: 'marker-a', name: 'Talk', seconds: 0 },
  ],
};

it('hands markers over at the music they name: on bars with a map, in seconds without', () => {
  const s = session([talkMap(4), MARKED]);
  const p = plan(s);
  expect(p.markers.map((m) => m.text)).toEqual(['Talk', 'First downbeat', 'Chorus, "big"']);
  const pad = p.padFrames / 48_000;
  // Half a tick of 960 at about 105 BPM is 0.3 ms.
  for (const [i, at] of [
    [0, 0],
    [2, 30],
  ] as const)
    expect(Math.abs((p.markers[i]?.seconds ?? 0) - pad - at)).toBeLessThan(0.0004);
  const read = readMidi(tempoMidi(p));
  if (!read.ok) throw new Error(read.error.code);
  read.value.markers.forEach((m, i) =>
    expect(Math.abs(read.value.toSeconds(m.tick) - (p.markers[i]?.seconds ?? 0))).toBeLessThan(0.0004),
  );
  expect(markersCsv(p)).toContain('"Chorus, ""big""",');
  const plain = plan(session([MARKED]));
  expect(plain.markers).toEqual([
    { quarters: null, seconds: 0, text: 'Talk' },
    { quarters: null, seconds: 30, text: 'Chorus, "big"' },
  ]);
  expect(markersCsv(plain)).toContain('1,Talk,0,0,');
  expect(projectXml(plain, session([MARKED]), DEFAULT_STYLE, '0.1.0')).toMatch(
    /<Markers id="\w+" timeUnit="seconds"><Marker time="0" name="Talk" color="#6f7fb0"\/><Marker time="30"/,
  );
});

describe('package time', () => {
  it.each([1, 2, 3])(
    '7 s of talk: an impulse at downbeat k lies at bar k of the MIDI file within 0.1 ms (seed %i)',
    (seed) => {
      const s = session([talkMap(seed)]);
      const p = plan(s);
      const midi = readMidi(tempoMidi(p));
      if (!midi.ok || !s.map) throw new Error('no map');
      const { points } = s.map;
      const secondsAt = (q: number): number => {
        const i = Math.min(points.length - 2, Math.floor(q));
        const [a, b] = [points[i], points[i + 1]] as [(typeof points)[0], (typeof points)[0]];
        return a.seconds + (q - a.quarters) * (b.seconds - a.seconds);
      };
      // Bar starts counted from the meters by hand: four bars of 4, one of 2, then 4 again.
      const bars = [0, 4, 8, 12, 16, 18, 22, 26, 30, 60, 74];
      for (const q of bars) {
        const inFile = secondsAt(q) + p.padFrames / p.sampleRateHz;
        expect(Math.abs(midi.value.toSeconds((q + p.leadInBars * 4) * 960) - inFile) * 1000).toBeLessThan(
          0.1,
        );
      }
      expect(p.leadInBars).toBe(4); // 7.12 s hold more than three bars of about 2.28 s
      expect(midi.value.toSeconds(0)).toBe(0);
      expect(midi.value.meters.map((m) => [m.tick / 960, m.numerator])).toEqual([
        [0, 4],
        [32, 2],
        [34, 4],
      ]);
    },
  );
  it.each([0, 1, 2])(
    'cut: %i whole bars lead to the first downbeat, what lies before is gone from everything alike',
    (bars) => {
      const s = session([talkMap(2), { kind: 'session.cut', bars }]);
      const p = plan(s);
      const first = s.map?.points[0]?.seconds ?? NaN;
      const bar = (s.map?.points[4]?.seconds ?? NaN) - first;
      expect([p.leadInBars, p.leadInQuarters]).toEqual([bars, 4 * bars]);
      expect(p.padFrames).toBe(Math.round((bars * bar - first) * 48_000));
      expect(p.lengthFrames).toBe(p.padFrames + 48_000 * 61 + 7);
      expect(p.files.filter((f) => f.trackId !== null).map((f) => f.startFrames)).toEqual([
        p.padFrames,
        p.padFrames,
      ]);
      const midi = readMidi(tempoMidi(p));
      if (!midi.ok) throw new Error(midi.error.code);
      for (const k of [0, 1, 2, 3])
        expect(
          Math.abs(
            midi.value.toSeconds((4 * k + 4 * bars) * 960) -
              (s.map?.points[4 * k]?.seconds ?? NaN) -
              p.padFrames / 48_000,
          ),
        ).toBeLessThan(0.0001);
      expect(p.beats[0]).toMatchObject({ quarters: 0, accent: true });
      expect(Math.abs(p.beats[0]?.seconds ?? NaN)).toBeLessThan(1 / 48_000);
      expect(checkSession(s, p, NOTHING_KNOWN).find((c) => c.code === 'common-start')?.detail).toContain(
        `${(first - bars * bar).toFixed(2)} s before that are cut`,
      );
    },
  );
  it('a cut that would leave nothing is none, and without a map there is nothing to cut to', () => {
    const late: Change = {
      kind: 'map.replace',
      map: {
        schemaVersion: 1,
        points: [
          { quarters: 0, seconds: 90 },
          { quarters: 4, seconds: 92 },
        ],
        meters: [{ bar: 1, numerator: 4, denominator: 4 }],
      },
      facts: null,
    };
    expect(plan(session([late, { kind: 'session.cut', bars: 1 }])).padFrames).toBe(
      plan(session([late])).padFrames,
    );
    expect(plan(session([{ kind: 'session.cut', bars: 1 }])).padFrames).toBe(0);
  });
  it('puts two lead-in bars before music that begins at once, the lead-in at the first bar’s tempo', () => {
    const p = plan(
      session([
        {
          kind: 'map.replace',
          map: {
            schemaVersion: 1,
            points: [
              { quarters: 0, seconds: 0.5 },
              { quarters: 100, seconds: 50.5 },
            ],
            meters: [{ bar: 1, numerator: 3, denominator: 4 }],
          },
          facts: null,
        },
      ]),
    );
    expect(p.leadInBars).toBe(2);
    expect(p.padFrames).toBe(48_000 * 2.5);
    // The click strikes every pulse; with two parts, half way to the next too, in the lead-in as behind it.
    expect(p.click.strokes.map((s) => s.seconds)).toEqual(p.beats.map((b) => b.seconds));
    const divided = planPackage(
      session([
        {
          kind: 'map.replace',
          map: {
            schemaVersion: 1,
            points: [
              { quarters: 0, seconds: 0.5 },
              { quarters: 100, seconds: 50.5 },
            ],
            meters: [{ bar: 1, numerator: 3, denominator: 4 }],
          },
          facts: null,
        },
      ]),
      sources,
      { ...DEFAULT_STYLE, click: { sound: 'wood', parts: 2 } },
      'Slip_v1',
    );
    expect(divided.ok && divided.value.click.sound).toBe('wood');
    expect(
      divided.ok &&
        divided.value.click.strokes.slice(0, 7).map((s) => `${s.stroke} ${Number(s.seconds.toFixed(6))}`),
    ).toEqual(['accent 0', 'part 0.25', 'pulse 0.5', 'part 0.75', 'pulse 1', 'part 1.25', 'accent 1.5']);
    expect(p.beats.slice(0, 7).map((b) => [Number(b.seconds.toFixed(6)), b.accent])).toEqual([
      [0, true],
      [0.5, false],
      [1, false],
      [1.5, true],
      [2, false],
      [2.5, false],
      [3, true],
    ]);
  });
  it('pads all files alike to one length', () => {
    const p = plan(session([talkMap(1)]));
    expect(p.lengthFrames).toBe(p.padFrames + 48_000 * 61 + 7);
    expect(new Set(p.files.filter((f) => f.trackId !== null).map((f) => f.startFrames))).toEqual(
      new Set([p.padFrames]),
    );
  });
  it('goes without a map: common zero, no tempo file', () => {
    const p = plan(session());
    expect(p).toMatchObject({ padFrames: 0, leadInBars: 0, anchors: [] });
    expect(p.files.some((f) => f.trackId === null)).toBe(false);
  });
});

it('names every file once, orders them, keeps references apart', () => {
  const s = session([
    { kind: 'track.add', track: track('k2', 'kick in'), parentId: ROOT, index: 9 },
    talkMap(1),
  ]);
  const planned = planPackage(
    s,
    [...sources, { laneId: 'lane-k2', channels: 1, lengthFrames: 10 }],
    DEFAULT_STYLE,
    'v1',
  );
  expect(planned.ok && planned.value.files.map((f) => f.path)).toEqual([
    'data/audio/01_Drums_KickIn.wav',
    'data/reference/Ref_RoughMix_as-received.wav',
    'data/audio/02_Drums_KickIn_2.wav',
    'data/reference/Click_with-count-in.wav',
  ]);
  // Handed over from the first downbeat on, nothing is counted in.
  expect(plan({ ...session([talkMap(1)]), cutBars: 0 }).files.at(-1)).toMatchObject({
    path: 'data/reference/Click.wav',
    name: 'Click',
  });
});

it('refuses to plan what is not there', () => {
  expect(planPackage(emptySession('x'), [], DEFAULT_STYLE, 'v1')).toMatchObject({
    ok: false,
    error: { code: 'delivery.no_tracks' },
  });
  expect(planPackage(session(), [], DEFAULT_STYLE, 'v1')).toMatchObject({
    ok: false,
    error: { code: 'delivery.not_ready' },
  });
});

it('makes file names that every system takes (seed 6)', () => {
  const random = createRandom(6);
  for (let i = 0; i < 2000; i++) {
    const name = Array.from({ length: 1 + Math.floor(random() * 60) }, () =>
      String.fromCodePoint(1 + Math.floor(random() * 0x500)),
    ).join('');
    const made = fileNameFor(DEFAULT_STYLE, { name, family: 'drums' });
    expect(made).toMatch(/^[A-Za-z0-9][A-Za-z0-9_-]*$/);
    expect(made.length).toBeLessThanOrEqual(31);
  }
  expect(
    fileNameFor(
      { ...DEFAULT_STYLE, fileWords: { ...DEFAULT_STYLE.fileWords, drums: 'CON' } },
      { name: 'con', family: 'drums' },
    ),
  ).toBe('con_'.replace('c', 'C'));
});

it('quotes CSV as RFC 4180 asks and defuses formulas', () => {
  const s = session([{ kind: 'track.change', id: 'k', fields: { name: '=SUM(1,"2")' } }]);
  expect(tracksCsv(plan(s), s)).toContain(`1,"'=SUM(1,""2"")",data/audio/`);
});

it('reads back the manifest it writes, odd paths included (RFC 8493 §2.1.3)', () => {
  const entries = [
    { path: 'data/b%.wav', sha256: 'a'.repeat(64) },
    { path: 'data/a\nb.wav', sha256: 'b'.repeat(64) },
  ];
  expect(parseManifest(manifestText(entries))).toEqual({ entries: [...entries].reverse(), broken: [] });
  expect(parseManifest('nonsense\n').broken).toEqual(['nonsense']);
});

it('writes project XML with escaped text and no dangling id', () => {
  const s = session([talkMap(2)]);
  const xml = projectXml(plan(s), s, DEFAULT_STYLE, '0.1.0');
  expect(xml).toContain('name="Kick &quot;In&quot;"');
  const ids = [...xml.matchAll(/\sid="([^"]+)"/g)].map((m) => m[1]);
  expect(new Set(ids).size).toBe(ids.length);
  for (const m of xml.matchAll(/\s(?:destination|track|parameter)="([^"]+)"/g)) expect(ids).toContain(m[1]);
});

it('hands over levels, pans and mutes of buses, and says which', () => {
  const s = session([
    { kind: 'bus.change', id: 'b', fields: { gainDb: -20, pan: -0.5, muted: true } },
    { kind: 'bus.add', bus: { id: 'aux', name: 'Aux', color: null, outputBusId: null }, index: 1 },
  ]);
  const xml = projectXml(plan(s), s, DEFAULT_STYLE, '0.1.0');
  expect(xml).toMatch(
    /role="submix"[^>]*><Mute id="\w+" value="true" name="Mute"\/><Pan id="\w+" value="0.25"[^>]*\/><Volume id="\w+" value="0.1"/,
  );
  expect(xml).toMatch(/name="Aux".*role="submix"[^>]*><Mute id="\w+" value="false"/);
  // With figures: no list of the package has them.
  expect(whatWasDone(session(), s, {})).toContain(
    'Levels, pans or mutes of buses are suggested: Drums -20 dB, pan -0.5, muted',
  );
});

it('hands over sends, returns, levels of groups, and what goes nowhere', () => {
  const s = session([
    {
      kind: 'bus.add',
      bus: { id: 'room', name: 'Room', color: '#445566', kind: 'return', outputBusId: null },
      index: 1,
    },
    {
      kind: 'track.change',
      id: 'k',
      fields: { sends: [{ busId: 'room', gainDb: 0, pan: null, before: true }] },
    },
    { kind: 'track.change', id: 'm', fields: { busId: NOWHERE } },
    {
      kind: 'bus.change',
      id: 'b',
      fields: { sends: [{ busId: 'room', gainDb: -20, pan: -1, before: false }] },
    },
    {
      kind: 'groups.set',
      groups: [{ id: 'g', name: 'Kit', trackIds: ['k', 'm'], on: true, gainDb: -3, byHand: true }],
    },
  ]);
  const xml = projectXml(plan(s), s, DEFAULT_STYLE, '0.1.0');
  const id =
    /<Track id="\w+" name="Room" contentType="audio" color="#445566" loaded="true"><Channel id="(\w+)" role="effect"/.exec(
      xml,
    )?.[1];
  // The track's own pan, 0.5 to the right, is 0.75 of the way; 0 dB is 1.
  expect(xml).toMatch(
    new RegExp(
      `<Send id="\\w+" destination="${id}" type="pre"><Pan id="\\w+" value="0.75"[^>]*/><Volume id="\\w+" value="1"`,
    ),
  );
  expect(xml).toMatch(
    new RegExp(
      `<Send id="\\w+" destination="${id}" type="post"><Pan id="\\w+" value="0"[^>]*/><Volume id="\\w+" value="0.1"`,
    ),
  );
  expect(xml).toMatch(
    /name="Rough Mix"[^>]*><Channel id="\w+" role="regular" audioChannels="2" solo="false">/,
  );
  // −3 dB of its own and −3 dB of its group.
  expect(xml).toContain(`value="${Number((10 ** (-6 / 20)).toFixed(9))}" unit="linear"`);
  const [kick, mix] = tracksCsv(plan(s), s).split('\r\n').slice(1) as [string, string];
  expect(kick).toContain(',-6,0.5,false,"Room 0 dB before the level",'.replace(/"/g, ''));
  expect(mix).toContain(',nowhere,');
  expect(checkSession(s, plan(s), NOTHING_KNOWN).filter((c) => c.code === 'routing')).toMatchObject([
    { state: 'look', title: 'Not routed to the mix bus', detail: 'Rough Mix', figure: '1' },
  ]);
});

/** Number of the bar of a tick where tick 0 is bar 1, counted one bar after another. */
function countedBar(read: MidiRead, tick: number): number {
  let [at, bar] = [0, 1];
  for (;;) {
    const meter = read.meters.findLast((m) => m.tick <= at + 1);
    const end = at + ((meter?.numerator ?? 4) * 4 * read.ppq) / (meter?.denominator ?? 4);
    if (tick < end - 1) return bar;
    [at, bar] = [end, bar + 1];
  }
}

it('calls a bar by one number: on the page, in the papers and counted from tick 0 of the MIDI file', () => {
  for (let seed = 1; seed <= 20; seed++) {
    const random = createRandom(seed);
    const style = { ...DEFAULT_STYLE, leadInBars: 1 + Math.floor(4 * random()) };
    const base = session([
      talkMap(seed),
      { kind: 'track.change', id: 'k', fields: { startFrames: -Math.round(480_000 * random()) } },
    ]);
    // Some are handed over conformed, with what was played beside it: both begin alike.
    const own: SessionState =
      seed % 2 === 0
        ? base
        : {
            ...base,
            mapFacts: {
              steady: false,
              bpm: null,
              foundBy: null,
              pulses: (base.map?.points ?? []).map((p) => ({ seconds: p.seconds, confidence: 1 })),
            },
            conform: { bpm: 60 + 80 * random(), treatments: {}, heard: 'conformed' },
          };
    const shown = numberedMap(own, style);
    for (const of of seed % 2 === 0 ? [own] : [own, asConformed(own)]) {
      const planned = planPackage(of, sources, style, 'x', { worked: own });
      if (!planned.ok || !shown) throw new Error('no plan');
      const read = readMidi(tempoMidi(planned.value));
      if (!read.ok) throw new Error(read.error.code);
      const mark = read.value.markers.find((m) => m.text === 'First downbeat');
      expect([seed, countedBar(read.value, mark?.tick ?? -1)]).toEqual([seed, shown.meters.numberOf(1)]);
      expect(planned.value.firstBarNumber).toBe(shown.meters.numberOf(1));
      for (const beat of planned.value.beats.filter((b) => b.accent).slice(0, 30))
        expect(countedBar(read.value, Math.round(beat.quarters * read.value.ppq))).toBe(beat.bar);
    }
  }
});

it('keeps the number somebody set for the first bar, and lets as many bars lead in where it can', () => {
  const named = (number: number): SessionState => {
    const s = session([talkMap(4)]);
    const [first, ...rest] = s.map?.meters ?? [];
    return { ...s, map: s.map && { ...s.map, meters: [{ ...(first as Meter), number }, ...rest] } };
  };
  // Seven seconds of talk take four bars of two seconds.
  const needed = plan(session([talkMap(4)])).leadInBars;
  const longer = plan(named(needed + 3));
  expect([longer.leadInBars, longer.firstBarNumber]).toEqual([needed + 2, needed + 3]);
  for (const number of [1, -3, 100]) {
    const kept = plan(named(number));
    expect([kept.leadInBars, kept.firstBarNumber]).toEqual([needed, number]);
    const check = checkSession(named(number), kept, NOTHING_KNOWN).find((c) => c.code === 'common-start');
    expect(check?.detail).toContain(`begins at ${String(number - needed).replace('-', '−')}.1,`);
  }
});

it('a table that is written is read again as it was', () => {
  const random = createRandom(12);
  const signs = ['a', '"', ',', '\r\n', '=', '-', 'ü', "'", ' ', ';', '\t'];
  for (let n = 0; n < 200; n++) {
    const word = (): string =>
      Array.from({ length: Math.floor(6 * random()) }, () => signs[Math.floor(random() * signs.length)]).join(
        '',
      );
    const named = session([MARKED, { kind: 'markers.set', markers: [] }]);
    const markers = Array.from({ length: 3 }, (_, i) => ({ quarters: i, seconds: i, text: `x${word()}` }));
    const rows = parseTable(markersCsv({ ...plan(named), markers }));
    expect(rows.slice(1).map((r) => r[1])).toEqual(markers.map((m) => m.text));
    expect(rows.every((r) => r.length === 5)).toBe(true);
  }
});
