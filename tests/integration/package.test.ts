import { createHash } from 'node:crypto';
import { parseMidi } from 'midi-file';
import {
  appendFileSync,
  copyFileSync,
  cpSync,
  existsSync,
  mkdirSync,
  mkdtempSync,
  readdirSync,
  readFileSync,
  rmSync,
  writeFileSync,
} from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { planPackage, type PackagePlan } from '@/core/delivery';
import {
  applyChanges,
  emptySession,
  firstLaneId,
  ROOT,
  type SessionState,
  soundTracks,
} from '@/core/session';
import { DEFAULT_STYLE, type HouseStyle, newTrack, proposalEdits, proposeSort } from '@/core/style';
import { createRandom } from '@/core/units';
import { runTask, verifyPackage, type PackageCheck } from '@/engine';
import { fernmoss, ROOT as CHECKOUT, run } from '../support/programs';
import { impulses, tone, writeWav } from '../support/recordings';

const RATE = 48_000;
const SECONDS = 60;
const folder = mkdtempSync(join(tmpdir(), 'fernmoss-package-'));
const threadPath = join(CHECKOUT, 'dist', 'compute.mjs');
afterAll(() => rmSync(folder, { recursive: true, force: true }));

/** A wandering band after 7 s of talk; downbeats counted by hand: bars of 4, one of 2 (bar 5). */
const random = createRandom(46);
const points = [{ quarters: 0, seconds: 7.031_25 }];
for (let q = 1; q <= 80; q++)
  points.push({ quarters: q, seconds: (points.at(-1)?.seconds ?? 0) + 0.55 + 0.05 * random() });
const DOWNBEATS = [0, 4, 8, 12, 16, 18, 22, 26, 30, 34, 38, 42, 46, 50, 54, 58, 62, 66, 70, 74, 78];
const secondsOf = (q: number): number => points[q]?.seconds ?? NaN;

/** With a return and what is sent to it, by tracks and by a sum. */
const STYLE: HouseStyle = {
  ...DEFAULT_STYLE,
  returns: [{ key: 'room', name: 'Room', color: null, into: null }],
  sends: [
    { from: 'sums', when: { all: [] }, to: 'room', gainDb: -9, pan: 0, before: false },
    { from: 'tracks', when: { family: ['drums'] }, to: 'room', gainDb: -6, pan: null, before: true },
  ],
};
let session: SessionState;
let plan: PackagePlan;
let root: string;
let checks: readonly PackageCheck[];
let packageInput: Parameters<typeof runTask<'package'>>[1];

beforeAll(async () => {
  const audio: Record<string, Float32Array[]> = {
    'Kick in_01.wav': [impulses(DOWNBEATS.map(secondsOf), SECONDS)],
    'OH.wav': [tone(440, SECONDS, 0.25), tone(441, SECONDS, 0.25)],
    'LV.wav': [tone(220, SECONDS - 5, 0.3)],
    'ROUGH MIX.wav': [tone(100, SECONDS, 0.2), tone(101, SECONDS, 0.2)],
  };
  const sourcePaths: Record<string, string> = {};
  for (const [name, channels] of Object.entries(audio))
    sourcePaths[firstLaneId(`t-${name[0]}`)] = await writeWav(join(folder, name), channels, {
      bitDepth: name.startsWith('OH') ? 16 : name.startsWith('LV') ? 32 : 24,
    });
  const arrived = applyChanges(emptySession('Lanterns & “Slip”', 'Nine <9>', 'notes'), [
    { kind: 'session.rate', sampleRateHz: RATE },
    ...Object.keys(audio).map(
      (name, index) =>
        ({
          kind: 'track.add',
          track: newTrack(`t-${name[0]}`, name, { dualMono: false }, STYLE),
          parentId: ROOT,
          index,
        }) as const,
    ),
    {
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
      facts: { steady: false, bpm: null, foundBy: null, pulses: [] },
    },
  ]);
  if (!arrived.ok) throw new Error(arrived.code);
  const proposal = proposeSort(arrived.session, STYLE);
  const sorted = applyChanges(
    arrived.session,
    proposalEdits(arrived.session, STYLE, proposal, new Set(proposal.rows.map((r) => r.trackId))),
  );
  if (!sorted.ok) throw new Error(sorted.code);
  session = sorted.session;
  const planned = planPackage(
    session,
    Object.entries(audio).map(([name, channels]) => ({
      laneId: firstLaneId(`t-${name[0]}`),
      channels: channels.length,
      lengthFrames: channels[0]?.length ?? 0,
    })),
    STYLE,
    'Nine_Slip_v1',
  );
  if (!planned.ok) throw new Error(planned.error.code);
  plan = planned.value;
  packageInput = {
    plan,
    session,
    sourcePaths,
    noteSources: {},
    received: {},
    playedMap: session.map,
    played: null,
    outDir: folder,
    style: STYLE,
    version: '0.1.0',
    note: {
      day: '2026-11-25',
      number: 1,
      checks: [],
      recordingFrames: {},
      received: session,
      worked: session,
      absent: [{ name: 'x.txt', reason: 'no <audio>' }],
      joined: [],
      converted: [],
      repitched: [],
      conformed: null,
      holdsPlayed: false,
    },
  };
  const done = await runTask('package', packageInput, { threadPath });
  root = done.built.root;
  checks = done.checks;
}, 60_000);

