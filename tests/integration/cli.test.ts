import {
  copyFileSync,
  existsSync,
  mkdirSync,
  mkdtempSync,
  readdirSync,
  readFileSync,
  rmSync,
  symlinkSync,
  writeFileSync,
} from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { readMidi, writeMidi } from '@/core/time';
import { fernmoss, fernmossJson, run } from '../support/programs';
import { knocks, tone, writeWav } from '../support/recordings';

const folder = mkdtempSync(join(tmpdir(), 'fernmoss-cli-'));
afterAll(() => rmSync(folder, { recursive: true, force: true }));
const BPM = 97.4;
const BEATS = Array.from({ length: 48 }, (_, i) => 2.2 + (60 * i) / BPM);
const song = join(folder, 'Harbour Night');

beforeAll(async () => {
  mkdirSync(song);
  await writeWav(join(song, 'Kick.wav'), [
    knocks(
      BEATS.filter((_, i) => i % 2 === 0),
      33,
      60,
    ),
  ]);
  await writeWav(join(song, 'Snare.wav'), [
    knocks(
      BEATS.filter((_, i) => i % 2 === 1),
      33,
      210,
    ),
  ]);
  await writeWav(join(song, 'HH.wav'), [knocks(BEATS, 33, 5000)]);
  await writeWav(join(song, 'Bass DI.wav'), [
    knocks(
      BEATS.filter((_, i) => i % 4 === 0),
      33,
      90,
    ),
  ]);
  await writeWav(join(song, 'OH L.wav'), [tone(330, 33, 0.05)], { rateHz: 48_000 });
  await writeWav(join(song, 'OH R.wav'), [tone(331, 33, 0.05)], { rateHz: 48_000 });
  await writeWav(join(song, 'ac gtr.wav'), [tone(660, 20, 0.2, 44_100)], { rateHz: 44_100 });
});

describe('names', () => {
  it('reads deliveries from standard input: blank lines end them, order and fields as promised', () => {
    const rows = fernmossJson<Record<string, unknown>[]>(['names'], 'Tom Vox\nKick\n\n3_BD\nrec0011 t2\n');
    expect(rows.map((r) => [r.input, r.family, r.part])).toEqual([
      ['Tom Vox', 'lead-vocal', 'vocal'],
      ['Kick', 'drums', 'kick'],
      ['3_BD', 'drums', 'kick'],
      ['rec0011 t2', 'unknown', null],
    ]);
    expect(Object.keys(rows[0] ?? {})).toEqual(
      expect.arrayContaining([
        'input',
        'name',
        'fileName',
        'family',
        'part',
        'role',
        'position',
        'side',
        'number',
        'take',
        'confidence',
        'evidence',
      ]),
    );
    for (const r of rows) for (const value of Object.values(r)) expect(value).not.toBe('');
    expect(rows[3]).toMatchObject({ take: 2, number: null, side: null });
  });
  it('exits 0 when all is clear, 1 with doubts; takes a house style', () => {
    expect(fernmoss(['names'], 'Kick In\nSnare Top\n').status).toBe(0);
    expect(fernmoss(['names'], 'rec0011\n').status).toBe(1);
    const style = join(folder, 'style.yaml');
    writeFileSync(style, 'fileWords:\n  drums: DR\n');
    expect(fernmossJson<{ fileName: string }[]>(['names', '--style', style], 'Kick In\n')[0]?.fileName).toBe(
      'DR_KickIn',
    );
    writeFileSync(style, 'fileWords:\n  drums: "../x"\n');
    expect(fernmoss(['names', '--style', style], 'Kick\n')).toMatchObject({
      status: 2,
      err: expect.stringContaining('fileWords.drums') as string,
    });
  });
});

