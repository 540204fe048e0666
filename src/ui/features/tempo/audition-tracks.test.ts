import { plainTrack } from '../../../../tests/support/random-edits';
import { applyChanges, type Change, emptySession, ROOT, type SessionState } from '@/core/session';
import { auditionTracks } from './audition-tracks';

/** drums( 8 mics ) bass keys voice voice2 */
const session: SessionState = (() => {
  const track = (id: string, family: string, parentId: string): Change => ({
    kind: 'track.add',
    track: { ...plainTrack(id), family: family as 'drums' },
    parentId,
    index: 99,
  });
  const made = applyChanges(emptySession('S'), [
    {
      kind: 'folder.add',
      folder: { kind: 'folder', id: 'kit', name: 'Drums', color: null, busId: null },
      parentId: ROOT,
      index: 0,
    },
    ...Array.from({ length: 8 }, (_, i) => track(`d${i}`, 'drums', 'kit')),
    track('bass', 'bass', ROOT),
    track('keys', 'keys', ROOT),
    track('v1', 'lead-vocal', ROOT),
    track('v2', 'lead-vocal', ROOT),
  ]);
  if (!made.ok) throw new Error(made.code);
  return made.session;
})();
const ids = (solo: readonly string[]): string[] => auditionTracks(session, new Set(solo)).map((t) => t.id);
const KIT = Array.from({ length: 8 }, (_, i) => `d${i}`);

it('without a solo it is one of each family, then the next, six at most', () =>
  expect(ids([])).toEqual(['d0', 'bass', 'keys', 'v1', 'd1', 'd2']));
it('a folder in solo counts as one: the whole kit is heard', () => {
  expect(ids(KIT)).toEqual(KIT);
  expect(ids([...KIT, 'bass', 'v1'])).toEqual([...KIT, 'bass', 'v1']);
});
it('muted tracks in solo are heard, others are not', () => {
  const muted = {
    ...session,
    nodes: { ...session.nodes, bass: { ...plainTrack('bass'), family: 'bass' as const, muted: true } },
  };
  expect(auditionTracks(muted, new Set(['bass'])).map((t) => t.id)).toEqual(['bass']);
  expect(auditionTracks(muted, new Set()).map((t) => t.id)).not.toContain('bass');
});
