import { mkdtempSync, readdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import type { AuditionView, HandoverView, PackageContents, PlayedHits, SessionView } from '@/contracts';
import {
  type Change,
  type ConformSettings,
  firstLaneId,
  isUncut,
  type Lane,
  lanesOf,
  type Track,
  wholeClip,
} from '@/core/session';
import { createSongMap, songMapToFile, songMapToMidi, writeMidi } from '@/core/time';
import { applyToSession } from '@/server/services';
import { fernmoss, fernmossJson, run } from '../support/programs';
import { impulses, tone, wavBytes, writeWav } from '../support/recordings';
import {
  edit as editOf,
  BASE,
  call,
  killAndWait,
  newSession,
  settled,
  soundOf,
  until,
  upload,
  viewOf,
} from '../support/server';

const RATE = 48_000;
const BPM = 112;
const SECONDS = 26;
/** Pulses of players who wander by four per cent. */
const BEATS: number[] = [];
for (let t = 2, b = 0; b < 40; b++) {
  BEATS.push(t);
  t += (60 / BPM) * (1 + 0.04 * Math.sin(b / 6));
}
const MAP = createSongMap(
  BEATS.map((seconds, quarters) => ({ quarters, seconds })),
  [{ bar: 1, numerator: 4, denominator: 4 }],
);
const target = (bpm: number): number[] => BEATS.map((_, b) => (BEATS[0] as number) + (60 * b) / bpm);

/** Greatest distance of the loudest frame near each moment from that moment, ms. */
function worst(samples: Float32Array, moments: readonly number[]): number {
  let out = 0;
  for (const t of moments) {
    const centre = Math.round(t * RATE);
    let best = centre;
    for (let i = centre - 900; i <= centre + 900; i++)
      if (Math.abs(samples[i] ?? 0) > Math.abs(samples[best] ?? 0)) best = i;
    out = Math.max(out, Math.abs(best / RATE - t) * 1000);
  }
  return out;
}

/** Samples as ffmpeg reads them, first channel. */
function decoded(path: string): Float32Array {
  const raw = join(folder, 'decoded.f32');
  run('ffmpeg', ['-v', 'error', '-y', '-i', path, '-f', 'f32le', '-af', 'pan=mono|c0=c0', raw]);
  const bytes = readFileSync(raw);
  return new Float32Array(bytes.buffer.slice(bytes.byteOffset, bytes.byteOffset + bytes.length));
}

const folder = mkdtempSync(join(tmpdir(), 'fernmoss-conform-'));
afterAll(() => rmSync(folder, { recursive: true, force: true }));

describe('in a session', () => {
  let id: string;
  const edit = async (label: string, changes: readonly Change[]): Promise<void> => {
    const { status, value } = await editOf(id, label, changes);
    if (status !== 200) throw new Error(JSON.stringify(value));
  };
  const settings = (more: Partial<ConformSettings> = {}): Change => ({
    kind: 'conform.set',
    conform: { bpm: BPM, treatments: {}, heard: 'played', ...more },
  });
  const trackOf = (view: SessionView, name: string): string =>
    Object.values(view.session.nodes).find((n) => n.kind === 'track' && n.receivedName === name)?.id ?? '';
  const sound = async (key: string): Promise<Float32Array> =>
    (await soundOf(`conformed/${key}`, 0, 1 << 20))[0] as Float32Array;
  /** A package, once it is built. */
  const handedOver = async (contents: PackageContents): Promise<HandoverView> => {
    const { value } = await call<{ id: string }>(`/api/sessions/${id}/handovers`, 'POST', { contents });
    const done = await until(async () => {
      const h = (await viewOf(id)).handovers.find((x) => x.id === value.id);
      return h && h.state !== 'building' && h;
    }, 'the package');
    expect([done.state, done.fault]).toEqual(['done', null]);
    return done;
  };
  /** A sound of a package by a word of its name, and the silence before all. */
  const soundIn = (root: string, word: string, base = 'data') => {
    const { padFrames } = JSON.parse(readFileSync(join(root, base, 'session/timing.json'), 'utf8')) as {
      padFrames: number;
    };
    const name = readdirSync(join(root, base, 'audio')).find((f) => f.includes(word)) ?? '';
    return { padSeconds: padFrames / RATE, samples: decoded(join(root, base, 'audio', name)) };
  };
  const conformed = (): Promise<SessionView> =>
    until(async () => {
      const v = await settled(id);
      return v.conform && v.conform.ready.length === v.conform.wanted && v;
    }, 'all conformed');

  beforeAll(async () => {
    id = await newSession('Wandering');
    for (const name of ['Kick.wav', 'Snare.wav', 'Bass DI.wav', 'LV.wav'])
      await upload(id, name, await wavBytes([impulses(BEATS, SECONDS)]));
    await upload(id, 'Room.wav', await wavBytes([tone(300, SECONDS, 0.1), tone(301, SECONDS, 0.1)]));
    // Nothing is rendered of notes: all is conformed without them.
    await upload(
      id,
      'Keys.mid',
      Buffer.from(
        writeMidi({
          name: 'Keys',
          ppq: 960,
          anchors: [
            { quarters: 0, seconds: 0 },
            { quarters: 8, seconds: 4 },
          ],
          meters: [],
          markers: [],
          tracks: [
            {
              name: 'Keys',
              events: [
                { tick: 0, status: 0x90, meta: null, body: Uint8Array.of(60, 90) },
                { tick: 480, status: 0x80, meta: null, body: Uint8Array.of(60, 0) },
              ],
            },
          ],
        }),
      ),
    );
    const view = await settled(id);
    const families = {
      'Kick.wav': ['drums', 'kick'],
      'Snare.wav': ['drums', 'snare'],
      'Bass DI.wav': ['bass', 'electric-bass'],
      'LV.wav': ['lead-vocal', 'vocal'],
      'Room.wav': ['drums', 'room'],
    } as const;
    await edit(
      'Families',
      Object.entries(families).map(([name, [family, part]]) => ({
        kind: 'track.change',
        id: trackOf(view, name),
        fields: { family, part },
      })),
    );
  });

  it('without a map there is nothing to hear', async () => {
    const view = await viewOf(id);
    const asked = {
      bpm: BPM,
      treatments: {},
      fromSeconds: 0,
      toSeconds: 4,
      trackIds: [trackOf(view, 'Kick.wav')],
    };
    expect(
      (await call<{ fault: { code: string } }>(`/api/sessions/${id}/audition`, 'POST', asked)).value.fault
        .code,
    ).toBe('tempo.no_map');
    expect((await call(`/api/sessions/${id}/audition`, 'POST', { ...asked, trackIds: [] })).status).toBe(400);
    expect((await call(`/api/sessions/${id}/audition`, 'POST', { ...asked, toSeconds: -1 })).status).toBe(
      400,
    );
    expect((await call(`/api/sessions/${id}/audition`, 'POST', { ...asked, bpm: 'fast' })).status).toBe(400);
    expect((await call('/api/auditions/00000000-0000-4000-8000-000000000000')).status).toBe(404);
    expect(
      (await call('/api/sound', 'POST', { pieces: [{ sound: 'conformed/../../etc', from: 0, count: 10 }] }))
        .status,
    ).toBe(400);
  });

  it('a few bars can be heard before anything is decided', async () => {
    await edit('Use a map', [
      {
        kind: 'map.replace',
        map: songMapToFile(MAP),
        facts: {
          steady: false,
          bpm: null,
          foundBy: null,
          pulses: BEATS.map((seconds) => ({ seconds, confidence: 1 })),
        },
      },
    ]);
    const view = await viewOf(id);
    const trackIds = [trackOf(view, 'Kick.wav'), trackOf(view, 'LV.wav')];
    const { value } = await call<{ jobId: string }>(`/api/sessions/${id}/audition`, 'POST', {
      bpm: BPM,
      treatments: {},
      fromSeconds: 6,
      toSeconds: 14,
      trackIds,
    });
    const heard = await until(async () => {
      const a = (await call<AuditionView>(`/api/auditions/${value.jobId}`)).value;
      return a.state === 'done' && a;
    }, 'the audition');
    expect([heard.startFrames, heard.tracks.map((t) => t.lengthFrames)]).toEqual([
      6 * RATE,
      [8 * RATE, 8 * RATE],
    ]);
    const inside = target(BPM)
      .filter((t) => t > 6.1 && t < 13.9)
      .map((t) => t - 6);
    for (const [i, limit] of [
      [0, 0.1],
      [1, 1],
    ] as const)
      expect(
        worst(await sound(heard.tracks.find((t) => t.trackId === trackIds[i])?.key ?? ''), inside),
      ).toBeLessThanOrEqual(limit);
    expect((await viewOf(id)).conform).toBeNull();
    expect(await soundOf(`conformed/${'f'.repeat(64)}`, 0, 10)).toEqual([]);
  });

  it('accepting it renders every track; each beat is where the map says; a worker killed meanwhile costs nothing', async () => {
    expect(
      (
        await call<{ fault: { code: string } }>(`/api/sessions/${id}/handovers`, 'POST', {
          contents: 'conformed',
        })
      ).value.fault.code,
    ).toBe('conform.not_ready');
    await edit('Conform', [settings()]);
    await killAndWait('worker.mjs');
    const view = await conformed();
    for (const [name, limit] of [
      ['Kick.wav', 0.1],
      ['Snare.wav', 0.1],
      ['Bass DI.wav', 1],
      ['LV.wav', 1],
    ] as const) {
      const ready = view.conform?.ready.find((r) => r.trackId === trackOf(view, name));
      const samples = await sound(ready?.key ?? '');
      expect([
        name,
        worst(
          samples.subarray(0, ready?.lengthFrames),
          target(BPM).filter((t) => t < 21),
        ) <= limit,
      ]).toEqual([name, true]);
    }
  });

  it('taking it back and doing it again costs nothing: results are named by their content', async () => {
    const before = (await viewOf(id)).conform?.ready.map((r) => r.key);
    const jobs = (await viewOf(id)).jobs.filter((j) => j.kind === 'conform.render').length;
    await call(`/api/sessions/${id}/undo`, 'POST');
    expect((await viewOf(id)).conform).toBeNull();
    await call(`/api/sessions/${id}/redo`, 'POST');
    const again = await viewOf(id);
    expect(again.conform?.ready.map((r) => r.key)).toEqual(before);
    expect(again.jobs.filter((j) => j.kind === 'conform.render')).toHaveLength(jobs);
  });

  it('another way for one track renders that track alone; tied to time leaves it as it was', async () => {
    const before = await viewOf(id);
    const voice = trackOf(before, 'LV.wav');
    await edit('Tie to time', [settings({ treatments: { [voice]: { method: 'still', block: 'middle' } } })]);
    const after = await conformed();
    const changed = after.conform?.ready
      .filter((r) => !before.conform?.ready.some((b) => b.key === r.key))
      .map((r) => r.trackId);
    expect(changed).toEqual([voice]);
    expect(
      worst(
        await sound(after.conform?.ready.find((r) => r.trackId === voice)?.key ?? ''),
        BEATS.filter((t) => t < 21),
      ),
    ).toBeLessThanOrEqual(0.02);
  });

  it('the package holds what was asked for: conformed with its own steady map, what was played, or both', async () => {
    await edit('All by family', [settings({ heard: 'conformed' })]);
    await conformed();
    for (const contents of ['conformed', 'played', 'both'] as const) {
      const done = await handedOver(contents);
      expect((done.report as { conformedTo: number | null }).conformedTo).toBe(
        contents === 'played' ? null : BPM,
      );
      const root = done.folderPath ?? '';
      expect(fernmoss(['verify', root]).status).toBe(0);
      for (const [base, beats] of [
        ['data', contents === 'played' ? BEATS : target(BPM)],
        ...(contents === 'both' ? [['data/as-played', BEATS] as const] : []),
      ] as const) {
        const { samples, padSeconds } = soundIn(root, 'Kick', base);
        expect(
          worst(
            samples,
            beats.map((t) => t + padSeconds),
          ),
        ).toBeLessThanOrEqual(0.1);
      }
      if (contents === 'both')
        expect(
          (done.report as { checks: { title: string }[] }).checks.filter((c) =>
            c.title.endsWith('(as played)'),
          ),
        ).toHaveLength(5);
      expect(
        readFileSync(join(root, 'data/session/cover-note.html'), 'utf8').includes(`conformed to ${BPM} BPM`),
      ).toBe(contents !== 'played');
    }
  });

  it('what was cut follows the music: pulses that were taken out are out, the others where the map says', async () => {
    const view = await viewOf(id);
    const kick = trackOf(view, 'Kick.wav');
    const between = (beat: number): number =>
      Math.round((((BEATS[beat - 1] as number) + (BEATS[beat] as number)) / 2) * RATE);
    const renders = view.jobs.filter((j) => j.kind === 'conform.render').length;
    const whole = wholeClip(firstLaneId(kick))[0];
    await edit('Cut', [
      {
        kind: 'patch',
        of: 'clip',
        id: whole.id,
        fields: { toFrames: between(8), fadeOutFrames: 480, gainDb: -6 },
      },
      {
        kind: 'put',
        of: 'clip',
        record: { ...whole, id: 'later', fromFrames: between(12), fadeInFrames: 480 },
      },
    ]);
    const played = (await viewOf(id)).session;
    const hits = (await call<PlayedHits[]>(`/api/sessions/${id}/hits`)).value;
    const struck = hits.find((h) => h.trackId === kick)?.seconds ?? [];
    const near = (t: number): boolean => struck.some((s) => Math.abs(s - t) < 0.02);
    expect(BEATS.slice(9, 11).some(near)).toBe(false);
    expect([...BEATS.slice(1, 7), ...BEATS.slice(13, 20)].every(near)).toBe(true);
    for (const contents of ['conformed', 'played'] as const) {
      const done = await handedOver(contents);
      const root = done.folderPath ?? '';
      const { samples, padSeconds } = soundIn(root, 'Kick');
      const beats = (contents === 'played' ? BEATS : target(BPM)).map((t) => t + padSeconds);
      const loudest = (t: number): number =>
        samples
          .subarray(Math.round((t - 0.01) * RATE), Math.round((t + 0.01) * RATE))
          .reduce((m, x) => Math.max(m, Math.abs(x)), 0);
      const kept = [...beats.slice(0, 8), ...beats.slice(12)];
      expect([contents, worst(samples, kept) <= 0.1]).toEqual([contents, true]);
      expect(beats.slice(8, 12).map(loudest)).toEqual([0, 0, 0, 0]);
      expect(loudest(beats[3] as number) / loudest(beats[20] as number)).toBeCloseTo(10 ** (-6 / 20), 2);
      expect(readFileSync(join(root, 'data/session/cover-note.html'), 'utf8')).toContain(
        'piece by piece: Kick',
      );
      if (contents === 'conformed') expect((played.nodes[kick] as Track).clips).toHaveLength(2);
    }
    // The recordings are the same: nothing is rendered anew for a cut.
    expect((await viewOf(id)).jobs.filter((j) => j.kind === 'conform.render')).toHaveLength(renders);
    await call(`/api/sessions/${id}/undo`, 'POST');
    expect(isUncut((await viewOf(id)).session.nodes[kick] as Track)).toBe(true);
  }, 120_000);

  it('a track of two takes is conformed take by take, and handed over as it is put together', async () => {
    const view = await viewOf(id);
    const [bass, voice] = [
      trackOf(view, 'Bass DI.wav'),
      view.session.nodes[trackOf(view, 'LV.wav')] as Track,
    ];
    const middle = Math.round(((BEATS[15] as number) + (BEATS[16] as number)) * RATE) / 2;
    const whole = wholeClip(firstLaneId(bass))[0];
    const lane = lanesOf(view.session.nodes[bass] as Track)[0] as Lane;
    // No page makes takes yet: the step is made as a service makes it.
    await applyToSession(
      id,
      [
        {
          kind: 'put',
          of: 'lane',
          record: { ...lane, id: 'take-2', trackId: bass, takeNumber: 2, recordingId: voice.recordingId },
        },
        { kind: 'patch', of: 'clip', id: whole.id, fields: { toFrames: middle } },
        { kind: 'put', of: 'clip', record: { ...whole, id: 'second', laneId: 'take-2', fromFrames: middle } },
      ],
      { label: 'Two takes', author: 'person' },
    );
    const made = await conformed();
    const own = made.conform?.ready.filter((r) => r.trackId === bass) ?? [];
    expect(own.map((r) => r.laneId).sort()).toEqual([firstLaneId(bass), 'take-2']);
    const done = await handedOver('conformed');
    const { samples, padSeconds } = soundIn(done.folderPath ?? '', 'Bass');
    expect(
      worst(
        samples,
        target(BPM).map((t) => t + padSeconds),
      ),
    ).toBeLessThanOrEqual(1);
    await call(`/api/sessions/${id}/undo`, 'POST');
    expect(((await viewOf(id)).session.nodes[bass] as Track).otherLanes).toEqual([]);
    await conformed();
  }, 120_000);

  it('the click as a file is at what is heard, its guide too', async () => {
    const kick = trackOf(await viewOf(id), 'Kick.wav');
    const file = async (
      guide: string,
    ): Promise<{ readonly name: string; readonly samples: Float32Array }> => {
      const response = await fetch(
        `${BASE}/api/sessions/${id}/click?${new URLSearchParams({ sound: 'wood', parts: '1', bars: '0', level: '0', guide }).toString()}`,
      );
      const path = join(folder, 'click.wav');
      writeFileSync(path, Buffer.from(await response.arrayBuffer()));
      return {
        name: /filename="([^"]+)"/.exec(response.headers.get('content-disposition') ?? '')?.[1] ?? '',
        samples: decoded(path),
      };
    };
    for (const [heard, beats, name] of [
      ['conformed', target(BPM), 'Wandering_Click_conformed.wav'],
      ['played', BEATS, 'Wandering_Click.wav'],
    ] as const) {
      await edit('Listen', [settings({ heard })]);
      await conformed();
      const click = await file('none');
      expect(click.name).toBe(name);
      const loudest = (from: number, to: number): number =>
        click.samples
          .subarray(Math.round(from * RATE), Math.round(to * RATE))
          .reduce((m, x) => Math.max(m, Math.abs(x)), 0);
      for (const t of beats.filter((x) => x < SECONDS - 1))
        expect([loudest(t - 0.01, t - 0.001), loudest(t, t + 0.004)]).toEqual([
          expect.closeTo(0, 3),
          expect.closeTo(0.5, 0),
        ]);
      expect(
        worst(
          (await file(kick)).samples,
          beats.filter((x) => x < SECONDS - 1),
        ),
      ).toBeLessThanOrEqual(0.1);
    }
  });
});

