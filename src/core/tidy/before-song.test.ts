import { beforeSong } from './before-song';
import type { TidyProposal } from './propose';
import type { TidyPiece } from './reasons';

const piece = (from: number, to: number, confidence: number): TidyPiece => ({
  ...{ from, to, confidence, keeps: true },
  reason: confidence < 0.7 ? 'talk' : 'sound',
});
const proposal = (
  id: string,
  pieces: readonly TidyPiece[],
  more: Partial<TidyProposal> = {},
): TidyProposal => ({
  ...{ id, group: null, floorDbfs: -70, pieces, begins: [], ends: [], nothingBecause: null },
  ...more,
});
const talked = (id: string): TidyProposal =>
  proposal(id, [piece(30, 190, 0.5), { ...piece(190, 205, 0.9), keeps: false }, piece(205, 4000, 0.95)]);

it('talk that some tracks have apart ends where the song begins, though a kit heard both as one', () => {
  const kit = ['k', 's', 'o'].map((id) => proposal(id, [piece(0, 4000, 0.95)], { group: 'kit' }));
  expect(beforeSong([...kit, talked('a'), talked('b'), talked('c')])).toEqual({
    from: 30,
    to: 202,
    tracks: 3,
  });
});

it.each<[string, TidyProposal[]]>([
  ['nothing before it', [proposal('a', [piece(0, 100, 0.9)]), proposal('b', [piece(5, 100, 0.9)])]],
  ['one track alone', [talked('a')]],
  ['doubts later in the song', ['a', 'b'].map((id) => proposal(id, [piece(0, 90, 0.9), piece(95, 99, 0.5)]))],
  ['only the mix', [proposal('m', [piece(0, 90, 0.5)], { nothingBecause: 'reference' }), talked('a')]],
])('says nothing of %s', (_, proposals) => {
  expect(beforeSong(proposals)).toBeNull();
});
