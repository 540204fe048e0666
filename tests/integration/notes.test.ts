import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import type { NotesView } from '@/contracts';
import { type Change, isTrack, type Track } from '@/core/session';
import { DEFAULT_STYLE, proposalEdits, proposeSort } from '@/core/style';
import { mapEdit } from '@/core/tempo';
import { run } from '../support/programs';
import { tone, wavBytes } from '../support/recordings';
import { edit, call, newSession, settled, until, upload, viewOf } from '../support/server';

// MIDI files written and read by mido, an independent library.
const folder = mkdtempSync(join(tmpdir(), 'fernmoss-notes-'));
afterAll(() => rmSync(folder, { recursive: true, force: true }));

const python = (program: string, ...args: readonly string[]): string =>
  run('/usr/bin/python3', ['-c', program, ...args]);
const WRITE = `
import sys, mido
m = mido.MidiFile(type=1, ticks_per_beat=480)
t = mido.MidiTrack(); m.tracks.append(t)
t.append(mido.MetaMessage('track_name', name='Lanterns'))
t.append(mido.MetaMessage('time_signature', numerator=3, denominator=4))
t.append(mido.MetaMessage('set_tempo', tempo=600000))
t.append(mido.MetaMessage('marker', text='Verse', time=480 * 3))
t.append(mido.MetaMessage('set_tempo', tempo=500000, time=480 * 3))
for name, channel, pitch in (('Bass', 0, 40), ('Rhodes', 1, 60)):
    t = mido.MidiTrack(); m.tracks.append(t)
    t.append(mido.MetaMessage('track_name', name=name))
    for i in range(12):
        t.append(mido.Message('note_on', channel=channel, note=pitch + i, velocity=64 + i, time=240))
        t.append(mido.Message('note_off', channel=channel, note=pitch + i, time=240))
m.save(sys.argv[1])
`;
const READ = `
import sys, json, mido
m = mido.MidiFile(sys.argv[1]); t = 0.0; out = []
for e in m:
    t += e.time
    if e.type == 'note_on' and e.velocity > 0: out.append([e.note, e.velocity, t])
print(json.dumps({'notes': out, 'names': [x.name for x in m.tracks]}))
`;
/** When note \`i\` of the file sounds: an eighth after each beat, 100 BPM and from the seventh beat on 120. */
const momentOf = (i: number): number => (i + 0.5 < 6 ? (i + 0.5) * 0.6 : 3.6 + (i + 0.5 - 6) * 0.5);

