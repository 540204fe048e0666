import type { BalanceResult } from '@/contracts';
import { BandLevelAnalysis, readLevelsParts } from '@/core/analysis';
import { isTrack } from '@/core/session';
import { closeDb, db, RecordingModel } from '@/server/db';
import { soundOf, struck } from '../support/tidy-sounds';
import { wavBytes } from '../support/recordings';
import { BASE, call, edit, newSession, settled, until, upload, viewOf } from '../support/server';

const NOTES = [1, 4, 9];
const sound = soundOf(
  12,
  (t, noise) => 2e-4 * noise() + NOTES.reduce((sum, at) => sum + 0.3 * struck(t - at, 220, 0.6), 0),
);
const levelsFor = async (recordings: readonly string[]) => {
  const response = await fetch(`${BASE}/api/levels`, {
    method: 'POST',
    headers: { 'content-type': 'application/json' },
    body: JSON.stringify({ recordings }),
  });
  return {
    status: response.status,
    parts: response.ok ? readLevelsParts(new Uint8Array(await response.arrayBuffer())) : [],
  };
};
afterAll(closeDb);
const NOBODY = '00000000-0000-4000-8000-000000000000';

it('keeps the levels of what arrives; what was heard before they were kept is listened to again', async () => {
  const id = await newSession('Levels');
  await upload(id, 'Marimba.wav', await wavBytes([sound], { bitDepth: 32 }));
  const [recording] = (await settled(id)).recordings;
  if (!recording) throw new Error('nothing arrived');
  expect(recording.hasLevels).toBe(true);
  const own = new BandLevelAnalysis(48_000, 1);
  own.push([sound]);
  const { status, parts } = await levelsFor([NOBODY, recording.id]);
  expect(status).toBe(200);
  expect(parts[0]).toBeNull();
  expect(parts[1]).toEqual(own.finish());

  // As one that came before there were levels.
  db();
  await RecordingModel.update({ levelsSha256: null }, { where: { id: recording.id } });
  expect((await viewOf(id)).recordings[0]?.hasLevels).toBe(false);
  expect((await levelsFor([recording.id])).parts).toEqual([null]);
  expect((await call<{ waiting: number }>(`/api/sessions/${id}/levels`, 'POST')).value.waiting).toBe(1);
  await until(async () => (await viewOf(id)).recordings[0]?.hasLevels === true, 'levels');
  expect((await levelsFor([recording.id])).parts[0]?.frames).toBe(600);
  expect((await call<{ waiting: number }>(`/api/sessions/${id}/levels`, 'POST')).value.waiting).toBe(0);
});

it('puts edges to the sample, of what can be read', async () => {
  const id = await newSession('Edges');
  await upload(id, 'Marimba.wav', await wavBytes([sound], { bitDepth: 32 }));
  const [recording] = (await settled(id)).recordings;
  const answer = await call<({ from: number; to: number }[] | null)[]>('/api/edges', 'POST', {
    files: [
      { recordingId: NOBODY, beforeSeconds: 0, kept: [{ from: 0, to: 100, sound: null }] },
      {
        recordingId: recording?.id,
        beforeSeconds: 0.01,
        kept: [
          { from: 46_000, to: 90_000, sound: 47_900 },
          { from: 430_000, to: 9_000_000, sound: null },
        ],
      },
    ],
  });
  expect(answer.status).toBe(200);
  expect(answer.value[0]).toBeNull();
  const [first, last] = answer.value[1] ?? [];
  // 10 ms before the note that begins at 1 s, to the millisecond of the search and the next zero crossing.
  expect(Math.abs((first?.from ?? 0) - (48_000 - 480))).toBeLessThan(5 * 48);
  expect(Math.abs((first?.to ?? 0) - 90_000)).toBeLessThan(4 * 48);
  expect(last?.to).toBe(sound.length);
});

it.each<[string, string, unknown]>([
  ['levels of nothing', '/api/levels', { recordings: [] }],
  ['levels of a path', '/api/levels', { recordings: ['../../etc/passwd'] }],
  ['edges with more than they hold', '/api/edges', { files: [], path: '/etc/passwd' }],
  [
    'edges that are none',
    '/api/edges',
    { files: [{ recordingId: NOBODY, beforeSeconds: 0, kept: [{ from: -1, to: 2.5, sound: null }] }] },
  ],
])('refuses %s', async (_, path, body) => {
  expect((await call(path, 'POST', body)).status).toBe(400);
});

it('says so where there is no such session', async () => {
  expect((await call(`/api/sessions/${NOBODY}/levels`, 'POST')).status).toBe(404);
});

it('pieces of a track are put, read back, and undone as one step', async () => {
  const id = await newSession('Pieces');
  await upload(id, 'Marimba.wav', await wavBytes([sound]));
  const before = await settled(id);
  const track = Object.values(before.session.nodes).find(isTrack);
  const [whole] = track?.clips ?? [];
  if (!track || !whole) throw new Error('no track');
  const clips = NOTES.map((at, i) => ({
    ...whole,
    id: crypto.randomUUID(),
    fromFrames: 48_000 * at - 2400,
    toFrames: i === 2 ? null : 48_000 * (at + 1),
    fadeInFrames: 480,
  }));
  expect((await edit(id, 'Tidy Marimba', [{ kind: 'track.cut', id: track.id, clips }])).status).toBe(200);
  const read = (await viewOf(id)).session.nodes[track.id];
  expect(isTrack(read) && read.clips).toEqual(clips);
  expect((await call(`/api/sessions/${id}/undo`, 'POST')).status).toBe(200);
  const again = (await viewOf(id)).session.nodes[track.id];
  expect(isTrack(again) && again.clips).toEqual(track.clips);
});

