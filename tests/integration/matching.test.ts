import { execFileSync } from 'node:child_process';
import { mkdtempSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import type { MeasuresResult } from '@/contracts';
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