describe('inspect', () => {
  it('gives facts and findings; null for what is not known', async () => {
    const clipped = await writeWav(
      join(folder, 'clipped.wav'),
      [tone(50, 1, 1).map((x) => Math.max(-1, Math.min(1, 1.4 * x)))],
      { bitDepth: 16 },
    );
    writeFileSync(join(folder, 'letter.wav'), 'hello');
    const rows = fernmossJson<Record<string, unknown>[]>([
      'inspect',
      join(song, 'Kick.wav'),
      clipped,
      join(folder, 'letter.wav'),
      join(folder, 'missing.wav'),
    ]);
    expect(rows[0]).toMatchObject({
      container: 'wav',
      codec: 's24',
      sampleRateHz: 48_000,
      bitDepth: 24,
      channels: 1,
      lengthFrames: 33 * 48_000,
      embedded: { timeReferenceFrames: null, tempoClaims: [], markers: [], trackNames: [] },
      findings: [{ code: 'inter-sample-overs', severity: 'note' }],
    });
    expect(rows[0]?.sha256).toBe(run('sha256sum', [join(song, 'Kick.wav')]).slice(0, 64));
    expect((rows[1]?.findings as { code: string }[]).map((f) => f.code)).toEqual([
      'clipped',
      'abrupt-start',
      'abrupt-end',
    ]);
    expect((rows[2]?.findings as { code: string }[])[0]?.code).toBe('sound-unknown');
    expect(rows[3]).toMatchObject({
      sampleRateHz: null,
      findings: [{ code: 'file-unreadable', severity: 'problem' }],
    });
  });
  it('--session adds pairs and duplicates as the last element', async () => {
    const twin = await writeWav(join(folder, 'twin.wav'), [knocks(BEATS, 33, 5000)]);
    const rows = fernmossJson<Record<string, unknown>[]>([
      'inspect',
      '--session',
      join(song, 'OH L.wav'),
      join(song, 'OH R.wav'),
      join(song, 'HH.wav'),
      twin,
    ]);
    expect(rows.at(-1)).toMatchObject({
      pairs: [{ left: join(song, 'OH L.wav'), right: join(song, 'OH R.wav') }],
      duplicates: [[join(song, 'HH.wav'), twin]],
    });
  });
  it('--session relates the microphones of one source and says what is missing', async () => {
    const near = knocks([0.5, 1, 1.6, 2.1], 3, 180);
    const far = new Float32Array(near.length);
    near.forEach((v, i) => {
      if (i + 37 < far.length) far[i + 37] = -0.4 * v;
    });
    const [top, bottom, oh, tom] = [
      await writeWav(join(folder, 'Snare Top.wav'), [near]),
      await writeWav(join(folder, 'Snare Bottom.wav'), [far]),
      await writeWav(join(folder, 'OH Left.wav'), [tone(300, 3)]),
      await writeWav(join(folder, 'Organ.wav'), [tone(300, 2)]),
    ];
    const rows = fernmossJson<Record<string, unknown>[]>(['inspect', '--session', top, bottom, oh, tom]);
    expect(rows.at(-1)).toMatchObject({
      micRelations: [{ file: bottom, leader: top, delaySamples: 37, polarity: -1, confidence: 1 }],
      completeness: {
        missing: [{ kind: 'side', near: oh, missing: 'the right side' }],
        usualLengthSeconds: 3,
        otherLengths: [{ file: tom, lengthSeconds: 2 }],
      },
    });
  });
});