const wavs = (): string[] => plan.files.map((f) => join(root, f.path));

it('passes its own reading back', () => {
  expect(checks.filter((c) => !c.pass)).toEqual([]);
  expect(checks.map((c) => c.code)).toEqual([
    'bag',
    'complete',
    'unchanged',
    'tags',
    'audio-shape',
    'audio-content',
    'tempo',
    'track-list',
    'project',
  ]);
});

it('samples above full scale are not cut off: their file is 32-bit float, and that is said', async () => {
  const hot = tone(220, SECONDS - 5, 1.6);
  const above = hot.filter((x) => x > 8388607 / 8388608 || x < -1).length;
  expect(above).toBeGreaterThan(9000);
  const path = await writeWav(join(folder, 'LV hot.wav'), [hot], { bitDepth: 32 });
  const done = await runTask(
    'package',
    {
      ...packageInput,
      plan: { ...plan, folderName: 'Nine_Slip_v3' },
      sourcePaths: { ...packageInput.sourcePaths, [firstLaneId('t-L')]: path },
    },
    { threadPath },
  );
  expect(done.checks.filter((c) => !c.pass)).toEqual([]);
  const file = plan.files.find((f) => f.trackId === 't-L');
  expect(done.built.overs).toEqual({ [file?.path ?? '']: above });
  expect(done.checks.find((c) => c.code === 'audio-shape')?.figure).toContain('1 of 5 files 32-bit float');
  // Read by libsndfile: the tops are there.
  const [kind, peak] = run('/usr/bin/python3', [
    '-c',
    'import sys, soundfile; f = soundfile.SoundFile(sys.argv[1]); x = f.read(); print(f.subtype, abs(x).max())',
    join(done.built.root, file?.path ?? ''),
  ])
    .trim()
    .split(' ');
  expect(kind).toBe('FLOAT');
  expect(Number(peak)).toBeCloseTo(1.6, 3);
  const paper = (name: string): string => readFileSync(join(done.built.root, 'data/session', name), 'utf8');
  expect(paper('cover-note.html')).toContain('1 of them 32-bit float');
  expect(paper('tracks.csv')).toContain(`32 float,${above}`);
  // A package that cuts them off is found out.
  await writeWav(join(done.built.root, file?.path ?? ''), [hot.map((x) => Math.max(-1, Math.min(1, x)))], {
    bitDepth: 24,
  });
  const codes = (
    await verifyPackage(done.built.root, {
      ...packageInput,
      sourcePaths: { ...packageInput.sourcePaths, [firstLaneId('t-L')]: path },
    })
  )
    .filter((c) => !c.pass)
    .map((c) => c.code);
  expect(codes).toEqual(expect.arrayContaining(['unchanged', 'audio-shape', 'audio-content']));
}, 60_000);

