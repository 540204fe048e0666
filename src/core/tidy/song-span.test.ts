import type { TidyProposal } from './propose';
import type { TidyPiece, TidyReason } from './reasons';
import { songSpan } from './song-span';

const piece = (from: number, to: number, reason: TidyReason = 'sound'): TidyPiece => ({
  ...{ from, to, reason, keeps: ['sound', 'talk'].includes(reason) },
  confidence: reason === 'talk' ? 0.5 : 0.95,
});
const proposal = (
  id: string,
  pieces: readonly TidyPiece[],
  nothingBecause: TidyProposal['nothingBecause'] = null,
): TidyProposal => {
  const kept = pieces.filter((p) => p.keeps);
  return {
    ...{ id, group: null, floorDbfs: -70, pieces, nothingBecause },
    // Pads of 3 frames before and 4 after.
    begins: kept.map((p) => p.from + 3),
    ends: kept.map((p) => p.to - 4),
  };
};
const kick = proposal('kick', [piece(0, 100, 'silence'), piece(100, 900), piece(900, 1500, 'silence')]);
const pad = proposal('pad', [piece(0, 300, 'silence'), piece(300, 1200), piece(1200, 1500, 'silence')]);

it('goes from the first note of any track to where the last one has died away, without pads', () => {
  expect(songSpan([pad, kick])).toEqual({
    ...{ from: 103, to: 1196, firstId: 'kick', lastId: 'pad' },
    ...{ isFromBegin: false, isToEnd: false },
  });
});

it('what is said before, the sender’s mix, silence and noise tell nothing; what sounds throughout does', () => {
  const talk = (id: string): TidyProposal =>
    proposal(id, [piece(10, 60, 'talk'), piece(60, 110, 'silence'), piece(110, 1000)]);
  const whole = (because: TidyProposal['nothingBecause']): TidyProposal =>
    proposal(`whole ${because}`, [piece(0, 1500)], because);
  const quiet = [whole('reference'), whole('silent'), whole('even'), whole('below-threshold')];
  expect(songSpan([talk('voice'), talk('guitar'), kick, pad, ...quiet])).toMatchObject({
    from: 103,
    firstId: 'kick',
  });
  const throughout = { ...whole('always-sounding'), begins: [0], ends: [1500] };
  expect(songSpan([kick, pad, throughout])).toMatchObject({
    ...{ from: 0, to: 1500, isFromBegin: true, isToEnd: true },
  });
  expect(songSpan(quiet)).toBeNull();
});

it('what was decided by hand counts: a doubtful piece that stays is part of the song, one that goes is not', () => {
  const early = proposal('voice', [
    piece(20, 40, 'talk'),
    piece(40, 500, 'silence'),
    piece(500, 900),
    piece(900, 1500, 'silence'),
  ]);
  const spanWith = (from: number, to: number, keeps: boolean) =>
    songSpan([early, kick], { voice: [{ from, to, keeps }] });
  expect(spanWith(20, 40, true)).toMatchObject({ from: 20, firstId: 'voice' });
  expect(spanWith(20, 40, false)).toMatchObject({ from: 103, firstId: 'kick' });
  // Kept beyond where anything was found, it goes to the edge that was pulled.
  expect(spanWith(900, 1100, true)).toMatchObject({ to: 1100, lastId: 'voice' });
  expect(spanWith(0, 1000, false)).toMatchObject({ from: 103, firstId: 'kick', lastId: 'kick' });
});