it('works out levels by role, and reads them out of the sender’s mix wherever the tracks begin', async () => {
  const id = await newSession('Levels of a mix');
  const voice = soundOf(
    24,
    (t, n) => 0.2 * Math.sin(2 * Math.PI * 220 * t) * (Math.sin(t) > 0 ? 1 : 0) + 1e-4 * n(),
    3,
  );
  const bass = soundOf(24, (t, n) => 0.3 * struck(t % 1.5, 55, 1.2) + 1e-4 * n(), 4);
  const guitar = soundOf(22, (t, n) => 0.2 * struck(t % 0.75, 330, 0.5) + 1e-4 * n(), 5);
  const keys = soundOf(24, (t, n) => 0.1 * struck(t % 2, 880, 2) + 1e-4 * n(), 6);
  const late = 96_000;
  // Left and right: the voice in the middle, 6 dB down; the guitar, two seconds late, to the left.
  const mixed = (side: 0 | 1): Float32Array =>
    voice.map(
      (v, i) =>
        0.5 * v +
        0.35 * (bass[i] as number) +
        (side === 0 ? 0.5 : 0.1) * (i < late ? 0 : (guitar[i - late] as number)) +
        0.3 * (keys[i] as number),
    );
  for (const [name, sound] of [
    ['Lead Vox.wav', [voice]],
    ['Bass DI.wav', [bass]],
    ['Gtr.wav', [guitar]],
    ['Rhodes.wav', [keys]],
    ['Rough Mix.wav', [mixed(0), mixed(1)]],
  ] as const)
    await upload(id, name, await wavBytes(sound));
  const view = await settled(id);
  const guitarTrack = Object.values(view.session.nodes).find(
    (n) => isTrack(n) && n.receivedName === 'Gtr.wav',
  );
  await edit(id, 'Later', [
    { kind: 'track.change', id: guitarTrack?.id ?? '', fields: { startFrames: late } },
  ]);
  expect((await call(`/api/sessions/${id}/balance`, 'POST')).status).toBe(200);
  const { balance, session } = await until(async () => {
    const now = await viewOf(id);
    return now.balance && now;
  }, 'levels');
  const named = (name: string) => {
    const track = Object.values(session.nodes).find((n) => isTrack(n) && n.receivedName === name);
    return balance?.tracks.find((t) => t.trackId === track?.id);
  };
  const mix = Object.values(session.nodes).find((n) => isTrack(n) && n.receivedName === 'Rough Mix.wav');
  expect(balance?.mixTrackId).toBe(mix?.id);
  expect(balance?.explained).toBeGreaterThan(0.98);
  expect(balance?.missing).toEqual([]);
  expect(balance?.peakDbfs).toBeLessThanOrEqual(-6);
  expect(balance?.tracks).toHaveLength(4);
  const voiceIn = named('Lead Vox.wav')?.mix?.gainDb ?? 99;
  // Against each other: a mono track in the middle has the same on both sides.
  expect(
    Math.abs((named('Bass DI.wav')?.mix?.gainDb ?? 99) - voiceIn - 20 * Math.log10(0.35 / 0.5)),
  ).toBeLessThan(0.3);
  expect(
    Math.abs((named('Rhodes.wav')?.mix?.gainDb ?? 99) - voiceIn - 20 * Math.log10(0.3 / 0.5)),
  ).toBeLessThan(0.3);
  expect(named('Gtr.wav')?.mix?.pan).toBeLessThan(-0.5);
  expect(named('Lead Vox.wav')?.mix?.pan).toBeCloseTo(0, 1);
  expect((await call('/api/sessions/' + (await newSession('Empty')) + '/balance', 'POST')).status).toBe(422);

  await matchedSince(id, named('Lead Vox.wav'));
});

/** A voice turned up by its pieces needs so much less of a level. */
async function matchedSince(id: string, before: BalanceResult['tracks'][number] | undefined): Promise<void> {
  const voice = (await viewOf(id)).session.nodes[before?.trackId ?? ''];
  if (!before || !isTrack(voice)) throw new Error('no voice');
  const clips = voice.clips.map((c) => ({ ...c, gainDb: 6 }));
  await edit(id, 'Match', [{ kind: 'track.cut', id: voice.id, clips }]);
  expect((await call(`/api/sessions/${id}/balance`, 'POST')).status).toBe(200);
  const again = await until(async () => {
    const now = (await viewOf(id)).balance?.tracks.find((t) => t.trackId === voice.id);
    return now?.pieceGainDb === 6 && now;
  }, 'levels of what was matched');
  expect((again.mix?.gainDb ?? 99) - (before.mix?.gainDb ?? 99)).toBeCloseTo(-6, 1);
  expect(again.rough.gainDb - before.rough.gainDb).toBeCloseTo(-6, 1);
}
