import { applyChanges, emptySession, type SessionState } from '@/core/session';
import { acceptEdit, type TempoReading } from '@/core/tempo';
import { doubtsOf, tempoInHand } from './tempo-in-hand';

const beats = Array.from({ length: 64 }, (_, i) => 1 + i / 2);
/** Sure of all but the pulse at 11 s and the bar line at 21 s. */
const reading: TempoReading = {
  beats,
  confidence: beats.map((t) => (t === 11 ? 0.3 : 0.95)),
  begins: beats.map((t) => (t === 21 ? 0.2 : 0.9)),
  firstDownbeat: 0,
  meters: [{ bar: 1, numerator: 4, denominator: 4 }],
  steady: true,
  bpm: 120,
  gridOffsetSeconds: 1,
  timekeepers: [],
  alternatives: [],
};
const detected = (jobId: string) => ({ jobId, result: reading }) as never;
const accepted = (made: TempoReading, by: string | null): SessionState => {
  const done = applyChanges(emptySession('s'), [acceptEdit(made, by)]);
  if (!done.ok) throw new Error(done.code);
  return done.session;
};
const places = (session: SessionState, tempo: never | null, putAside: string | null = null): number[] =>
  doubtsOf(tempoInHand({ session, tempo }, putAside).reading).map((d) => d.seconds);

it('doubts are those of what is shown: uncertain pulses and bar lines, in order of time', () => {
  expect(places(emptySession('s'), null)).toEqual([]);
  expect(places(emptySession('s'), detected('one'))).toEqual([11, 21]);
  expect(places(accepted(reading, 'one'), detected('one'))).toEqual([11, 21]);
});

it('a place that was found right is no doubt any more', () => {
  const checked = { ...reading, checked: [{ seconds: 21, right: true }] };
  expect(places(accepted(checked, 'one'), detected('one'))).toEqual([11]);
});

it('a newer detection is shown until it is put aside', () => {
  const sure = { ...reading, confidence: beats.map(() => 1), begins: beats.map(() => 1) };
  const session = accepted(sure, 'one');
  expect(places(session, detected('two'))).toEqual([11, 21]);
  expect(places(session, detected('two'), 'two')).toEqual([]);
  expect(tempoInHand({ session, tempo: detected('two') }, 'two')).toMatchObject({
    isNew: false,
    hasAccepted: true,
  });
});
