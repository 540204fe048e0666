import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import type { SessionView } from '@/contracts';
import { findingKey } from '@/core/findings';
import {
  type Change,
  type KnownRecording,
  noticed,
  remedyEdits,
  tracksInOrder,
  type Track,
} from '@/core/session';
import { readNames } from '@/core/naming';
import { createRandom } from '@/core/units';
import { fernmossJson, run } from '../support/programs';
import { knocks, tone, wavBytes, writeWav } from '../support/recordings';
import { make } from '../support/labelled';
import { editsFor, call, newSession, settled, soundOf, upload, viewOf } from '../support/server';

const folder = mkdtempSync(join(tmpdir(), 'fernmoss-findings-'));
afterAll(() => rmSync(folder, { recursive: true, force: true }));

const random = createRandom(8);
const hits = Array.from({ length: 12 }, (_, i) => 0.5 + 0.5 * i);
const top = knocks(hits, 7, 190).map((x) => 0.6 * x + 0.002 * (random() - 0.5));
/** The same drum from below: later, upside down, duller. */
const DELAY = 37;
const bottom = top.map(
  (_, i) => -0.6 * ((top[i - DELAY] ?? 0) * 0.7 + (top[i - DELAY - 1] ?? 0) * 0.3) + 0.002 * (random() - 0.5),
);
const voice = tone(220, 7, 0.3).map(
  (x, i) => x * Math.min(1, i / 4800, (7 * 48_000 - i) / 4800) * (0.6 + 0.4 * Math.sin(i / 20_000)),
);
const FILES: Readonly<Record<string, readonly Float32Array[]>> = {
  'Snare top.wav': [top],
  'Snare btm.wav': [bottom],
  'Vox.wav': [voice],
  'Vox quieter.wav': [voice.map((x) => -0.5 * x)],
  'Bass.wav': [
    tone(60, 7, 0.3).map((x, i) => x * Math.min(1, i / 4800, (336_000 - i) / 4800)),
    new Float32Array(336_000),
  ],
};
const known = (view: SessionView): KnownRecording[] =>
  view.recordings.map((r) => r as unknown as KnownRecording);
const openFindings = (view: SessionView) =>
  noticed(view.session, known(view), view.relations, new Set(view.dismissals.map((d) => d.key)), readNames)
    .open;
const trackOf = (view: SessionView, name: string): Track =>
  tracksInOrder(view.session).find((t) => t.receivedName === name) as Track;