describe('tempo', () => {
  it('finds one map over the folder and writes it as JSON and MIDI', () => {
    const [json, midi] = [join(folder, 'map.json'), join(folder, 'map.mid')];
    const found = fernmossJson<{
      beats: number[];
      downbeats: number[];
      meters: { numerator: number }[];
      steady: boolean;
      bpm: number;
      confidence: number[];
      timekeepers: { file: string; chosen: boolean }[];
    }>(['tempo', song, '--map-out', json, '--midi-out', midi]);
    expect(found.steady).toBe(true);
    expect(Math.abs(found.bpm - BPM)).toBeLessThan(0.03);
    expect(found.meters[0]?.numerator).toBe(4);
    expect(Math.abs((found.downbeats[0] as number) - 2.2)).toBeLessThan(0.02);
    expect(found.confidence).toHaveLength(found.beats.length);
    expect(found.timekeepers.filter((t) => t.chosen).length).toBeGreaterThan(1);
    const file = JSON.parse(readFileSync(json, 'utf8')) as { schemaVersion: number; points: unknown[] };
    expect(file.schemaVersion).toBe(1);
    const read = readMidi(readFileSync(midi));
    if (!read.ok) throw new Error(read.error.code);
    const lead = read.value.markers[0]?.tick ?? 0;
    found.beats.forEach((t, i) =>
      expect(
        Math.abs(
          read.value.toSeconds(
            lead + (i - found.beats.indexOf(found.downbeats[0] as number)) * read.value.ppq,
          ) - t,
        ) * 1000,
      ).toBeLessThan(0.1),
    );
  });
  it('finds the recordings in sub-folders, not what an archiver or a link put there', () => {
    const nested = join(folder, 'nested');
    for (const [i, name] of readdirSync(song).entries()) {
      const to = join(nested, i % 2 === 0 ? 'Drums' : 'Other/more');
      mkdirSync(to, { recursive: true });
      copyFileSync(join(song, name), join(to, name));
    }
    mkdirSync(join(nested, '__MACOSX'));
    writeFileSync(join(nested, '__MACOSX', 'Kick.wav'), 'not sound');
    writeFileSync(join(nested, 'Drums', '._Kick.wav'), 'not sound');
    symlinkSync('/etc/hostname', join(nested, 'Link.wav'));
    const flat = JSON.parse(fernmoss(['tempo', song, '--json']).out) as {
      bpm: number;
      timekeepers: unknown[];
    };
    const found = fernmoss(['tempo', nested, '--json']);
    expect(found.status).toBe(0);
    const value = JSON.parse(found.out) as typeof flat;
    expect([value.bpm, value.timekeepers.length]).toEqual([flat.bpm, flat.timekeepers.length]);
  });
  it('--help says how it is called and exits 0, for each command', () => {
    for (const words of [['--help'], ['tempo', '--help'], ['package', song, '--help']]) {
      const { status, out } = fernmoss(words);
      expect([words, status, out.includes('fernmoss tempo FILE…|FOLDER')]).toEqual([words, 0, true]);
    }
    expect(fernmoss(['conduct']).status).toBe(2);
  });
  it('uses the timekeepers it is told, and only files there are', () => {
    const found = fernmossJson<{ timekeepers: { file: string; chosen: boolean; reason: string }[] }>([
      'tempo',
      song,
      '--timekeeper',
      join(song, 'HH.wav'),
    ]);
    expect(found.timekeepers.filter((t) => t.chosen).map((t) => t.file)).toEqual([join(song, 'HH.wav')]);
    expect(fernmoss(['tempo', song, '--timekeeper', join(song, 'nobody.wav')]).status).toBe(2);
  });
  it('nothing found: empty beats, a reason, exit 1', async () => {
    const quiet = join(folder, 'quiet');
    mkdirSync(quiet);
    await writeWav(join(quiet, 'pad.wav'), [tone(100, 8, 0.1)]);
    const done = fernmoss(['tempo', quiet, '--json']);
    expect(done.status).toBe(1);
    expect(JSON.parse(done.out)).toMatchObject({
      beats: [],
      steady: false,
      bpm: null,
      reason: expect.stringMatching(/^tempo\./) as string,
    });
  });
});

