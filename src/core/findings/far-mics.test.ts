import { farMicPairs, sureFarMics } from './far-mics';
import type { FarMicFact } from './finding';

const mic = (
  id: string,
  part: string,
  more: { position?: string; number?: number; channels?: number } = {},
) => ({
  id,
  channels: more.channels ?? 1,
  source: {
    family: 'drums' as const,
    part,
    position: more.position ?? null,
    number: more.number ?? null,
  },
});
const fact = (other: string, more: Partial<FarMicFact> = {}): FarMicFact => ({
  ...{ leader: 's', other, channel: 0, delaySamples: 144, polarity: 1, correlation: 0.4, confidence: 0.9 },
  ...more,
});
const named = (pairs: ReturnType<typeof farMicPairs>): string[] =>
  pairs.map((p) => `${p.leader.id} ${p.other.id} ${p.channel}`);

it('each channel over the kit and in its room is compared with the snare from above', () => {
  const files = [
    mic('bottom', 'snare', { position: 'bottom' }),
    mic('top', 'snare', { position: 'top' }),
    mic('second', 'snare', { number: 2 }),
    mic('kick', 'kick'),
    mic('over', 'overhead', { channels: 2 }),
    mic('room', 'room'),
  ];
  expect(named(farMicPairs(files))).toEqual(['top over 0', 'top over 1', 'top room 0']);
  expect(farMicPairs(files.filter((f) => f.source.part !== 'snare'))).toEqual([]);
});

it('what is not believed says nothing; channels that say otherwise have no polarity together', () => {
  const files = [mic('s', 'snare'), ...['a', 'b', 'c'].map((id) => mic(id, 'overhead', { channels: 2 }))];
  expect(sureFarMics(files, [fact('a', { confidence: 0.3 })])).toEqual([]);
  expect(sureFarMics([mic('s', 'tom'), ...files.slice(1)], [fact('a')])).toEqual([]);
  expect(
    sureFarMics(files, [
      fact('a'),
      fact('b', { polarity: -1, delaySamples: 100, confidence: 0.7 }),
      fact('b', { polarity: -1, delaySamples: 140, channel: 1 }),
      fact('c'),
      fact('c', { polarity: -1, channel: 1 }),
    ]).map((f) => [f.other, f.delaySamples, f.polarity, f.confidence]),
  ).toEqual([
    ['a', 144, 1, 0.9],
    ['b', 120, -1, 0.7],
    ['c', 144, null, 0.9],
  ]);
});