it('notices microphones, twins and dead sides; remedies are heard, handed over, undone, and touch no file; putting aside lasts', async () => {
  const id = await newSession('Noticed');
  for (const [name, channels] of Object.entries(FILES)) await upload(id, name, await wavBytes(channels));
  let view = await settled(id);
  const codes = (): string[] =>
    openFindings(view)
      .map((f) => f.code)
      .sort();
  expect(codes()).toEqual(['dead-channel', 'mic-delay', 'mic-polarity', 'same-take']);
  const find = (code: string) => {
    const f = openFindings(view).find((x) => x.code === code);
    if (!f) throw new Error(code);
    return f;
  };
  const mic = find('mic-delay').files[0]!;
  expect(Math.abs(Number(mic.figures.delaySamples) - DELAY - 0.3)).toBeLessThan(1);
  expect(find('same-take').files[0]?.figures).toMatchObject({ gainDb: -6.02, polarity: 'turned over' });
  const shas = view.recordings.map((r) => r.sha256).sort();

  for (const code of ['mic-polarity', 'mic-delay', 'dead-channel']) {
    const finding = find(code);
    const done = await call(`/api/sessions/${id}/edits`, 'POST', {
      baseRevision: view.revision,
      label: code,
      edits: editsFor(
        view.session,
        finding.files.flatMap((p) => remedyEdits(view.session, finding, p)),
      ),
    });
    expect(done.status).toBe(200);
    view = await viewOf(id);
  }
  expect(codes()).toEqual(['same-take']);
  expect([
    trackOf(view, 'Snare btm.wav').inverted,
    trackOf(view, 'Snare btm.wav').startFrames,
    trackOf(view, 'Bass.wav').monoFrom,
  ]).toEqual([true, -DELAY, 'left']);
  expect(view.recordings.map((r) => r.sha256).sort()).toEqual(shas);
  // One side of a stereo file is a sound of its own for the player.
  const whole = await soundOf(`recordings/${trackOf(view, 'Bass.wav').recordingId}`, 1000, 500);
  expect(await soundOf(`recordings/${trackOf(view, 'Bass.wav').recordingId}/left`, 1000, 500)).toEqual([
    whole[0],
  ]);

  // Put aside with a note; unknown keys are refused.
  const twin = find('same-take');
  const key = findingKey(
    'same-take',
    twin.files[0]!,
    (r) => view.recordings.find((x) => x.id === r)?.sha256 ?? '',
  );
  expect(
    (
      await call(`/api/sessions/${id}/findings`, 'POST', {
        keys: [key],
        note: 'a parallel track, as intended',
      })
    ).status,
  ).toBe(200);
  expect((await call(`/api/sessions/${id}/findings`, 'POST', { keys: ['../../x'], note: '' })).status).toBe(
    400,
  );
  view = await viewOf(id);
  expect([codes(), view.dismissals]).toEqual([[], [{ key, note: 'a parallel track, as intended' }]]);

  // In the package: turned over, moved, mono, all of one length, and the package's own check agrees.
  await call(`/api/sessions/${id}/handovers`, 'POST', {});
  view = await settled(id);
  const made = view.handovers[0]!;
  expect([made.state, made.fault]).toEqual(['done', null]);
  const path = run('find', [made.folderPath as string, '-name', '*Snare*', '-o', '-name', '*Bass*'])
    .trim()
    .split('\n')
    .sort();
  const rows = fernmossJson<{ file: string; channels: number; lengthFrames: number }[]>(['inspect', ...path]);
  expect(new Set(rows.map((r) => r.lengthFrames)).size).toBe(1);
  expect(rows.every((r) => r.channels === 1)).toBe(true);
  const snares = path.filter((p) => /Snare/.test(p));
  const delivered = fernmossJson<Record<string, unknown>[]>(['inspect', '--session', ...snares]).at(-1) as {
    twins: unknown[];
  };
  expect(delivered.twins).toEqual([]);
  const relation = await import('@/engine').then(({ runTask }) =>
    runTask('relate', { paths: snares }, { threadPath: join(process.cwd(), 'dist', 'compute.mjs') }),
  );
  expect(Math.abs(relation[0]?.delaySamples ?? 99)).toBeLessThan(1);
  expect(relation[0]?.polarity).toBe(1);

  // Everything can be taken back.
  for (let i = 0; i < 3; i++) await call(`/api/sessions/${id}/undo`, 'POST');
  view = await viewOf(id);
  expect(codes()).toEqual(['dead-channel', 'mic-delay', 'mic-polarity']);
});

it('the command line says the same of the same files', async () => {
  const paths = await Promise.all(
    Object.entries(FILES).map(([name, channels]) => writeWav(join(folder, name), channels)),
  );
  const last = fernmossJson<Record<string, unknown>[]>(['inspect', '--session', ...paths]).at(-1) as {
    findings: { code: string }[];
    micRelations: { polarity: number; delaySamples: number }[];
    twins: { gainDb: number }[];
  };
  expect(last.findings.map((f) => f.code).sort()).toEqual([
    'dead-channel',
    'mic-delay',
    'mic-polarity',
    'same-take',
  ]);
  expect(last.micRelations).toMatchObject([{ polarity: -1 }]);
  expect(last.twins[0]?.gainDb).toBeCloseTo(-6.02, 2);
});

