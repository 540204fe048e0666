import {
  applyChanges,
  type Change,
  type Clip,
  emptySession,
  isTrack,
  ROOT,
  type SessionState,
} from '../session';
import { DEFAULT_STYLE, newTrack } from '../style';
import type { Finding } from '../findings';
import type { GridStretch } from '../tempo';
import {
  checkSession,
  type CheckFacts,
  coverNote,
  type CoverNoteFacts,
  planPackage,
  type PackagePlan,
  type SessionCheck,
} from './index';

const agrees = (state: GridStretch['state'], fromBar = 1, lateSeconds = 0.004): GridStretch => ({
  fromBar,
  toBar: fromBar + 3,
  state,
  lateSeconds,
});
const CLEAN: CheckFacts = {
  failedRecordings: 0,
  arrivingRecordings: 0,
  uncompared: { count: 0, isUnderWay: false },
  grid: [agrees('agrees')],
  findings: [],
  nameOf: (id) => (id === 'r' ? 'Kick In' : id),
};
const finding = (code: Finding['code'], severity: Finding['severity']): Finding => ({
  code,
  severity,
  remedy: null,
  files: [{ id: 'r', other: null, figures: { runs: 3, longestMs: 1.2 }, places: [] }],
});

function session(edits: readonly Change[] = []): SessionState {
  const track = {
    ...newTrack('k', 'Kick <in>.wav', { dualMono: false }, DEFAULT_STYLE),
    family: 'drums',
    name: 'Kick In',
    confidence: 0.95,
  } as const;
  const made = applyChanges(emptySession('Low & Water', 'Nine', '<script>alert(1)</script>'), [
    { kind: 'session.rate', sampleRateHz: 48_000 },
    { kind: 'track.add', track, parentId: ROOT, index: 0 },
    ...edits,
  ]);
  if (!made.ok) throw new Error(made.code);
  return made.session;
}
function planOf(s: SessionState): PackagePlan {
  const planned = planPackage(
    s,
    [{ laneId: 'lane-k', channels: 1, lengthFrames: 480_000 }],
    DEFAULT_STYLE,
    'v1',
  );
  if (!planned.ok) throw new Error(planned.error.code);
  return planned.value;
}
const map = (confidence: number): Change => ({
  kind: 'map.replace',
  map: {
    schemaVersion: 1,
    points: [
      { quarters: 0, seconds: 1 },
      { quarters: 16, seconds: 9 },
    ],
    meters: [{ bar: 1, numerator: 4, denominator: 4 }],
  },
  facts: {
    steady: true,
    bpm: 120,
    foundBy: null,
    pulses: Array.from({ length: 17 }, (_, i) => ({ seconds: 1 + i / 2, confidence })),
  },
});
const state = (checks: readonly SessionCheck[], code: SessionCheck['code']): string | undefined =>
  checks.find((c) => c.code === code)?.state;