describe('from the command line', () => {
  const song = join(folder, 'song');
  const names = ['Kick.wav', 'Snare Top.wav', 'Bass DI.wav', 'LV.wav', 'Shaker.wav'];
  beforeAll(async () => {
    run('mkdir', ['-p', song]);
    for (const name of names) await writeWav(join(song, name), [impulses(BEATS, SECONDS)]);
    writeFileSync(join(folder, 'map.json'), JSON.stringify(songMapToFile(MAP)));
    writeFileSync(join(folder, 'map.mid'), songMapToMidi(MAP, BEATS.at(-1) as number));
    writeFileSync(
      join(folder, 'to.json'),
      JSON.stringify({
        schemaVersion: 1,
        points: [
          { quarters: 0, seconds: 1.5 },
          { quarters: 8, seconds: 1.5 + (8 * 60) / 108 },
        ],
        meters: [{ bar: 1, numerator: 4, denominator: 4 }],
      }),
    );
  });

  interface Report {
    readonly cutSeconds: number;
    readonly files: readonly {
      readonly file: string;
      readonly out: string;
      readonly method: string;
      readonly group: string;
      readonly plannedFrames: number;
      readonly writtenFrames: number;
      readonly ratioMin: number;
      readonly ratioMax: number;
    }[];
  }

  it.each([
    ['JSON map to a tempo', 'map.json', String(BPM), target(BPM)],
    ['MIDI map to a tempo', 'map.mid', String(BPM), target(BPM)],
    ['JSON map to a JSON map', 'map.json', 'to.json', BEATS.map((_, b) => 1.5 + (60 * b) / 108)],
  ])(
    '%s: impulses at the beats, drums to 0.1 ms, others to 1 ms; lengths as planned',
    (_what, from, to, beats) => {
      const out = join(folder, `out-${from}-${to}`);
      const report = fernmossJson<Report>([
        'conform',
        song,
        '--from',
        join(folder, from),
        '--to',
        to.endsWith('.json') ? join(folder, to) : to,
        '--out',
        out,
      ]);
      expect(JSON.parse(readFileSync(join(out, 'report.json'), 'utf8'))).toEqual(report);
      for (const f of report.files) {
        const samples = decoded(join(out, f.out));
        expect([f.out, samples.length, f.writtenFrames]).toEqual([f.out, f.plannedFrames, f.plannedFrames]);
        const error = worst(samples, beats);
        expect([f.out, error <= (f.method === 'slices' ? 0.1 : 1) ? 'in time' : error]).toEqual([
          f.out,
          'in time',
        ]);
      }
      expect(report.files.filter((f) => f.group === 'kit').map((f) => f.out)).toEqual([
        'Kick.wav',
        'Snare Top.wav',
      ]);
    },
  );

  it('the same input gives the same bytes; the same map changes nothing', () => {
    const [a, b] = [join(folder, 'same-a'), join(folder, 'same-b')];
    for (const out of [a, b])
      expect(
        fernmoss(['conform', song, '--from', join(folder, 'map.json'), '--to', '110', '--out', out]).status,
      ).toBe(0);
    for (const name of names)
      expect(readFileSync(join(a, name)).equals(readFileSync(join(b, name)))).toBe(true);
    const copy = join(folder, 'copy');
    expect(
      fernmoss([
        'conform',
        song,
        '--from',
        join(folder, 'map.json'),
        '--to',
        join(folder, 'map.json'),
        '--out',
        copy,
      ]).status,
    ).toBe(0);
    for (const name of names) expect(decoded(join(copy, name))).toEqual(decoded(join(song, name)));
  });

  it('wrong calls are refused in words, with nothing written', () => {
    const refused = (args: readonly string[]): string => {
      const { status, err } = fernmoss(['conform', ...args]);
      expect(status).toBe(2);
      return err;
    };
    const out = join(folder, 'never');
    expect(refused([song, '--to', '100', '--out', out])).toContain('--from');
    expect(refused([song, '--from', join(folder, 'map.json'), '--to', '4', '--out', out])).toContain(
      'no tempo between',
    );
    expect(refused([song, '--from', join(song, 'Kick.wav'), '--to', '100', '--out', out])).toContain(
      'no tempo map',
    );
    expect(refused([song, '--from', join(folder, 'nothing.json'), '--to', '100', '--out', out])).toContain(
      'cannot read',
    );
    expect(
      refused([song, '--from', join(folder, 'map.json'), '--to', '100', '--out', join(folder, 'copy')]),
    ).toContain('there already');
    expect(() => readdirSync(out)).toThrow('ENOENT');
  });
});
