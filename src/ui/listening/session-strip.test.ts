import { plainTrack } from '../../../tests/support/random-edits';
import { applyChanges, emptySession, type Lane, type Track, wholeClip } from '@/core/session';
import { type NamedSound, sessionTrack } from './session-strip';

const SESSION = emptySession('x');
const stereo = ({ recordingId }: Lane): NamedSound => ({
  sound: `recordings/${recordingId}`,
  channels: 2,
  lengthFrames: 1000,
});
const heard = (track: Partial<Track>, soundOf: Parameters<typeof sessionTrack>[2] = stereo) =>
  sessionTrack(SESSION, { ...plainTrack('t'), ...track }, soundOf);

it('a recording from end to end, in its place', () => {
  expect(heard({ startFrames: 40 })).toMatchObject({
    channels: 2,
    inverted: false,
    muted: false,
    pieces: [{ sound: 'recordings/r-t', fromFrames: 40, toFrames: 1040, gain: 1 }],
  });
});
it('the one side that is heard is taken where the sound lies, as one channel', () => {
  expect(heard({ monoFrom: 'right' })).toMatchObject({
    channels: 1,
    pieces: [{ sound: 'recordings/r-t/right' }],
  });
});
it('polarity is the strip’s, so that nothing is loaded anew; a take turned over against it keeps its own', () => {
  const other = { ...(plainTrack('t') as unknown as Lane), id: 'other', inverted: false };
  const clips = [
    { ...wholeClip('lane-t')[0], toFrames: 10 },
    { ...wholeClip('other')[0], fromFrames: 10 },
  ];
  const made = heard({ inverted: true, otherLanes: [other], clips });
  expect([made?.inverted, made?.pieces.map((p) => p.gain)]).toEqual([true, [1, -1]]);
});
it('goes through the buses on its way; what a muted one takes is not heard', () => {
  const bus = (id: string, more: object, index: number) => ({
    kind: 'bus.add' as const,
    ...{ bus: { id, name: id, color: null, outputBusId: null, ...more }, index },
  });
  const made = applyChanges(SESSION, [bus('b', { gainDb: -20, pan: 1 }, 0), bus('m', { muted: true }, 1)]);
  if (!made.ok) throw new Error(made.code);
  const through = (busId: string) => sessionTrack(made.session, { ...plainTrack('t'), busId }, stereo);
  expect(through('b')).toMatchObject({ muted: false, buses: { left: 0, right: 0.1 } });
  expect(through('m')).toMatchObject({ muted: true });
});
it('a level beside the track’s is the piece’s', () => {
  const louder = (lane: Lane): NamedSound => ({ ...stereo(lane), gainDb: 20 });
  expect(heard({}, louder)?.pieces[0]?.gain).toBeCloseTo(10, 9);
});
it('of which nothing sounds is silence; whose sound is not there is nothing', () => {
  expect(heard({ clips: [] })).toMatchObject({ pieces: [] });
  expect(heard({}, () => null)).toBeNull();
});
it('is the same as long as the track and its sounds are, so that nothing is compared piece by piece', () => {
  const track = plainTrack('t');
  const of = (soundOf = stereo) => sessionTrack(SESSION, track, soundOf)?.pieces;
  expect(of()).toBe(of());
  const longer = of((lane) => ({ ...stereo(lane), lengthFrames: 2000 }));
  expect(longer?.[0]?.toFrames).toBe(2000);
  expect(of()?.[0]?.toFrames).toBe(1000);
});
