import { plainTrack } from '../../../tests/support/random-edits';
import { createRandom } from '../units';
import {
  applyChanges,
  type Change,
  type Clip,
  emptySession,
  ROOT,
  type SessionState,
  type Track,
  wholeClip,
} from '../session';
import {
  asConformed,
  asPlayedBack,
  conformedFacts,
  conformedTrack,
  playbackWarp,
  outlookOf,
  planConform,
  pulseRatios,
} from './index';

const track = (id: string, more: Partial<Track>): Change => ({
  kind: 'track.add',
  parentId: ROOT,
  index: 99,
  track: {
    ...plainTrack(id),
    confidence: 1,
    ...more,
  },
});

/** Four bars whose second half is five per cent slower, with a count of half a second before. */
const PULSES = Array.from({ length: 17 }, (_, i) => 0.5 + (i <= 8 ? i * 0.5 : 4 + (i - 8) * 0.525));
function session(conform: SessionState['conform'] = null): SessionState {
  const made = applyChanges(emptySession('Slip'), [
    track('k', { family: 'drums', part: 'kick' }),
    track('s', { family: 'drums', part: 'snare' }),
    track('v', { family: 'lead-vocal', part: 'vocal', startFrames: 480 }),
    track('dl', { family: 'keys', part: 'concertina', side: 'left' }),
    track('dr', { family: 'keys', part: 'concertina', side: 'right' }),
    { kind: 'session.rate', sampleRateHz: 48_000 },
    {
      kind: 'map.replace',
      map: {
        schemaVersion: 1,
        points: PULSES.map((seconds, quarters) => ({ quarters, seconds })),
        meters: [{ bar: 1, numerator: 4, denominator: 4 }],
      },
      facts: {
        steady: false,
        bpm: null,
        foundBy: null,
        pulses: PULSES.map((seconds) => ({ seconds, confidence: 1 })),
      },
    },
    { kind: 'conform.set', conform },
  ]);
  if (!made.ok) throw new Error(made.code);
  return made.session;
}

describe('a plan for a session', () => {
  it('keeps the first pulse, stretches to the last, leaves what rings on', () => {
    const plan = planConform(session(), { bpm: 120, treatments: {} });
    PULSES.forEach((s, i) => expect(plan?.warp.toConformed(s)).toBeCloseTo(0.5 + i * 0.5, 9));
    expect((plan?.warp.toConformed(20) ?? 0) - (plan?.warp.toConformed(19) ?? 0)).toBeCloseTo(1, 9);
    expect(plan?.groups.map((g) => [g.trackIds.join('+'), g.method])).toEqual([
      ['k+s', 'slices'],
      ['v', 'held'],
      ['dl+dr', 'held'],
    ]);
  });
  it('says how far each beat is stretched and what to expect of it', () => {
    const s = session();
    const plan = planConform(s, { bpm: 120, treatments: {} });
    if (!plan) throw new Error('no plan');
    const ratios = pulseRatios(plan, s.mapFacts?.pulses ?? []);
    expect(ratios.map((r) => Number(r.ratio.toFixed(4)))).toEqual([
      ...Array.from({ length: 8 }, () => 1),
      ...Array.from({ length: 8 }, () => 0.9524),
    ]);
    expect(outlookOf({ method: 'slices' }, { family: 'drums' }, ratios).outlook).toBe('careful');
    expect(outlookOf({ method: 'held' }, { family: 'lead-vocal' }, ratios)).toMatchObject({
      outlook: 'inaudible',
      high: 0,
    });
    expect(outlookOf({ method: 'none' }, { family: 'effects' }, ratios).outlook).toBe('none');
    expect(
      outlookOf(
        { method: 'held' },
        { family: 'bass' },
        ratios.map(() => ({ ratio: 0.8 })),
      ).outlook,
    ).toBe('audible');
  });
  it('there is none without a map', () => {
    expect(planConform(emptySession('x'), { bpm: 120, treatments: {} })).toBeNull();
    expect(asConformed(emptySession('x'))).toEqual(emptySession('x'));
    expect(conformedFacts(session())).toBeNull();
  });
});

describe('the conformed session', () => {
  const settings = {
    bpm: 120,
    treatments: { v: { method: 'still', block: 'middle' } },
    heard: 'played',
  } as const;
  it('has a steady map, its pulses on it, and recordings at the common zero', () => {
    const after = asConformed(session(settings));
    expect(after.mapFacts).toMatchObject({ steady: true, bpm: 120 });
    expect(after.mapFacts?.pulses[16]?.seconds).toBeCloseTo(8.5, 9);
    expect(Object.values(after.nodes).every((n) => n.kind !== 'track' || n.startFrames === 0)).toBe(true);
    expect(conformedFacts(session(settings))?.methods).toEqual([
      { method: 'slices', names: ['k', 's'] },
      { method: 'held', names: ['dl', 'dr'] },
      { method: 'still', names: ['v'] },
    ]);
  });
  it('takes its markers along', () => {
    const marked = {
      ...session(settings),
      markers: [{ id: 'm', name: 'Verse', seconds: PULSES[16] as number }],
    };
    expect(asConformed(marked).markers).toEqual([
      { id: 'm', name: 'Verse', seconds: expect.closeTo(8.5, 9) as number },
    ]);
  });
  it('is heard only when it is chosen', () => {
    const played = session(settings);
    expect(asPlayedBack(played)).toBe(played);
    expect(playbackWarp(played)).toBeNull();
    const conformed = session({ ...settings, heard: 'conformed' });
    expect(asPlayedBack(conformed).mapFacts?.steady).toBe(true);
    expect(playbackWarp(conformed)?.toConformed(PULSES[16] as number)).toBeCloseTo(8.5, 9);
  });
});

it('what was cut, moved inside and faded stays at its music, whatever the clips (seed 9)', () => {
  const random = createRandom(9);
  const base = session({ bpm: 120, treatments: {}, heard: 'played' });
  const plan = planConform(base, { bpm: 120, treatments: {} });
  if (!plan) throw new Error('no plan');
  const conformed = (frames: number): number => Math.round(plan.warp.toConformed(frames / 48_000) * 48_000);
  for (let round = 0; round < 200; round++) {
    const start = Math.floor(random() * 4000) - 2000;
    const [from, length] = [Math.floor(random() * 300_000), 2000 + Math.floor(random() * 60_000)];
    const slipFrames = random() < 0.5 ? 0 : Math.floor(random() * 8000) - 4000;
    const clip = {
      ...wholeClip('lane-k')[0],
      fromFrames: from,
      toFrames: from + length,
      slipFrames,
      fadeInFrames: 900,
      fadeOutFrames: 1000,
    };
    const track = { ...(base.nodes['k'] as Track), startFrames: start, clips: [clip] };
    const after = conformedTrack(track, plan, 48_000);
    const [made] = after.clips as [Clip];
    expect([made.fromFrames, made.toFrames]).toEqual([conformed(from), conformed(from + length)]);
    // Its first sound is what was recorded there.
    const first = Math.max(from, start + slipFrames);
    expect(conformed(first) - made.slipFrames).toBe(conformed(first - slipFrames));
    expect((made.fromFrames ?? 0) + made.fadeInFrames).toBe(conformed(from + 900));
    expect((made.toFrames ?? 0) - made.fadeOutFrames).toBe(conformed(from + length - 1000));
    expect(applyChanges(base, [{ kind: 'patch', of: 'clip', id: 'clip-lane-k', fields: made }]).ok).toBe(
      true,
    );
  }
});