it('cut to one bar before the first downbeat: it passes its own reading back, and each sample is that of the recording', async () => {
  const cut = { ...session, cutBars: 1 };
  const planned = planPackage(
    cut,
    plan.files.flatMap((f) =>
      f.trackId === null
        ? []
        : [
            {
              laneId: firstLaneId(f.trackId),
              channels: f.channels,
              lengthFrames: f.trackId === 't-L' ? RATE * (SECONDS - 5) : RATE * SECONDS,
            },
          ],
    ),
    STYLE,
    'Nine_Slip_v2',
  );
  if (!planned.ok) throw new Error(planned.error.code);
  const done = await runTask(
    'package',
    { ...packageInput, plan: planned.value, session: cut },
    { threadPath },
  );
  expect(done.checks.filter((c) => !c.pass)).toEqual([]);
  const { padFrames } = planned.value;
  expect(padFrames).toBe(Math.round((secondsOf(4) - 2 * secondsOf(0)) * RATE));
  const kick = planned.value.files.find((f) => f.trackId === 't-K');
  // Read by libsndfile: the first impulse is a bar in, to the sample.
  const sound = run('/usr/bin/python3', [
    '-c',
    'import sys, soundfile; x, r = soundfile.read(sys.argv[1]); print(len(x), int((abs(x) > 0.1).argmax()))',
    join(done.built.root, kick?.path ?? ''),
  ]).trim();
  expect(sound).toBe(`${planned.value.lengthFrames} ${Math.round(secondsOf(0) * RATE) + padFrames}`);
  expect(readFileSync(join(done.built.root, 'data/session/cover-note.html'), 'utf8')).toContain(
    `The first ${-padFrames} frames`,
  );
}, 60_000);

it('an impulse at downbeat k lies at bar k of the MIDI file within 0.1 ms: sound read by ffmpeg, MIDI by mido', () => {
  const kick = plan.files.find((f) => f.name.startsWith('Kick'));
  const raw = join(folder, 'kick.f32');
  run('ffmpeg', ['-v', 'error', '-y', '-i', join(root, kick?.path ?? ''), '-f', 'f32le', raw]);
  const bytes = readFileSync(raw);
  const samples = new Float32Array(bytes.buffer, bytes.byteOffset, bytes.length / 4);
  const heard: number[] = [];
  samples.forEach((x, i) => {
    if (x > 0.5) heard.push(i / RATE);
  });
  expect(heard).toHaveLength(DOWNBEATS.length);
  const program = `
import sys, json, mido
m = mido.MidiFile(sys.argv[1]); t = 0; q = 0.0; bars = []; num = 4; now = 0.0; tempo = 500000; events = []
for e in m.tracks[0]: t += e.time; events.append((t, e))
def seconds(tick):
    s = 0.0; last = 0; tempo = 500000
    for at, e in events:
        if e.type == 'set_tempo' and at <= tick:
            s += mido.tick2second(at - last, m.ticks_per_beat, tempo); last = at; tempo = e.tempo
    return s + mido.tick2second(tick - last, m.ticks_per_beat, tempo)
meters = [(at, e.numerator, e.denominator) for at, e in events if e.type == 'time_signature']
tick = 0
end = t
while tick <= end:
    bars.append(seconds(tick))
    n, d = [(n, d) for at, n, d in meters if at <= tick][-1]
    tick += m.ticks_per_beat * 4 * n // d
print(json.dumps(bars))`;
  const bars = JSON.parse(
    run('/usr/bin/python3', ['-c', program, join(root, 'data/session/tempo-and-markers.mid')]),
  ) as number[];
  heard.forEach((seconds, k) =>
    expect(Math.abs(seconds - (bars[plan.leadInBars + k] as number)) * 1000).toBeLessThanOrEqual(0.1),
  );
  expect(bars[0]).toBe(0);
});

it('every beat of the plan within 0.1 ms in a second MIDI reader (npm midi-file)', () => {
  const midi = parseMidi(readFileSync(join(root, 'data/session/tempo-and-markers.mid')));
  const tempos: { tick: number; us: number }[] = [];
  let tick = 0;
  for (const e of midi.tracks[0] ?? []) {
    tick += e.deltaTime;
    if (e.type === 'setTempo') tempos.push({ tick, us: e.microsecondsPerBeat });
  }
  const ppq = midi.header.ticksPerBeat as number;
  const secondsAt = (at: number): number =>
    tempos.reduce(
      (s, t, i) =>
        s + (Math.max(0, Math.min(at, tempos[i + 1]?.tick ?? Infinity) - t.tick) * t.us) / ppq / 1e6,
      0,
    );
  expect(plan.beats.length).toBeGreaterThan(80);
  for (const b of plan.beats)
    expect(Math.abs(secondsAt(b.quarters * ppq) - b.seconds) * 1000).toBeLessThanOrEqual(0.1);
});

