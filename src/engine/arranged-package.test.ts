import { mkdtempSync, readFileSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { plainTrack } from '../../tests/support/random-edits';
import { writeWav } from '../../tests/support/recordings';
import { parseTable, planPackage } from '@/core/delivery';
import { piecesOf } from '@/core/arrange';
import { readSoundBlocks, readSoundHeader } from '@/core/audio';
import { mixDown } from '@/core/render';
import {
  applyChanges,
  type Clip,
  emptySession,
  lanesOf,
  ROOT,
  type SessionState,
  type Track,
  wholeClip,
} from '@/core/session';
import { DEFAULT_STYLE, type HouseStyle } from '@/core/style';
import { createRandom } from '@/core/units';
import { buildPackage, type PackageInput } from './build-package';
import { fileSource } from './files';
import { verifyPackage } from './verify-package';

const RATE = 48_000;
const folder = mkdtempSync(join(tmpdir(), 'fernmoss-arranged-'));
afterAll(() => rmSync(folder, { recursive: true, force: true }));

const random = createRandom(12);
const noise = (seconds: number): Float32Array =>
  Float32Array.from({ length: Math.round(seconds * RATE) }, () => (random() - 0.5) / 2);

/** A track of two takes, put together of both with cross-fades, a gap and what was moved inside; another left alone; one silent. */
const SOUNDS: Readonly<Record<string, readonly Float32Array[]>> = {
  'lane-v': [noise(6)],
  second: [noise(5)],
  'lane-k': [noise(6), noise(6)],
  'lane-s': [noise(2)],
};
const clip = (id: string, laneId: string, change: Partial<Clip>): Clip => ({
  ...wholeClip(laneId)[0],
  id,
  ...change,
});
const VOICE: Track = {
  ...plainTrack('v'),
  name: 'Voice',
  startFrames: 4800,
  otherLanes: [
    {
      ...(lanesOf(plainTrack('v'))[0] as Track['otherLanes'][number]),
      id: 'second',
      takeNumber: 2,
      startFrames: 9600,
      inverted: true,
    },
  ],
  clips: [
    clip('a', 'lane-v', { toFrames: 60_000, fadeOutFrames: 2400, fadeOutShape: 'equal-power' }),
    clip('b', 'second', {
      fromFrames: 57_600,
      toFrames: 120_000,
      fadeInFrames: 2400,
      fadeInShape: 'equal-power',
      gainDb: -3.5,
    }),
    clip('c', 'lane-v', { fromFrames: 140_000, toFrames: 150_000, off: true }),
    clip('d', 'lane-v', {
      fromFrames: 150_000,
      toFrames: null,
      slipFrames: -777,
      fadeInFrames: 480,
      fadeOutFrames: 9600,
    }),
  ],
};
const SILENT: Track = {
  ...plainTrack('s'),
  name: 'Silent',
  clips: [clip('e', 'lane-s', { off: true })],
};

function sessionOf(voice: Track): SessionState {
  const made = applyChanges(emptySession('Slip'), [
    { kind: 'session.rate', sampleRateHz: RATE },
    ...[plainTrack('v'), { ...plainTrack('k'), name: 'Kick' }, plainTrack('s')].map(
      (track, index) => ({ kind: 'track.add', track, parentId: ROOT, index }) as const,
    ),
  ]);
  if (!made.ok) throw new Error(made.code);
  return { ...made.session, nodes: { ...made.session.nodes, v: voice, s: SILENT } };
}

async function packageOf(
  session: SessionState,
  folderName: string,
  style: HouseStyle = DEFAULT_STYLE,
): Promise<PackageInput> {
  const sources = Object.entries(SOUNDS).map(([laneId, channels]) => ({
    laneId,
    channels: channels.length,
    lengthFrames: channels[0]?.length ?? 0,
  }));
  const plan = planPackage(session, sources, style, folderName);
  if (!plan.ok) throw new Error(plan.error.code);
  const paths = await Promise.all(
    Object.entries(SOUNDS).map(
      async ([id, channels]) =>
        [id, await writeWav(join(folder, `${id}.wav`), channels, { bitDepth: 32 })] as const,
    ),
  );
  return {
    plan: plan.value,
    session,
    sourcePaths: Object.fromEntries(paths),
    noteSources: {},
    received: {},
    playedMap: null,
    played: null,
    outDir: folder,
    style,
    version: '0',
    note: {
      conformed: null,
      holdsPlayed: false,
      day: '2026-11-30',
      number: 1,
      checks: [],
      received: session,
      worked: session,
      recordingFrames: {},
      absent: [],
      joined: [],
      converted: [],
      repitched: [],
    },
  };
}

async function samplesOf(path: string): Promise<Float32Array[]> {
  const file = await fileSource(path);
  const header = await readSoundHeader(file.bytes);
  if (!header.ok) throw new Error(header.error.code);
  const out = Array.from(
    { length: header.value.channels },
    () => new Float32Array(header.value.lengthFrames),
  );
  for await (const block of readSoundBlocks(file.bytes, header.value))
    block.channels.forEach((c, i) => out[i]?.set(c, block.startFrames));
  await file.close();
  return out;
}

it('hands over what sounds: to the sample of 24 bits as the core’s own sum of the pieces', async () => {
  const session = sessionOf(VOICE);
  const input = await packageOf(session, 'Slip_v1');
  const built = await buildPackage(input);
  expect((await verifyPackage(built.root, input)).filter((c) => !c.pass)).toEqual([]);
  for (const file of input.plan.files) {
    const track = session.nodes[file.trackId as string] as Track;
    const pieces = piecesOf(track, ({ id }) => {
      const sound = SOUNDS[id] as readonly Float32Array[];
      return { sound, lengthFrames: sound[0]?.length ?? 0 };
    });
    // Balance in the middle leaves both channels as they are.
    const want = mixDown(
      [{ channels: 2, gainDb: 0, pan: 0, inverted: false, pieces }],
      0,
      input.plan.lengthFrames,
    );
    const got = await samplesOf(join(built.root, file.path));
    expect([file.name, got.length, got[0]?.length]).toEqual([
      file.name,
      file.trackId === 'k' ? 2 : 1,
      input.plan.lengthFrames,
    ]);
    got.forEach((samples, c) => {
      let worst = 0;
      samples.forEach((x, i) => {
        worst = Math.max(worst, Math.abs(x - (want[c as 0 | 1][i] as number)));
      });
      expect(worst).toBeLessThan(1.01 / 2 ** 23);
    });
  }
});

it('says what was done on every paper, and nothing that was not', async () => {
  const input = await packageOf(sessionOf(VOICE), 'Slip_v2');
  const built = await buildPackage(input);
  const [head = [], ...rows] = parseTable(readFileSync(join(built.root, 'data/session/tracks.csv'), 'utf8'));
  expect(rows.map((r) => [r[head.indexOf('name')], r[head.indexOf('pieces')]])).toEqual([
    ['Voice', '3'],
    ['Kick', ''],
    ['Silent', '0'],
  ]);
  const note = readFileSync(join(built.root, 'data/session/cover-note.html'), 'utf8');
  expect(note).not.toContain('othing was cut');
  expect(note).not.toContain('o level was changed');
  expect(note).toContain('set in level piece by piece: Voice<');
  expect(note).toContain('Nothing that was recorded is left in: Silent<');
  expect(note).toContain('1 is put together of pieces; 1 is silence');
  const plain = await packageOf(sessionOf(plainTrack('v')), 'Slip_v3');
  const uncut = {
    ...plain,
    session: { ...plain.session, nodes: { ...plain.session.nodes, s: plainTrack('s') } },
  };
  const asCame = await packageOf(uncut.session, 'Slip_v4');
  const other = readFileSync(join((await buildPackage(asCame)).root, 'data/session/cover-note.html'), 'utf8');
  expect(other).toContain('Nothing was cut, no level was changed, no processing was applied.');
});

it('finds a file that does not hold what its pieces come to', async () => {
  const input = await packageOf(sessionOf(VOICE), 'Slip_v5');
  const built = await buildPackage(input);
  const shifted = await packageOf(
    sessionOf({ ...VOICE, clips: VOICE.clips.map((c) => (c.id === 'd' ? { ...c, slipFrames: -776 } : c)) }),
    'Slip_v5',
  );
  const failed = (await verifyPackage(built.root, shifted)).filter((c) => !c.pass);
  expect(failed.map((c) => [c.code, c.figure])).toEqual([
    ['audio-content', expect.stringContaining('Voice')],
  ]);
});

describe('with all takes', () => {
  const style: HouseStyle = { ...DEFAULT_STYLE, takes: 'all' };
  const takesOf = ({ plan }: PackageInput): string[] => plan.takes.map((t) => t.path);

  it('lays them beside what was put together, as recorded, and says what was thought of them', async () => {
    const [second] = VOICE.otherLanes;
    const rated = {
      ...(second as (typeof VOICE.otherLanes)[number]),
      takeRating: 'keep' as const,
      takeNote: 'breath <',
    };
    const input = await packageOf(
      sessionOf({ ...VOICE, startFrames: -480, otherLanes: [rated] }),
      'Slip_v6',
      style,
    );
    expect(takesOf(input)).toEqual([
      'data/takes/01_Other_Voice_take-1.wav',
      'data/takes/01_Other_Voice_take-2.wav',
    ]);
    // The second take ends last of all.
    const built = await buildPackage(input);
    expect((await verifyPackage(built.root, input)).filter((c) => !c.pass)).toEqual([]);
    const [take] = await samplesOf(join(built.root, 'data/takes/01_Other_Voice_take-2.wav'));
    const at = 9600 + input.plan.padFrames;
    const sound = (SOUNDS.second as readonly Float32Array[])[0] as Float32Array;
    const worst = sound.reduce((most, x, i) => Math.max(most, Math.abs(-x - (take?.[at + i] ?? 1))), 0);
    expect([take?.length, worst < 0.51 / 2 ** 23]).toEqual([input.plan.lengthFrames, true]);
    const rows = parseTable(readFileSync(join(built.root, 'data/session/tracks.csv'), 'utf8'));
    expect(rows.slice(1).map(([, name]) => name)).toEqual(['Voice', 'Kick', 'Silent']);
    const note = readFileSync(join(built.root, 'data/session/cover-note.html'), 'utf8');
    expect(note).toContain('2 takes from end to end');
    expect(note).toMatch(/Voice, take 2<.*_take-2\.wav<.*keep; breath &lt;; polarity turned over</);
  });

  it('leaves out what was put aside, is as long as the longest take, and finds one that was changed', async () => {
    const [second] = VOICE.otherLanes;
    const lane = second as (typeof VOICE.otherLanes)[number];
    const aside = await packageOf(
      sessionOf({ ...VOICE, otherLanes: [{ ...lane, takeAside: true }] }),
      'Slip_v7',
      style,
    );
    expect(takesOf(aside)).toEqual(['data/takes/01_Other_Voice_take-1.wav']);
    expect(takesOf(await packageOf(sessionOf(VOICE), 'Slip_v7'))).toEqual([]);

    const late = await packageOf(
      sessionOf({ ...VOICE, otherLanes: [{ ...lane, startFrames: 480_000 }] }),
      'Slip_v7',
      style,
    );
    expect(late.plan.lengthFrames).toBe(late.plan.padFrames + 480_000 + 5 * RATE);
    const built = await buildPackage(late);
    const other = await packageOf(
      sessionOf({ ...VOICE, otherLanes: [{ ...lane, startFrames: 479_999 }] }),
      'Slip_v7',
      style,
    );
    const failed = (
      await verifyPackage(built.root, {
        ...other,
        plan: { ...other.plan, lengthFrames: late.plan.lengthFrames },
      })
    ).filter((c) => !c.pass);
    expect(failed.map((c) => [c.code, c.figure])).toEqual([
      ['audio-content', expect.stringContaining('_take-2.wav')],
    ]);
  });

  it('says on paper which takes lie above full scale, which the list of tracks does not', async () => {
    const input = await packageOf(sessionOf(VOICE), 'Slip_v8', style);
    const loud = await writeWav(
      join(folder, 'loud.wav'),
      [(SOUNDS.second as readonly Float32Array[])[0]?.map((x) => 5 * x) ?? new Float32Array(0)],
      { bitDepth: 32 },
    );
    const quiet = VOICE.clips.map((c) => (c.laneId === 'second' ? { ...c, gainDb: -30 } : c));
    const again = await packageOf(sessionOf({ ...VOICE, clips: quiet }), 'Slip_v8', style);
    const built = await buildPackage({ ...again, sourcePaths: { ...input.sourcePaths, second: loud } });
    expect(Object.keys(built.overs)).toEqual(['data/takes/01_Other_Voice_take-2.wav']);
    const note = readFileSync(join(built.root, 'data/session/cover-note.html'), 'utf8');
    expect(note).toMatch(/_take-2\.wav<.*32-bit float, as samples lie above full scale/);
  });
});