it('a MIDI file becomes rows of notes; its tempo is offered, taken over, and the notes are handed over with it', async () => {
  const path = join(folder, 'Lanterns.mid');
  python(WRITE, path);
  const id = await newSession('Notes');
  await upload(id, 'Bass DI.wav', await wavBytes([tone(80, 8)]));
  await upload(id, 'Lanterns.mid', readFileSync(path));
  const view = await settled(id);
  const rows = view.recordings.filter((r) => r.container === 'midi');
  expect(rows.map((r) => [r.receivedName, r.state, r.notes?.notes, r.sameAs])).toEqual([
    ['Lanterns.mid/Bass', 'ready', 12, null],
    ['Lanterns.mid/Rhodes', 'ready', 12, null],
  ]);
  expect(rows[0]?.metadata.tempoClaims).toEqual([{ bpm: 100, beats: null, source: 'midi' }]);
  expect(view.session.map).toBeNull();
  const notes = (await call<NotesView>(`/api/recordings/${rows[0]?.id}/notes`)).value;
  expect(notes.markers).toEqual([{ seconds: 1.8, text: 'Verse' }]);
  notes.notes.forEach((n, i) => expect(n.seconds).toBeCloseTo(momentOf(i), 6));
  const edits = async (label: string, list: readonly Change[]) =>
    expect((await edit(id, label, list)).status).toBe(200);
  await edits('Tempo map', [mapEdit(notes.map as NonNullable<NotesView['map']>, 8)]);
  await edits('Markers', [
    {
      kind: 'markers.set',
      markers: notes.markers.map((m, i) => ({ id: `m${i}`, name: m.text, seconds: m.seconds })),
    },
  ]);
  const { session } = await viewOf(id);
  expect(session.markers).toEqual([{ id: 'm0', name: 'Verse', seconds: 1.8 }]);
  expect(session.map?.meters).toEqual([{ bar: 1, numerator: 3, denominator: 4 }]);
  expect(session.mapFacts?.pulses.map((p) => p.seconds).slice(0, 8)).toEqual(
    [0, 0.6, 1.2, 1.8, 2.4, 3, 3.6, 4.1].map((s) => expect.closeTo(s, 6)),
  );
  const proposal = proposeSort(session, DEFAULT_STYLE);
  await edits(
    'Apply house style',
    proposalEdits(session, DEFAULT_STYLE, proposal, new Set(proposal.rows.map((r) => r.trackId))),
  );
  const sorted = (await viewOf(id)).session;
  const tracks: readonly Track[] = Object.values(sorted.nodes).filter(isTrack);
  expect(
    tracks
      .filter((t) => t.tiedTo !== null)
      .map((t) => [t.name, t.family, t.tiedTo])
      .sort(),
  ).toEqual([
    ['Bass Notes', 'bass', 'time'],
    ['Electric Piano Notes', 'keys', 'time'],
  ]);

  // One of the two keeps its bars instead.
  const bass = tracks.find((t) => t.name === 'Bass Notes') as Track;
  await edits('Tie', [{ kind: 'track.change', id: bass.id, fields: { tiedTo: 'bars' } }]);
  await call(`/api/sessions/${id}/handovers`, 'POST', { contents: 'played' });
  const made = await until(
    async () => (await viewOf(id)).handovers.find((h) => h.state !== 'building'),
    'a package',
  );
  expect(made.fault).toBeNull();
  expect(
    (made.report as { checks: { code: string; pass: boolean; figure: string }[] }).checks.find(
      (c) => c.code === 'notes',
    ),
  ).toMatchObject({ pass: true, figure: '24 notes' });
  for (const [file, name] of [
    ['BassNotes.mid', 'Bass Notes'],
    ['Keys_ElectricPianoNotes.mid', 'Electric Piano Notes'],
  ] as const) {
    const timing = JSON.parse(
      readFileSync(join(made.folderPath ?? '', 'data/session/timing.json'), 'utf8'),
    ) as { padFrames: number; sampleRateHz: number };
    const read = JSON.parse(python(READ, join(made.folderPath ?? '', 'data/notes', file))) as {
      notes: [number, number, number][];
      names: string[];
    };
    expect(read.names[1]).toBe(name);
    expect(read.notes.map(([, velocity]) => velocity)).toEqual(Array.from({ length: 12 }, (_, i) => 64 + i));
    // Map and file agree here, so bars and moments are the same; a tick at 100 BPM is 0.6 ms.
    read.notes.forEach(([, , at], i) =>
      expect(Math.abs(at - momentOf(i) - timing.padFrames / timing.sampleRateHz)).toBeLessThan(0.0004),
    );
  }
  // The marker lies where the file had it, by the independent reader too; the notes stand in the project file as well.
  const timing = JSON.parse(
    readFileSync(join(made.folderPath ?? '', 'data/session/timing.json'), 'utf8'),
  ) as { padFrames: number; sampleRateHz: number };
  const verse = JSON.parse(
    python(
      "import sys, json, mido\nt = 0\nfor m in mido.MidiFile(sys.argv[1]):\n  t += m.time\n  if m.type == 'marker' and m.text == 'Verse': print(json.dumps(t))",
      join(made.folderPath ?? '', 'data/session/tempo-and-markers.mid'),
    ),
  ) as number;
  expect(Math.abs(verse - 1.8 - timing.padFrames / timing.sampleRateHz)).toBeLessThan(0.0004);
  const xml = python(
    "import sys, zipfile\nprint(zipfile.ZipFile(sys.argv[1]).read('project.xml').decode())",
    join(made.folderPath ?? '', 'data/session/session.dawproject'),
  );
  writeFileSync(join(folder, 'project.xml'), xml.trim());
  run('xmllint', [
    '--noout',
    '--schema',
    join(process.cwd(), 'docs/project-subset.xsd'),
    join(folder, 'project.xml'),
  ]);
  expect([xml.match(/<Note /g)?.length, xml.match(/contentType="notes"/g)?.length]).toEqual([24, 2]);
  expect(readFileSync(join(made.folderPath ?? '', 'data/session/tracks.csv'), 'utf8')).toContain(
    'data/notes/Keys_ElectricPianoNotes.mid',
  );
}, 90_000);

it('a file with tempo alone is kept and offered; a broken one is refused in words', async () => {
  const path = join(folder, 'tempo.mid');
  python(
    "import sys, mido\nm = mido.MidiFile(); t = mido.MidiTrack(); m.tracks.append(t); t.append(mido.MetaMessage('set_tempo', tempo=480000)); m.save(sys.argv[1])",
    path,
  );
  const id = await newSession('Tempo only');
  await upload(id, 'tempo.mid', readFileSync(path));
  await upload(id, 'broken.mid', readFileSync(path).subarray(0, 25));
  const { recordings, session } = await settled(id);
  expect(Object.keys(session.nodes)).toEqual([]);
  const whole = recordings.find((r) => r.receivedName === 'tempo.mid');
  expect([whole?.state, whole?.notes]).toEqual(['ready', null]);
  expect((await call<NotesView>(`/api/recordings/${whole?.id}/notes`)).value).toMatchObject({
    notes: [],
    tempoChanges: 1,
  });
  expect(recordings.find((r) => r.receivedName === 'broken.mid')?.fault).toMatchObject({
    code: 'midi.broken',
  });
});