describe('checks before building', () => {
  it('all hold for a clean session', () => {
    const s = session([map(0.9)]);
    expect(checkSession(s, planOf(s), CLEAN).map((c) => c.state)).toEqual([
      'good',
      'good',
      'good',
      'good',
      'good',
      'good',
      'good',
    ]);
  });
  it('stop while something is arriving, and when there is nothing', () => {
    const s = session();
    expect(state(checkSession(s, planOf(s), { ...CLEAN, arrivingRecordings: 2 }), 'all-arrived')).toBe(
      'stop',
    );
    const none = checkSession(emptySession('x'), null, CLEAN);
    expect(none.map((c) => [c.state, c.title])).toEqual([['stop', 'Nothing to hand over yet']]);
  });
  it('ask for a look at what is doubtful, each with its figure', () => {
    const s = session([{ kind: 'track.change', id: 'k', fields: { confidence: 0.4 } }]);
    const checks = checkSession(s, planOf(s), {
      ...CLEAN,
      failedRecordings: 1,
      uncompared: { count: 3, isUnderWay: true },
      findings: [finding('clipped', 'check'), finding('reverb', 'note')],
    });
    expect(checks.filter((c) => c.state !== 'good').map((c) => [c.code, c.state, c.stage])).toEqual([
      ['all-arrived', 'look', 'intake'],
      ['tempo', 'look', 'tempo'],
      ['sorted', 'look', 'sort'],
      ['compared', 'look', 'intake'],
      ['finding', 'look', 'intake'],
      ['finding', 'note', 'intake'],
    ]);
    expect(checks.find((c) => c.title === 'Clipped')).toMatchObject({
      detail: 'Kick In: 3 places, longest 1.2 ms',
      figure: '1',
    });
    expect(checks.find((c) => c.code === 'sorted')).toMatchObject({ detail: 'Kick In', figure: '1' });
  });
  it('what is handed over as silence is said, by name', () => {
    const off: Change = { kind: 'patch', of: 'clip', id: 'clip-lane-k', fields: { off: true } };
    const s = session([off]);
    expect(checkSession(s, planOf(s), CLEAN).find((c) => c.code === 'sounds')).toMatchObject({
      state: 'look',
      title: 'A track of which nothing sounds',
      detail: expect.stringContaining('Kick In') as string,
    });
    expect(checkSession(session(), planOf(session()), CLEAN).some((c) => c.code === 'sounds')).toBe(false);
  });
  it('a person’s word settles a doubt; an uncertain grid asks for a look', () => {
    const settled = session([
      { kind: 'track.change', id: 'k', fields: { confidence: 0.4, byHand: ['family'] } },
    ]);
    expect(state(checkSession(settled, planOf(settled), CLEAN), 'sorted')).toBe('good');
    const unknown = session([
      { kind: 'track.change', id: 'k', fields: { family: 'unknown', confidence: 1, byHand: ['family'] } },
    ]);
    expect(checkSession(unknown, planOf(unknown), CLEAN).find((c) => c.code === 'sorted')).toMatchObject({
      state: 'look',
      title: 'Tracks without a family',
      figure: '1',
    });
    const unsure = session([map(0.3)]);
    expect(checkSession(unsure, planOf(unsure), CLEAN).filter((c) => c.code === 'tempo')).toMatchObject([
      { state: 'good', title: 'Grid and music agree' },
      { state: 'look', title: 'Bars nobody is sure of', detail: 'bars 3–7; listen to them with the click' },
    ]);
  });
  it('a grid beside the music does not hold, however sure somebody was of it; bars as people call them', () => {
    const s = session([map(0.99)]);
    const [check] = checkSession(s, planOf(s), {
      ...CLEAN,
      grid: [agrees('agrees'), agrees('drifts', 5, 0.093), agrees('drifts', 9, 0.02), agrees('loose', 17)],
    }).filter((c) => c.code === 'tempo');
    expect(check).toMatchObject({
      state: 'look',
      title: 'Grid and music do not agree throughout',
      detail:
        'beside the grid: bars 7–14; keeps to no pulse: bars 19–22; 93 ms after the grid at worst, in bars 7–10',
      figure: '75 % apart',
      stage: 'tempo',
    });
    expect(
      checkSession(s, planOf(s), { ...CLEAN, grid: null }).find((c) => c.code === 'tempo'),
    ).toMatchObject({ state: 'note', detail: 'not measured yet' });
  });
});

