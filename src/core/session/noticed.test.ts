import { plainTrack } from '../../../tests/support/random-edits';
import { completeFacts } from '../analysis';
import { NO_METADATA } from '../audio';
import { NO_RELATIONS, type Relations } from '../findings';
import { readNames } from '../naming';
import {
  applyChanges,
  type Change,
  emptySession,
  type KnownRecording,
  noticed,
  remedyEdits,
  ROOT,
  type SessionState,
  type Track,
} from './index';

const facts = completeFacts({
  peakDbfs: -8,
  rmsDbfs: -20,
  integratedLufs: -24,
  dcOffset: 0,
  clippedRuns: 0,
  firstSoundSeconds: 1,
  lastSoundSeconds: 60,
  dualMono: false,
});
const recording = (
  id: string,
  receivedName: string,
  change: Partial<KnownRecording> = {},
): KnownRecording => ({
  id,
  receivedName,
  sha256: `${id}z`.padEnd(64, '0'),
  sampleRateHz: 48_000,
  channels: 1,
  bitDepth: 24,
  encoding: 's24',
  lengthFrames: 480_000,
  lossy: false,
  metadata: NO_METADATA,
  warnings: [],
  facts,
  truePeakDbtp: null,
  heard: null,
  ...change,
});
const track = (id: string, receivedName: string): Track => ({
  ...plainTrack(`t-${id}`),
  recordingId: id,
  receivedName,
  name: receivedName,
});
const apply = (s: SessionState, edits: readonly Change[]): SessionState => {
  const done = applyChanges(s, edits);
  if (!done.ok) throw new Error(done.code);
  return done.session;
};
const sessionOf = (list: readonly KnownRecording[], rate = 48_000): SessionState =>
  apply(
    { ...emptySession('Low Water'), sampleRateHz: rate },
    list.map((r, index) => ({
      kind: 'track.add',
      track: track(r.id, r.receivedName),
      parentId: ROOT,
      index,
    })),
  );

/** Applies the one remedy offered, and gives the state after it; the finding must be gone then, and back after an undo. */
function remedied(
  list: readonly KnownRecording[],
  relations: Relations,
  code: string,
  rate = 48_000,
): SessionState {
  const before = sessionOf(list, rate);
  const open = noticed(before, list, relations, new Set(), readNames).open;
  const finding = open.find((f) => f.code === code);
  if (!finding) throw new Error(`not found: ${open.map((f) => f.code).join()}`);
  const done = applyChanges(
    before,
    finding.files.flatMap((p) => remedyEdits(before, finding, p)),
  );
  if (!done.ok) throw new Error(done.code);
  expect(noticed(done.session, list, relations, new Set(), readNames).open.map((f) => f.code)).not.toContain(
    code,
  );
  expect(
    noticed(apply(done.session, done.inverse), list, relations, new Set(), readNames).open.map((f) => f.code),
  ).toContain(code);
  return done.session;
}
const at = (s: SessionState, id: string): Track => s.nodes[`t-${id}`] as Track;
const mic = {
  leader: 'a',
  other: 'b',
  delaySamples: 44.1,
  polarity: -1,
  correlation: -0.8,
  confidence: 0.9,
} as const;

it('turns polarity over against the leader, and back when the leader is turned', () => {
  const list = [recording('a', 'Sn top.wav'), recording('b', 'Sn btm.wav')];
  expect(at(remedied(list, { ...NO_RELATIONS, mics: [mic] }, 'mic-polarity'), 'b')).toMatchObject({
    inverted: true,
    byHand: ['inverted'],
  });
});
it('shifts by whole frames of the session, whatever the rate of the recording', () => {
  const list = [
    recording('a', 'Kick in.wav', { sampleRateHz: 44_100 }),
    recording('b', 'Kick out.wav', { sampleRateHz: 44_100 }),
  ];
  expect(
    at(remedied(list, { ...NO_RELATIONS, mics: [{ ...mic, polarity: 1 }] }, 'mic-delay'), 'b').startFrames,
  ).toBe(-48);
});
it('pans a pair, makes mono, takes the living side, takes out, places by stamp', () => {
  const pair = remedied(
    [recording('a', 'Keys L.wav'), recording('b', 'Keys R.wav')],
    { ...NO_RELATIONS, pairs: [{ left: 'a', right: 'b', correlation: 0.6, related: true }] },
    'pair',
  );
  expect([at(pair, 'a').pan, at(pair, 'b').pan]).toEqual([-1, 1]);
  expect(
    at(
      remedied(
        [recording('a', 'Bass.wav', { channels: 2, facts: { ...facts, dualMono: true } })],
        NO_RELATIONS,
        'dual-mono',
      ),
      'a',
    ).monoFrom,
  ).toBe('left');
  expect(
    at(
      remedied(
        [recording('a', 'Bass.wav', { channels: 2, facts: { ...facts, channelPeaksDbfs: [null, -8] } })],
        NO_RELATIONS,
        'dead-channel',
      ),
      'a',
    ).monoFrom,
  ).toBe('right');
  expect(
    remedied([recording('a', 'x.wav', { facts: { ...facts, peakDbfs: null } })], NO_RELATIONS, 'silent')
      .nodes,
  ).toEqual({});
  const stamped = (id: string, seconds: number): KnownRecording =>
    recording(id, `${id}.wav`, { metadata: { ...NO_METADATA, timeReferenceFrames: 48_000 * seconds } });
  expect(
    at(remedied([stamped('a', 3600), stamped('b', 3601.5)], NO_RELATIONS, 'starts-later', 96_000), 'b')
      .startFrames,
  ).toBe(144_000);
});
it('calls a mix a mix and a click a click, by hand', () => {
  const fit = { errorDb: 0.6, correlation: 0.98, groups: 5, strongest: 0.4, laterSeconds: 0 };
  const named = remedied(
    [recording('a', 'Lanterns v7.wav')],
    { ...NO_RELATIONS, mixes: [{ id: 'a', ...fit }] },
    'heard-mix',
  );
  expect(at(named, 'a')).toMatchObject({
    family: 'reference',
    part: 'mix',
    confidence: 1,
    byHand: ['family', 'part'],
  });
  // A song's title that could be a sound is doubted; a name that says something is not.
  expect(
    noticed(
      sessionOf([recording('a', 'Low Water.wav')]),
      [recording('a', 'Low Water.wav')],
      { ...NO_RELATIONS, mixes: [{ id: 'a', ...fit }] },
      new Set(),
      readNames,
    ).open.map((f) => f.code),
  ).toEqual(['heard-mix']);
  expect(
    noticed(
      sessionOf([recording('a', 'Bass.wav')]),
      [recording('a', 'Bass.wav')],
      { ...NO_RELATIONS, mixes: [{ id: 'a', ...fit }] },
      new Set(),
      readNames,
    ).open,
  ).toEqual([]);
  const click = { click: { hits: 300, perMinute: 96, sounds: 2 }, tail: null };
  expect(
    at(remedied([recording('a', 'rec0009.wav', { heard: click })], NO_RELATIONS, 'heard-click'), 'a'),
  ).toMatchObject({ family: 'click', part: 'click', confidence: 1 });
});
it('leaves out what has no track', () => {
  expect(
    noticed(
      emptySession('x'),
      [recording('a', 'x.wav', { facts: { ...facts, peakDbfs: null } })],
      NO_RELATIONS,
      new Set(),
      readNames,
    ).open,
  ).toEqual([]);
});
