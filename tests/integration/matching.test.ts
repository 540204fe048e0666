import { execFileSync } from 'node:child_process';
import { mkdtempSync, readdirSync, readFileSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import type { MeasuresResult } from '@/contracts';
import { COVER_NOTE_PATH } from '@/core/delivery';
import { matchGains, MATCH_DEFAULTS, type MatchRules } from '@/core/matching';
import { isTrack, type Track } from '@/core/session';
import { closeDb } from '@/server/db';
import { soundOf } from '../support/tidy-sounds';
import { wavBytes } from '../support/recordings';
import { call, edit, newSession, settled, until, upload, viewOf } from '../support/server';

afterAll(closeDb);

/** Bursts of a tone over hiss: two pieces, the second louder. */
const sound = soundOf(20, (t, noise) => {
  const level = t > 2 && t < 8 ? 0.05 : t > 12 && t < 17 ? 0.2 : 0;
  return 1e-4 * noise() + level * Math.sin(2 * Math.PI * 311 * t) * (1 + 0.3 * Math.sin(9 * t));
});
const PIECES = [
  [90_000, 390_000],
  [570_000, 820_000],
] as const;

async function measuredTrack(name: string) {
  const id = await newSession(name);
  await upload(id, 'Cornet.wav', await wavBytes([sound], { bitDepth: 32 }));
  const track = Object.values((await settled(id)).session.nodes).find(isTrack) as Track;
  const clips = PIECES.map(([fromFrames, toFrames], i) => ({
    ...(track.clips[0] as Track['clips'][number]),
    ...{ id: crypto.randomUUID(), fromFrames, toFrames, fadeInFrames: 480, fadeOutFrames: 480 * (i + 1) },
  }));
  expect((await edit(id, 'Cut', [{ kind: 'track.cut', id: track.id, clips }])).status).toBe(200);
  const measures = await measure(id);
  const found = measures.tracks[0];
  if (!found) throw new Error('nothing measured');
  return { id, track, clips, found };
}

async function measure(id: string) {
  const before = (await viewOf(id)).jobs.filter((j) => j.kind === 'loudness.measure').length;
  expect((await call(`/api/sessions/${id}/loudness`, 'POST')).status).toBe(200);
  await until(async () => {
    const view = await viewOf(id);
    const done = view.jobs.filter((j) => j.kind === 'loudness.measure' && j.state === 'done');
    return done.length > before;
  }, 'a measurement');
  return (await call<MeasuresResult>(`/api/sessions/${id}/loudness`)).value;
}

/** Loudness and true peak by the EBU meter of ffmpeg (libavfilter `ebur128`), LUFS and dBTP; highest sample by `volumedetect`, dBFS. */
function witness(samples: Float32Array, bytes: Uint8Array) {
  const path = join(mkdtempSync(join(tmpdir(), 'fernmoss-match-')), 'a.wav');
  writeFileSync(path, bytes);
  const text = execFileSync(
    'bash',
    ['-c', `ffmpeg -hide_banner -nostats -i "$0" -af ebur128=peak=true -f null - 2>&1 | tail -20`, path],
    { encoding: 'utf8' },
  );
  const figure = (what: RegExp): number => Number(what.exec(text)?.[1]);
  return {
    lufs: figure(/I:\s+(-?[\d.]+) LUFS/),
    truePeakDbtp: figure(/Peak:\s+(-?[\d.]+) dBFS/),
    peakDbfs: 20 * Math.log10(samples.reduce((m, v) => Math.max(m, Math.abs(v)), 0)),
  };
}

/** A sound file as ffmpeg decodes it. */
const decoded = (path: string): Float32Array => {
  const bytes = execFileSync('ffmpeg', ['-v', 'error', '-i', path, '-f', 'f32le', '-'], {
    maxBuffer: 1 << 28,
  });
  return new Float32Array(new Uint8Array(bytes).buffer);
};

/** The pieces at their gains, by the plain rule. */
const rendered = (clips: Track['clips'], gains: readonly number[]): Float32Array =>
  sound.map((v, at) => {
    const i = PIECES.findIndex(([from, to]) => at >= from && at < to);
    const clip = clips[i];
    if (!clip) return 0;
    const [from, to] = PIECES[i] as readonly [number, number];
    const fade = Math.min(1, (at - from + 0.5) / clip.fadeInFrames, (to - at - 0.5) / clip.fadeOutFrames);
    return v * fade * 10 ** ((gains[i] as number) / 20);
  });

it.each<[string, Partial<MatchRules>]>([
  ['a track by loudness', {}],
  ['a track by its peak', { by: 'peak', peakDb: -9 }],
  ['all by true peak', { by: 'true-peak', each: 'all', peakDb: -3 }],
])('reaches what it says: %s', async (_, change) => {
  const rules = { ...MATCH_DEFAULTS, ...change };
  const { clips, found } = await measuredTrack('Matched');
  const [matched] = matchGains([{ family: 'brass', part: null, group: null, ...found }], rules);
  const said = matched?.whole;
  if (!said) throw new Error('nothing matched');
  expect(said.gainDb).not.toBe(0);
  const made = rendered(clips, [said.gainDb, said.gainDb]);
  const heard = witness(made, await wavBytes([made], { bitDepth: 32 }));
  expect(Math.abs(heard.lufs - (said.reachedLufs as number))).toBeLessThanOrEqual(0.1);
  expect(Math.abs(heard.peakDbfs - (said.reachedPeakDbfs as number))).toBeLessThanOrEqual(0.05);
  expect(Math.abs(heard.truePeakDbtp - (said.reachedTruePeakDbtp as number))).toBeLessThanOrEqual(0.3);
});

it('each piece by itself, and what is measured once is not measured again', async () => {
  const { id, track, clips, found } = await measuredTrack('Pieces');
  const [matched] = matchGains([{ family: 'brass', part: null, group: null, ...found }], {
    ...MATCH_DEFAULTS,
    each: 'piece',
  });
  const gains = matched?.pieces.map((p) => p.gainDb) ?? [];
  expect(new Set(gains).size).toBe(2);
  for (const [i, piece] of (matched?.pieces ?? []).entries()) {
    const made = rendered(clips, gains).slice(...(PIECES[i] as readonly [number, number]));
    const heard = witness(made, await wavBytes([made], { bitDepth: 32 }));
    expect(Math.abs(heard.lufs - (piece.reachedLufs as number))).toBeLessThanOrEqual(0.1);
    expect(Math.abs(heard.peakDbfs - (piece.reachedPeakDbfs as number))).toBeLessThanOrEqual(0.05);
  }
  // A gain decides nothing of what was measured.
  const louder = clips.map((c, i) => ({ ...c, gainDb: gains[i] as number }));
  expect((await edit(id, 'Match', [{ kind: 'track.cut', id: track.id, clips: louder }])).status).toBe(200);
  expect((await measure(id)).tracks[0]).toEqual(found);
});

it('says so where there is nothing to measure', async () => {
  expect((await call(`/api/sessions/${await newSession('Empty')}/loudness`, 'POST')).status).toBe(422);
});

describe('handed over', () => {
  const handedOver = async (inFiles: boolean) => {
    const { id, track, clips } = await measuredTrack(`Gains ${inFiles ? 'in files' : 'as levels'}`);
    const text = JSON.stringify({ name: `Matching ${inFiles}`, matching: { inFiles } });
    const style = (await call<{ id: string }>('/api/styles', 'POST', { text })).value.id;
    await edit(id, 'Follow', [{ kind: 'style.use', style: { id: style, version: 1 } }]);
    const louder = clips.map((c) => ({ ...c, gainDb: -6.5 }));
    await edit(id, 'Match', [{ kind: 'track.cut', id: track.id, clips: louder }]);
    await edit(id, 'Level', [{ kind: 'track.change', id: track.id, fields: { gainDb: -2 } }]);
    const { value } = await call<{ id: string }>(`/api/sessions/${id}/handovers`, 'POST', {
      contents: 'played',
    });
    const done = await until(async () => {
      const h = (await viewOf(id)).handovers.find((x) => x.id === value.id);
      return h && h.state !== 'building' && h;
    }, 'the package');
    expect([done.state, done.fault]).toEqual(['done', null]);
    const root = done.folderPath ?? '';
    const [file] = readdirSync(join(root, 'data/audio')).filter((f) => !/click/i.test(f));
    const samples = decoded(join(root, 'data/audio', file ?? ''));
    const [head = [], row = []] = readFileSync(join(root, 'data/session/tracks.csv'), 'utf8')
      .split('\r\n')
      .map((line) => line.split(','));
    const note = readFileSync(join(root, COVER_NOTE_PATH), 'utf8');
    return { samples, gainDb: Number(row[head.indexOf('gainDb')]), note, clips };
  };
  const farthest = (samples: Float32Array, want: Float32Array): number =>
    want.reduce((most, v, i) => Math.max(most, Math.abs(v - (samples[i] ?? 0))), 0);

  it('with gains in the files', async () => {
    const { samples, gainDb, note, clips } = await handedOver(true);
    expect(gainDb).toBe(-2);
    expect(farthest(samples, rendered(clips, [-6.5, -6.5]))).toBeLessThan(2 ** -23);
    expect(note).toMatch(/Written at another level than received: \S+ −6\.5 dB/);
  });
  it('with gains as levels: files are at the level they were recorded at', async () => {
    const { samples, gainDb, note, clips } = await handedOver(false);
    expect(gainDb).toBe(-8.5);
    expect(farthest(samples, rendered(clips, [0, 0]))).toBeLessThan(2 ** -23);
    expect(note).not.toContain('another level');
    expect(note).toContain('taken out');
    expect(note).toContain('Levels, pans or mutes are suggested');
  });
});

it('what cannot be measured is left, and the rest goes on', async () => {
  const id = await newSession('Odd sounds');
  const odd: Readonly<Record<string, Float32Array>> = {
    'Silent.wav': soundOf(5, () => 0),
    'Tick.wav': soundOf(0.2, (t) => (t < 0.01 ? 0.5 : 0)),
    'Offset.wav': soundOf(5, () => 0.25),
    'Clipped.wav': soundOf(5, (t) => Math.sign(Math.sin(900 * t))),
    'Hot.wav': soundOf(5, (t) => 40 * Math.sin(900 * t)),
  };
  for (const [name, samples] of Object.entries(odd))
    await upload(id, name, await wavBytes([samples], { bitDepth: 32 }));
  await upload(id, 'Broken.wav', new Uint8Array([82, 73, 70, 70, 1, 2, 3]));
  await settled(id);
  const { tracks } = await measure(id);
  const { session } = await viewOf(id);
  const of = (name: string) =>
    tracks.find((t) => {
      const track = session.nodes[t.trackId];
      return isTrack(track) && track.receivedName === name;
    });
  expect(tracks).toHaveLength(5);
  expect(of('Silent.wav')?.whole).toMatchObject({ peakDbfs: null, loudnessLufs: null, histogram: null });
  expect(of('Tick.wav')?.whole).toMatchObject({ loudnessLufs: null });
  const matched = matchGains(
    tracks.map((t) => ({ ...t, family: 'unknown', part: null, group: null })),
    MATCH_DEFAULTS,
  );
  for (const { whole } of matched) {
    expect(whole.reachedPeakDbfs ?? -99).toBeLessThanOrEqual(MATCH_DEFAULTS.peakDb + 1e-6);
    expect(Number.isFinite(whole.gainDb)).toBe(true);
  }
});