it('every WAV has the planned rate, depth, channels and frames for ffprobe and libsndfile', () => {
  for (const [i, path] of wavs().entries()) {
    const probe = JSON.parse(run('ffprobe', ['-v', 'error', '-of', 'json', '-show_streams', path])) as {
      streams: { codec_name: string; sample_rate: string; channels: number; duration_ts: number }[];
    };
    expect(probe.streams[0]).toMatchObject({
      codec_name: 'pcm_s24le',
      sample_rate: '48000',
      channels: plan.files[i]?.channels,
      duration_ts: plan.lengthFrames,
    });
    const info = run('sndfile-info', [path]);
    expect(info).toMatch(new RegExp(`Sample Rate\\s*:\\s*48000`));
    expect(info).toMatch(new RegExp(`Frames\\s*:\\s*${plan.lengthFrames}`));
    expect(info).toMatch(/Bit Width\s*:\s*24/);
  }
});

it('the project file is valid against the schema, with no dangling reference and every file there (xmllint)', () => {
  const out = join(folder, 'project');
  mkdirSync(out, { recursive: true });
  run('/usr/bin/python3', ['-m', 'zipfile', '-e', join(root, 'data/session/session.dawproject'), out]);
  const xml = join(out, 'project.xml');
  run('xmllint', ['--noout', '--schema', join(CHECKOUT, 'docs/project-subset.xsd'), xml]);
  const count = (path: string): number => Number(run('xmllint', ['--xpath', `count(${path})`, xml]));
  expect(count('//@destination[not(.=//@id)]|//@track[not(.=//@id)]|//@parameter[not(.=//@id)]')).toBe(0);
  // The click is there, muted, with a clip like the others.
  expect(count('//Clip')).toBe(5);
  expect(count('//Track[@comment="made for this package"]/Channel/Mute[@value="true"]')).toBe(1);
  const sums = session.busOrder.filter((id) => session.buses[id]?.kind === 'sum').length;
  const drums = soundTracks(session).filter((t) => t.family === 'drums').length;
  expect(count('//Track[@contentType="tracks"]/Channel[@role="submix"]')).toBe(sums);
  expect(drums * sums).toBeGreaterThan(0);
  expect(count('//Channel[@role="effect"]')).toBe(1);
  expect(
    count('//Channel[@role="regular"]/Sends/Send[@type="pre"][@destination=//Channel[@role="effect"]/@id]'),
  ).toBe(drums);
  expect(count('//Channel[@role="submix"]/Sends/Send[@type="post"][Pan/@value="0.5"]')).toBe(sums);
  // −6 dB is half of the sound pressure: 0.501.
  expect(count('//Send[@type="pre"]/Volume[@value > 0.5011 and @value < 0.5013]')).toBe(drums);
  expect(count('//Channel[@role="master"]')).toBe(1);
  expect(count('//RealPoint')).toBe(plan.anchors.length - 1);
  for (const m of readFileSync(xml, 'utf8').matchAll(/<File path="([^"]+)"/g))
    expect(existsSync(join(root, 'data/session', m[1] as string))).toBe(true);
});

it('sha256sum agrees with both manifests; the cover note is well-formed and escapes what it was given', () => {
  expect(
    run('sh', [
      '-c',
      `cd '${root}' && sha256sum -c --quiet manifest-sha256.txt && sha256sum -c --quiet tagmanifest-sha256.txt && echo good`,
    ]),
  ).toBe('good\n');
  const note = readFileSync(join(root, 'data/session/cover-note.html'), 'utf8');
  expect(note).toContain('Nine &lt;9&gt;');
  expect(note).toContain('no &lt;audio&gt;');
  run('xmllint', ['--html', '--noout', join(root, 'data/session/cover-note.html')]);
});

it('the track list reads as CSV with one row a recording, in order, offsets stated', () => {
  const rows = JSON.parse(
    run('/usr/bin/python3', [
      '-c',
      'import csv,json,sys; print(json.dumps(list(csv.DictReader(open(sys.argv[1], newline="", encoding="utf-8")))))',
      join(root, 'data/session/tracks.csv'),
    ]),
  ) as Record<string, string>[];
  expect(rows.map((r) => [r.order, r.name, r.sourceFile, r.folder, r.bus, r.mute, r.offsetFrames])).toEqual([
    ['1', 'Kick In', 'Kick in_01.wav', 'Drums', 'Drums', 'false', String(plan.padFrames)],
    ['2', 'Overhead', 'OH.wav', 'Drums', 'Drums', 'false', String(plan.padFrames)],
    ['3', 'Lead Vocal', 'LV.wav', 'Voices', 'Voices', 'false', String(plan.padFrames)],
    ['4', 'Rough Mix', 'ROUGH MIX.wav', 'Reference', '', 'true', String(plan.padFrames)],
  ]);
});