it('an instalment takes the place of a track in a sorted, mapped session: name, place and map stay, the old recording is kept, undo brings it back', async () => {
  const id = await newSession('Instalments');
  await upload(id, 'Kick_01.wav', await wavBytes([top]));
  await upload(id, 'LV_comp.wav', await wavBytes([voice]));
  let view = await settled(id);
  const singer = trackOf(view, 'LV_comp.wav');
  const map = {
    schemaVersion: 1 as const,
    points: [
      { quarters: 0, seconds: 0.5 },
      { quarters: 4, seconds: 2.5 },
    ],
    meters: [{ bar: 1, numerator: 4, denominator: 4 }],
  };
  const edits: Change[] = [
    {
      kind: 'track.change',
      id: singer.id,
      fields: { name: 'Lead Vox', family: 'lead-vocal', gainDb: -3, byHand: ['family', 'name'] },
    },
    { kind: 'map.replace', map, facts: null },
  ];
  await call(`/api/sessions/${id}/edits`, 'POST', {
    baseRevision: view.revision,
    label: 'Sorted',
    edits: editsFor(view.session, edits),
  });
  await upload(
    id,
    'LV_comp v2.wav',
    await wavBytes([voice.map((x) => 0.8 * x), voice.map((x, i) => (i > 100_000 ? 0.7 * x : 0.6 * x))]),
  );
  view = await settled(id);
  const finding = openFindings(view).find((f) => f.code === 'replaces')!;
  expect(finding.files[0]).toMatchObject({
    other: singer.recordingId,
    figures: { how: 'another version by name' },
  });
  const step = remedyEdits(view.session, finding, finding.files[0]!);
  expect(
    (
      await call(`/api/sessions/${id}/edits`, 'POST', {
        baseRevision: view.revision,
        label: 'Take its place',
        edits: editsFor(view.session, step),
      })
    ).status,
  ).toBe(200);
  view = await viewOf(id);
  const now = view.session.nodes[singer.id] as Track;
  expect(now).toMatchObject({
    name: 'Lead Vox',
    gainDb: -3,
    receivedName: 'LV_comp v2.wav',
    recordingId: finding.files[0]!.id,
  });
  expect([tracksInOrder(view.session).length, view.recordings.length, view.session.map]).toEqual([2, 3, map]);
  // A recording of another session cannot take a place here.
  const foreign = await newSession('Foreign');
  await upload(foreign, 'x.wav', await wavBytes([tone(100, 0.2)]));
  const other = (await settled(foreign)).recordings[0]!.id;
  expect(
    (
      await call(`/api/sessions/${id}/edits`, 'POST', {
        baseRevision: view.revision,
        label: 'x',
        edits: editsFor(view.session, [
          { kind: 'track.replace', id: singer.id, recordingId: other, receivedName: 'x.wav' },
        ]),
      })
    ).status,
  ).toBe(422);
  await call(`/api/sessions/${id}/undo`, 'POST');
  view = await viewOf(id);
  expect(
    tracksInOrder(view.session)
      .map((t) => t.receivedName)
      .sort(),
  ).toEqual(['Kick_01.wav', 'LV_comp v2.wav', 'LV_comp.wav']);
});

