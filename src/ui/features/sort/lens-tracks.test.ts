import { NO_RELATIONS } from '@/core/findings';
import type { SessionView } from '@/contracts';
import { applyChanges, emptySession, ROOT } from '@/core/session';
import { DEFAULT_STYLE, newTrack } from '@/core/style';
import { SUMS_LENS } from '@/ui/client';
import { lensTracks } from './lens-tracks';

const NAMES = [
  ['Kick', 'drums'],
  ['Snare', 'drums'],
  ['Boom', 'drums'],
  ['Bass', 'bass'],
  ['Åre Vox', 'lead-vocal'],
] as const;
function viewOf(lenses: typeof DEFAULT_STYLE.lenses): SessionView {
  const made = applyChanges(
    emptySession('s'),
    NAMES.map(([name, family], index) => ({
      kind: 'track.add',
      track: { ...newTrack(name, `${name}.wav`, {}, DEFAULT_STYLE), family },
      parentId: ROOT,
      index,
    })),
  );
  if (!made.ok) throw new Error(made.code);
  return {
    id: 's',
    rest: '',
    revision: 1,
    session: made.session,
    style: { ...DEFAULT_STYLE, lenses },
    styleNewest: null,
    recordings: [],
    jobs: [],
    jobsElsewhere: [],
    handovers: [],
    conform: null,
    relations: NO_RELATIONS,
    dismissals: [],
    tempo: null,
    balance: null,
    sections: null,
    takes: null,
    measuredBy: null,
    undoLabel: null,
    redoLabel: null,
    freeBytes: 1,
  };
}
const view = viewOf([
  { key: 'kit', name: 'Kit', when: { nameHas: ['kick', 'snare'] } },
  { key: 'low', name: 'Low', when: { family: ['bass'] } },
]);
const ids = (lenses: string[], filter = ''): string[] | null => {
  const { trackIds } = lensTracks(view, new Set(lenses), filter);
  return trackIds && [...trackIds];
};

it('shows all without a lens, and the union of several', () => {
  expect(ids([])).toBeNull();
  expect(ids(['kit'])).toEqual(['Kick', 'Snare']);
  expect(ids(['kit', 'low'])).toEqual(['Kick', 'Snare', 'Bass']);
});
it('words narrow it down, whatever their case and accents', () => {
  expect(ids([], 'are vox')).toEqual(['Åre Vox']);
  expect(ids(['kit'], 'SN')).toEqual(['Snare']);
  expect(ids(['kit'], 'bass')).toEqual([]);
});
it('says what a lens by names misses of the families it shows', () => {
  expect(lensTracks(view, new Set(['kit']), '').missed.map((t) => t.name)).toEqual(['Boom']);
  expect(lensTracks(view, new Set(['low']), '').missed).toEqual([]);
  expect(lensTracks(view, new Set(['kit']), 'snare').missed).toEqual([]);
});
it('sums only is no filter of tracks', () =>
  expect(lensTracks(view, new Set([SUMS_LENS]), '')).toEqual({ trackIds: null, sumsOnly: true, missed: [] }));