it('the click strikes each beat of the plan within a sample', () => {
  const raw = join(folder, 'click.f32');
  run('ffmpeg', [
    '-v',
    'error',
    '-y',
    '-i',
    join(root, 'data/reference/Click_with-count-in.wav'),
    '-f',
    'f32le',
    raw,
  ]);
  const bytes = readFileSync(raw);
  const x = new Float32Array(bytes.buffer, bytes.byteOffset, bytes.length / 4);
  for (const b of plan.beats.slice(0, -1)) {
    const at = Math.ceil(b.seconds * RATE);
    expect(Math.abs(x[at] as number)).toBeGreaterThan(0.3);
    if (at > 0) expect(Math.abs(x[at - 1] as number)).toBeLessThan(0.01);
  }
});

describe('a package that was meddled with', () => {
  const spoil = async (how: (copy: string) => void): Promise<string[]> => {
    const copy = join(folder, 'copy');
    rmSync(copy, { recursive: true, force: true });
    cpSync(root, copy, { recursive: true });
    how(copy);
    return (await verifyPackage(copy)).filter((c) => !c.pass).map((c) => c.code);
  };
  const someWav = (copy: string): string => join(copy, plan.files[0]?.path ?? '');
  it.each<[string, readonly string[], (copy: string) => void]>([
    [
      'one byte changed',
      ['unchanged'],
      (c) => {
        const b = readFileSync(someWav(c));
        b[5000] = (b[5000] ?? 0) ^ 1;
        writeFileSync(someWav(c), b);
      },
    ],
    [
      'one byte changed, and its line in the manifest with it',
      ['tags'],
      (c) => {
        const b = readFileSync(someWav(c));
        const hash = (): string => createHash('sha256').update(b).digest('hex');
        const was = hash();
        b[5000] = (b[5000] ?? 0) ^ 1;
        writeFileSync(someWav(c), b);
        const manifest = join(c, 'manifest-sha256.txt');
        writeFileSync(manifest, readFileSync(manifest, 'utf8').replace(was, hash()));
      },
    ],
    [
      'a tag manifest that names files elsewhere',
      ['tags'],
      (c) =>
        writeFileSync(
          join(c, 'tagmanifest-sha256.txt'),
          `${'0'.repeat(64)}  ../../etc/passwd\n${readFileSync(join(c, 'tagmanifest-sha256.txt'), 'utf8')}`,
        ),
    ],
    ['a file missing', ['complete', 'track-list', 'project'], (c) => rmSync(someWav(c))],
    ['a file nobody listed', ['complete'], (c) => writeFileSync(join(c, 'data', 'extra.txt'), 'x')],
    ['the manifest gone', ['complete', 'unchanged', 'tags'], (c) => rmSync(join(c, 'manifest-sha256.txt'))],
    [
      'no bag at all',
      ['bag', 'complete', 'unchanged', 'tags', 'audio-shape', 'track-list', 'project'],
      (c) => {
        for (const n of readdirSync(c)) rmSync(join(c, n), { recursive: true });
      },
    ],
    [
      'another tempo file',
      ['unchanged', 'tempo'],
      (c) => {
        const p = join(c, 'data/session/tempo-and-markers.mid');
        const b = readFileSync(p);
        b[b.length - 20] = (b[b.length - 20] ?? 0) ^ 0x55;
        writeFileSync(p, b);
      },
    ],
    [
      'timing.json cut',
      ['unchanged', 'audio-shape', 'tempo'],
      (c) => writeFileSync(join(c, 'data/session/timing.json'), '{"lengthFrames":'),
    ],
    [
      'an audio file longer than the others',
      ['unchanged', 'audio-shape'],
      (c) =>
        appendFileSync(someWav(c), Buffer.alloc(0)) ??
        copyFileSync(join(folder, 'Kick in_01.wav'), someWav(c)),
    ],
  ])('is found out: %s', async (_what, expected, how) => {
    expect(await spoil(how)).toEqual(expected);
  });
  it('the command line says so with exit 1, and 2 for a wrong call', () => {
    expect(fernmoss(['verify', root]).status).toBe(0);
    expect(fernmoss(['verify', join(folder, 'copy')]).status).toBe(1);
    expect(fernmoss(['verify', join(folder, 'nothing here')]).status).toBe(2);
    expect(fernmoss(['verify', join(folder, 'Kick in_01.wav')]).status).toBe(1);
  });
});