describe('the cover note', () => {
  const facts: CoverNoteFacts = {
    day: '2026-11-25',
    number: 2,
    checks: [],
    received: session(),
    worked: session(),
    recordingFrames: {},
    absent: [{ name: 'x<y.wav', reason: 'Broken & empty.' }],
    joined: [],
    converted: [{ name: 'Banjo', fromHz: 44_100 }],
    repitched: [{ name: 'Kazoo', factor: 48_000 / 44_100, semitones: 1.467 }],
    conformed: null,
    holdsPlayed: false,
    overs: {},
    takes: [],
  };
  it('tells what was done, what is doubtful and what is missing', () => {
    const s = session([map(0.9)]);
    const note = coverNote(planOf(s), s, {
      ...facts,
      checks: checkSession(s, planOf(s), {
        ...CLEAN,
        findings: [finding('clipped', 'check'), finding('reverb', 'note')],
      }),
    });
    expect(note).toContain('handover v2');
    expect(note).toContain('One tempo: 120.00 BPM.');
    expect(note).toContain(
      '<h2>What is doubtful</h2><ul><li><b>Clipped</b>: Kick In: 3 places, longest 1.2 ms',
    );
    expect(note).toContain('<h2>Good to know</h2><ul><li><b>Reverb in the sound</b>: Kick In');
    expect(note).toContain('Banjo was converted from 44.1 kHz to 48 kHz');
    expect(note).toContain('<code>x&lt;y.wav</code>: Broken &amp; empty.');
    expect(note).not.toContain('Everything received is here');
    // A rate was converted: it is not “no processing”.
    expect(note).toContain('no level was changed.');
    expect(note).toContain('was converted to the session’s rate; 1 plays at another speed and pitch');
  });
  it('counts what lies in folders and goes through buses, of the session as it was worked on', () => {
    const bus = { id: 'b', name: 'Drums', color: null, outputBusId: null };
    const s = session([
      { kind: 'bus.add', bus, index: 0 },
      {
        kind: 'folder.add',
        folder: { kind: 'folder', id: 'f', name: 'Drums', color: null, busId: 'b' },
        parentId: ROOT,
        index: 0,
      },
    ]);
    const lines = (worked: SessionState): string => coverNote(planOf(s), s, { ...facts, worked });
    // An empty folder and an unused bus are not work on the tracks.
    expect(lines(s)).not.toMatch(/folder|through 1 bus/);
    const made = applyChanges(s, [
      { kind: 'node.place', id: 'k', parentId: 'f', index: 0 },
      { kind: 'track.change', id: 'k', fields: { busId: 'b', startFrames: 480 } },
    ]);
    if (!made.ok) throw new Error(made.code);
    expect(lines(made.session)).toContain('<li>1 of 1 track lies in 1 folder</li>');
    expect(lines(made.session)).toContain('<li>1 of 1 track goes through 1 bus, empty of processing</li>');
    expect(lines(made.session)).toContain('<li>Kick In was moved by 10 ms</li>');
  });
  it('lists what was taken out of each track, and nothing else as that', () => {
    const s = session();
    const track = s.nodes.k;
    const [whole] = isTrack(track) ? track.clips : [];
    if (!isTrack(track) || !whole) throw new Error('no track');
    const cut = (clips: readonly Clip[]): string => {
      const made = applyChanges(s, [{ kind: 'track.cut', id: 'k', clips }]);
      if (!made.ok) throw new Error(made.code);
      return coverNote(planOf(made.session), made.session, {
        ...facts,
        worked: made.session,
        recordingFrames: { [track.recordingId]: 480_000 },
      });
    };
    const pieces = [
      { ...whole, id: 'a', fromFrames: 48_000, toFrames: 96_000 },
      { ...whole, id: 'b', fromFrames: 120_000, toFrames: 384_000 },
    ];
    expect(cut(pieces)).toContain('what stays is in its place: Kick In 3.5 s in 3 places</li>');
    expect(cut(pieces)).not.toContain('piece by piece');
    expect(cut([{ ...whole, fromFrames: 24_000 }])).toContain('Kick In 0.5 s in 1 place</li>');
    const louder = cut(pieces.map((c) => ({ ...c, gainDb: 3 })));
    expect(louder).toContain('Kick In 3.5 s in 3 places</li>');
    expect(louder).toContain('Written at another level than received: Kick In +3 dB</li>');
    expect(louder).not.toContain('piece by piece');
    expect(louder).toContain('1 is at another level than received');
    const whole3 = cut([{ ...whole, gainDb: -3.2 }]);
    expect(whole3).toContain('Kick In −3.2 dB</li>');
    expect(whole3).not.toMatch(/piece|taken out/);
    const uneven = cut(pieces.map((c, i) => ({ ...c, gainDb: i })));
    expect(uneven).toContain('set in level piece by piece: Kick In');
    expect(uneven).not.toContain('another level');
    const silent = cut([
      { ...whole, id: 'talk', toFrames: 48_000, off: true },
      { ...whole, id: 'b', fromFrames: 48_000 },
    ]);
    expect(silent).toContain('kept in the session: Kick In 1 s</li>');
    expect(silent).not.toMatch(/taken out|piece by piece/);
    // A split takes nothing out.
    const split = cut([
      { ...whole, id: 'a', toFrames: 96_000 },
      { ...whole, id: 'b', fromFrames: 96_000 },
    ]);
    expect(split).not.toContain('taken out');
    expect(split).toContain('piece by piece: Kick In');
    expect(cut([{ ...whole, slipFrames: 480, fromFrames: 48_000 }])).not.toContain('taken out');
  });
  it('says “nothing” only where it is so', () => {
    const s = session([map(0.9)]);
    const clean = {
      ...facts,
      absent: [],
      converted: [],
      repitched: [],
      checks: checkSession(s, planOf(s), CLEAN),
    };
    const note = coverNote(planOf(s), s, clean);
    expect(note).toContain('Everything received is here.');
    expect(note).toContain('no level was changed, no processing was applied.');
    expect(note).toContain('<h2>What is doubtful</h2><p>Nothing.</p>');
    expect(note).toContain('Nothing but the common start.');
    const turned = session([map(0.9), { kind: 'track.change', id: 'k', fields: { inverted: true } }]);
    const other = coverNote(planOf(turned), turned, { ...clean, worked: turned });
    expect(other).not.toContain('no processing was applied');
    expect(other).toContain('1 file has its polarity inverted');
    expect(other).toContain('<li>Polarity was inverted: Kick In</li>');
    const path = planOf(s).files[0]?.path ?? '';
    expect(coverNote(planOf(s), s, { ...clean, overs: { [path]: 9658 } })).toContain(
      'Samples lie above full scale in Kick In: these files are floating point',
    );
  });
  it('a tempo that moves has figures, and one the recordings do not keep to is not called kept', () => {
    const moving = session([
      {
        ...(map(0.9) as Extract<Change, { kind: 'map.replace' }>),
        map: {
          schemaVersion: 1,
          points: [
            { quarters: 0, seconds: 1 },
            { quarters: 4, seconds: 3 },
            { quarters: 8, seconds: 4.92 },
            { quarters: 12, seconds: 7 },
          ],
          meters: [{ bar: 1, numerator: 4, denominator: 4 }],
        },
        facts: null,
      },
    ]);
    const note = coverNote(planOf(moving), moving, {
      ...facts,
      checks: checkSession(moving, planOf(moving), { ...CLEAN, grid: [agrees('drifts')] }),
    });
    expect(note).toContain('The tempo moves, bar by bar between 115.4 and 125.0 BPM');
    expect(note).toContain('It is doubtful in places, see below.');
  });
  it.each([
    [{ bar: 1, numerator: 6, denominator: 8 }, 'BPM (dotted quarters)'],
    [{ bar: 1, numerator: 3, denominator: 4 }, 'BPM.'],
    [{ bar: 1, numerator: 7, denominator: 8 }, 'BPM (pulses of unequal length, their mean)'],
  ])('says what the tempo counts where a plain figure would be read otherwise: %j', (meter, unit) => {
    const { kind, map: own, facts: found } = map(0.9) as Extract<Change, { kind: 'map.replace' }>;
    if (!own) throw new Error('a map');
    const s = session([{ kind, map: { ...own, meters: [meter] }, facts: found }]);
    expect(coverNote(planOf(s), s, facts)).toContain(`One tempo: 120.00 ${unit}`);
  });
  it('lets no name or note become markup', () => {
    const s = session();
    const note = coverNote(planOf(s), s, facts);
    expect(note).not.toContain('<script>');
    expect(note).toContain('&lt;script&gt;');
    expect(note).toContain('Kick &lt;in&gt;.wav');
    expect(note).toContain('x&lt;y.wav');
    expect(note).toContain('No tempo map.');
    // Nothing is loaded from elsewhere.
    expect(note).not.toMatch(/\b(src|href)=/);
  });
});