describe('package and verify', () => {
  it('makes a package of a folder in one go, as folder and as ZIP, that others can read', () => {
    const out = join(folder, 'out');
    const made = fernmoss(['package', song, '--out', out, '--json']);
    expect([made.status, made.err.includes('Error')]).toEqual([0, false]);
    const value = JSON.parse(made.out) as {
      files: { path: string }[];
      verified: { pass: boolean }[];
      padFrames: number;
      leadInBars: number;
    };
    expect(value.verified.every((c) => c.pass)).toBe(true);
    expect(value.files.map((f) => f.path)).toEqual([
      'data/audio/01_Drums_Kick.wav',
      'data/audio/02_Drums_Snare.wav',
      'data/audio/03_Drums_Hat.wav',
      'data/audio/04_Drums_OverheadL.wav',
      'data/audio/05_Drums_OverheadR.wav',
      'data/audio/06_BassDI.wav',
      'data/audio/07_Gtr_AcousticGuitar.wav',
      'data/reference/Click_with-count-in.wav',
    ]);
    run('sh', ['-c', `cd '${out}' && sha256sum -c --quiet manifest-sha256.txt`]);
    // An offset is stated for every file, and it is the silence put in front.
    expect(
      readFileSync(join(out, 'data/session/tracks.csv'), 'utf8')
        .split('\r\n')
        .slice(1, -1)
        .every((row) => row.includes(`,${value.padFrames},`)),
    ).toBe(true);
    expect(value.leadInBars).toBeGreaterThanOrEqual(2);
    const zip = join(folder, 'out.zip');
    expect(fernmoss(['package', song, '--out', zip]).status).toBe(0);
    expect(fernmoss(['verify', zip]).status).toBe(0);
    expect(fernmoss(['verify', out]).status).toBe(0);
    expect(readdirSync(folder).filter((n) => n.startsWith('.fernmoss'))).toEqual([]);
  });
  it('takes notes along as files of notes, and refuses broken ones in words', async () => {
    const noted = join(folder, 'noted');
    mkdirSync(noted);
    await writeWav(join(noted, 'Kick.wav'), [knocks(BEATS, 33, 60)]);
    const notes = [40, 43, 45].flatMap((pitch, i) => [
      { tick: 960 * i, status: 0x90, meta: null, body: Uint8Array.of(pitch, 90) },
      { tick: 960 * i + 480, status: 0x80, meta: null, body: Uint8Array.of(pitch, 0) },
    ]);
    writeFileSync(
      join(noted, 'Lines.mid'),
      writeMidi({
        name: 'Lines',
        ppq: 960,
        anchors: [
          { quarters: 0, seconds: 0 },
          { quarters: 8, seconds: 5 },
        ],
        meters: [],
        markers: [],
        tracks: [{ name: 'Bass', events: notes }],
      }),
    );
    writeFileSync(join(noted, 'torn.mid'), 'MThd');
    const out = join(folder, 'noted-out');
    const value = JSON.parse(fernmoss(['package', noted, '--out', out, '--json']).out) as {
      notes: { path: string; name: string }[];
      refused: { name: string; reason: string }[];
      verified: { code: string; pass: boolean; figure: string }[];
    };
    expect(value.notes).toEqual([{ path: 'data/notes/BassNotes.mid', name: 'Bass Notes' }]);
    expect(value.refused.map((r) => r.name)).toEqual(['torn.mid']);
    expect(value.verified.find((c) => c.code === 'notes')).toMatchObject({ pass: true, figure: '3 notes' });
  });
  it('goes on without what cannot be used, says so, exit 1', async () => {
    const mixed = join(folder, 'mixed');
    mkdirSync(mixed);
    await writeWav(join(mixed, 'Kick.wav'), [knocks(BEATS, 33, 60)]);
    writeFileSync(join(mixed, 'broken.wav'), 'no');
    const done = fernmoss(['package', mixed, '--out', join(folder, 'mixed-out'), '--json']);
    expect(done.status).toBe(1);
    expect((JSON.parse(done.out) as { refused: { name: string }[] }).refused.map((r) => r.name)).toEqual([
      'broken.wav',
    ]);
    expect(fernmoss(['verify', join(folder, 'mixed-out')]).status).toBe(0);
  });
  it('refuses a place that is taken, and wrong calls', () => {
    expect(fernmoss(['package', song, '--out', song]).status).toBe(2);
    expect(fernmoss(['package', song]).status).toBe(2);
    expect(fernmoss(['package', join(folder, 'nowhere'), '--out', join(folder, 'x')]).status).toBe(2);
    expect(existsSync(join(folder, 'x'))).toBe(false);
    expect(fernmoss(['dance']).status).toBe(2);
    expect(fernmoss(['inspect', '--loudly', 'x']).status).toBe(2);
  });
});