it('recognises a mix, a click and a part played again by their sound, where names say nothing; the command line too', async () => {
  const names = ['Kick.wav', 'Hats.wav', 'Bass.wav', 'Gtr.wav', 'Lead Vox.wav'];
  const band = (['drums', 'hats', 'bass', 'plucked', 'voice'] as const).map((v, i) =>
    make(v, 820 + i, 12, 0.35),
  );
  const gains = [0.7, 0.4, 0.6, 0.5, 0.8];
  const mix = (band[0] as Float32Array).map((_, n) =>
    Math.tanh(band.reduce((s, x, i) => s + (gains[i] as number) * (x[n] as number), 0)),
  );
  const click = new Float32Array(mix.length);
  for (let beat = 0; beat < 23; beat++)
    for (let i = 0; i < 960; i++)
      click[Math.round((0.25 + beat * 0.5) * 48_000) + i] =
        (beat % 4 ? 0.4 : 0.6) * Math.sin((2 * Math.PI * (beat % 4 ? 1000 : 1500) * i) / 48_000);
  const files: [string, Float32Array][] = [
    ...names.map((name, i): [string, Float32Array] => [name, band[i] as Float32Array]),
    ['Low Water.wav', mix],
    ['rec0009.wav', click],
  ];
  const id = await newSession('By sound');
  for (const [name, samples] of files) await upload(id, name, await wavBytes([samples]));
  let view = await settled(id);
  const heard = (): string[] =>
    openFindings(view)
      .filter((f) => f.code.startsWith('heard-'))
      .flatMap((f) =>
        f.files.map((p) => `${f.code} ${view.recordings.find((r) => r.id === p.id)?.receivedName}`),
      )
      .sort();
  expect(heard()).toEqual(['heard-click rec0009.wav', 'heard-mix Low Water.wav']);
  const paths = await Promise.all(files.map(([name, samples]) => writeWav(join(folder, name), [samples])));
  const rows = fernmossJson<
    { file?: string; heardAs?: unknown; findings: { code: string; files?: { file: string }[] }[] }[]
  >(['inspect', '--session', ...paths]);
  expect(
    rows
      .at(-1)
      ?.findings.filter((f) => f.code.startsWith('heard-'))
      .map((f) => `${f.code} ${f.files?.[0]?.file.split('/').at(-1)}`)
      .sort(),
  ).toEqual(heard());
  // What each sounds like: the same as in the page.
  const pageHears = (name: string) => view.recordings.find((r) => r.receivedName === name)?.heard?.as?.kind;
  expect(rows.slice(0, -1).map((r) => (r.heardAs as { kind: string } | null)?.kind)).toEqual(
    files.map(([name]) => pageHears(name)),
  );

  const edits = openFindings(view)
    .filter((f) => f.code.startsWith('heard-'))
    .flatMap((f) => f.files.flatMap((p) => remedyEdits(view.session, f, p)));
  await call(`/api/sessions/${id}/edits`, 'POST', {
    baseRevision: view.revision,
    label: 'By ear',
    edits: editsFor(view.session, [
      ...edits,
      {
        kind: 'track.change',
        id: trackOf(view, 'Bass.wav').id,
        fields: { family: 'bass', byHand: ['family'] },
      },
    ]),
  });
  // The bass once more, through something else and a second later, under a name that says nothing.
  const again = (band[2] as Float32Array).map((_, n) =>
    Math.tanh(
      1.5 * (((band[2] as Float32Array)[n - 48_000] ?? 0) + ((band[2] as Float32Array)[n - 48_001] ?? 0)),
    ),
  );
  await upload(id, 'Audio 33.wav', await wavBytes([again]));
  view = await settled(id);
  expect(heard()).toEqual([]);
  const finding = openFindings(view).find((f) => f.code === 'replaces');
  expect(finding?.files).toMatchObject([
    { other: trackOf(view, 'Bass.wav').recordingId, figures: { how: 'it plays the same', laterSeconds: 1 } },
  ]);
});

it('overheads are compared with the snare, each side: turned over, both are turned back; the command line says the same', async () => {
  const cymbals = tone(6200, 7, 0.05).map((x, i) => x * (0.5 + random()) * Math.exp(-((i % 40_000) / 9000)));
  const side = (delay: number): Float32Array =>
    top.map((_, i) => -0.4 * (top[i - delay] ?? 0) + (cymbals[i] as number) + 0.002 * (random() - 0.5));
  const overheads = [side(140), side(170)];
  const id = await newSession('Overheads');
  await upload(id, 'Snare top.wav', await wavBytes([top]));
  await upload(id, 'Overheads.wav', await wavBytes(overheads));
  let view = await settled(id);
  const facts = view.relations.farMics;
  expect(facts.map((f) => [f.channel, f.polarity, Math.round(f.delaySamples)])).toEqual([
    [0, -1, 140],
    [1, -1, 170],
  ]);
  const found = openFindings(view).find((f) => f.code === 'far-mic-polarity');
  expect(found?.files.map((f) => f.figures.delayMs)).toEqual([expect.closeTo((1000 * 155) / 48_000, 1)]);
  const edits = found?.files.flatMap((p) => remedyEdits(view.session, found, p)) ?? [];
  await call(`/api/sessions/${id}/edits`, 'POST', {
    baseRevision: view.revision,
    label: 'turned',
    edits: editsFor(view.session, edits),
    batchId: crypto.randomUUID(),
  });
  view = await viewOf(id);
  expect(trackOf(view, 'Overheads.wav').inverted).toBe(true);
  expect(openFindings(view).some((f) => f.code === 'far-mic-polarity')).toBe(false);

  const paths = await Promise.all([
    writeWav(join(folder, 'Snare top.wav'), [top]),
    writeWav(join(folder, 'Overheads.wav'), overheads),
  ]);
  const said = fernmossJson<{ findings?: { code: string }[] }[]>(['inspect', '--session', ...paths]).at(-1);
  expect(said?.findings?.map((f) => f.code)).toContain('far-mic-polarity');
});
