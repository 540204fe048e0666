import { applyEdits, emptySession, ROOT, type Edit, type SessionState } from '../session';
import { DEFAULT_STYLE, newTrack } from '../style';
import { checkSession, coverNote, planPackage, type PackagePlan, type SessionCheck } from './index';

const CLEAN = { failedRecordings: 0, arrivingRecordings: 0, clippedTracks: [], duplicateTracks: [] } as const;

function session(edits: readonly Edit[] = []): SessionState {
  const track = {
    ...newTrack('k', 'Kick <in>.wav', { dualMono: false }, DEFAULT_STYLE),
    family: 'drums',
    name: 'Kick In',
    confidence: 0.95,
  } as const;
  const made = applyEdits(emptySession('Low & Water', 'Nine', '<script>alert(1)</script>'), [
    { kind: 'session.rate', sampleRateHz: 48_000 },
    { kind: 'track.add', track, parentId: ROOT, index: 0 },
    ...edits,
  ]);
  if (!made.ok) throw new Error(made.code);
  return made.session;
}
function planOf(s: SessionState): PackagePlan {
  const planned = planPackage(s, [{ trackId: 'k', channels: 1, lengthFrames: 480_000 }], DEFAULT_STYLE, 'v1');
  if (!planned.ok) throw new Error(planned.error.code);
  return planned.value;
}
const map = (confidence: number): Edit => ({
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
      failedRecordings: 1,
      arrivingRecordings: 0,
      clippedTracks: ['Kick In'],
      duplicateTracks: ['Kick In'],
    });
    expect(
      ['all-arrived', 'tempo', 'sorted', 'levels', 'duplicates'].map((code) =>
        state(checks, code as SessionCheck['code']),
      ),
    ).toEqual(['look', 'look', 'look', 'look', 'look']);
    expect(checks.find((c) => c.code === 'sorted')).toMatchObject({ detail: 'Kick In', figure: '1' });
  });
  it('a person’s word settles a doubt; an uncertain grid asks for a look', () => {
    const settled = session([
      { kind: 'track.change', id: 'k', fields: { confidence: 0.4, byHand: ['family'] } },
    ]);
    expect(state(checkSession(settled, planOf(settled), CLEAN), 'sorted')).toBe('good');
    const unsure = session([map(0.3)]);
    expect(state(checkSession(unsure, planOf(unsure), CLEAN), 'tempo')).toBe('look');
  });
});

describe('the cover note', () => {
  const facts = {
    day: '2026-11-25',
    number: 2,
    checks: [],
    history: ['Rename <b>'],
    refused: [{ name: 'x<y.wav', reason: 'Broken & empty.' }],
    converted: [{ name: 'Banjo', fromHz: 44_100 }],
    repitched: [{ name: 'Kazoo', factor: 48_000 / 44_100, semitones: 1.467 }],
    conformed: null,
    holdsPlayed: false,
  };
  it('tells what was done, what is doubtful and what is missing', () => {
    const s = session([map(0.9)]);
    const note = coverNote(planOf(s), s, {
      ...facts,
      checks: checkSession(s, planOf(s), { ...CLEAN, clippedTracks: ['Kick In'] }),
    });
    expect(note).toContain('handover v2');
    expect(note).toContain('Steady at 120.00 pulses a minute');
    expect(note).toContain('<b>Clipped recordings</b>: Kick In');
    expect(note).toContain('Banjo was converted from 44.1 kHz to 48 kHz');
    expect(note).toContain('Broken &amp; empty.');
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
  it('says so when all is well', () => {
    const s = session([map(0.9)]);
    const note = coverNote(planOf(s), s, {
      ...facts,
      history: [],
      refused: [],
      converted: [],
      repitched: [],
    });
    expect(note).toContain('Everything received is here.');
    expect(note).toContain('Nothing but the common start.');
  });
});
